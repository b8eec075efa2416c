/**
 * How long one waits for what is being written, in milliseconds: on a line that hangs, what is known has to
 * do.
 */
const PATIENCE = 2_000;

const pending = new Set<Promise<unknown>>();

/** Marks something as being written; see `allWritten`. */
export function writing<T>(work: Promise<T>): Promise<T> {
  pending.add(work);
  const done = () => void pending.delete(work);
  work.then(done, done);
  return work;
}

/**
 * Resolves once all that is being written has been, well or not: whoever goes on from it begins from what
 * then stands.
 */
export const allWritten = async (): Promise<void> => {
  if (!pending.size) return;
  await Promise.race([Promise.allSettled(pending), new Promise((done) => setTimeout(done, PATIENCE))]);
};
