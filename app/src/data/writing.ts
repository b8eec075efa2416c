let last: Promise<unknown> = Promise.resolve();

/** Marks something as being written; see `allWritten`. */
export function writing<T>(work: Promise<T>): Promise<T> {
  last = Promise.allSettled([last, work]);
  return work;
}

/** Resolves once all that is being written has been, well or not: whoever goes on from it begins from what then stands. */
export const allWritten = (): Promise<unknown> => last;
