import { constants, setPriority } from 'node:os';
import { parentPort } from 'node:worker_threads';
import { NotACalendar } from '@zephyrfield/core/ical/reading';
import { placeOf } from '../http/problem.ts';
import type { WorkerReply, WorkerTask } from '../work/task.ts';
import { threadName } from '../work/thread-time.ts';
import { WORK } from './work.ts';

// Whoever waits for an answer comes first, but not alone: at the lowest priority of all a thread gets next to nothing on a
// machine that is busy with something else. On Linux a priority is a thread's own; elsewhere there is none to set.
try {
  if (process.platform === 'linux') setPriority(constants.priority.PRIORITY_BELOW_NORMAL);
} catch {
  // It may not be allowed; the work is done all the same.
}

parentPort!.on('message', ({ name, job }: WorkerTask) => {
  void Promise.resolve()
    .then(() => WORK.get(name)!(job as never))
    .then(
      (result): WorkerReply => ({ result }),
      (error: unknown): WorkerReply =>
        error instanceof NotACalendar ? { notACalendar: error.looksLike } : { fault: placeOf(error) },
    )
    .then((reply) => parentPort!.postMessage(reply));
});
parentPort!.postMessage({ ready: true, thread: threadName() } satisfies WorkerReply);
