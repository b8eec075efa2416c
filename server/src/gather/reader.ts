import { Worker } from 'node:worker_threads';
import type { Derived, ReadJob, ReadResult, RederiveJob } from './read-bytes.ts';
import type { WorkerReply } from './reader-worker.ts';
import { FeedTrouble } from './trouble.ts';

export interface Reader {
  /** @throws FeedTrouble where the bytes are no calendar, or reading them goes past the bounds */
  read(job: ReadJob): Promise<ReadResult>;
  /** Works out stored entries anew, under other rules */
  rederive(job: RederiveJob): Promise<Derived>;
  close(): Promise<void>;
}

export interface ReaderOptions {
  /** The built worker script */
  script: string;
  timeoutMs: number;
  memoryMb: number;
}

const NO_CALENDAR = { webPage: 'webPage', nothing: 'empty', 'something else': 'notCalendar' } as const;

/**
 * Reads feeds in one worker thread, one after the other. A feed that takes too long or too much memory ends its
 * thread and nothing else; the next one gets a new thread.
 */
export function workerReader({ script, timeoutMs, memoryMb }: ReaderOptions): Reader {
  let worker: Worker | null = null;
  let turn: Promise<unknown> = Promise.resolve();

  const stop = async () => {
    const old = worker;
    worker = null;
    await old?.terminate();
  };
  const doNow = (job: ReadJob | RederiveJob) =>
    new Promise<ReadResult | Derived>((resolve, reject) => {
      worker ??= new Worker(script, { resourceLimits: { maxOldGenerationSizeMb: memoryMb } });
      const current = worker;
      const timer = setTimeout(() => fail(new FeedTrouble('reading')), timeoutMs);
      const onFault = () => fail(new FeedTrouble('reading'));
      const settle = () => {
        clearTimeout(timer);
        current.off('message', onReply).off('error', onFault).off('exit', onFault);
      };
      const fail = (error: Error) => {
        settle();
        current.once('error', () => {}); // a thread out of memory may still say so while it ends
        void stop().then(() => reject(error));
      };
      const onReply = (reply: WorkerReply) => {
        settle();
        if ('result' in reply) resolve(reply.result);
        else if ('notACalendar' in reply) reject(new FeedTrouble(NO_CALENDAR[reply.notACalendar]));
        else reject(new FeedTrouble('reading'));
      };
      current.on('message', onReply).on('error', onFault).on('exit', onFault);
      current.postMessage(job);
    });
  const inTurn = <T>(job: ReadJob | RederiveJob): Promise<T> => {
    const result = turn.then(() => doNow(job));
    turn = result.catch(() => {});
    return result as Promise<T>;
  };
  return {
    read: (job) => inTurn<ReadResult>(job),
    rederive: (job) => inTurn<Derived>(job),
    close: stop,
  };
}
