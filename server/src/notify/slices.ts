/** Time one slice of work takes at most, in milliseconds, before others get a word in. */
const SLICE = 8;

const pause = () => new Promise<void>((done) => setImmediate(done));

/**
 * Works through a list, as much of it in one transaction as fits into a few milliseconds: many rows share one
 * sync of the disk, and nobody who asks for something waits for long.
 */
export async function inSlices<T>(
  list: readonly T[],
  transaction: <R>(work: () => R) => R,
  each: (item: T) => void,
): Promise<void> {
  for (let i = 0; i < list.length;) {
    transaction(() => {
      const until = performance.now() + SLICE;
      do each(list[i++]!);
      while (i < list.length && performance.now() < until);
    });
    await pause();
  }
}
