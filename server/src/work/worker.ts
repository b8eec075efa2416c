import { parentPort } from 'node:worker_threads';
import { NotACalendar } from '@zephyrfield/core/ical/reading';
import { placeOf } from '../http/problem.ts';
import { JOBS, type JobName, type JobOf, type ResultOf } from './jobs.ts';

export interface WorkerTask {
  name: JobName;
  job: JobOf<JobName>;
}
export type WorkerReply = { result: ResultOf<JobName> } | { notACalendar: NotACalendar['looksLike'] } | { fault: string };

parentPort!.on('message', ({ name, job }: WorkerTask) => {
  const run = JOBS[name].run as (job: JobOf<JobName>) => ResultOf<JobName> | Promise<ResultOf<JobName>>;
  void Promise.resolve()
    .then(() => run(job))
    .then(
      (result): WorkerReply => ({ result }),
      (error: unknown): WorkerReply => (error instanceof NotACalendar ? { notACalendar: error.looksLike } : { fault: placeOf(error) }),
    )
    .then((reply) => parentPort!.postMessage(reply));
});
