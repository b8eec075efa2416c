import { parentPort } from 'node:worker_threads';
import { NotACalendar } from '@zephyrfield/core/ical/reading';
import { readBytes, rederive, type Derived, type ReadJob, type ReadResult, type RederiveJob } from './read-bytes.ts';

export type WorkerReply = { result: ReadResult | Derived } | { notACalendar: NotACalendar['looksLike'] } | { fault: string };

parentPort!.on('message', (job: ReadJob | RederiveJob) => {
  let reply: WorkerReply;
  try {
    reply = { result: 'bytes' in job ? readBytes(job) : rederive(job) };
  } catch (error) {
    reply = error instanceof NotACalendar ? { notACalendar: error.looksLike } : { fault: error instanceof Error ? `${error.name}: ${error.stack?.split('\n')[1]?.trim()}` : 'unknown' };
  }
  parentPort!.postMessage(reply);
});
