/** Time what was fetched of a link is at hand for the others who follow it, in milliseconds. */
const AT_HAND = 60_000;
/** So much of it is kept at the most, by a rough size. */
const MOST_BYTES = 64 * 2 ** 20;

interface Kept {
  at: number;
  size: number;
  work: Promise<unknown>;
}

/**
 * Does a piece of work once for all who ask for the very same within a minute: the fetching of a public link that
 * many follow, and the reading of what came. Only the caller knows what may be shared; a link that may hold a secret
 * never comes here.
 */
export class Shared {
  private readonly kept = new Map<string, Kept>();
  private bytes = 0;

  constructor(private readonly now: () => number) {}

  /**
   * @param key says all that the result hangs on
   * @param sizeOf roughly, in bytes
   */
  once<T>(key: string, sizeOf: (result: T) => number, work: () => Promise<T>): Promise<T> {
    this.forget();
    const known = this.kept.get(key);
    if (known) return known.work as Promise<T>;
    const begun = work();
    const entry: Kept = { at: this.now(), size: 0, work: begun };
    this.kept.set(key, entry);
    begun.then(
      (result) => {
        if (this.kept.get(key) !== entry) return;
        entry.size = sizeOf(result);
        this.bytes += entry.size;
        this.forget();
      },
      // What failed is tried anew by whoever asks next.
      () => this.drop(key, entry),
    );
    return begun;
  }

  private forget(): void {
    const before = this.now() - AT_HAND;
    for (const [key, entry] of this.kept) {
      if (entry.at >= before && this.bytes <= MOST_BYTES) break;
      this.drop(key, entry);
    }
  }

  private drop(key: string, entry: Kept): void {
    if (this.kept.get(key) !== entry) return;
    this.kept.delete(key);
    this.bytes -= entry.size;
  }
}
