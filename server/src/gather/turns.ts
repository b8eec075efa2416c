/**
 * Lets pieces of work on one thing happen one after the other; different things do not wait for each other.
 */
export class Turns {
  private readonly last = new Map<string, Promise<unknown>>();

  /** Tells whether nothing goes on with a thing, or waits to. */
  isFree = (id: string): boolean => !this.last.has(id);

  take<T>(id: string, work: () => Promise<T>): Promise<T> {
    const before = this.last.get(id) ?? Promise.resolve();
    const result = before.catch(() => {}).then(work);
    const settled = result
      .catch(() => {})
      .finally(() => {
        if (this.last.get(id) === settled) this.last.delete(id);
      });
    this.last.set(id, settled);
    return result;
  }
}
