import fc from 'fast-check';
import type { DayRow } from '@zephyrfield/core/view/days';
import type { AgendaEntry } from '@zephyrfield/core/view/entry';
import { HEAD, columnWidths, layMonth, type MonthRoom } from './month-layout';

type Sort = 'due' | 'finished' | 'lesson' | 'place';
const entry = (sort: Sort, title = 'Short'): AgendaEntry =>
  ({
    occurrence: { kind: sort === 'lesson' ? 'lesson' : sort === 'place' ? 'meeting' : 'assignment', title },
    urgency: sort === 'due' ? 'coming' : sort === 'finished' ? 'finished' : null,
  }) as unknown as AgendaEntry;
const row = (first: number, ...days: AgendaEntry[][]): DayRow => ({
  first,
  days: Array.from({ length: 7 }, (_, i) => ({
    day: first + i,
    entries: days[i] ?? [],
    shelf: [],
    timed: [],
  })),
  spans: [],
  lanes: 0,
});
const room = (height: number, more: Partial<MonthRoom> = {}): MonthRoom => ({
  height,
  letters: () => 17,
  isNarrow: () => false,
  ...more,
});
const LONG = 'A title that does not fit in one line';

test('with room to spare all of it is drawn, long titles on two lines, lessons as one', () => {
  const day = [entry('due', LONG), entry('place'), entry('lesson'), entry('lesson')];
  const [week] = layMonth([row(0, day)], room(400));
  expect(week!.cells[0]!.lines.map((l) => l.isTall)).toEqual([true, false]);
  expect(week!.cells[0]!).toMatchObject({ more: 0, count: 4 });
  expect(week!.cells[0]!.lessons).toHaveLength(2);
  expect(week!.height).toBe(400);
});

test('due work stands before what one is at, and that before nothing due is left out', () => {
  const day = [entry('place'), entry('due'), entry('place'), entry('due')];
  const [week] = layMonth([row(0, day)], room(100));
  const kinds = week!.cells[0]!.lines.map((l) => l.entry.occurrence.kind);
  expect(kinds.slice(0, 2)).toEqual(['assignment', 'assignment']);
  expect(kinds.length + week!.cells[0]!.more).toBe(4);
});

test('a busy week takes of the room that a calm one does not need', () => {
  const busy = Array.from({ length: 5 }, () => entry('due', LONG));
  const [first, second] = layMonth([row(0, busy), row(7)], room(300));
  expect(first!.height).toBeGreaterThan(second!.height);
  expect(first!.height + second!.height).toBeCloseTo(300);
});

test('nothing due is behind “more” before five pieces, and everything is drawn or counted', () => {
  const sorts = fc.constantFrom<Sort[]>('due', 'finished', 'lesson', 'place');
  fc.assert(
    fc.property(
      fc.array(
        fc.array(fc.array(fc.record({ sort: sorts, long: fc.boolean() }), { maxLength: 12 }), {
          maxLength: 7,
        }),
        {
          minLength: 1,
          maxLength: 6,
        },
      ),
      fc.integer({ min: 50, max: 900 }),
      (weeks, height) => {
        const rows = weeks.map((days, w) =>
          row(w * 7, ...days.map((all) => all.map(({ sort, long }) => entry(sort, long ? LONG : 'Short')))),
        );
        const laid = layMonth(rows, room(height));
        expect(laid).toHaveLength(rows.length);
        for (const week of laid) {
          expect(week.height).toBeGreaterThanOrEqual(HEAD);
          for (const [i, cell] of week.cells.entries()) {
            expect(cell.lines.length + cell.lessons.length + cell.more).toBe(cell.count);
            const due = week.row.days[i]!.entries.filter((e) => e.urgency !== null).length;
            const drawn = cell.lines.filter((l) => l.entry.urgency !== null).length;
            expect(drawn).toBeGreaterThanOrEqual(Math.min(due, 5));
          }
        }
        // It is never lower than its room, and higher only where what is due needs it.
        expect(laid.reduce((sum, w) => sum + w.height, 0)).toBeGreaterThanOrEqual(height - 0.01);
      },
    ),
  );
});

test('an empty weekend gives up some of its width; a full one does not', () => {
  const full = [entry('due'), entry('due'), entry('place')];
  const isWeekend = (day: number) => day % 7 > 4;
  const narrow = columnWidths([row(0, full, full, full, full, full)], 700, isWeekend);
  expect(narrow[5]).toBeLessThan(narrow[0]!);
  expect(narrow.reduce((a, b) => a + b)).toBeCloseTo(700);
  const alike = columnWidths([row(0, full, full, full, full, full, full, full)], 700, isWeekend);
  expect(alike[5]).toBe(alike[0]);
});
