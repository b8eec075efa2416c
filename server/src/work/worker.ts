import { constants, setPriority } from 'node:os';
import { parentPort } from 'node:worker_threads';
import { NotACalendar } from '@zephyrfield/core/ical/reading';
import { placeOf } from '../http/problem.ts';
import { JOBS, type JobName, type JobOf, type ResultOf } from './jobs.ts';
import { threadName } from './thread-time.ts';

export interface WorkerTask {
  name: JobName;
  job: JobOf<JobName>;
}
/** `ready`: all of its script is loaded, and what it is asked for begins; with its thread's name */
export type WorkerReply =
  | { ready: true; thread: string | null }
  | { result: ResultOf<JobName> }
  | { notACalendar: NotACalendar['looksLike'] }
  | { fault: string };

// Whoever waits for an answer comes first, but not alone: at the lowest priority of all a thread gets next to nothing on a
// machine that is busy with something else. On Linux a priority is a thread's own; elsewhere there is none to set.
try {
  if (process.platform === 'linux') setPriority(constants.priority.PRIORITY_BELOW_NORMAL);
} catch {
  // It may not be allowed; the work is done all the same.
}

parentPort!.on('message', ({ name, job }: WorkerTask) => {
  const run = JOBS[name].run as (job: JobOf<JobName>) => ResultOf<JobName> | Promise<ResultOf<JobName>>;
  void Promise.resolve()
    .then(() => run(job))
    .then(
      (result): WorkerReply => ({ result }),
      (error: unknown): WorkerReply =>
        error instanceof NotACalendar ? { notACalendar: error.looksLike } : { fault: placeOf(error) },
    )
    .then((reply) => parentPort!.postMessage(reply));
});
parentPort!.postMessage({ ready: true, thread: threadName() } satisfies WorkerReply);
