import { setImmediate } from 'node:timers/promises';
import type { GatherStore } from './store.ts';

/** What is put into the store bit by bit: each step is a transaction of its own, and others get their turn between. */
export type Steps<T> = Generator<undefined, T>;

/** Number of rows that are read or written in one step; some thirty milliseconds of the server's own thread. */
export const STEP = 2_000;

/** Takes all steps, one after the other; gives what the last one gives. What a step throws undoes that step alone. */
export async function inSteps<T>(store: Pick<GatherStore, 'transaction'>, steps: Steps<T>): Promise<T> {
  for (;;) {
    const step = store.transaction(() => steps.next());
    if (step.done) return step.value;
    await setImmediate();
  }
}
