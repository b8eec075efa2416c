import { parentPort } from 'node:worker_threads';
import { NotACalendar } from '@zephyrfield/core/ical/reading';
import { readBytes, type ReadJob, type ReadResult } from './read-bytes.ts';

export type WorkerReply = { result: ReadResult } | { notACalendar: NotACalendar['looksLike'] } | { fault: string };

parentPort!.on('message', (job: ReadJob) => {
  let reply: WorkerReply;
  try {
    reply = { result: readBytes(job) };
  } catch (error) {
    reply = error instanceof NotACalendar ? { notACalendar: error.looksLike } : { fault: error instanceof Error ? `${error.name}: ${error.stack?.split('\n')[1]?.trim()}` : 'unknown' };
  }
  parentPort!.postMessage(reply);
});
