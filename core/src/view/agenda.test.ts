import { at, date as day, dueAt } from '../../test/occurrence';
import fc from 'fast-check';
import type { OccurrenceView } from '../item/occurrence';
import { HAND_IN_WAYS, ITEM_KINDS } from '../item/kind';
import { formatDate, parseDate } from '../time/civil';
import { ianaZone } from '../time/zone';
import { agenda, agendaFrom } from './agenda';

const DUBLIN = ianaZone('Europe/Dublin')!;
const NOW = Date.parse('2026-10-06T15:10:00Z');
const base = dueAt(at('2026-10-06T22:59:00Z'));
const make = (changes: Partial<OccurrenceView>): OccurrenceView => ({ ...base, ...changes });
const show = (list: OccurrenceView[], hidden: string[] = [], viewer = DUBLIN) =>
  agenda(list, { now: NOW, viewer, hidden: new Set(hidden) });

test('today is always there, even when nothing is', () => {
  expect(show([]).days).toEqual([{ day: parseDate('2026-10-06'), entries: [] }]);
});

test('a deadline stands under the day it falls on for the person who looks', () => {
  expect(formatDate(show([base]).days[0]!.day)).toBe('2026-10-06');
  expect(formatDate(show([base], [], ianaZone('Asia/Tokyo')!).days[0]!.day)).toBe('2026-10-07');
  expect(formatDate(show([base], [], ianaZone('America/New_York')!).days[0]!.day)).toBe('2026-10-06');
});

test('how work stands', () => {
  const urgency = (changes: Partial<OccurrenceView>) => {
    const { pastDue, earlier, days } = show([make(changes)]);
    return [...pastDue, ...earlier.flatMap((d) => d.entries), ...days.flatMap((d) => d.entries)][0]!.urgency;
  };
  expect(urgency({})).toBe('soon');
  expect(urgency({ due: at('2026-10-09T22:59:00Z') })).toBe('coming');
  expect(urgency({ due: at('2026-10-06T15:09:00Z') })).toBe('pastDue');
  expect(urgency({ due: day('2026-10-06') })).toBe('soon');
  expect(urgency({ due: day('2026-10-05') })).toBe('pastDue');
  expect(urgency({ due: day('2026-10-05'), handIn: 'paper' })).toBe('unsettled');
  expect(urgency({ due: day('2026-10-05'), handIn: 'nothing' })).toBe('unsettled');
  expect(urgency({ due: day('2026-10-05'), finished: true })).toBe('finished');
  expect(urgency({ kind: 'lesson', due: null })).toBeNull();
});

test('a long item under way stands under today; work before places to be, whole days before times', () => {
  const { days } = show([
    make({ itemId: 'late', title: 'Late' }),
    make({
      itemId: 'early',
      title: 'Prefetched',
      start: at('2026-10-06T16:00:00Z'),
      due: null,
      kind: 'meeting',
    }),
    make({
      itemId: 'long',
      title: 'Break',
      kind: 'dayOff',
      due: null,
      start: day('2026-10-05'),
      end: day('2026-10-10'),
    }),
    make({ itemId: 'day', title: 'Tiles', start: day('2026-10-06'), due: day('2026-10-06') }),
  ]);
  expect(days[0]!.entries.map((e) => e.occurrence.itemId)).toEqual(['long', 'day', 'late', 'early']);
});

test('what to know at an hour stands by the clock among the places to be, what to know all day before them', () => {
  const { days } = show([
    make({ itemId: 'second', kind: 'lesson', due: null, start: at('2026-10-06T16:30:00Z') }),
    make({ itemId: 'drill', kind: 'reminder', due: null, start: at('2026-10-06T16:00:00Z') }),
    make({ itemId: 'first', kind: 'lesson', due: null, start: at('2026-10-06T15:30:00Z') }),
    make({ itemId: 'birthday', kind: 'reminder', due: null, start: day('2026-10-06') }),
  ]);
  expect(days[0]!.entries.map((e) => e.occurrence.itemId)).toEqual(['birthday', 'first', 'drill', 'second']);
});

test('what is hidden is counted', () => {
  const shown = show(
    [
      base,
      make({ itemId: 'b', calendarId: 'd' }),
      make({ itemId: 'm', calendarId: 'd', kind: 'meeting', due: null }),
      make({ itemId: 'f', calendarId: 'd', finished: true }),
    ],
    ['d'],
  );
  expect(shown.hidden).toEqual({ due: 1, other: 1, single: 0 });
  expect([...shown.open]).toEqual([
    ['c', 1],
    ['d', 1],
  ]);
});

test('from a day on, what is past due stands under its own day like the rest', () => {
  const missed = make({
    itemId: 'missed',
    start: at('2026-09-28T22:59:00Z'),
    due: at('2026-09-28T22:59:00Z'),
  });
  const done = make({
    itemId: 'done',
    start: at('2026-09-28T15:00:00Z'),
    due: at('2026-09-28T15:00:00Z'),
    finished: true,
  });
  const before = make({
    itemId: 'before',
    start: at('2026-09-27T15:00:00Z'),
    due: at('2026-09-27T15:00:00Z'),
  });
  const all = show([make({}), missed, done, before]);
  expect(all.pastDue.map((e) => e.occurrence.itemId)).toEqual(['before', 'missed']);
  const from = agendaFrom(all, parseDate('2026-09-28'), DUBLIN);
  expect(from.map(({ day, entries }) => [formatDate(day), entries.map((e) => e.occurrence.itemId)])).toEqual([
    ['2026-09-28', ['done', 'missed']],
    ['2026-10-06', ['i']],
  ]);
});

test('nothing is lost: everything not called off, hidden or finished is drawn once or counted', () => {
  const when = fc
    .integer({
      min: Date.parse('2026-08-01T00:00:00Z') / 60_000,
      max: Date.parse('2027-01-01T00:00:00Z') / 60_000,
    })
    .chain((m) => {
      const iso = new Date(m * 60_000).toISOString().slice(0, 19);
      return fc.constantFrom(at(iso + 'Z'), day(iso.slice(0, 10)), { kind: 'floating' as const, local: iso });
    });
  const one = fc.record({
    start: when,
    work: fc.boolean(),
    kind: fc.constantFrom(...ITEM_KINDS),
    handIn: fc.constantFrom(...HAND_IN_WAYS),
    calendarId: fc.constantFrom('a', 'b', 'c'),
    finished: fc.boolean(),
  });
  fc.assert(
    fc.property(
      fc.array(one, { maxLength: 40 }),
      fc.subarray(['a', 'b', 'c']),
      fc.constantFrom('Europe/Dublin', 'Pacific/Pago_Pago', 'Pacific/Auckland'),
      (list, hidden, zone) => {
        const occurrences = list.map(({ start, ...rest }, i) =>
          make({
            ...rest,
            itemId: String(i),
            start,
            due: ['lesson', 'meeting', 'trip', 'reminder', 'dayOff'].includes(rest.kind) ? null : start,
          }),
        );
        const result = show(occurrences, hidden, ianaZone(zone)!);
        const drawn = [
          ...result.pastDue,
          ...result.earlier.flatMap((d) => d.entries),
          ...result.days.flatMap((d) => d.entries),
        ].map((e) => e.occurrence.itemId);
        expect(new Set(drawn).size).toBe(drawn.length);
        expect(drawn.length).toBe(occurrences.filter((o) => !hidden.includes(o.calendarId)).length);
        const fromTheStart = agendaFrom(result, -Infinity, ianaZone(zone)!).flatMap((d) =>
          d.entries.map((e) => e.occurrence.itemId),
        );
        expect(fromTheStart.sort()).toEqual(drawn.sort());
        const days = result.days.map((d) => d.day);
        expect(days).toEqual([...days].sort((a, b) => a - b));
      },
    ),
    { numRuns: 150, seed: 4 },
  );
});
