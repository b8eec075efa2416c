import { Worker } from 'node:worker_threads';
import { ProblemError, noted, tooOften } from '../http/problem.ts';
import type { Job } from './job.ts';
import type { WorkerReply, WorkerTask } from './task.ts';
import { workedMs } from './thread-time.ts';

/** Work used up its time or memory: it was ended, and nothing of it counts. */
export class UsedUp extends Error {}
/** The server stops: what was asked for is not done. */
export class Stopping extends UsedUp {}

export interface Pool {
  /**
   * Does a piece of work beside the server's own thread, in turn with what else is asked for.
   * @param owner for whom: a person who asks, or a learner whose links are checked. Each has one piece done
   *   at a time, and all who wait get their turn one after the other; null for what the server does of
   *   itself, which is never made to wait
   * @throws UsedUp where it went past its bounds, what the job says where bytes are no calendar, ProblemError 429
   *   where this owner asks for too much, 503 where the machine is too busy
   */
  run<In, Out>(job: Job<In, Out>, input: In, owner: string | null): Promise<Out>;
  /** Counts how many pieces wait for a thread */
  waiting(): number;
  close(): Promise<void>;
}

export interface PoolOptions {
  /** The built worker script */
  script: string;
  /** Number of threads there are, each with so many MB of memory */
  threads: number;
  memoryMb: number;
  /** In milliseconds; counts how long an owner has to wait */
  now(): number;
  /** Longest a piece of work may take, where not as its name says. In milliseconds of a processor */
  timeoutMs?: number;
  /** Number of MB by which the process may grow meanwhile, where not as its name says */
  growsMb?: number;
  /** A thread may wait for a processor this many times as long as it may work */
  patience?: number;
}

interface Piece {
  job: Job<never, unknown>;
  input: unknown;
  owner: string;
  /** It went past a bound that others may have had a part in, and is tried again with nothing small beside it */
  isSecondTry: boolean;
  /** Something else was done at the same time */
  hadCompany: boolean;
  resolve(result: unknown): void;
  reject(error: unknown): void;
}

/** The owner of what nobody has asked for: no id is empty. */
const SERVER = '';

/** By how many MB the process may grow while a piece of work goes on that says nothing else. */
const GROWS_MB = 600;
/** Longest time until a thread is loaded, in milliseconds. */
const LONGEST_LOADING = 60_000;
/** Pause between two looks at the time and memory that work has taken, in milliseconds. */
const LOOK = 50;
/**
 * A thread may wait for a processor this many times as long as it may work: on a busy machine it does little in much time.
 * Where the system does not tell how long a thread has worked, it may not wait at all.
 */
const PATIENCE = 10;

/** Counts how long threads have worked for each owner; half of it is forgotten each minute. */
class Spent {
  private readonly owners = new Map<string, { ms: number; at: number }>();
  constructor(private readonly now: () => number) {}

  of(owner: string): number {
    const known = this.owners.get(owner);
    return known ? known.ms * 2 ** -((this.now() - known.at) / 60_000) : 0;
  }

  add(owner: string, ms: number): void {
    if (owner === SERVER) return;
    const total = this.of(owner) + ms;
    this.owners.delete(owner);
    this.owners.set(owner, { ms: total, at: this.now() });
    if (this.owners.size > MOST_REMEMBERED) this.owners.delete(this.owners.keys().next().value!);
  }
}
const MOST_REMEMBERED = 10_000;

/** Number of pieces that may wait, for one owner and in all. */
const MOST_OF_OWNER = 30;
const MOST = 1_000;
/**
 * How long an owner whose work used up its bounds waits: twice as long each time, up to an hour. It is
 * forgiven after a day.
 */
const WAIT = 30_000;
const LONGEST_WAIT = 3_600_000;
const FORGIVEN = 86_400_000;

/**
 * A few threads for work that takes time. Work that takes too long or too much memory ends its thread and
 * nothing else; the next piece gets a new one. Nobody has to wait for all that another has asked for.
 */
export function workPool({
  script,
  threads,
  memoryMb,
  now,
  timeoutMs,
  growsMb,
  patience = PATIENCE,
}: PoolOptions): Pool {
  const idle: Worker[] = [];
  const busy = new Map<Worker, Piece>();
  /** Recent thread time of each owner */
  const spent = new Spent(now);
  /** What waits, by owner: who was served last stands last */
  const waiting = new Map<string, Piece[]>();
  /** Pieces that are tried again, as soon as nothing small is done any more; they come before all else */
  const again: Piece[] = [];
  /** The name of each one's thread, once it is loaded */
  const threadOf = new WeakMap<Worker, string | null>();
  const penalties = new Map<string, { times: number; until: number }>();
  let count = 0;
  let closed = false;

  function penalise(owner: string): void {
    if (owner === SERVER) return;
    const times = (penalties.get(owner)?.times ?? 0) + 1;
    penalties.set(owner, { times, until: now() + Math.min(LONGEST_WAIT, WAIT * 2 ** (times - 1)) });
  }

  /** Counts how many milliseconds an owner has to wait until more is done for them. */
  function penaltyOf(owner: string): number {
    const known = penalties.get(owner);
    if (!known) return 0;
    if (now() - known.until > FORGIVEN) penalties.delete(owner);
    return Math.max(0, known.until - now());
  }

  /**
   * Takes what comes next: what is tried again; then of those who wait, for whom threads have worked the least, then who
   * waits the longest.
   */
  function nextPiece(): Piece | undefined {
    const working = [...busy.values()];
    const served = new Set(working.map((p) => p.owner));
    const bigs = working.filter(({ job }) => job.isBig).length;
    const smalls = working.length - bigs;
    if (again.length && smalls === 0) {
      count--;
      return again.shift();
    }
    const isAlone = again.length > 0 || working.some((p) => p.isSecondTry);
    const isFree = { big: bigs === 0, small: !isAlone && smalls < threads };
    let best: { owner: string; pieces: Piece[]; cost: number } | undefined;
    for (const [owner, pieces] of waiting) {
      if (served.has(owner) || !(pieces[0]!.job.isBig ? isFree.big : isFree.small)) continue;
      const cost = spent.of(owner);
      if (!best || cost < best.cost) best = { owner, pieces, cost };
    }
    if (!best) return undefined;
    const { owner, pieces } = best;
    const piece = pieces.shift()!;
    count--;
    waiting.delete(owner);
    if (pieces.length) waiting.set(owner, pieces);
    return piece;
  }

  function begin(): void {
    // One more thread than there are for what is small: the one for what is big.
    while (!closed && busy.size <= threads) {
      const piece = nextPiece();
      if (!piece) return;
      const waits = idle.pop();
      if (waits) work(waits, piece, true);
      else work(new Worker(script, { resourceLimits: { maxOldGenerationSizeMb: memoryMb } }), piece, false);
    }
  }

  function work(worker: Worker, piece: Piece, isReady: boolean): void {
    const { job, input, owner, resolve, reject } = piece;
    for (const other of busy.values()) other.hadCompany = true;
    piece.hadCompany = busy.size > 0;
    busy.set(worker, piece);
    const most = {
      ms: timeoutMs ?? job.seconds * 1000,
      // A thread's own limit holds for objects alone: what is unpacked lies in buffers, which only the memory of the
      // process tells of.
      bytes: process.memoryUsage.rss() + (growsMb ?? job.growsMb ?? GROWS_MB) * 2 ** 20,
    };
    // Loading what a thread runs is no part of the work: on a busy machine it takes seconds.
    let began = isReady ? { at: performance.now(), worked: workedMs(threadOf.get(worker) ?? null) } : null;
    let loading = isReady ? undefined : setTimeout(() => overBounds(), LONGEST_LOADING);
    /** Tells for how long it has worked so far, and how long that took. */
    const took = () => {
      const ms = began ? performance.now() - began.at : 0;
      const worked = began?.worked == null ? null : workedMs(threadOf.get(worker) ?? null);
      return { ms, worked: worked === null ? null : worked - began!.worked! };
    };
    const look = setInterval(() => {
      const { ms, worked } = took();
      if ((worked ?? ms) > most.ms) usedUp();
      else if (process.memoryUsage.rss() > most.bytes) (piece.hadCompany ? overBounds : usedUp)();
      else if (ms > most.ms * patience) overBounds();
    }, LOOK).unref();
    const settle = () => {
      const { ms, worked } = took();
      spent.add(owner, worked ?? ms);
      clearTimeout(loading);
      clearInterval(look);
      worker.off('message', onReply).off('error', usedUp).off('exit', usedUp);
    };
    /** Ends the thread, and what it does. */
    function end(then: () => void): void {
      settle();
      // A thread out of memory may still say so while it ends.
      worker.once('error', () => {});
      void worker.terminate().then(() => {
        busy.delete(worker);
        if (closed) reject(new Stopping());
        else then();
        begin();
      });
    }
    /** Ends what went past a bound; where that need not be its own fault, it is tried once more by itself. */
    function overBounds(): void {
      if (piece.isSecondTry || job.isBig) end(() => reject(busyNow()));
      else
        end(() => {
          again.push({ ...piece, isSecondTry: true });
          count++;
        });
    }
    function usedUp(): void {
      if (!closed) penalise(owner);
      end(() => reject(new UsedUp()));
    }
    function onReply(reply: WorkerReply): void {
      if ('ready' in reply) {
        clearTimeout(loading);
        loading = undefined;
        threadOf.set(worker, reply.thread);
        began = { at: performance.now(), worked: workedMs(reply.thread) };
        return;
      }
      settle();
      busy.delete(worker);
      idle.push(worker);
      if ('result' in reply) resolve(reply.result);
      else if ('notACalendar' in reply) reject(job.refused?.(reply.notACalendar) ?? new Error('no calendar'));
      else reject(new Error(`work failed: ${reply.fault}`));
      begin();
    }
    worker.on('message', onReply).on('error', usedUp).on('exit', usedUp);
    worker.unref();
    worker.postMessage({ name: job.name, job: input } satisfies WorkerTask);
  }

  return {
    run<In, Out>(job: Job<In, Out>, input: In, of: string | null): Promise<Out> {
      if (closed) return Promise.reject(new Stopping());
      const owner = of ?? SERVER;
      const wait = penaltyOf(owner);
      const own = waiting.get(owner)?.length ?? 0;
      if (wait > 0) return Promise.reject(tooMuch(wait / 1000));
      if (own >= MOST_OF_OWNER) return Promise.reject(tooOften(60));
      if (count >= MOST) return Promise.reject(busyNow());
      return new Promise((resolve, reject) => {
        const piece: Piece = {
          job,
          input,
          owner,
          isSecondTry: false,
          hadCompany: false,
          resolve: resolve as Piece['resolve'],
          reject,
        };
        waiting.set(owner, [...(waiting.get(owner) ?? []), piece]);
        count++;
        begin();
      });
    },
    waiting: () => count,
    async close() {
      closed = true;
      // Nobody is left waiting for what will never be begun.
      for (const pieces of [again.splice(0), ...waiting.values()])
        for (const { reject } of pieces) reject(new Stopping());
      waiting.clear();
      count = 0;
      const working = [...busy];
      busy.clear();
      await Promise.all(
        [...idle.splice(0), ...working.map(([worker]) => worker)].map((worker) => worker.terminate()),
      );
    },
  };
}

const busyNow = () =>
  new ProblemError(503, 'busy', 'The server is busy just now.', { remedy: 'Try again in a minute.' });

/** @param seconds until more is done for who asks */
function tooMuch(seconds: number): ProblemError {
  const problem = tooOften(seconds);
  problem.problem.title = 'What you sent last took too long to work out.';
  return noted(problem);
}
