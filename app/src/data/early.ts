/** How long a reply that was asked for early is as good as a new one, in milliseconds. */
const FRESH = 10_000;

/** What was asked for early, by path. */
interface Early {
  /** When, by `Date.now()` */
  askedAt: number;
  reply: Promise<unknown>;
  /** The reply, once it is there, and when it came */
  value?: unknown;
  cameAt?: number;
}

/** Shared with `first.ts`, which is a script of its own, run while the page's scripts are still on their way. */
const waiting = (): Map<string, Early> => ((globalThis as { zephyrfieldEarly?: Map<string, Early> }).zephyrfieldEarly ??= new Map());

/** Asks for what the page is going to ask for. What goes wrong counts as not asked: the page asks again, and tells. */
export async function askEarly(path: string): Promise<unknown> {
  const read = async () => {
    const response = await fetch(path);
    if (!response.ok) throw new Error(`${response.status}`);
    const value: unknown = await response.json();
    Object.assign(early, { value, cameAt: Date.now() });
    return value;
  };
  const early: Early = { askedAt: Date.now(), reply: Promise.resolve() };
  early.reply = read();
  waiting().set(path, early);
  return early.reply.catch(() => void waiting().delete(path));
}

/** Takes what was asked for early under this path: it is there once, and while it is fresh. */
function take(path: string): Early | undefined {
  const early = waiting().get(path);
  waiting().delete(path);
  return early && Date.now() - early.askedAt < FRESH ? early : undefined;
}

/** What was asked for early under this path, when it comes; nothing where it was not, or failed. */
export const takeEarly = (path: string): Promise<unknown> | undefined => take(path)?.reply.catch(() => undefined);

/** What was asked for early under this path and is there already; it stays there for who takes it. */
export const earlyValue = (path: string): unknown => waiting().get(path)?.value;

/** When a reply came that was asked for early, by `Date.now()`; now, for any other. To be asked for before it is taken. */
export function whenCame(path: string): (value: unknown) => number {
  const early = waiting().get(path);
  return (value) => (early?.value === value && early?.cameAt) || Date.now();
}

/** After a change, or when somebody else signs in, nothing that was asked for before is good any more. */
export const forgetEarly = (): void => waiting().clear();

/** Lays replies out as if they had been asked for early, in place of all others: where they are at hand without asking. */
export function lay(replies: readonly (readonly [path: string, value: unknown])[]): void {
  forgetEarly();
  const now = Date.now();
  for (const [path, value] of replies) waiting().set(path, { askedAt: now, cameAt: now, reply: Promise.resolve(value), value });
}
