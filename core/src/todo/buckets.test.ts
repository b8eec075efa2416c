import { at, date, dueAt } from '../../test/occurrence';
import fc from 'fast-check';
import type { OccurrenceView } from '../item/occurrence';
import { HAND_IN_WAYS, ITEM_KINDS, isWork } from '../item/kind';
import { formatDate } from '../time/civil';
import { ianaZone } from '../time/zone';
import { today } from '../words/when';
import { todoBuckets } from './buckets';

const viewer = ianaZone('Europe/Dublin')!;
const NOW = Date.parse('2026-10-06T15:10:00Z'); // a Tuesday
const TODAY = today(NOW, viewer);
const options = {
  now: NOW,
  viewer,
  firstDay: 1,
  show: 'open' as const,
  calendarId: null,
};
const work = (title: string, days: number, more: Partial<OccurrenceView> = {}) =>
  dueAt(date(formatDate(TODAY + days)), { itemId: title, title, ...more });
const named = (list: OccurrenceView[], more = {}) =>
  todoBuckets(list, { ...options, ...more }).map((b) => [b.name, b.entries.map((e) => e.occurrence.title)]);

test('work stands by when it is to be done; paper that nobody has told of is asked after and never nags', () => {
  const list = [
    work('essay', 9),
    work('quiz', 1),
    work('late', -2),
    work('paper', -3, { handIn: 'paper' }),
    work('today', 0),
    work('far', 20),
    work('idea', 0, { undated: true, due: null }),
  ];
  expect(named(list)).toEqual([
    ['pastDue', ['late']],
    ['settle', ['paper']],
    ['today', ['today']],
    ['thisWeek', ['quiz']],
    ['nextWeek', ['essay']],
    ['later', ['far']],
    ['noDate', ['idea']],
  ]);
  expect(named([work('paper', -3, { handIn: 'paper', stillToDo: true })])).toEqual([['pastDue', ['paper']]]);
});
test('an aim orders while the due date is still ahead; a missed aim is for today, and not past due', () => {
  const aim = (days: number) => ({ aim: { kind: 'date' as const, date: formatDate(TODAY + days) } });
  expect(named([work('essay', 9, aim(1))])).toEqual([['thisWeek', ['essay']]]);
  expect(named([work('essay', 9, aim(-1))])).toEqual([['today', ['essay']]]);
  expect(named([work('essay', -1, aim(-3))])).toEqual([['pastDue', ['essay']]]);
});
test('what a person has put in order stays so, inside its bucket', () => {
  expect(named([work('a', 9), work('b', 10), work('c', 11, { position: 1 })])).toEqual([
    ['nextWeek', ['c', 'a', 'b']],
  ]);
});
test('what repeats for ever is one thing to do: its next date, and what is past due', () => {
  const daily = (days: number, more: Partial<OccurrenceView> = {}) =>
    work('guitar', days, { recurrenceId: `r${days}`, endless: true, handIn: 'nothing', ...more });
  const list = [3, 1, -1, 2, -2].map((d) => daily(d));
  const shown = (all: OccurrenceView[], show: 'open' | 'finished' = 'open') =>
    todoBuckets(all, { ...options, show }).flatMap((b) => b.entries.map((e) => e.occurrence.recurrenceId));
  expect(shown(list)).toEqual(['r1']);
  expect(shown([...list.slice(0, 1), daily(1, { finished: true })])).toEqual(['r3']);
  expect(shown([daily(-1, { handIn: 'online' }), daily(4)])).toEqual(['r-1', 'r4']);
  expect(shown([daily(-1, { finished: true }), daily(-2, { finished: true })], 'finished')).toHaveLength(2);
});
test('every open piece of work stands in exactly one bucket, and nothing else does', () => {
  const made = fc.array(
    fc.record({
      days: fc.integer({ min: -30, max: 60 }),
      kind: fc.constantFrom(...ITEM_KINDS),
      handIn: fc.constantFrom(...HAND_IN_WAYS),
      finished: fc.boolean(),
      undated: fc.boolean(),
      cancelled: fc.boolean(),
    }),
    { maxLength: 30 },
  );
  fc.assert(
    fc.property(made, (list) => {
      const all = list.map(({ days, kind, cancelled, ...rest }, i) =>
        work(`w${i}`, days, {
          ...rest,
          kind,
          ...(rest.undated ? { due: null } : {}),
          status: cancelled ? 'cancelled' : 'confirmed',
        }),
      );
      const shown = (show: 'open' | 'finished') =>
        todoBuckets(all, { ...options, show }).flatMap((b) => b.entries.map((e) => e.occurrence.itemId));
      const expected = (finished: boolean) =>
        all
          .filter((o) => isWork(o.kind) && o.status !== 'cancelled' && o.finished === finished)
          .map((o) => o.itemId);
      expect(shown('open').sort()).toEqual(expected(false).sort());
      expect(shown('finished').sort()).toEqual(expected(true).sort());
    }),
  );
});

test('a test at its hours is to be prepared for until it is sat', () => {
  const exam = (from: string, to: string, more: Partial<OccurrenceView> = {}) =>
    dueAt(at(from), { itemId: from, title: from, kind: 'test', due: null, end: at(to), ...more });
  const list = [
    exam('2026-10-06T13:00:00Z', '2026-10-06T14:00:00Z'),
    exam('2026-10-09T08:00:00Z', '2026-10-09T10:00:00Z'),
    exam('2026-10-12T08:00:00Z', '2026-10-12T10:00:00Z', { status: 'cancelled' }),
    exam('2026-12-12T08:00:00Z', '2026-12-12T10:00:00Z'),
  ];
  expect(named(list)).toEqual([['prepare', ['2026-10-09T08:00:00Z']]]);
});
