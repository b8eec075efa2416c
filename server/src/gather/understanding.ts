import type { SourceView, SplitRequest } from '@zephyrfield/core/api/schemas';
import { likenessOf, withCorrection, type Correction, type Rules } from '@zephyrfield/core/gather/rules';
import { proposeSplits, type SplitProposal } from '@zephyrfield/core/gather/split';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import type { CalendarRow, CalendarStore } from '../calendars/store.ts';
import type { Clock } from '../clock.ts';
import { ProblemError, notFound, publishedByOthers } from '../http/problem.ts';
import { REDERIVE } from './jobs.ts';
import { applyReading } from './apply.ts';
import { horizon } from './horizon.ts';
import { calendarIdsOf, calendarsFor, sectionFinder, understandingOf, type Sections } from './sections.ts';
import { UsedUp, type Pool } from '../work/pool.ts';
import { inSteps, type Steps } from './steps.ts';
import type { GatherStore, ItemRow, SourceRow } from './store.ts';
import type { Turns } from './turns.ts';
import { sourceView } from './views.ts';

interface UnderstandingDeps {
  store: GatherStore;
  calendars: CalendarStore;
  pool: Pool;
  clock: Clock;
  turns: Turns;
  changed(learnerId: string): void;
}

/** Gives what a person has a source's entries be: how they are split, what they are, what belongs together. */
export function understandingService({ store, calendars, pool, clock, turns, changed }: UnderstandingDeps) {
  /**
   * Works out a source's entries anew from what is stored, under other rules: no network is needed, own
   * layers stay, and none of it is news. Rules and entries change in one transaction.
   * @param plan the rules to come, and (inside that transaction) the calendars of the parts
   */
  function workOut(
    id: string,
    plan: (row: SourceRow) => { rules: Rules; sections?: (() => Sections) | undefined },
  ): Promise<void> {
    return turns.take(id, async () => {
      const row = store.byId(id);
      if (!row) throw notFound('source');
      if (row.kind === 'published') throw publishedByOthers();
      const { rules, sections } = plan(row);
      const { zone } = calendars.byId(row.calendarId)!;
      const now = clock.now();
      const span = horizon(now);
      const job = {
        contents: store.contentTexts(id),
        zones: row.zones,
        zone,
        as: understandingOf({ ...row, rules }, calendars),
        ...span,
      };
      const derived = await pool
        .run(REDERIVE, job, row.learnerId)
        .catch((error: unknown) => Promise.reject(error instanceof UsedUp ? tooMuch() : error));
      const put = function* (): Steps<void> {
        if (!store.byId(id)) throw notFound('source');
        const former = calendarIdsOf(row);
        const next = { ...row, rules, sections: sections ? sections() : row.sections };
        const finder = sectionFinder(next, calendars, now, (found) =>
          store.change(id, { sections: found.sections }),
        );
        const options = {
          now,
          zone: ianaZone(zone) ?? UTC,
          horizon: span,
          believed: true,
          quiet: true,
          all: true,
          calendarOf: finder.calendarOf,
        };
        // Its rules first: broken off, the next reading is under them.
        store.change(id, { rules, sections: next.sections, context: null });
        yield* applyReading(store, { ...row, horizonTo: span.to }, derived, options);
        const kept = calendarIdsOf({ ...next, sections: finder.sections });
        const calendarId = kept.includes(row.calendarId) ? row.calendarId : kept[0]!;
        store.change(id, {
          rules,
          sections: finder.sections,
          calendarId,
          context: row.context,
          openings: derived.openings,
          ofDeadlines: derived.ofDeadlines,
          newSections: row.newSections.filter((p) => finder.fresh.includes(p)),
        });
        // What is gone from the feed goes along, and news stands where its item now does.
        store.followCalendars(id, calendarId, kept);
        for (const other of former)
          if (!kept.includes(other) && calendars.isEmpty(other)) calendars.remove(other);
      };
      await inSteps(store, put());
      changed(row.learnerId);
    });
  }

  /** Ways to split a source, from what is stored of it. */
  function proposals(id: string): SplitProposal[] {
    return proposeSplits(store.contents(id).flatMap(({ master, overrides }) => master ?? overrides[0] ?? []));
  }

  /** Splits a source into calendars, otherwise than before, or (null) makes one calendar of it again. */
  async function split(id: string, request: SplitRequest | null): Promise<SourceView> {
    await workOut(id, (row) => {
      const rules = { ...row.rules, split: request?.rule ?? null };
      const there = calendarIdsOf(row).map((c) => calendars.byId(c)!);
      const like = there[0]!;
      return {
        rules,
        sections: () =>
          request ? calendarsFor(request, calendars, row.learnerId, there, like, clock.now()) : {},
      };
    });
    return sourceView(store.byId(id)!, store);
  }

  /**
   * Corrects what an item is or how it is handed in, for it alone or for all of its kind; gives how many that
   * were.
   */
  async function correct(
    item: ItemRow,
    { all, ...what }: { kind?: Correction['kind'] | null; handIn?: Correction['handIn']; all: boolean },
  ): Promise<number> {
    const like = likenessOf(item.title);
    const of: Correction['of'] = all ? { like, section: item.section } : { uid: item.uid };
    await workOut(item.sourceId, (row) => ({ rules: withCorrection(row.rules, { of, ...what }) }));
    return all ? alike(item).count : 1;
  }

  /** Counts how many live entries of an item's source are of its kind, and what their titles have in common. */
  function alike(item: Pick<ItemRow, 'sourceId' | 'title' | 'section'>): { count: number; words: string } {
    const words = likenessOf(item.title);
    return {
      words,
      count: store
        .titlesOf(item.sourceId)
        .filter((t) => t.section === item.section && likenessOf(t.title) === words).length,
    };
  }

  /** Shows an opening and a closing as one item, or as two. The item is the closing, or what was joined. */
  const joinWindow = (item: ItemRow, joined: boolean): Promise<void> =>
    workOut(item.sourceId, (row) => {
      const others = row.rules.unjoined.filter((uid) => uid !== item.uid);
      return { rules: { ...row.rules, unjoined: joined ? others : [...others, item.uid].slice(-500) } };
    });

  /**
   * After a calendar's kind or zone was changed: its source's entries are worked out anew, and its link read
   * whole at the next check.
   */
  async function calendarChanged(before: CalendarRow, after: CalendarRow): Promise<void> {
    const source = store.ofCalendar(after.id);
    if (!source || source.kind === 'published' || (before.kind === after.kind && before.zone === after.zone))
      return;
    if (before.zone !== after.zone) {
      store.transaction(() => {
        // A feed is read in one zone, however many calendars it makes.
        for (const id of calendarIdsOf(source)) calendars.change(id, { zone: after.zone });
        store.change(source.id, {
          etag: null,
          lastModified: null,
          bodyDigest: null,
          context: null,
          ...(source.nextCheckAt === null ? {} : { nextCheckAt: clock.now() }),
        });
      });
    }
    await workOut(source.id, (row) => ({ rules: row.rules }));
  }

  return { proposals, split, correct, alike, joinWindow, calendarChanged };
}
const tooMuch = () =>
  new ProblemError(422, 'too-much', 'This calendar is too large to be worked out anew.', {
    remedy: 'Nothing was changed.',
  });

export type UnderstandingService = ReturnType<typeof understandingService>;
