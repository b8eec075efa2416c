import { setImmediate } from 'node:timers/promises';
import type { LearnerRow, LearnersDays, LearnersTable } from '@zephyrfield/core/api/table';
import type { Learner } from '@zephyrfield/core/api/schemas';
import type { OccurrenceView } from '@zephyrfield/core/item/occurrence';
import { isWork } from '@zephyrfield/core/item/kind';
import { plain } from '@zephyrfield/core/lib/plain';
import { glanceAt, needOf, type Glance } from '@zephyrfield/core/plan/glance';
import { DAY, formatDate, parseDate, startOfWeek } from '@zephyrfield/core/time/civil';
import { dayIn, instantIn } from '@zephyrfield/core/time/when';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import { COUNTS_BACK } from '@zephyrfield/core/view/entry';
import { loadByDay, loadShares } from '@zephyrfield/core/view/load';
import type { Settings, Term } from '@zephyrfield/core/view/settings';
import { schoolTerm, termWeeks, weekName } from '@zephyrfield/core/view/term';
import { dueDay, today, viewerOf, type Viewer } from '@zephyrfield/core/words/when';
import type { CalendarStore } from '../calendars/store.ts';
import type { Clock } from '../clock.ts';
import type { ItemStore } from '../items/store.ts';
import { occurrencesBetween } from '../items/views.ts';
import type { PeopleStore } from '../people/store.ts';
import type { Sights } from '../people/sights.ts';
import type { PlanStore } from '../plan/store.ts';
import { planView } from '../plan/views.ts';
import type { TableStore } from './store.ts';

export interface TableDeps {
  store: TableStore;
  people: Pick<PeopleStore, 'learnersOf' | 'settings'>;
  calendars: CalendarStore;
  items: ItemStore;
  plans: PlanStore;
  sights: Sights;
  clock: Clock;
  /** Counts changes of a schedule, and what was opened in it */
  versionOf(learnerId: string): string;
  /** Notes that somebody has not read, by learner */
  unreadOf(personId: string): ReadonlyMap<string, number>;
}

/** Who asks for the table, and for how much of it. */
interface Asked {
  personId: string;
  settings: Settings;
  /** The first day of the first week, in days since 1970 */
  firstWeek: number;
  weeks: number;
  course: string;
}

/** What was worked out of one learner is true for so long, as nothing changes: something falls due meanwhile. */
const TRUE_FOR = 5 * 60_000;
/** Time it works at a stretch, in milliseconds: one learner who has changed is looked at without a break. */
const AT_ONCE = 20;
/** So much is kept of what was worked out, before the oldest goes. */
const MOST_KEPT = 4_000;

/** Keeps what was worked out of a schedule for as long as it is true. */
function keeping<T>(clock: Clock) {
  const kept = new Map<string, { version: string; at: number; value: T }>();
  return (key: string, version: string, work: () => T): T => {
    const now = clock.now();
    const known = kept.get(key);
    if (known && known.version === version && now >= known.at && now - known.at < TRUE_FOR)
      return known.value;
    const value = work();
    kept.delete(key);
    kept.set(key, { version, at: now, value });
    for (const oldest of kept.keys()) {
      if (kept.size <= MOST_KEPT) break;
      kept.delete(oldest);
    }
    return value;
  };
}

/** All learners somebody looks after: how each stands, and what they have on a day. */
export function tableService(deps: TableDeps) {
  const { store, people, calendars, items, plans, sights, clock, versionOf, unreadOf } = deps;
  const glances = keeping<Glance>(clock);
  const terms = keeping<Term | null>(clock);

  const zoneOf = (learner: Learner) => ianaZone(learner.zone) ?? UTC;
  /** Whoever is looked after: one’s own schedule is not among them. */
  const lookedAfter = (personId: string) => people.learnersOf(personId).filter((l) => !l.isSelf);

  function glanceOf(learner: Learner, asked: Asked): Glance {
    const { personId, settings, firstWeek, weeks, course } = asked;
    const { loads, shelfFrom } = settings;
    const key = JSON.stringify([learner.id, personId, firstWeek, weeks, course, loads, shelfFrom]);
    return glances(key, versionOf(learner.id), () => look(learner, asked));
  }

  function look(learner: Learner, { personId, settings, firstWeek, weeks, course }: Asked): Glance {
    const now = clock.now();
    const viewer = viewerOf(zoneOf(learner), settings);
    const plan = planView(plans, learner.id, sights(personId, learner.id));
    const all = occurrencesBetween(
      items,
      learner.id,
      personId,
      now - (COUNTS_BACK + 1) * DAY,
      (firstWeek + weeks * 7 + 7) * DAY,
    );
    return glanceAt(ofCourse(all, learner.id, course), {
      now,
      viewer,
      firstWeek,
      weeks,
      loads: settings.loads,
      shelfFrom: settings.shelfFrom,
      settings: plan.settings,
      runUps: plan.runUps.flatMap(({ itemId, recurrenceId, runUp }) =>
        runUp ? [{ itemId, recurrenceId, ...runUp }] : [],
      ),
      opened: store.openedOf(learner.id, personId),
    });
  }

  /** A learner’s term: their own, else the one their school’s calendar shows. */
  function termOf(learner: Learner, personId: string): Term | null {
    if (learner.term) return learner.term;
    const school = calendars.ofLearner(learner.id).filter((c) => c.kind === 'school');
    if (!school.length) return null;
    const now = clock.now();
    const day = today(now, zoneOf(learner));
    return terms(JSON.stringify([learner.id, personId, day]), versionOf(learner.id), () =>
      schoolTerm(
        occurrencesBetween(items, learner.id, personId, now - 150 * DAY, now + 150 * DAY),
        school,
        day,
      ),
    );
  }

  /** Gives what is in calendars whose name has a word in it. */
  function ofCourse(all: OccurrenceView[], learnerId: string, course: string): OccurrenceView[] {
    if (!course) return all;
    const wanted = plain(course);
    const ids = new Set(
      calendars.ofLearner(learnerId).flatMap((c) => (plain(c.name).includes(wanted) ? [c.id] : [])),
    );
    return all.filter((o) => ids.has(o.calendarId));
  }

  /** Gives what weeks are called: by the first term that one of them has. */
  function weekNames(learners: readonly Learner[], personId: string, firstWeek: number, weeks: number) {
    const { firstDay, weeks: by } = people.settings(personId);
    for (const learner of learners) {
      const term = termOf(learner, personId);
      if (!term) continue;
      const named = termWeeks(term, firstDay, today(clock.now(), zoneOf(learner)));
      return Array.from({ length: weeks }, (_, i) => weekName(firstWeek + i * 7, named, by));
    }
    return Array.from({ length: weeks }, (_, i) => weekName(firstWeek + i * 7, [], 'year'));
  }

  return {
    /** Tells how each learner stands. Between one and the next others get a word in. */
    async table(personId: string, weeks: number, course: string): Promise<LearnersTable> {
      const learners = lookedAfter(personId);
      const settings = people.settings(personId);
      const zone = learners[0] ? zoneOf(learners[0]) : UTC;
      const day = today(clock.now(), zone);
      const firstWeek = startOfWeek(day, settings.firstDay);
      const asked = { personId, settings, firstWeek, weeks, course };
      const unread = unreadOf(personId);
      const rows: LearnerRow[] = [];
      let since = performance.now();
      for (const learner of learners) {
        const { quietSince, next, ...glance } = glanceOf(learner, asked);
        const notes = unread.get(learner.id) ?? 0;
        const need = needOf({ ...glance, quietSince, next }, notes, day);
        const names = next && calendars.byId(next.calendarId)?.name;
        rows.push({
          ...glance,
          ...need,
          learnerId: learner.id,
          name: learner.name,
          unread: notes,
          next: next && {
            itemId: next.itemId,
            recurrenceId: next.recurrenceId,
            title: next.title,
            due: next.due,
            calendar: names ?? '',
          },
        });
        if (performance.now() - since < AT_ONCE) continue;
        await setImmediate();
        since = performance.now();
      }
      const names = weekNames(learners, personId, firstWeek, weeks);
      return {
        weeks: names.map((name, i) => ({ start: formatDate(firstWeek + i * 7), name })),
        groups: groupsOf(personId, learners),
        rows,
      };
    },

    /** Gives what some learners have on some days. */
    async days(
      personId: string,
      learnerIds: readonly string[],
      from: string,
      count: number,
    ): Promise<LearnersDays> {
      const first = parseDate(from);
      const known = new Map(people.learnersOf(personId).map((l) => [l.id, l]));
      const all: LearnersDays = Array.from({ length: count }, (_, i) => ({
        day: formatDate(first + i),
        learners: [],
      }));
      for (const id of new Set(learnerIds)) {
        const learner = known.get(id);
        if (learner) daysOf(learner, personId, first, all);
        await setImmediate();
      }
      return all;
    },

    putGroups: store.putGroups,
  };

  function groupsOf(personId: string, learners: readonly Learner[]) {
    const ids = new Set(learners.map((l) => l.id));
    return store
      .groups(personId)
      .map((group) => ({ ...group, learnerIds: group.learnerIds.filter((id) => ids.has(id)) }));
  }

  function daysOf(learner: Learner, personId: string, first: number, into: LearnersDays): void {
    const settings = people.settings(personId);
    const viewer = viewerOf(zoneOf(learner), settings);
    // Work that is due within two weeks after asks something of these days as well.
    const all = occurrencesBetween(
      items,
      learner.id,
      personId,
      first * DAY,
      (first + into.length + 14) * DAY,
    ).filter((o) => o.status !== 'cancelled' && !o.hidden);
    const load = loadByDay(
      loadShares(
        all.filter((o) => !o.finished),
        { viewer, loads: settings.loads, shelfFrom: settings.shelfFrom },
      ),
    );
    const shown = new Map(
      calendars.ofLearner(learner.id).map(({ id, name, colour, flag }) => [id, { name, colour, flag }]),
    );
    into.forEach(({ learners }, i) => {
      const on = all.filter((o) => shown.has(o.calendarId) && isOn(o, first + i, viewer));
      learners.push({
        learnerId: learner.id,
        minutes: Math.round(load.get(first + i) ?? 0),
        items: on
          .map((o) => ({
            itemId: o.itemId,
            recurrenceId: o.recurrenceId,
            title: o.title,
            kind: o.kind,
            when: o.due ?? o.start,
            finished: o.finished,
            calendar: shown.get(o.calendarId)!,
          }))
          .sort((a, b) => instantIn(a.when, viewer) - instantIn(b.when, viewer)),
      });
    });
  }
}
export type TableService = ReturnType<typeof tableService>;

/** Tells whether something stands on a day: work on the day it is due, the rest from its first day to its last. */
function isOn(o: OccurrenceView, day: number, viewer: Viewer): boolean {
  if (isWork(o.kind) && o.due) return dueDay(o.due, viewer) === day;
  const from = dayIn(o.start, viewer);
  const to = o.end ? dayIn(o.end, viewer) - (o.end.kind === 'date' ? 1 : 0) : from;
  return day >= from && day <= Math.max(from, to);
}
