import { createHash } from 'node:crypto';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import type { BriefStore } from '../briefs/store.ts';
import type { CalendarStore } from '../calendars/store.ts';
import type { Clock } from '../clock.ts';
import { orderedId } from '../db/ids.ts';
import { applyReading } from '../gather/apply.ts';
import { horizon } from '../gather/horizon.ts';
import type { Derived } from '../gather/read-bytes.ts';
import { SOUND } from '../gather/reader.ts';
import { inSteps, type Steps } from '../gather/steps.ts';
import type { GatherStore } from '../gather/store.ts';
import type { Turns } from '../gather/turns.ts';
import { placeOf } from '../http/problem.ts';
import { MOST } from '../limits.ts';
import type { Log } from '../log.ts';
import type { Pool } from '../work/pool.ts';
import { PUBLISHED } from './jobs.ts';
import type { Published } from './entries.ts';
import type { Follower, PublishStore } from './store.ts';

export interface SpreadDeps {
  store: PublishStore;
  gathered: GatherStore;
  calendars: CalendarStore;
  briefs: BriefStore;
  pool: Pool;
  turns: Turns;
  clock: Clock;
  /** The database's file, which is read beside the server's own thread */
  file: string;
  changed(learnerId: string): void;
  log: Log;
}

/** Number of briefs and files that are put in at a time: a text may be long, and is worked through to be told apart. */
const BRIEFS_IN_STEP = 200;

/**
 * Brings what stands in a published calendar to all who follow it: read once for all of them in a thread, compared and
 * put in as a feed's reading is, so that own layers stay and what moved is told. What each was given last is noted with
 * it, so that a crash loses nothing: who is behind is found at the next start.
 */
export function spreading(deps: SpreadDeps) {
  const { store, gathered, calendars, briefs, pool, turns, clock, file, changed, log } = deps;
  /** Calendars that wait for their turn, or have changed again while it is theirs */
  const waiting = new Set<string>();
  let running: Promise<void> | null = null;

  const textFor = (learnerId: string, value: Published['briefs'][number]['value'], now: number): string => {
    const digest = createHash('sha256').update(JSON.stringify(value)).digest('hex');
    return briefs.putText({ id: orderedId(now), learnerId, digest, value, usedAt: now });
  };

  /** Briefs and files go along as they stand; they share their texts and bytes. */
  function* putBriefs({ id, learnerId }: Follower, { briefs: said, files }: Published): Steps<void> {
    const now = clock.now();
    store.clearBriefs(id);
    store.clearFiles(id);
    let put = 0;
    for (const { uid, recurrenceId, value } of said) {
      if (++put % BRIEFS_IN_STEP === 0) yield;
      const itemId = store.itemByUid(id, uid);
      if (itemId)
        store.addBrief({ itemId, recurrenceId, textId: textFor(learnerId, value, now), updatedAt: now });
    }
    for (const { uid, ...given } of files) {
      if (++put % BRIEFS_IN_STEP === 0) yield;
      const itemId = store.itemByUid(id, uid);
      if (itemId)
        store.addFile({ ...given, id: orderedId(now), learnerId, itemId, of: 'brief', createdAt: now });
    }
  }

  /** As many dates as the schedule has room for: what stands once before what repeats. */
  function within(derived: Derived, { id, learnerId }: Follower): Derived {
    let left = Math.min(MOST.datesOfReading, MOST.datesOfLearner - gathered.datesBeside(learnerId, id));
    const dates = derived.entries.reduce((sum, e) => sum + e.occurrences.length, 0);
    if (dates <= left) return derived;
    const shown = new Map(
      [...derived.entries]
        .sort((a, b) => Number(a.repeats) - Number(b.repeats))
        .map((entry) => {
          const occurrences = entry.occurrences.slice(0, Math.max(0, left));
          left -= occurrences.length;
          return [entry, { ...entry, occurrences }];
        }),
    );
    return { ...derived, entries: derived.entries.map((entry) => shown.get(entry)!) };
  }

  function* putIn(follower: Follower, published: Published): Steps<void> {
    const row = gathered.byId(follower.id);
    if (!row || row.removedAt !== null) return;
    const now = clock.now();
    yield* applyReading(gathered, row, within(published.derived, follower), {
      now,
      zone: ianaZone(calendars.byId(row.calendarId)!.zone) ?? UTC,
      horizon: { ...horizon(now), to: published.horizonTo },
      // Its author has taken away what is missing.
      believed: true,
      quiet: row.lastGoodAt === null,
      calendarOf: () => row.calendarId,
    });
    yield* putBriefs(follower, published);
    gathered.change(follower.id, {
      ...SOUND,
      bodyDigest: published.stamp,
      horizonTo: published.horizonTo,
      lastCheckedAt: now,
      lastGoodAt: now,
    });
  }

  async function spread(calendarId: string): Promise<void> {
    const stamp = store.stamp(calendarId);
    const behind = store.followersOf(calendarId).filter((f) => f.bodyDigest !== stamp);
    if (!behind.length) return;
    const published = await pool.run(PUBLISHED, { file, calendarId, reach: horizon(clock.now()).to }, null);
    for (const follower of behind) {
      await turns.take(follower.id, () => inSteps(gathered, putIn(follower, published)));
      changed(follower.learnerId);
    }
    // It may have changed again meanwhile.
    if (published.stamp !== store.stamp(calendarId)) waiting.add(calendarId);
  }

  /** One calendar after the other; who asks meanwhile is answered by the same round. */
  function run(): Promise<void> {
    running ??= (async () => {
      for (const calendarId of waiting) {
        waiting.delete(calendarId);
        await spread(calendarId).catch((error: unknown) =>
          log('bringing a calendar to its followers failed', { fault: placeOf(error) }),
        );
      }
    })().finally(() => {
      running = null;
    });
    return running;
  }

  return {
    /** Something of a schedule has changed: whoever follows a calendar of it is brought up to date, soon. */
    wake(learnerId: string): void {
      const followed = store.followedOf(learnerId);
      if (!followed.length) return;
      for (const id of followed) waiting.add(id);
      setImmediate(() => void run());
    },
    /** Brings all up to date that are behind; what a stop has cut off is done then. */
    async all(): Promise<void> {
      for (const id of store.allFollowed()) waiting.add(id);
      await settled();
    },
    now: async (calendarId: string): Promise<void> => {
      waiting.add(calendarId);
      await settled();
    },
    settled,
  };

  async function settled(): Promise<void> {
    while (running || waiting.size) await run();
  }
}
export type Spreading = ReturnType<typeof spreading>;
