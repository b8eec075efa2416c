import type { NotACalendar } from '@zephyrfield/core/ical/reading';

/** What a thread is asked for. */
export interface WorkerTask {
  /** Of the job */
  name: string;
  job: unknown;
}

/** What a thread answers. `ready`: all of its script is loaded, and what it is asked for begins; with its thread's name */
export type WorkerReply =
  | { ready: true; thread: string | null }
  | { result: unknown }
  | { notACalendar: NotACalendar['looksLike'] }
  | { fault: string };
