import type { NotACalendar } from '@zephyrfield/core/ical/reading';

/** Request to a thread. */
export interface WorkerTask {
  /** Of the job */
  name: string;
  job: unknown;
}

/** Answer of a thread. `ready`: all of its script is loaded, and what it is asked for begins; with its thread's name */
export type WorkerReply =
  | { ready: true; thread: string | null }
  | { result: unknown }
  | { notACalendar: NotACalendar['looksLike'] }
  | { fault: string };
