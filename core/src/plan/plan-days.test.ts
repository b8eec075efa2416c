import { PLAIN, at, date, dueAt } from '../../test/occurrence';
import { DUBLIN } from '../../test/feeds';
import type { OccurrenceView } from '../item/occurrence.ts';
import { parseDate } from '../time/civil.ts';
import { agendaEntry } from '../view/entry.ts';
import { loadByDay, loadShares } from '../view/load.ts';
import { DEFAULT_LOADS } from '../view/settings.ts';
import { beforeAndAfter, planDays, sittingEntries, sittingId, sittingOccurrence } from './plan-days.ts';
import { newRunUp, sittingDays, type RunUpOf } from './run-up.ts';

const TODAY = parseDate('2026-10-06');
const essay = dueAt(date('2026-10-16'), { itemId: 'essay', title: 'Essay', estimate: 120 });
const sitting = (day: string, from = 1020) =>
  ({ key: day, day, from, minutes: 60, state: 'planned', took: null, pinned: false }) as const;
const runUp: RunUpOf = {
  ...newRunUp(essay, 120, 'own', TODAY),
  parts: [{ name: 'draft', share: 1 }],
  sittings: [sitting('2026-10-09'), sitting('2026-10-08')],
};
const given = (occurrences: OccurrenceView[], runUps: RunUpOf[]) => ({
  viewer: DUBLIN,
  loads: DEFAULT_LOADS,
  shelfFrom: 17,
  occurrences,
  runUps,
});
const log = dueAt(date('2026-10-08'), { itemId: 'log', estimate: 30 });

test('a day of a plan has its sittings, where one has to be, what is due, and the minutes of all of it', () => {
  const cello = {
    ...PLAIN,
    itemId: 'cello',
    kind: 'meeting',
    start: at('2026-10-08T15:00:00Z'),
  } as OccurrenceView;
  const morning = { ...cello, itemId: 'morning', start: at('2026-10-08T08:00:00Z') } as OccurrenceView;
  const days = planDays(given([essay, log, cello, morning], [runUp]), TODAY, 4);
  expect(days.map((d) => d.minutes)).toEqual([0, 0, 90, 60]);
  expect(days[2]!.sittings.map((s) => s.name)).toEqual([{ at: 1, of: 2, part: 'draft' }]);
  expect(days[2]!.places.map((o) => o.itemId)).toEqual(['cello']);
  expect(days[2]!.due.map((o) => o.itemId)).toEqual(['log']);
});

test('what has a run-up counts on the days of its sittings, and not where it is due', () => {
  const options = { viewer: DUBLIN, loads: DEFAULT_LOADS, shelfFrom: 17 };
  const load = loadByDay(loadShares([essay], { ...options, sittings: sittingDays([runUp]) }));
  expect([...load]).toEqual([
    [TODAY + 3, 60],
    [TODAY + 2, 60],
  ]);
});

test('the evenings as they are leave what is not planned to the last one', () => {
  const fresh = { ...runUp, sittings: [] };
  expect(beforeAndAfter(given([essay, log], []), [runUp], TODAY + 2, 8)).toEqual([
    { day: TODAY + 2, before: 30, after: 90 },
    { day: TODAY + 3, before: 0, after: 60 },
    ...[4, 5, 6, 7, 8].map((n) => ({ day: TODAY + n, before: 0, after: 0 })),
    { day: TODAY + 9, before: 120, after: 0 },
  ]);
  // What is planned already stands where it is.
  const [eighth] = beforeAndAfter(given([essay], [runUp]), [fresh], TODAY + 2, 1);
  expect(eighth).toMatchObject({ before: 60 });
});

test('a sitting stands at its hours in a calendar, and none of finished work is still to come', () => {
  const [entry] = sittingEntries(given([essay], [runUp]));
  const occurrence = sittingOccurrence(entry!);
  expect(occurrence).toMatchObject({
    title: 'Essay: draft',
    own: true,
    due: null,
    sitting: sittingId(entry!),
  });
  expect(agendaEntry(occurrence, Date.parse('2026-10-06T15:00:00Z'), DUBLIN)).toMatchObject({
    shape: 'sitting',
    urgency: null,
    day: TODAY + 2,
  });
  expect(sittingEntries(given([{ ...essay, finished: true }], [runUp]))).toEqual([]);
});
