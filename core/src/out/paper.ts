import type { OccurrenceView } from '../item/occurrence.ts';
import { keyOf } from '../item/occurrence.ts';
import { DAY, civilDate, daysInMonth, formatDate, parseDate, startOfWeek } from '../time/civil.ts';
import { daysWords, monthName, shortDay, today, type Viewer } from '../words/when.ts';
import type { OutCalendar } from './going-out.ts';
import type { PaperAsked } from './paper-size.ts';
import { entriesByDay, lineOf, monthAsked, monthPage, type MonthPage, type PageLine } from './page.ts';

// What is printed: a week or a month, in pages that hold all of it.

/** One day on one page. */
export interface PaperDay {
  /** `Tuesday 6 October` */
  words: string;
  lines: PageLine[];
  /** Begun on the page before */
  goesOn: boolean;
}

export interface PaperPage {
  /** `week of 5 to 11 October 2026` */
  title: string;
  number: number;
  of: number;
  /** Days one below the other, or beside each other as columns */
  days: PaperDay[];
  /** A month as a table, in place of days; lines that do not fit stand on the pages after it */
  month: PaperMonth | null;
}

/** A month as a table: what fits into each day, and how many lines of it do not. */
export interface PaperMonth {
  weekdays: string[];
  weeks: (Pick<MonthPage['weeks'][0][0], 'date' | 'number' | 'lines'> & { left: number })[][];
}

export interface Paper {
  learner: string;
  pages: PaperPage[];
  calendars: OutCalendar[];
  /** Dates with a brief stand here by their keys, so that it can be printed after them */
  keys: string[];
}

/** Millimetres of a sheet, less its margins of 12. */
const SHEETS = { a4: [186, 273], letter: [192, 255] } as const;
/** What stands above the days of each page, and below those of the first (which calendars stand in it), in millimetres. */
const HEAD = 15;
const FOOT = 15;
/** Room that is left free at the foot of the others */
const EDGE = 3;
/** The longest title that is printed whole. */
const LONGEST = 300;

const clipped = (line: PageLine): PageLine =>
  line.title.length > LONGEST ? { ...line, title: `${line.title.slice(0, LONGEST)}…` } : line;

/** So many rows a text takes in a column so wide, with so many letters in a millimetre. */
const rowsOf = (text: string, width: number, letters: number): number =>
  text ? Math.ceil(text.length / Math.max(6, Math.floor(width * letters))) : 0;

/** How high a line stands in a list, in millimetres: its title, and below it its calendar and what it is. */
const HEADING = 9.5;
function heightInList(line: PageLine, width: number, names: ReadonlyMap<string, string>): number {
  const wide = width - 37;
  const words = `${names.get(line.calendarId) ?? ''}, ${line.detail}, called off`;
  const beside = 5.2 * rowsOf(line.time, 26, 0.55);
  return Math.max(beside, 5.2 * rowsOf(line.title, wide - 7, 0.5) + 5.2 * rowsOf(words, wide, 0.58)) + 1.8;
}

/** The same in a column: its hour and box, its title, what it is. */
function heightInColumn(line: PageLine, width: number): number {
  const time = 4.9 * Math.max(1, rowsOf(line.time, width - 5, 0.6));
  return (
    time +
    4.4 * rowsOf(`${line.title}xxxx`, width - 3, 0.55) +
    4.4 * rowsOf(line.detail, width - 3, 0.64) +
    1.7
  );
}

/** Number of rows a title takes in a month’s cell, with its flag. */
const CELL = { row: 3.9, letters: 0.62, above: 5.5 } as const;
const rowsInCell = (line: PageLine, width: number) => rowsOf(`${line.title}xxx`, width - 2.5, CELL.letters);

/** A week of a learner, or a month, as pages. */
export function paperOf(
  learner: string,
  dates: readonly OccurrenceView[],
  asked: PaperAsked,
  {
    now,
    viewer,
    firstDay,
    calendars,
  }: { now: number; viewer: Viewer; firstDay: number; calendars: OutCalendar[] },
): Paper {
  const day = asked.day === undefined ? today(now, viewer) : parseDate(asked.day);
  const [w, h] = SHEETS[asked.size];
  const [width, whole] = asked.turn === 'portrait' ? [w, h] : [h, w];
  const height = whole - HEAD - FOOT;
  const isMonth = asked.of === 'month';
  const { year, month } = civilDate(day);
  const first = isMonth ? parseDate(`${formatDate(day).slice(0, 7)}-01`) : startOfWeek(day, firstDay);
  const count = isMonth ? daysInMonth(year, month) : 7;
  const byDay = entriesByDay(dates, { now, viewer }, first, count);
  const lines = new Map(
    [...byDay].map(([d, entries]) => [d, entries.map((e) => clipped(lineOf(e, viewer)))]),
  );
  const days = Array.from({ length: count }, (_, n) => first + n);
  const names = new Map(calendars.map((c) => [c.id, c.name]));
  const used = new Set([...lines.values()].flat().map((line) => line.calendarId));
  const title = isMonth
    ? `${monthName(month)} ${year}`
    : `week of ${daysWords(first, first + 6)} ${civilDate(first + 6).year}`;
  const pages = isMonth
    ? monthPages(dates, lines, days, {
        width,
        height,
        now,
        viewer,
        firstDay,
        calendars,
        names,
        asked: formatDate(day).slice(0, 7),
      })
    : asked.turn === 'portrait'
      ? listPages(lines, days, { width, height, keepsEmpty: true, names })
      : columnPages(lines, days, { width, height });
  return {
    learner,
    pages: pages.map((page, n) => ({ ...page, title, number: n + 1, of: pages.length })),
    calendars: calendars.filter((c) => used.has(c.id)),
    keys: [...byDay.values()].flat().map(({ occurrence }) => keyOf(occurrence)),
  };
}

type Bare = Omit<PaperPage, 'title' | 'number' | 'of'>;
type Lines = ReadonlyMap<number, readonly PageLine[]>;
interface Room {
  width: number;
  height: number;
}
const wordsOf = (day: number) => shortDay(day);

/** Days one below the other, over as many pages as they take. */
function listPages(
  lines: Lines,
  days: readonly number[],
  { width, height, keepsEmpty, names }: Room & { keepsEmpty: boolean; names: ReadonlyMap<string, string> },
): Bare[] {
  const pages: Bare[] = [{ days: [], month: null }];
  let used = 0;
  const room = () => (pages.length > 1 || !keepsEmpty ? height + FOOT - EDGE : height);
  const turn = () => {
    pages.push({ days: [], month: null });
    used = 0;
  };
  for (const day of days) {
    const of = lines.get(day) ?? [];
    if (!of.length && !keepsEmpty) continue;
    const needs = HEADING + (of[0] ? heightInList(of[0], width, names) : 5.2);
    if (used + needs > room()) turn();
    let here: PaperDay = { words: wordsOf(day), lines: [], goesOn: false };
    pages.at(-1)!.days.push(here);
    used += HEADING + (of.length ? 0 : 5.2);
    for (const line of of) {
      const high = heightInList(line, width, names);
      if (used + high > room()) {
        turn();
        here = { words: wordsOf(day), lines: [], goesOn: true };
        pages.at(-1)!.days.push(here);
        used += HEADING;
      }
      here.lines.push(line);
      used += high;
    }
  }
  return pages;
}

/** The days of a week beside each other; a day that does not fit goes on in its column of the next page. */
function columnPages(lines: Lines, days: readonly number[], { width, height }: Room): Bare[] {
  const wide = width / days.length;
  const columns = days.map((day) => {
    const parts: PageLine[][] = [[]];
    let used = 8;
    for (const line of lines.get(day) ?? []) {
      const high = heightInColumn(line, wide);
      const room = parts.length > 1 ? height + FOOT - EDGE : height;
      if (used + high > room && parts.at(-1)!.length) {
        parts.push([]);
        used = 8;
      }
      parts.at(-1)!.push(line);
      used += high;
    }
    return parts;
  });
  const most = Math.max(...columns.map((parts) => parts.length));
  return Array.from({ length: most }, (_, n) => ({
    month: null,
    days: days.map((day, c) => ({ words: wordsOf(day), lines: columns[c]![n] ?? [], goesOn: n > 0 })),
  }));
}

interface MonthRoom extends Room {
  now: number;
  viewer: Viewer;
  firstDay: number;
  calendars: OutCalendar[];
  names: ReadonlyMap<string, string>;
  asked: string;
}

/** A month as a table; what does not fit into a day stands on the pages after it. */
function monthPages(
  dates: readonly OccurrenceView[],
  lines: Lines,
  days: readonly number[],
  room: MonthRoom,
): Bare[] {
  const { width, height, asked, now, viewer, names } = room;
  const { weeks, weekdays } = monthPage(dates, monthAsked(asked, now, viewer), room);
  const rows = Math.floor(((height - 6) / weeks.length - CELL.above) / CELL.row);
  const left = new Map<number, readonly PageLine[]>();
  const fitting = (day: number): PageLine[] => {
    const all = lines.get(day) ?? [];
    const whole = all.reduce((sum, line) => sum + rowsInCell(line, width / 7), 0);
    // Where not all of it fits, a row says how much does not.
    let spare = whole > rows ? rows - 1 : rows;
    const shown = all.filter((line) => {
      spare -= rowsInCell(line, width / 7);
      return spare >= 0;
    });
    if (shown.length < all.length) left.set(day, all.slice(shown.length));
    return shown;
  };
  const table: PaperMonth = {
    weekdays,
    weeks: weeks.map((week) =>
      week.map(({ date, number }) => {
        const shown = number === null ? [] : fitting(parseDate(date));
        return { date, number, lines: shown, left: left.get(parseDate(date))?.length ?? 0 };
      }),
    ),
  };
  const first: Bare = { days: [], month: table };
  if (!left.size) return [first];
  return [first, ...listPages(left, days, { width, height, keepsEmpty: false, names })];
}

/** Between which instants (milliseconds) all lies that may be printed. */
export const spanPrinted = (
  { of, day }: Pick<PaperAsked, 'of' | 'day'>,
  now: number,
): { from: number; to: number } => {
  const at = day === undefined ? now : parseDate(day) * DAY;
  const days = of === 'week' ? 9 : 40;
  return { from: at - days * DAY, to: at + days * DAY };
};
