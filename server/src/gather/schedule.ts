import { placeOf } from '../http/problem.ts';
import type { Log } from '../log.ts';
import { DAY, HOUR, MINUTE, SECOND } from '@zephyrfield/core/time/civil';

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
  /** Moment when the other server asked us to come back, in seconds */
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

/** A link whose time has come. */
export interface DueLink {
  id: string;
  learnerId: string;
  /** Names the server it is on; two links with the same one are on the same server */
  host: string;
}

/** What is not to be begun now. */
export interface Busy {
  ids: readonly string[];
  learners: readonly string[];
  hosts: readonly string[];
}

export interface CheckSchedule {
  start(): void;
  /** Stops looking for work and waits for the checks under way */
  stop(): Promise<void>;
  /** Looks for work once; resolves when what it began is done */
  turn(): Promise<void>;
  /** Counts how many checks are under way */
  running(): number;
  /** Tells when it last looked for work, by its own clock */
  lookedAt(): number;
}

/** Way in which a check went, as far as its server is concerned. */
export interface Checked {
  /** Its server asked us to come back later, failed or could not be reached */
  isBusy: boolean;
}

interface ScheduleDeps {
  /** Links whose time has come but for those that are busy, the longest waiting first, at most so many */
  due(limit: number, busy: Busy): DueLink[];
  check(id: string): Promise<Checked>;
  /** Instant, in milliseconds */
  now(): number;
  log: Log;
}

/** So many checks go at once, of which so many of one learner and on one server. */
const AT_ONCE = 16;
const OF_A_LEARNER = 2;
const ON_A_HOST = 4;
/** The least time between two beginnings: after an outage, what is overdue is spread out. */
const APART = 20;
const EVERY = 10_000;
/** A server that answers so slowly is given a rest as well. */
const SLOW = 8_000;
const SHORTEST_REST = SECOND;
const LONGEST_REST = 10 * MINUTE;

/** Way in which a server has answered of late. */
interface Host {
  running: number;
  /** Time it is left alone after an answer; 0 while all goes well */
  rest: number;
  until: number;
}

/**
 * Checks links when their time has come: a steady pool that begins the next one as soon as a place is free. Learners
 * take turns, and a server gets few at once, one where it is slow or asks for rest, with a pause that doubles each
 * time. Which links are due stands in the database, so that a restart forgets nothing.
 */
export function checkSchedule({ due, check, now, log }: ScheduleDeps): CheckSchedule {
  const running = new Map<string, { link: DueLink; work: Promise<void> }>();
  const hosts = new Map<string, Host>();
  let timer: NodeJS.Timeout | undefined;
  let next: NodeJS.Timeout | undefined;
  let isStopped = false;
  let looked = now();

  const hostOf = (name: string): Host => {
    let host = hosts.get(name);
    if (!host) hosts.set(name, (host = { running: 0, rest: 0, until: 0 }));
    return host;
  };
  const isResting = ({ running, rest, until }: Host) =>
    running >= (rest ? 1 : ON_A_HOST) || (until > now() && rest > 0);

  const finished = (link: DueLink, isBad: boolean) => {
    running.delete(link.id);
    const host = hostOf(link.host);
    host.running -= 1;
    host.rest = isBad
      ? Math.min(LONGEST_REST, Math.max(SHORTEST_REST, host.rest * 2))
      : host.rest <= SHORTEST_REST
        ? 0
        : host.rest / 2;
    host.until = now() + host.rest;
    if (!host.running && !host.rest) hosts.delete(link.host);
  };

  const begin = (link: DueLink): Promise<void> => {
    const began = now();
    hostOf(link.host).running += 1;
    let isBad = false;
    const work = check(link.id)
      .then(({ isBusy }) => {
        isBad = isBusy || now() - began > SLOW;
      })
      // A check says itself what is wrong with a link; what arrives here is a fault of ours.
      .catch((error: unknown) => log('a check failed', { fault: placeOf(error) }))
      .finally(() => finished(link, isBad));
    running.set(link.id, { link, work });
    return work;
  };

  function busy(): Busy {
    // A server that has had its rest, and is asked for nothing, is forgotten.
    for (const [name, host] of hosts)
      if (!host.running && host.until + LONGEST_REST < now()) hosts.delete(name);
    const ofLearner = new Map<string, number>();
    for (const { link } of running.values())
      ofLearner.set(link.learnerId, (ofLearner.get(link.learnerId) ?? 0) + 1);
    return {
      ids: [...running.keys()],
      learners: [...ofLearner].filter(([, n]) => n >= OF_A_LEARNER).map(([id]) => id),
      hosts: [...hosts].filter(([, host]) => isResting(host)).map(([name]) => name),
    };
  }

  /** Begins what there is room for; the bounds are looked at for each, since each takes a place. */
  function fill(most: number): Promise<void>[] {
    looked = now();
    const begun: Promise<void>[] = [];
    while (!isStopped && running.size < AT_ONCE && begun.length < most) {
      const found = due(AT_ONCE - running.size, busy());
      if (!found.length) break;
      let isAny = false;
      for (const link of found) {
        const { ids, learners, hosts: resting } = busy();
        if (ids.includes(link.id) || learners.includes(link.learnerId) || resting.includes(link.host))
          continue;
        begun.push(begin(link));
        isAny = true;
        if (begun.length >= most || running.size >= AT_ONCE) break;
      }
      if (!isAny) break;
    }
    return begun;
  }

  /** Goes on by itself: one at a time, a little apart, for as long as there is any. */
  function goOn(): void {
    if (isStopped || next) return;
    const [work] = fill(1);
    if (!work) return;
    void work.then(goOn);
    next = setTimeout(() => {
      next = undefined;
      goOn();
    }, APART);
    next.unref();
  }

  return {
    start() {
      isStopped = false;
      timer = setInterval(goOn, EVERY);
      timer.unref();
      goOn();
    },
    async stop() {
      isStopped = true;
      clearInterval(timer);
      clearTimeout(next);
      next = undefined;
      await Promise.all([...running.values()].map(({ work }) => work));
    },
    async turn() {
      if (!isStopped) await Promise.all(fill(AT_ONCE));
    },
    running: () => running.size,
    lookedAt: () => looked,
  };
}
