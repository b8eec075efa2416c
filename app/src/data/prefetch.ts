/** Time a reply that was asked for early is as good as a new one, in milliseconds. */
const FRESH = 10_000;
/** Time it stands for what is asked for in its place, in milliseconds. */
const STANDS = 20_000;

/** What was asked for early, by path. */
interface Prefetched {
  /** When, by `Date.now()` */
  askedAt: number;
  reply: Promise<unknown>;
  /** The reply, once it is there, and when it came */
  value?: unknown;
  cameAt?: number;
  /** Moment when somebody took it */
  takenAt?: number;
}

/** Place where a page that the server has drawn holds what it was drawn from: see `server/first-view`. */
const BLOCK = 'replies';

/**
 * Shared with `first.ts`, which is a script of its own, run while the page's scripts are still on their way.
 */
function waiting(): Map<string, Prefetched> {
  const prefetched = ((
    globalThis as { zephyrfieldPrefetched?: Map<string, Prefetched> }
  ).zephyrfieldPrefetched ??= new Map<string, Prefetched>());
  const block = typeof document === 'undefined' ? null : document.getElementById(BLOCK);
  if (block) {
    // Once: what has been taken, or forgotten, is not to come back.
    block.remove();
    // The server answered when the first of it came.
    const [came] = performance.getEntriesByType?.('navigation') ?? [];
    lay(
      JSON.parse(block.textContent ?? '[]') as [string, unknown][],
      performance.timeOrigin + ((came as PerformanceNavigationTiming | undefined)?.responseStart ?? 0),
    );
  }
  return prefetched;
}

/**
 * Asks for what the page is going to ask for. What goes wrong counts as not asked: the page asks again, and
 * tells.
 */
export async function prefetch(path: string): Promise<unknown> {
  const read = async () => {
    const response = await fetch(path);
    if (!response.ok) throw new Error(`${response.status}`);
    const value: unknown = await response.json();
    Object.assign(prefetched, { value, cameAt: Date.now() });
    return value;
  };
  const prefetched: Prefetched = { askedAt: Date.now(), reply: Promise.resolve() };
  prefetched.reply = read();
  waiting().set(path, prefetched);
  return prefetched.reply.catch(() => void waiting().delete(path));
}

/** Takes what was asked for early under this path: once, and while it is fresh. */
function take(path: string): Prefetched | undefined {
  const prefetched = waiting().get(path);
  if (!prefetched || prefetched.takenAt !== undefined) return undefined;
  prefetched.takenAt = Date.now();
  return prefetched.takenAt - prefetched.askedAt < FRESH ? prefetched : undefined;
}

/** Gives what was asked for early under this path, when it comes; nothing where it was not, or failed. */
export const takePrefetched = (path: string): Promise<unknown> | undefined =>
  take(path)?.reply.catch(() => undefined);

/**
 * What was asked for early under this path and is there already. It stays for who takes it, and for a while
 * after: until a query has what it asked for, this is what it shows.
 */
export function prefetchedValue(path: string): unknown {
  const prefetched = waiting().get(path);
  return prefetched && Date.now() - (prefetched.takenAt ?? Infinity) > STANDS ? undefined : prefetched?.value;
}

/**
 * When a reply came that was asked for early, by `Date.now()`; now, for any other. To be asked for before it
 * is taken.
 */
export function whenCame(path: string): (value: unknown) => number {
  const prefetched = waiting().get(path);
  const at = prefetched?.takenAt === undefined ? prefetched?.cameAt : undefined;
  return (value) => (prefetched?.value === value && at) || Date.now();
}

/** After a change, or when somebody else signs in, nothing that was asked for before is good any more. */
export const forgetPrefetched = (): void => waiting().clear();

/** Lays replies out as if they had been asked for early and had come at that moment (by `Date.now()`). */
export function lay(replies: readonly (readonly [path: string, value: unknown])[], at: number): void {
  for (const [path, value] of replies)
    waiting().set(path, { askedAt: at, cameAt: at, reply: Promise.resolve(value), value });
}
