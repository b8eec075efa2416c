import fc from 'fast-check';
import { date, dueAt } from '../../test/occurrence';
import { DUBLIN } from '../../test/feeds';
import { HAND_IN_WAYS } from '../item/kind';
import { keyOf, type OccurrenceView } from '../item/occurrence';
import { daySheet } from '../notify/day-sheet';
import { momentsOf } from '../notify/moments';
import { reminderWords } from '../notify/words';
import { entriesByDay, lineOf } from '../out/page';
import { DEFAULT_PLAN } from '../plan/evenings';
import { glanceAt } from '../plan/glance';
import { DAY, HOUR, formatDate } from '../time/civil';
import { instantOf } from '../time/when';
import { COUNTS_BACK, type AgendaEntry } from './entry';
import { agenda } from './agenda';
import { DEFAULT_SETTINGS } from './settings';
import { todayView } from './today';
import { today, viewerOf } from '../words/when';
import { todoBuckets } from '../todo/buckets';
import { CLOSED_STAYS, CLOSED_WORDS, workOf } from './work';

const viewer = viewerOf(DUBLIN, DEFAULT_SETTINGS);
const START = Date.parse('2026-10-05T00:00:00Z');
const keys = (entries: readonly Pick<AgendaEntry, 'occurrence'>[]) =>
  entries.map((e) => keyOf(e.occurrence)).sort();

/** Asks each place about the same schedule at the same moment. */
function saidBy(occurrences: readonly OccurrenceView[], now: number) {
  const buckets = todoBuckets(occurrences, { now, viewer, firstDay: 1, show: 'open', calendarId: null });
  const bucket = (name: string) => keys(buckets.find((b) => b.name === name)?.entries ?? []);
  const seen = todayView(occurrences, { now, viewer, ahead: 7 });
  const list = agenda(occurrences, { now, viewer, hidden: new Set() });
  const glance = glanceAt(occurrences, {
    ...{ now, viewer, firstWeek: today(now, viewer), weeks: 2, runUps: [], opened: null },
    ...{ loads: DEFAULT_SETTINGS.loads, shelfFrom: 22, settings: DEFAULT_PLAN },
  });
  const sheet = daySheet(occurrences, [], { edition: 'evening', day: today(now, viewer), now, viewer });
  const counted = (heading: string) => {
    const section = sheet.sections.find((s) => s.heading === heading);
    return section ? section.lines.length + section.more : 0;
  };
  return { bucket, seen, list, glance, counted };
}

/** Tells what past-due notices say, at the moment of each, of everything in a schedule. */
const noticesOf = (occurrences: readonly OccurrenceView[]) =>
  occurrences.flatMap((o) =>
    momentsOf({ ...o, aim: null, hidden: false }, [], viewer)
      .filter((m) => m.of === 'pastDue')
      .map((m) => ({ o, at: m.at, words: reminderWords(o, m, viewer) })),
  );

const some = fc.record({
  // From long before what counts to some days ahead, by quarters of an hour.
  at: fc.integer({ min: -(COUNTS_BACK + 5) * 96, max: 20 * 96 }),
  allDay: fc.boolean(),
  handIn: fc.constantFrom(...HAND_IN_WAYS),
  /** Hours after which it closes; some of it closes only once it is past due */
  closesAfter: fc.constantFrom(null, null, 0, 50),
  finished: fc.boolean(),
  cancelled: fc.boolean(),
});
const schedules = fc.array(some, { maxLength: 25 }).map((all) =>
  all.map(({ at, allDay, handIn, closesAfter, finished, cancelled }, i): OccurrenceView => {
    const moment = START + (at * HOUR) / 4;
    return dueAt(allDay ? date(formatDate(Math.floor(moment / DAY))) : instantOf(moment), {
      ...{ itemId: `i${i}`, title: `Work ${i}`, handIn, finished },
      closes: closesAfter === null ? null : instantOf(moment + closesAfter * HOUR),
      status: cancelled ? 'cancelled' : 'confirmed',
    });
  }),
);

test('over ten days, morning, afternoon and evening, every place says the same of what is past due, to settle and due', () => {
  fc.assert(
    fc.property(schedules, fc.integer({ min: 0, max: 9 }), fc.constantFrom(7, 16, 21), (all, days, hour) => {
      const now = START + days * DAY + hour * HOUR;
      const work = workOf(all, { now, viewer });
      const { bucket, seen, list, glance, counted } = saidBy(all, now);
      const pastDue = keys(work.pastDue);
      expect([keys(seen.pastDue), bucket('pastDue'), keys(list.pastDue)]).toEqual([
        pastDue,
        pastDue,
        pastDue,
      ]);
      expect([glance.pastDue, counted('Past due')]).toEqual([pastDue.length, pastDue.length]);
      const toSettle = keys(work.toSettle);
      expect([keys(seen.toSettle), bucket('settle')]).toEqual([toSettle, toSettle]);
      expect([glance.unsettled, counted('Did this happen?')]).toEqual([toSettle.length, toSettle.length]);
      expect(bucket('closed')).toEqual(keys(work.closed));
      const lately = work.closed.filter((e) => e.day >= today(now, viewer) - CLOSED_STAYS);
      expect([keys(seen.closed), counted(CLOSED_WORDS)]).toEqual([keys(lately), lately.length]);
      const tonight = keys(work.tonight);
      expect([keys(seen.due.filter((e) => e.urgency !== 'finished')), bucket('today')]).toEqual([
        tonight,
        tonight,
      ]);
      // Paper and the public page place each by its day, open or finished as in the lists.
      const printed = [...entriesByDay(all, { now, viewer }, today(now, viewer) - COUNTS_BACK, 400).values()];
      const open = printed.flat().filter((e) => lineOf(e, viewer).state === 'open');
      const listed = [work.pastDue, work.toSettle, work.closed, work.tonight, work.ahead];
      expect(keys(open)).toEqual(keys(listed.flat()));
    }),
    { numRuns: 300, seed: 33 },
  );
});

test('a notice that something is past due comes while every place says so, and of all that is handed in online', () => {
  fc.assert(
    fc.property(schedules, (all) => {
      const told = noticesOf(all);
      for (const { o, at, words } of told) {
        const work = workOf(all, { now: at, viewer });
        const list = /^Closed/.test(words) ? work.closed : work.pastDue;
        expect(keys(list)).toContain(keyOf(o));
      }
      const later = START + 30 * DAY;
      const late = workOf(all, { now: later, viewer }).pastDue.filter(
        (e) => e.occurrence.handIn === 'online',
      );
      const told3 = new Set(told.filter(({ at }) => at <= later).map(({ o }) => keyOf(o)));
      for (const { occurrence, day } of late)
        if (day + 3 < today(later, viewer)) expect(told3).toContain(keyOf(occurrence));
    }),
    { numRuns: 300, seed: 34 },
  );
});

test('each open piece of work stands in one list, until it is too long ago to count', () => {
  const at = (day: string, more: Partial<OccurrenceView> = {}) => dueAt(date(day), { itemId: day, ...more });
  const threeOn = (day: string) => instantOf(Date.parse(`${day}T15:00:00Z`));
  const now = Date.parse('2026-10-06T15:10:00Z');
  const work = workOf(
    [
      at('2026-10-05'),
      at('2026-10-04', { handIn: 'paper' }),
      at('2026-10-06'),
      at('2026-10-09'),
      at('2026-10-03', { finished: true }),
      at('2026-10-02', { status: 'cancelled' }),
      at('2026-05-01'),
      at('2026-09-30', { closes: threeOn('2026-10-01') }),
      at('2026-10-01', { closes: threeOn('2026-10-07') }),
      at('2026-09-29', { closes: threeOn('2026-09-29'), stillToDo: true }),
    ],
    { now, viewer },
  );
  expect(
    Object.fromEntries(Object.entries(work).map(([name, list]) => [name, keys(list as AgendaEntry[])])),
  ).toEqual({
    // Whoever says that it is still to do knows better.
    pastDue: ['2026-09-29 ', '2026-10-01 ', '2026-10-05 '],
    toSettle: ['2026-10-04 '],
    closed: ['2026-09-30 '],
    tonight: ['2026-10-06 '],
    ahead: ['2026-10-09 '],
    finished: ['2026-10-03 '],
  });
});
