import { NotACalendar } from '@zephyrfield/core/ical/reading';

/**
 * Why a file cannot be read, in words.
 * @throws the error itself where it is neither the file's nor the system's
 */
export function whyUnread(error: unknown): string {
  if (error instanceof NotACalendar) return error.message;
  if (error instanceof Error && 'code' in error) return `cannot be read (${String(error.code)})`;
  throw error;
}
