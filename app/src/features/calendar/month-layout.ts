import { isWork } from '@zephyrfield/core/item/kind';
import type { DayRow } from '@zephyrfield/core/view/days';
import type { AgendaEntry } from '@zephyrfield/core/view/entry';

/** A slip in a day of a month. */
export interface MonthLine {
  entry: AgendaEntry;
  /** Its title takes two lines */
  isTall: boolean;
}

/** A day of a month as it is drawn. */
export interface MonthCell {
  day: number;
  lines: MonthLine[];
  /** Lessons, which are said in one line */
  lessons: AgendaEntry[];
  /** Number of things that are not drawn */
  more: number;
  count: number;
}

/** A week of a month as it is drawn. */
export interface MonthWeek {
  row: DayRow;
  cells: MonthCell[];
  /** In pixels */
  height: number;
}

/** Room there is, and what a title takes of it. */
export interface MonthRoom {
  /** Of all weeks together, in pixels */
  height: number;
  /** Number of letters of a title that fit in one line of a column, with its time beside it */
  letters(column: number, entry: AgendaEntry): number;
  /** True where a column is so narrow that a title of two lines has its time below it */
  isNarrow(column: number): boolean;
}

/** Heights in pixels, each with the gap below: the day’s number, a slip of one line and of two, a time below it, lessons. */
export const HEAD = 24;
export const LINE = 26;
const TALL = 38;
const TIME_BELOW = 17;
const LESSONS = 20;
/** Number of pieces of due work that are drawn in any case */
const DUE_AT_LEAST = 5;
/** Number of letters that stand of any title of due work */
const AT_LEAST = 16;

/**
 * Measure of what is left out: nothing; the second line of finished work; besides, what is not due where there is no room;
 * besides, due work after the fifth piece.
 */
type Frugality = 0 | 1 | 2 | 3;

const isLesson = ({ occurrence }: AgendaEntry) => occurrence.kind === 'lesson';
const isDue = ({ occurrence, urgency }: AgendaEntry) => urgency !== null && isWork(occurrence.kind);
const sum = (all: readonly number[]) => all.reduce((a, b) => a + b, 0);

/** A day before it is known how high its week is: what is drawn in any case, and what is where there is room. */
interface Planned {
  day: number;
  sure: MonthLine[];
  maybe: MonthLine[];
  lessons: AgendaEntry[];
  count: number;
  /** Height of a line in it, in pixels */
  heightOf(line: MonthLine): number;
}

/**
 * Lays a month out: due work first and never left out before five pieces of it, what one is at or sits down to after it,
 * lessons in one line. Weeks are as high as they need; what is left of the room is shared out. Where all of it does not
 * fit, less is drawn, step by step; and where due work alone is higher than the room, the month is higher than it.
 */
export function layMonth(rows: readonly DayRow[], room: MonthRoom): MonthWeek[] {
  for (const frugality of [0, 1, 2, 3] as const) {
    const weeks = rows.map((row) => {
      const days = row.days.map((_, column) => planDay(row, column, room, frugality));
      const above = HEAD + row.lanes * LINE;
      return {
        row,
        days,
        needed: Math.max(above + (row.lanes ? 0 : LINE), ...days.map((day) => above + surely(day))),
      };
    });
    const left = room.height - sum(weeks.map((w) => w.needed));
    if (left < 0 && frugality < 3) continue;
    return weeks.map(({ row, days, needed }) => {
      const height = needed + Math.max(0, left) / weeks.length;
      return { row, height, cells: days.map((day) => fill(day, height - HEAD - row.lanes * LINE)) };
    });
  }
  return [];
}

function planDay({ days }: DayRow, column: number, room: MonthRoom, frugality: Frugality): Planned {
  const { day, entries } = days[column]!;
  const asLine = (entry: AgendaEntry): MonthLine => ({
    entry,
    isTall:
      isDue(entry) &&
      entry.occurrence.title.length > room.letters(column, entry) &&
      (frugality === 0 ||
        (entry.urgency !== 'finished' && !entry.isAim) ||
        room.letters(column, entry) < AT_LEAST),
  });
  const due = entries.filter((e) => isDue(e) && !isLesson(e)).map(asLine);
  const rest = entries.filter((e) => !isDue(e) && !isLesson(e)).map(asLine);
  const surely = frugality < 3 ? due.length : DUE_AT_LEAST;
  return {
    day,
    sure: frugality < 2 ? [...due, ...rest] : due.slice(0, surely),
    maybe: frugality < 2 ? [] : [...due.slice(surely), ...rest],
    lessons: entries.filter(isLesson),
    count: entries.length,
    heightOf: ({ isTall, entry }) =>
      isTall ? TALL + (room.isNarrow(column) && entry.urgency !== 'finished' ? TIME_BELOW : 0) : LINE,
  };
}

const surely = ({ sure, lessons, heightOf }: Planned) =>
  sum(sure.map(heightOf)) + (lessons.length ? LESSONS : 0);

/** Draws a day into so many pixels below its number. */
function fill(planned: Planned, height: number): MonthCell {
  const { day, sure, maybe, lessons, count, heightOf } = planned;
  const lines = [...sure];
  let used = surely(planned);
  for (const line of maybe) {
    if (used + heightOf(line) > height) break;
    lines.push(line);
    used += heightOf(line);
  }
  return { day, lines, lessons, count, more: sure.length + maybe.length - lines.length };
}

/**
 * Tells how wide a weekday and a day of the weekend are, in pixels: where the weekend holds little, it gives some up.
 * @param width of all seven together
 */
export function columnWidths(
  rows: readonly DayRow[],
  width: number,
  isWeekend: (day: number) => boolean,
): number[] {
  const days = rows[0]?.days.map(({ day }) => isWeekend(day)) ?? [];
  const counts = { week: 0, end: 0 };
  for (const { days: all } of rows)
    for (const { day, entries } of all) counts[isWeekend(day) ? 'end' : 'week'] += entries.length;
  const share = counts.end / 2 < counts.week / 5 / 2 ? EMPTY_WEEKEND : 1;
  const total = sum(days.map((end) => (end ? share : 1)));
  return days.map((end) => ((end ? share : 1) / total) * width);
}
const EMPTY_WEEKEND = 0.66;
