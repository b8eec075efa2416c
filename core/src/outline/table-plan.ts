import { weekdayOf } from './dates.ts';
import type { Hint, Raw } from './found.ts';
import type { PageCell, PageRow, Place } from './page.ts';
import { anyOf } from '../lib/patterns.ts';
import type { DateSaid } from './said.ts';
import { spansIn, type Reader, type Spans } from './spans.ts';
import { says, without } from './title.ts';
import type { Weeks } from './weeks.ts';
import { isWeekLong, weekLed } from './week-line.ts';
import { MARKS, REMARKS, hintOf, isDue } from './hints.ts';

export interface TableContext {
  reader: Reader;
  weeks: Weeks;
  block: number;
  /** Rows above the table */
  hint: Hint | null;
  /** Moment when all work below the heading is due */
  hour: number | null;
  group: string;
  /** Tells whether a day may be one of the term; false only where it surely is none */
  mayBeInTerm(said: DateSaid): boolean;
  /** Its dates stand beside each other: each row of it is a column here */
  isTurned: boolean;
  /** A month stands above it, so that its rows may begin with days by their numbers */
  isInMonth: boolean;
  /**
   * Reads a row as lines are read.
   * @param isAlone it is one that goes over the whole of a table; else each row is read so, below what stands above
   */
  asLine(text: string, at: Place, where: string, isAlone: boolean): Raw[];
}

export type Role =
  | { is: 'date'; says: 'due' | 'from' | 'until' | 'week' | 'other'; header: string }
  | { is: 'week' | 'weekday' | 'time' | 'place' | 'remark' | 'sort' | 'nothing' }
  /** `named`: its title goes with the name of its column, `Group 1: titration` */
  | { is: 'content'; hint: Hint | null; header: string; named?: boolean }
  | { is: 'ofWeekday'; weekday: number };

export interface Cell extends PageCell {
  spans: Spans;
  /** The date it is, where it is one and not only has one in it */
  date: DateSaid | null;
}
export interface Row {
  where: string;
  cells: Cell[];
}

const NOTHING = /^[\s\-–—/·.]*$/;
const WEEK = /^(?:weeks?|wks?|w|no\.?|nr\.?|#|woche|kw|semaine|sem\.?|semana)\b/i;
const WEEKDAY = /^(?:day|weekday|tag|wochentag|jour|d[ií]a)$/i;
const TIME = /^(?:time|hour|at|uhrzeit|zeit|heure|hora)\b/i;
const PLACE = /^(?:room|place|where|location|venue|raum|ort|lieu|salle|lugar|aula)\b/i;
/** Whose the item is, where another column names it. */
const WHOSE = /^(?:module|course|subject|class|unit|fach|modul|matière|asignatura|curso)$/i;
const SORT = /^(?:kind|type|sort|group|category|art|typ|catégorie|tipo)s?(?: of \p{L}+)?$/iu;
const DATE =
  /\b(?:date|when|due|deadline|day|until|from|start|end|begins|datum|termin|wann|abgabe|quand|fecha|cuándo|week of|monday)/i;
const WEEK_OF = /^(?:week (?:of|beginning|commencing|starting)|w\/?c|monday|mon)\b/i;
const BEGINS = /^(?:start(?:s|ing)?|from|begins|beginning|commencing)$/i;
const GIVEN_OUT = anyOf(
  'assigned',
  'posted',
  'released',
  'issued',
  'feedback',
  'results?',
  'marks? back',
  'available',
  'opens?',
  'given out',
  'handed out',
  'set on',
  'out',
  'published',
  'written',
  'last',
  'returned',
  'back',
);
const DUE_DATE =
  /\b(?:due|deadline|hand(?:ed)?[- ]in|submi(?:t|ssion)|clos(?:es?|ing)|abgabe|bis|rendre|entrega)\b/i;
export const GENERIC = /^(?:due|date|when|deadline|day|due date|handed in|datum|termin|fecha)?$/i;
const BOOLEAN = /^\s*(?:true|false|yes|no|x|✓|✔)\s*$/i;
const GROUP = /^(?:group|class|set|section|team|form|year|klasse|gruppe|groupe|grupo)\b/i;
/** What leads to a date and names nothing. */
const LEAD = /^\W*(?:by|on|until|till|due|before|from|for|am|bis|zum|ab|le|el)\s/i;
const DOTTED = /^\s{0,4}(\d{1,2})\.(\d{1,2})\s{0,4}$/;

export const isEmpty = (cell: Cell | undefined) =>
  !cell || (NOTHING.test(cell.text) && cell.day === undefined);

export function readRow({ where, cells }: PageRow, reader: Reader): Row {
  return {
    where,
    cells: cells.map((cell): Cell => {
      const spans = cell.day === undefined ? spansIn(cell.text, reader) : { times: [], dates: [] };
      const [first] = spans.dates;
      // What a date stands in the middle of is something that has a date, and is none.
      // A week by its number is one only with a weekday: else it may be the number of the row.
      const isDate =
        first &&
        (first.week === null || first.weekday !== null) &&
        !says(cell.text.slice(0, first.from).replace(LEAD, ''));
      return { ...cell, spans, date: isDate ? first : dotted(cell.text) };
    }),
  };
}

/** `13.10` by itself in a cell. */
function dotted(text: string): DateSaid | null {
  const m = DOTTED.exec(text);
  const [day, month] = [Number(m?.[1] ?? 0), Number(m?.[2] ?? 0)];
  if (!m || day < 1 || day > 31 || month < 1 || month > 12) return null;
  return {
    ...{ from: 0, to: text.length, last: null, weekday: null, week: null, form: 'short' },
    first: { year: null, month, day, isOpen: false },
  };
}

export interface Plan {
  header: number;
  roles: Role[];
}

/** Gives what each column holds; null for a table that no column of says when. */
export function planOf(rows: readonly Row[], width: number, context: TableContext): Plan | null {
  const columns = Array.from({ length: width }, (_, c) => rows.map((row) => row.cells[c]));
  // `Week 3 (w/c 21 Sept)` in front of each row: they are lines that happen to stand below each other.
  const led = (columns[0] ?? []).filter((c) => c && weekLed(c.text, context.reader)?.told);
  if (led.length * 2 > rows.length) return null;
  const isDated = columns.map((cells) => isDateColumn(cells, context));
  const firstDated = (c: number) =>
    columns[c]!.findIndex(
      (cell) =>
        cell && (cell.date ?? cell.day) !== undefined && (cell.date !== null || cell.day !== undefined),
    );
  const dateColumns = isDated.flatMap((is, c) => (is ? [c] : []));
  if (!dateColumns.length) return weekPlan(rows, columns, context);
  const firstRow = Math.min(...dateColumns.map(firstDated));
  const header = context.isTurned && firstRow > 0 ? 0 : headerAbove(rows, firstRow, dateColumns[0]!);
  const names = columns.map((cells) => (header < 0 ? '' : (cells[header]?.text ?? '').trim()));
  const named = dateColumns.filter((c) => isNamedDate(names[c]!, columns[c]!, header));
  if (!named.length) return weekPlan(rows, columns, context);
  const kept = named.filter((c) =>
    columns[c]!.some(
      (cell) => cell && (cell.day !== undefined || (cell.date && context.mayBeInTerm(cell.date))),
    ),
  );
  if (!kept.length) return null;
  const dues = kept.filter((c) => !GIVEN_OUT.test(names[c]!) || DUE_DATE.test(names[c]!));
  const dates = dues.length ? dues : kept;
  const hasWeeks = names.some((name) => WEEK.test(name));
  const hasEnd = dates.some((c) => saysOf(names[c]!) === 'until');
  const tellsWeeks = (c: number) =>
    WEEK_OF.test(names[c]!) || (!hasEnd && ((hasWeeks && BEGINS.test(names[c]!)) || areWeeks(columns[c]!)));
  const roles = columns.map((cells, c): Role => {
    if (dates.includes(c))
      return { is: 'date', says: tellsWeeks(c) ? 'week' : saysOf(names[c]!), header: names[c]! };
    if (isDated[c] && named.includes(c)) return { is: 'nothing' };
    return roleOf(names[c]!, cells.slice(header + 1), context);
  });
  return { header, roles: withContent(roles, columns, header, context) };
}

/** Tells whether most dates of a column are the days of a week from one to another. */
function areWeeks(cells: readonly (Cell | undefined)[]): boolean {
  const dates = cells.flatMap((c) => c?.date ?? []);
  return dates.length >= 3 && dates.filter(isWeekLong).length * 10 >= dates.length * 6;
}

/** Two numbers with a stroke are dates only under a name that says so, or where nothing else is. */
function isNamedDate(name: string, cells: readonly (Cell | undefined)[], header: number): boolean {
  if (MARKS.test(name) || REMARKS.test(name)) return false;
  const isShort = cells.slice(header + 1).every((c) => !c?.date || c.date.form === 'short');
  const full = cells.slice(header + 1).filter((c) => !isEmpty(c));
  return !isShort || DATE.test(name) || !name || full.filter((c) => c!.date).length * 10 >= full.length * 6;
}

const saysOf = (name: string): 'due' | 'from' | 'until' | 'other' =>
  DUE_DATE.test(name)
    ? 'due'
    : /^(?:from|start|begin|starts|begins|von|du|desde|first)/i.test(name)
      ? 'from'
      : /^(?:to|until|till|end|ends|bis|au|hasta|last)/i.test(name)
        ? 'until'
        : 'other';

function isDateColumn(cells: readonly (Cell | undefined)[], { mayBeInTerm }: TableContext): boolean {
  const has = (c: Cell | undefined) => c !== undefined && (c.day !== undefined || c.date !== null);
  const first = cells.findIndex(has);
  if (first < 0) return false;
  const full = cells.slice(first).filter((c) => !isEmpty(c));
  const dated = full.filter(has);
  if (!dated.some((c) => c!.day !== undefined || mayBeInTerm(c!.date!))) return false;
  const name = cells.slice(0, first).findLast((c) => !isEmpty(c))?.text ?? '';
  if (dated.length === 1) return DATE.test(name) && full.length <= 2;
  return dated.length * 2 >= full.length;
}

/** The row of names above the first date; -1 where there is none. */
function headerAbove(rows: readonly Row[], first: number, column: number): number {
  for (let n = first - 1; n >= 0; n--) {
    const cells = rows[n]!.cells;
    const full = cells.filter((c) => !isEmpty(c));
    if (full.length < 2 || isEmpty(cells[column])) continue;
    if (full.every((c) => c.text.length <= 60 && c.day === undefined && !c.date)) return n;
  }
  return -1;
}

function roleOf(name: string, cells: readonly (Cell | undefined)[], { reader }: TableContext): Role {
  const full = cells.filter((c): c is Cell => !isEmpty(c));
  const share = (test: (c: Cell) => boolean) =>
    full.length > 0 && full.filter(test).length * 10 >= full.length * 6;
  const isWeekday = (c: Cell) => weekdayOf(c.text.trim().replace(/\.$/, ''), reader.language) !== null;
  if (share(isWeekday) && (WEEKDAY.test(name) || !name || share((c) => c.text.trim().length < 12)))
    return { is: 'weekday' };
  if (WEEK.test(name) && share((c) => /^\D{0,8}\d{1,2}\b/.test(c.text))) return { is: 'week' };
  if (share((c) => /^\s*(?:week|wk)\s?\d{1,2}\s*$/i.test(c.text))) return { is: 'week' };
  if (TIME.test(name) || share((c) => c.minute !== undefined || isTimeOnly(c))) return { is: 'time' };
  if (PLACE.test(name)) return { is: 'place' };
  if (SORT.test(name)) return { is: 'sort' };
  if (REMARKS.test(name)) return { is: 'remark' };
  if (share((c) => BOOLEAN.test(c.text))) return { is: 'nothing' };
  if (MARKS.test(name) || share((c) => /^[\s\d.,/%:+-]*$/.test(c.text))) return { is: 'nothing' };
  return { is: 'content', hint: hintOf(name), header: name };
}

const isTimeOnly = ({ text, spans: { times } }: Cell) => times.length === 1 && !says(without(text, times));

/** Finds where several columns say something and one is named for work, those without a known name go along as details. */
function withContent(
  roles: Role[],
  columns: readonly (readonly (Cell | undefined)[])[],
  header: number,
  context: TableContext,
): Role[] {
  const { reader, isTurned } = context;
  const content = roles.flatMap((role, c) => (role.is === 'content' ? [c] : []));
  const names = content.map((c) => (roles[c] as Role & { is: 'content' }).header);
  const weekdays = names.map((name) => weekdayOf(name, reader.language));
  if (weekdays.filter(Boolean).length >= 2)
    return roles.map((role, c): Role => {
      const weekday = content.includes(c) ? weekdays[content.indexOf(c)] : null;
      return weekday ? { is: 'ofWeekday', weekday } : role;
    });
  if (content.length < 2) return roles;
  const whose = content.find((c) => WHOSE.test((roles[c] as Role & { is: 'content' }).header));
  if (whose !== undefined && content.some((c) => c !== whose && isFullerThan(columns[c]!, columns[whose]!)))
    return withContent(
      roles.map((role, c): Role => (c === whose ? { is: 'remark' } : role)),
      columns,
      header,
      context,
    );
  if (header < 0) {
    const work = content.slice(1).filter((c) => isOfWork(columns[c]!));
    if (work.length)
      return roles.map((role, c): Role => {
        if (!content.includes(c)) return role;
        return { is: 'content', hint: work.includes(c) ? 'work' : 'topic', header: '' };
      });
  }
  // A row for each subject, or a column for each group.
  const isNamed = (c: number) => {
    const { hint, header: name } = roles[c] as Role & { is: 'content' };
    return hint === null && says(name) && (isTurned || GROUP.test(name));
  };
  if (header >= 0 && content.filter(isNamed).length >= 2)
    return roles.map((role, c) => (role.is === 'content' && isNamed(c) ? { ...role, named: true } : role));
  const known = content.flatMap((c) => (roles[c] as Role & { is: 'content' }).hint ?? []);
  const isOpen = known.every((hint) => hint === 'topic' || hint === 'reading');
  const [first] = content;
  return roles.map((role, c): Role => {
    if (role.is !== 'content' || role.hint !== null || c === first) return role;
    // A second column of whole words beside one that is known may hold items too; a third of single words not.
    const texts = columns[c]!.slice(header + 1).filter((cell) => !isEmpty(cell));
    return header >= 0 && isOpen && texts.length * 3 >= columns[c]!.length ? role : { is: 'remark' };
  });
}

/** Tells whether a column says more different things than another one. */
function isFullerThan(one: readonly (Cell | undefined)[], other: readonly (Cell | undefined)[]): boolean {
  const kinds = (cells: readonly (Cell | undefined)[]) => new Set(cells.map((c) => c?.text ?? '')).size;
  return kinds(one) > kinds(other);
}

/** Tells whether most of what a column without a name holds is due. */
function isOfWork(cells: readonly (Cell | undefined)[]): boolean {
  const full = cells.filter((cell) => !isEmpty(cell));
  return full.length > 1 && full.filter((cell) => isDue(cell!.text)).length * 2 > full.length;
}

/** A table in which weeks by their numbers say when, or weeks in rows and weekdays in columns. */
function weekPlan(
  rows: readonly Row[],
  columns: readonly (readonly (Cell | undefined)[])[],
  context: TableContext,
): Plan | null {
  const header = rows.findIndex((row) => row.cells.filter((c) => !isEmpty(c)).length >= 2);
  if (header < 0) return null;
  const names = columns.map((cells) => (cells[header]?.text ?? '').trim());
  const roles = names.map((name, c) => roleOf(name, columns[c]!.slice(header + 1), context));
  if (!roles.some((r) => r.is === 'week')) return null;
  return { header, roles: withContent(roles, columns, header, context) };
}
