/** Time what is looked at now has the line and the processor for itself, in milliseconds. */
const AFTER = 1_500;

/**
 * Does something that can wait, once nothing else is to be done; not at all where the person wants to save
 * data.
 * @returns takes it back, where it has not begun
 */
export function whenIdle(act: () => void): () => void {
  if ((navigator as Navigator & { connection?: { saveData?: boolean } }).connection?.saveData)
    return () => {};
  let idle: number | undefined;
  const timer = setTimeout(() => {
    // Not every browser says when it has nothing to do.
    if (typeof requestIdleCallback === 'function') idle = requestIdleCallback(act);
    else act();
  }, AFTER);
  return () => {
    clearTimeout(timer);
    if (idle !== undefined) cancelIdleCallback(idle);
  };
}
