import { PLAIN, at, date, dueAt } from '../../test/occurrence';
import fc from 'fast-check';
import type { OccurrenceView } from '../item/occurrence';
import { DUBLIN } from '../../test/feeds';
import { DAY, HOUR, formatDate, formatInstant, parseDate } from '../time/civil';
import { ianaZone } from '../time/zone';
import { agendaEntry } from './entry';
import { dayRows, hoursOf, monthWeeks } from './days';
import { fitColumns, lanes, pack } from './lanes';

const NOW = Date.parse('2026-10-06T15:10:00Z');
const D0 = parseDate('2026-10-05');
const work = (itemId: string, due: OccurrenceView['start']) => dueAt(due, { itemId });
const block = (
  itemId: string,
  start: string,
  end: string,
  more: Partial<OccurrenceView> = {},
): OccurrenceView => ({ ...PLAIN, itemId, kind: 'lesson', start: at(start), end: at(end), ...more });
const week = (list: OccurrenceView[], viewer = DUBLIN) =>
  dayRows(list, D0, 1, 7, { now: NOW, viewer, shelfFrom: 17 })[0]!;
const ids = (list: { occurrence: OccurrenceView }[]) => list.map((e) => e.occurrence.itemId);

describe('a row of days', () => {
  test('late deadlines and whole-day ones stand on the shelf, earlier ones at their hour', () => {
    const { days } = week([
      work('late', at('2026-10-06T22:59:00Z')),
      work('day', date('2026-10-06')),
      work('noon', at('2026-10-06T11:00:00Z')),
    ]);
    expect(ids(days[1]!.shelf)).toEqual(['day', 'late']);
    expect(days[1]!.timed.map(({ block: b }) => [b.entry.occurrence.itemId, b.from, b.to])).toEqual([
      ['noon', 690, 720],
    ]);
  });
  test('a deadline stands under the day and on the shelf it falls on for who looks', () => {
    const list = [work('late', at('2026-10-06T22:59:00Z'))];
    expect(ids(week(list, ianaZone('Asia/Tokyo')!).days[2]!.entries)).toEqual(['late']);
    expect(week(list, ianaZone('Asia/Tokyo')!).days[2]!.shelf).toEqual([]);
    expect(ids(week(list, ianaZone('America/Los_Angeles')!).days[1]!.entries)).toEqual(['late']);
  });
  test('what goes past midnight stands on both days, up to it and from it', () => {
    const { days } = week([block('watch', '2026-10-06T21:00:00Z', '2026-10-07T00:30:00Z')]);
    expect(days[1]!.timed.map(({ block: b }) => [b.from, b.to])).toEqual([[1320, 1440]]);
    expect(days[2]!.timed.map(({ block: b }) => [b.from, b.to])).toEqual([[0, 90]]);
  });
  test('a break is a span, cut where the row ends', () => {
    const holiday = {
      ...PLAIN,
      itemId: 'h',
      kind: 'dayOff' as const,
      start: date('2026-10-03'),
      end: date('2026-10-08'),
    };
    const [first, second] = dayRows([holiday], D0 - 7, 2, 7, { now: NOW, viewer: DUBLIN, shelfFrom: 17 });
    expect(first!.spans).toMatchObject([{ from: 5, to: 6, lane: 0, before: false, after: true }]);
    expect(second!.spans).toMatchObject([{ from: 0, to: 2, lane: 0, before: true, after: false }]);
  });
  test('what is called off stands in its place, as no work, until its day is over', () => {
    const off = (day: string) => ({ ...work('x', date(day)), status: 'cancelled' as const });
    expect(week([off('2026-10-06')]).days[1]!.entries).toMatchObject([{ urgency: null }]);
    expect(week([off('2026-10-05')]).days[0]!.entries).toEqual([]);
  });

  const when = fc
    .integer({ min: -20, max: 20 })
    .chain((day) =>
      fc.integer({ min: 0, max: 95 }).map((quarter) => (D0 + day) * DAY + (quarter * HOUR) / 4),
    );
  const occurrence = fc.record({
    start: when,
    length: fc.constantFrom(0, 0.5, 1, 3, 20, 30, 70, 200),
    allDay: fc.boolean(),
    kind: fc.constantFrom(
      'assignment' as const,
      'lesson' as const,
      'dayOff' as const,
      'reminder' as const,
      'trip' as const,
    ),
  });
  const made = fc.array(occurrence, { maxLength: 30 }).map((list) =>
    list.map(({ start, length, allDay, kind }, i): OccurrenceView => {
      const end = start + length * HOUR;
      const begins = allDay ? date(formatDate(Math.floor(start / DAY))) : at(formatInstant(start));
      const ends = allDay
        ? date(formatDate(Math.floor(end / DAY) + 1))
        : length
          ? at(formatInstant(end))
          : null;
      return {
        ...PLAIN,
        itemId: `i${i}`,
        kind,
        start: begins,
        end: ends,
        due: kind === 'assignment' ? begins : null,
      };
    }),
  );
  test('nothing is lost: each thing stands on every day it touches, in any zone, over a change of clocks', () => {
    fc.assert(
      fc.property(
        made,
        fc.constantFrom('Europe/Dublin', 'Asia/Tokyo', 'America/Los_Angeles', 'Pacific/Apia'),
        fc.constantFrom(0, 17),
        (list, zone, shelfFrom) => {
          const viewer = ianaZone(zone)!;
          const rows = dayRows(list, D0 + 14, 3, 7, { now: NOW, viewer, shelfFrom });
          const seen = new Set<string>();
          for (const row of rows) {
            for (const s of row.spans)
              for (let c = s.from; c <= s.to; c++) seen.add(`${s.entry.occurrence.itemId} ${row.first + c}`);
            for (const d of row.days) {
              for (const e of d.entries) seen.add(`${e.occurrence.itemId} ${d.day}`);
              // All that a day holds is on its shelf or at its hours.
              expect(d.entries.length).toBe(d.shelf.length + d.timed.length);
            }
          }
          for (const o of list) {
            const entry = agendaEntry(o, NOW, viewer);
            for (let day = Math.max(entry.day, D0 + 14); day <= Math.min(entry.lastDay, D0 + 34); day++)
              expect(seen).toContain(`${o.itemId} ${day}`);
          }
        },
      ),
      { numRuns: 150, seed: 21 },
    );
  });
  test('no two spans of one lane touch, no two blocks side by side overlap, and a span keeps its lane from week to week', () => {
    fc.assert(
      fc.property(made, (list) => {
        const rows = dayRows(list, D0 - 14, 5, 7, { now: NOW, viewer: DUBLIN, shelfFrom: 17 });
        const lane = new Map<string, number>();
        for (const row of rows) {
          for (const a of row.spans) {
            const id = a.entry.occurrence.itemId;
            expect(lane.get(id) ?? a.lane).toBe(a.lane);
            lane.set(id, a.lane);
            for (const b of row.spans)
              if (a !== b && a.lane === b.lane) expect(a.to < b.from || b.to < a.from).toBe(true);
          }
          for (const { timed } of row.days) {
            for (const a of timed) {
              expect(a.column).toBeLessThan(a.columns);
              expect([a.block.from >= 0, a.block.to <= 1440, a.block.to > a.block.from]).toEqual([
                true,
                true,
                true,
              ]);
              for (const b of timed)
                if (a !== b && a.column === b.column)
                  expect(a.block.to <= b.block.from || b.block.to <= a.block.from).toBe(true);
            }
          }
        }
      }),
      { numRuns: 150, seed: 22 },
    );
  });
});

test('lanes take the lowest that is free, the longer first', () => {
  const [a, b, c] = [
    { from: 0, to: 6 },
    { from: 0, to: 2 },
    { from: 3, to: 4 },
  ];
  const placed = lanes([c, b, a]);
  expect([placed.get(a), placed.get(b), placed.get(c)]).toEqual([0, 1, 1]);
});

test('blocks that hang together share the width, others have it to themselves', () => {
  const packed = pack([
    { from: 0, to: 60 },
    { from: 30, to: 90 },
    { from: 60, to: 120 },
    { from: 200, to: 260 },
  ]);
  expect(packed.map(({ column, columns }) => [column, columns])).toEqual([
    [0, 2],
    [1, 2],
    [0, 2],
    [0, 1],
  ]);
});

test('what would stand too narrow is counted in its cluster, and nothing is lost', () => {
  const packed = pack([
    { from: 0, to: 60 },
    { from: 10, to: 70 },
    { from: 20, to: 80 },
    { from: 200, to: 260 },
  ]);
  const { shown, crowded } = fitColumns(packed, 1);
  expect(shown.map(({ block, columns }) => [block.from, columns])).toEqual([
    [0, 1],
    [200, 1],
  ]);
  expect(crowded).toEqual([{ cluster: 0, count: 2, from: 10, to: 80 }]);
  const anyBlock = fc
    .tuple(fc.integer({ min: 0, max: 1400 }), fc.integer({ min: 1, max: 300 }))
    .map(([from, long]) => ({ from, to: from + long }));
  fc.assert(
    fc.property(fc.array(anyBlock), fc.integer({ min: 1, max: 4 }), (blocks, most) => {
      const all = pack(blocks);
      const fitted = fitColumns(all, most);
      expect(fitted.shown.length + fitted.crowded.reduce((n, c) => n + c.count, 0)).toBe(blocks.length);
      expect(fitted.shown.every((each) => each.columns <= most && each.column < each.columns)).toBe(true);
      expect(new Set(fitted.crowded.map((c) => c.cluster)).size).toBe(fitted.crowded.length);
    }),
  );
});

test('a month is whole weeks, from whichever day they begin on', () => {
  expect(monthWeeks(2026, 10, 1)).toEqual({ first: parseDate('2026-09-28'), weeks: 5 });
  expect(monthWeeks(2026, 10, 7)).toEqual({ first: parseDate('2026-09-27'), weeks: 5 });
  expect(monthWeeks(2027, 2, 1)).toEqual({ first: parseDate('2027-02-01'), weeks: 4 });
});

test('hours outside the usual ones are shown where something stands in them', () => {
  const { days } = week([block('early', '2026-10-06T05:30:00Z', '2026-10-06T06:00:00Z')]);
  expect(hoursOf(days, 8, 18)).toEqual({ from: 6, to: 18 });
});
