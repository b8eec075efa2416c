import { civilDate } from '../time/civil.ts';
import { weekdayOf } from './dates.ts';
import type { Place } from './page.ts';
import { inWeek, type DateSaid } from './said.ts';
import { GENERIC, type Plan, type Row, type TableContext } from './table-plan.ts';
import { anyDayOf } from './week-line.ts';

/** Moment when a row of a table is. */
export interface Dated {
  said: DateSaid | null;
  day: number | null;
  last: DateSaid | null;
  lastKnown: number | null;
  /** The name of the column that the date stands in, where it says more than that it is a date */
  header: string;
  weekday: number | null;
  minute: number | null;
  until: number | null;
  at: Place;
  /** The week that the row is */
  week: number | null;
  /** The date's cell says that it is one to be done by */
  isDeadline: boolean;
  /** Titles by the name of the column that the date stood in, where there are several */
  others: { said: DateSaid | null; day: number | null; at: Place; header: string }[];
}

const DEADLINE = /^\W*(?:by|until|till|due|before|bis|avant|antes)\b/i;

/** The date of a row, by the columns that say when; null where it says none. */
export function dateOf(
  row: Row,
  n: number,
  { roles }: Plan,
  { block, weeks, reader }: TableContext,
): Dated | null {
  const placeOf = (c: number): Place => ({
    block,
    row: n,
    cell: c,
    from: 0,
    to: row.cells[c]?.text.length ?? 0,
  });
  const weekCell = roles.findIndex((r) => r.is === 'week');
  const number = weekCell < 0 ? null : /\d{1,2}/.exec(row.cells[weekCell]?.text ?? '')?.[0];
  const week = number === undefined || number === null ? null : Number(number);
  const weekdayCell = roles.findIndex((r) => r.is === 'weekday');
  const weekday =
    weekdayCell < 0
      ? null
      : weekdayOf((row.cells[weekdayCell]?.text ?? '').trim().replace(/\.$/, ''), reader.language);
  const dated = roles.flatMap((role, c) => {
    const cell = row.cells[c];
    if (role.is !== 'date' || !cell) return [];
    const date = cell.date ?? cell.spans.dates.find((d) => d.week !== null) ?? null;
    return date || cell.day !== undefined ? [{ role, c, cell: { ...cell, date } }] : [];
  });
  const main = dated.find((d) => d.role.says === 'due' || d.role.says === 'from') ?? dated[0];
  if (!main) {
    if (week === null) return null;
    const said = inWeek(week, weekday);
    return {
      said,
      day: null,
      last: null,
      lastKnown: null,
      header: '',
      weekday,
      minute: null,
      until: null,
      at: placeOf(weekCell),
      week,
      isDeadline: false,
      others: [],
    };
  }
  const { cell, c } = main;
  if (week !== null && (cell.date?.week ?? null) === null)
    weeks.tell(week, cell.date?.first ?? null, cell.day ?? null);
  const time = cell.spans.times[0];
  const end = dated.find((d) => d.role.says === 'until' && d !== main);
  const others = dated.filter((d) => d !== main && d !== end && (d.cell.date || d.cell.day !== undefined));
  const isSpan = main.role.says === 'from';
  const isWeek = main.role.says === 'week';
  return {
    said: isWeek ? anyDayOf(cell.date ?? saidOf(cell.day!)) : cell.date,
    day: isWeek ? null : (cell.day ?? null),
    last: isSpan ? (end?.cell.date ?? null) : null,
    lastKnown: isSpan ? (end?.cell.day ?? null) : null,
    header: others.length && !GENERIC.test(main.role.header.trim()) ? main.role.header : '',
    weekday,
    minute: cell.minute ?? time?.minute ?? null,
    until: time?.until ?? null,
    at: placeOf(c),
    week,
    isDeadline: DEADLINE.test(cell.text),
    others: others.map((d) => ({
      said: d.cell.date,
      day: d.cell.day ?? null,
      at: placeOf(d.c),
      header: d.role.header,
    })),
  };
}

/** A day that the file itself knows, as if it were written. */
export function saidOf(day: number): DateSaid {
  const first = { ...civilDate(day), isOpen: false };
  return { ...{ from: 0, to: 0, last: null, weekday: null, week: null, form: 'iso' }, first };
}
