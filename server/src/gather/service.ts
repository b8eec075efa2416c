import { setImmediate } from 'node:timers/promises';
import type { ReadingResult, SourceChange, SourceView } from '@zephyrfield/core/api/schemas';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import { ProblemError, notFound } from '../http/problem.ts';
import { storedAddress } from './address.ts';
import { applyReading, type Applied } from './apply.ts';
import { following } from './follow.ts';
import { HOLD, horizon } from './horizon.ts';
import type { ReadResult } from './read-bytes.ts';
import { fetchLink } from './link.ts';
import { SOUND, asProblem, feedReader, sha256, withBody, type Arrived, type GatherDeps } from './reader.ts';
import { nextCheck } from './schedule.ts';
import { inSteps, STEP, type Steps } from './steps.ts';
import { sectionFinder } from './sections.ts';
import type { SourceRow } from './store.ts';
import { FeedTrouble } from './trouble.ts';
import { sourceView } from './views.ts';

const NOTHING = { added: 0, changed: 0, gone: 0 };
/** Number of schedules that are written in one transaction; some thirty milliseconds of the server's own thread. */
const MOST_TOGETHER = 8;

/** Following links, and checking those that are followed. */
export function gatherService(deps: GatherDeps) {
  const reader = feedReader(deps);
  const follows = following(deps, reader);
  return {
    ...follows,
    ...checking(deps, reader, follows.refuseTwice),
    readNew: reader.readNew,
    readAgain: reader.readAgain,
    view: (row: SourceRow) => sourceView(row, deps.store),
  };
}
export type GatherService = ReturnType<typeof gatherService>;

/** Checks of followed links: what a reading found goes into the store, what went wrong is told. */
function checking(
  { store, calendars, secrets, clock, chance, fetch, changed, checked, turns }: GatherDeps,
  { fetchAndRead, readAgain, isReadAlike, good, whenNext }: ReturnType<typeof feedReader>,
  refuseTwice: (learnerId: string, digest: string, owner?: string) => void,
) {
  /** Readings under way, by source: who asks meanwhile gets the same one. */
  const underWay = new Map<string, Promise<ReadingResult>>();

  /**
   * Checks a followed link now. A link that fails keeps its last good items and says what is wrong.
   * @param owner who asks; without it, it is a check that goes by itself
   */
  function readSource(id: string, confirm = false, owner?: string): Promise<ReadingResult> {
    const running = underWay.get(id);
    if (running && !confirm) return running;
    const reading = turns
      .take(id, () => readOnce(id, confirm, owner))
      .finally(() => underWay.get(id) === reading && underWay.delete(id));
    underWay.set(id, reading);
    return reading;
  }

  const result = (id: string, counts = NOTHING): ReadingResult => ({
    ...counts,
    source: sourceView(store.byId(id)!, store),
    unchanged: counts.added + counts.changed + counts.gone === 0,
  });

  async function readOnce(id: string, confirm: boolean, owner: string | undefined): Promise<ReadingResult> {
    const row = store.byId(id);
    if (!row || row.removedAt !== null) throw notFound('followed link');
    if (row.kind === 'published')
      throw new ProblemError(422, 'published', 'There is nothing to check: it comes by itself.', {
        remedy: 'Whatever its author changes is here within seconds.',
      });
    if (row.kind !== 'followedLink')
      throw new ProblemError(422, 'one-time-file', 'A one-time file has nothing to check.', {
        remedy: 'To bring it up to date, read a newer copy of the file.',
      });
    let isNews = true;
    try {
      const { fetched, reading } = await fetchAndRead(row, owner);
      isNews = reading !== null || row.troubleCode !== null;
      const take = function* (): Steps<ReadingResult> {
        const moved = takeOver(row, fetched.movedTo);
        if (reading && fetched.body) {
          // Whoever else follows it has it now as well, from what was fetched and read once.
          if (row.isPlain)
            store.wakeOthers({ id, address: row.addressDigest, body: sha256(fetched.body) }, clock.now());
          return yield* settle(row, withBody(fetched), reading, confirm, moved);
        }
        const now = clock.now();
        if (!store.byId(id)) throw notFound('followed link');
        store.change(id, {
          ...SOUND,
          ...moved,
          lastCheckedAt: now,
          lastGoodAt: now,
          nextCheckAt: row.nextCheckAt === null ? null : whenNext(id, row.refreshSeconds),
        });
        return result(id);
      };
      const taken = await inSteps(store, take());
      if (reading && row.isPlain) await handOut(row, withBody(fetched), reading);
      return taken;
    } catch (error) {
      if (!(error instanceof FeedTrouble)) throw error;
      const now = clock.now();
      const failures = row.failures + 1;
      const next = nextCheck(now, {
        refreshSeconds: row.refreshSeconds,
        nextDue: null,
        failures,
        retryAfter: error.retryAfter,
        chance: chance(),
      });
      isNews = row.troubleCode !== error.code;
      const troubleSince = isNews ? now : row.troubleSince;
      store.transaction(() =>
        store.change(id, {
          lastCheckedAt: now,
          troubleCode: error.code,
          troubleSince,
          failures,
          nextCheckAt: row.nextCheckAt === null ? null : next,
        }),
      );
      return result(id);
    } finally {
      (isNews ? changed : checked)(row.learnerId);
    }
  }

  /**
   * Puts what was read of a public link into the schedules of all others who follow it and knew the same of it, many
   * in one transaction: a date that a school has moved is with five hundred learners in a second. Whoever is left out
   * (something else is under way, or theirs is to be read otherwise) has been woken, and looks by itself.
   */
  async function handOut(row: SourceRow, arrived: Arrived, reading: ReadResult): Promise<void> {
    const dates = reading.entries.reduce((sum, entry) => sum + 1 + entry.occurrences.length, 0);
    const atOnce = Math.min(MOST_TOGETHER, Math.floor(STEP / Math.max(1, dates)));
    if (!atOnce) return;
    const others = store.othersAt(row.addressDigest, row.id, sha256(arrived.body));
    for (let i = 0; i < others.length; i += atOnce) {
      const told: string[] = [];
      store.transaction(() => {
        for (const id of others.slice(i, i + atOnce)) {
          const other = turns.isFree(id) ? store.byId(id) : undefined;
          if (!other || other.removedAt !== null || !isReadAlike(row, other, arrived)) continue;
          try {
            // A step within a step, taken back by itself.
            store.transaction(() => {
              const steps = settle(other, arrived, reading, false);
              while (!steps.next().done);
            });
            told.push(other.learnerId);
          } catch {
            // What is wrong with this one keeps nobody else from it, and is told when it looks by itself.
          }
        }
      });
      told.forEach(changed);
      await setImmediate();
    }
  }

  /** Puts a reading into the store. */
  function* settle(
    row: SourceRow,
    arrived: Arrived,
    reading: ReadResult,
    confirm: boolean,
    moved: Partial<SourceRow> = {},
  ): Steps<ReadingResult> {
    const now = clock.now();
    // It may have been taken away while its feed was being read.
    if (!store.byId(row.id)) throw notFound('followed link');
    const applied = yield* apply(row, reading, confirm || isBelieved(row, now), now);
    const nextCheckAt =
      row.nextCheckAt === null
        ? null
        : whenNext(row.id, applied.heldBack ? row.refreshSeconds : reading.refreshSeconds);
    if (applied.heldBack) {
      const { missing, of } = applied.heldBack;
      store.change(row.id, {
        ...SOUND,
        ...moved,
        lastCheckedAt: now,
        heldSince: row.heldSince ?? now,
        heldTimes: row.heldTimes + 1,
        heldMissing: missing,
        heldOf: of,
        nextCheckAt,
      });
      return result(row.id);
    }
    store.change(row.id, { ...good(arrived, reading, now, horizon(now).to), ...moved, nextCheckAt });
    return result(row.id, applied);
  }

  const isBelieved = (row: SourceRow, now: number) =>
    row.heldSince !== null && row.heldTimes + 1 >= HOLD.readings && now - row.heldSince >= HOLD.ms;

  function* apply(row: SourceRow, reading: ReadResult, believed: boolean, now: number): Steps<Applied> {
    // In the same step: what a part was given must not be lost, else it would be given another.
    const finder = sectionFinder(row, calendars, now, ({ sections, fresh }) =>
      store.change(row.id, { sections, newSections: [...row.newSections, ...fresh] }),
    );
    const zone = ianaZone(calendars.byId(row.calendarId)!.zone) ?? UTC;
    // Read under other circumstances (a zone's rules, a newer reader), the same text may mean something else.
    // So may it where the feed as a whole looks otherwise by now.
    const all = row.context !== reading.context || row.ofDeadlines !== reading.ofDeadlines;
    return yield* applyReading(store, row, reading, {
      now,
      zone,
      horizon: horizon(now),
      believed,
      // A first reading that was broken off goes on.
      quiet: row.lastGoodAt === null,
      all,
      calendarOf: finder.calendarOf,
    });
  }

  /**
   * Follows the same calendar by another link, once that has been read: its items keep what was ticked off and
   * noted on them, under whatever identifiers the new link has them.
   * @throws ProblemError where the new link cannot be read, or is followed already
   */
  function changeAddress(id: string, address: string, owner: string): Promise<ReadingResult> {
    return turns.take(id, async () => {
      const row = store.byId(id);
      if (!row || row.removedAt !== null || row.kind !== 'followedLink') throw notFound('followed link');
      try {
        const { url, fetched } = await fetchLink(address, fetch);
        const addressDigest = secrets.digest(url.href);
        if (addressDigest !== row.addressDigest) refuseTwice(row.learnerId, addressDigest, owner);
        const reading = await readAgain(row, fetched, owner);
        return await inSteps(store, settle(row, fetched, reading, false, storedAddress(url, secrets)));
      } catch (error) {
        throw asProblem(error);
      } finally {
        changed(row.learnerId);
      }
    });
  }

  /** Gives what a permanent redirect changes; nothing where another of the learner's links leads there already. */
  function takeOver(row: SourceRow, to: URL | null): Partial<SourceRow> {
    if (!to) return {};
    const stored = storedAddress(to, secrets);
    return store.byDigest(row.learnerId, stored.addressDigest) ? {} : stored;
  }

  /**
   * Pauses the checks that go by themselves, or goes on with them at once; takes note that new parts have
   * been seen.
   */
  function change(id: string, { paused, sectionsSeen }: SourceChange): SourceView {
    const row = store.byId(id)!;
    const checks =
      paused === undefined || row.kind !== 'followedLink' ? {} : { nextCheckAt: paused ? null : clock.now() };
    const values = { ...checks, ...(sectionsSeen ? { newSections: [] } : {}) };
    if (Object.keys(values).length) store.transaction(() => store.change(id, values));
    changed(row.learnerId);
    return sourceView(store.byId(id)!, store);
  }

  return { settle, readSource, change, changeAddress };
}
