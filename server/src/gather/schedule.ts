import { DAY, HOUR, MINUTE } from '@zephyrfield/core/time/civil';

export interface NextCheckInput {
  /** How often the feed asks to be read, in seconds (REFRESH-INTERVAL) */
  refreshSeconds: number | null;
  /**
   * When the next thing in it is due or ends, in milliseconds; null where nothing is to come or the check
   * failed
   */
  nextDue: number | null;
  /** Failed checks in a row */
  failures: number;
  /** When the other server asked us to come back, in seconds */
  retryAfter: number | undefined;
  /** A number in [0, 1) that spreads checks */
  chance: number;
}

const SHORTEST = 15 * MINUTE;
const LONGEST = DAY;
/** Within this of a due date a feed is checked more often, since that is when teachers move things. */
const NEAR = 2 * DAY;

/**
 * When a link is to be checked next, in milliseconds. Hourly, or as the feed asks within bounds; twice as
 * often near a due date; after failures ever more rarely, with jitter, so that a server that comes back is
 * not stormed.
 */
export function nextCheck(
  now: number,
  { refreshSeconds, nextDue, failures, retryAfter, chance }: NextCheckInput,
): number {
  const base = Math.min(LONGEST, Math.max(SHORTEST, refreshSeconds ? refreshSeconds * 1000 : HOUR));
  if (failures > 0) {
    const wait = Math.min(6 * HOUR, 5 * MINUTE * 2 ** Math.min(failures - 1, 10));
    return now + Math.max(wait * (0.75 + chance / 2), Math.min(retryAfter ?? 0, 86_400) * 1000);
  }
  const near = nextDue !== null && nextDue - now < NEAR;
  return now + Math.max(SHORTEST, near ? base / 2 : base) * (0.9 + chance / 5);
}

export interface CheckSchedule {
  start(): void;
  /** Stops looking for work and waits for the checks under way */
  stop(): Promise<void>;
  /** Looks for work once; resolves when what it began is done */
  turn(): Promise<void>;
}

interface ScheduleDeps {
  /** The sources whose time has come, at most so many */
  due(limit: number): string[];
  check(id: string): Promise<unknown>;
  log(message: string): void;
}

const AT_ONCE = 4;
const EVERY = 10_000;

/**
 * Checks links when their time has come, a few at once. Which ones those are stands in the database, so a
 * restart forgets nothing.
 */
export function checkSchedule({ due, check, log }: ScheduleDeps): CheckSchedule {
  const running = new Map<string, Promise<void>>();
  let timer: NodeJS.Timeout | undefined;
  let stopped = false;

  const begin = (id: string) => {
    const work = check(id)
      .then(() => {})
      // A check says itself what is wrong with a link; what arrives here is a fault of ours.
      .catch((error: unknown) => log(`a check failed: ${error instanceof Error ? error.name : typeof error}`))
      .finally(() => running.delete(id));
    running.set(id, work);
    return work;
  };
  const turn = async () => {
    if (stopped) return;
    const begun = due(AT_ONCE + running.size)
      .filter((id) => !running.has(id))
      .slice(0, AT_ONCE - running.size)
      .map(begin);
    await Promise.all(begun);
  };
  return {
    start() {
      stopped = false;
      timer = setInterval(() => void turn(), EVERY);
      timer.unref();
      void turn();
    },
    async stop() {
      stopped = true;
      clearInterval(timer);
      await Promise.all(running.values());
    },
    turn,
  };
}
