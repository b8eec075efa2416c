import { civilDate } from '../time/civil.ts';
import { weekdayOf } from './dates.ts';
import type { Hint, Raw } from './found.ts';
import type { Language } from './languages.ts';
import type { PageRow, PageTable, Place } from './page.ts';
import { inWeek, type DateSaid } from './said.ts';
import { spansIn } from './spans.ts';
import {
  GENERIC,
  isEmpty,
  planOf,
  readRow,
  type Cell,
  type Plan,
  type Role,
  type Row,
  type TableContext,
} from './table-plan.ts';
import { items, says, tidied, without } from './title.ts';
import { anyDayOf, weekdaysIn } from './week-line.ts';
import { weeklyIn } from './weekly.ts';
import { hintFor, isDue, isGivenOut, isNamed, isRemark } from './words.ts';

/** What a table says of days. One whose dates stand beside each other is read as if it lay on its side. */
export function rawsOfTable(table: PageTable, context: TableContext): Raw[] {
  if (!isSideways(table.rows, context)) return rawsOfRows(table, context);
  const turned = rawsOfRows({ ...table, rows: onItsSide(table.rows) }, { ...context, isTurned: true });
  const back = (at: Place): Place => ({ ...at, row: at.cell, cell: at.row });
  return turned.map((raw) => ({ ...raw, at: back(raw.at), dateAt: raw.dateAt && back(raw.dateAt) }));
}

/** Whether one of the first rows has dates in most of its cells, and at least three. */
function isSideways(rows: readonly PageRow[], context: TableContext): boolean {
  return rows.slice(0, 2).some((row) => {
    const full = readRow(row, context.reader).cells.filter((c) => !isEmpty(c));
    const dated = full.filter((c) => c.day !== undefined || (c.date && context.mayBeInTerm(c.date)));
    return dated.length >= 3 && dated.length * 3 >= full.length * 2;
  });
}

function onItsSide(rows: readonly PageRow[]): PageRow[] {
  const width = Math.max(0, ...rows.map((r) => r.cells.length));
  return Array.from({ length: width }, (_, c) => ({
    where: rows[0]!.where,
    cells: rows.map((row) => row.cells[c] ?? { text: '' }),
  }));
}

function rawsOfRows(table: PageTable, context: TableContext): Raw[] {
  const rows = table.rows.map((row): Row => readRow(row, context.reader));
  const width = Math.max(0, ...rows.map((r) => r.cells.length));
  const plan = planOf(rows, width, context);
  if (!plan) return rows.flatMap((row, n) => looseRow(row, n, context, false));
  const raws: Raw[] = [];
  let standing: Dated | null = null;
  rows.forEach((row, n) => {
    if (n <= plan.header) return;
    const full = row.cells.filter((c) => !isEmpty(c));
    // One cell over the whole row, as a break has it.
    if (
      full.length === 1 &&
      width > 2 &&
      full[0]!.spans.dates.length &&
      !plan.roles.some((role, c) => role.is === 'date' && row.cells[c] === full[0] && full[0]!.date)
    ) {
      raws.push(...looseRow(row, n, context, true));
      return;
    }
    const dated: Dated | null = dateOf(row, n, plan, context) ?? standing;
    if (!dated) return;
    const isCarried = dated === standing;
    standing = dated;
    raws.push(...rowRaws(row, n, dated, plan, context, isCarried));
  });
  return raws;
}

interface Dated {
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

function dateOf(row: Row, n: number, { roles }: Plan, { block, weeks, reader }: TableContext): Dated | null {
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

/** What is due says so; what names no work in the row of a week is what the week is about. */
function hintOfItem(
  hint: Hint | null,
  words: string,
  { title, date }: Pick<Raw, 'title' | 'date'>,
): Hint | null {
  const due = hintFor(hint, words);
  return due === null && date?.week === -1 && date.weekday === null && !isNamed(title) ? 'topic' : due;
}

/** A day that the file itself knows, as if it were written. */
function saidOf(day: number): DateSaid {
  const first = { ...civilDate(day), isOpen: false };
  return { ...{ from: 0, to: 0, last: null, weekday: null, week: null, form: 'iso' }, first };
}

function rowRaws(
  row: Row,
  n: number,
  dated: Dated,
  { roles, header }: Plan,
  context: TableContext,
  isCarried: boolean,
): Raw[] {
  const of = (is: Role['is']) =>
    roles.flatMap((role, c) => (role.is === is && !isEmpty(row.cells[c]) ? [row.cells[c]!] : []));
  const clock =
    of('time')[0] ?? (header < 0 ? of('remark').find((c) => c.spans.times.length > 0) : undefined);
  const details = of('remark')
    .map((c) => c.text.trim())
    .join('\n');
  const base = {
    date: dated.said,
    day: dated.day,
    lastDay: dated.last,
    lastKnown: dated.lastKnown,
    weekday: dated.weekday,
    sort: of('sort')
      .map((c) => c.text)
      .join(' '),
    place: of('place')[0]?.text.trim() ?? '',
    details,
    weekly: null,
    hour: context.hour,
    group: context.group,
    manner: 'firm',
    dateAt: dated.at,
  } as const;
  const minute = clock?.minute ?? clock?.spans.times[0]?.minute ?? dated.minute;
  const end = of('time')[1];
  const until = clock?.spans.times[0]?.until ?? end?.minute ?? end?.spans.times[0]?.minute ?? dated.until;
  const raws: Raw[] = [];
  roles.forEach((role, c) => {
    const cell = row.cells[c];
    if (!cell || isEmpty(cell)) return;
    const named = role.is === 'content' ? (role.hint ?? context.hint) : null;
    const rest = role.is === 'date' ? restOf(cell) : null;
    if ((role.is !== 'content' && role.is !== 'ofWeekday' && !rest) || cell.isBelow) return;
    for (const item of rest ? [{ text: rest, from: 0 }] : items(cell.text)) {
      const inside = cell.spans.times.filter(
        (t) => t.from >= item.from && t.to <= item.from + item.text.length,
      );
      const title = without(
        item.text,
        rest ? [] : inside.map((t) => ({ from: t.from - item.from, to: t.to - item.from })),
      );
      if (!says(title) || isGivenOut(title) || (isCarried && isRemark(cell.text))) continue;
      const whole = role.is === 'content' && role.named ? `${tidied(role.header)}: ${title}` : title;
      const time = inside[0];
      const own = ownDate(cell, item, dated, role, whole, context.reader.language);
      const given = role.is === 'ofWeekday' ? context.hint : (named ?? (dated.isDeadline ? 'work' : null));
      raws.push({
        ...base,
        ...own,
        minute: time ? time.minute : minute,
        until: time ? time.until : until,
        hint: hintOfItem(given, item.text, { title: own.title, date: own.date ?? dated.said }),
        at: { block: context.block, row: n, cell: c, from: item.from, to: item.from + item.text.length },
      });
    }
  });
  // Without names over them, what stands a little further in is a title as well.
  const [only] = header < 0 && !raws.length ? of('remark') : [];
  const alone = only ? without(only.text, only.spans.times) : '';
  if (only && says(alone) && !(isCarried && isRemark(only.text)))
    raws.push({
      ...{ ...base, details: '', title: alone, hint: context.hint },
      ...{ minute: only.spans.times[0]?.minute ?? minute, until },
      at: { block: context.block, row: n, cell: row.cells.indexOf(only), from: 0, to: only.text.length },
    });
  const named = (raw: Raw, header: string): Raw =>
    header ? { ...raw, title: `${raw.title}: ${tidied(header)}` } : raw;
  const others = dated.others.flatMap(({ said, day, at, header }) =>
    raws
      .slice(0, 1)
      .map((raw) => named({ ...raw, date: said, day, dateAt: at, lastDay: null, lastKnown: null }, header)),
  );
  return [...raws.map((raw) => named(raw, dated.header)), ...others];
}

/** What a date's cell says besides the date: `25 Sep, by 17:00` nothing, `1 Oct – Quiz` its title. */
function restOf({ text, spans, date }: Cell): string | null {
  if (!date) return null;
  const rest = without(text, [date, ...spans.times]);
  return says(rest) && rest.length > 3 ? rest : null;
}

/** A cell may tell a day of its own: in the row of a week a weekday, else a whole date. */
function ownDate(
  cell: Cell,
  item: { text: string; from: number },
  dated: Dated,
  role: Role,
  title: string,
  language: Language,
): Pick<Raw, 'title'> & Partial<Raw> {
  if (role.is === 'ofWeekday' && dated.week !== null)
    return { title, date: inWeek(dated.week, role.weekday), day: null };
  if (role.is === 'ofWeekday')
    return { title, weekday: null, date: dated.said && { ...dated.said, weekday: role.weekday, week: -1 } };
  if (role.is !== 'content') return { title };
  const named = onWeekday(item.text, dated, language);
  if (named) return { ...named, day: null, weekday: null };
  const own = cell.spans.dates.find(
    (d) => d.form !== 'short' && d.from >= item.from && d.to <= item.from + item.text.length,
  );
  if (own) {
    const spans = [own, ...cell.spans.times]
      .map((s) => ({ from: s.from - item.from, to: s.to - item.from }))
      .filter((s) => s.from >= 0);
    const left = without(item.text, spans);
    if (says(left)) return { title: left, date: own, day: null, weekday: null };
  }
  return { title };
}

/** `Short test (Tue)` in the row of a week, `essay due Friday` in the row of a day: on that day of the week. */
function onWeekday(text: string, { said, day, week }: Dated, language: Language) {
  const isOfWeek = week !== null || said?.week === -1;
  if (!isOfWeek && !isDue(text)) return null;
  const any =
    week !== null ? inWeek(week, null) : said ? anyDayOf(said) : day !== null ? anyDayOf(saidOf(day)) : null;
  const [named] = any ? weekdaysIn(text, any, language) : [];
  const { times, dates } = named ? spansIn(text, { language, at: new Date(0) }) : { times: [], dates: [] };
  if (!named || dates.length) return null;
  const title = without(text, [named, ...times]);
  return says(title) ? { title, date: named } : null;
}

/** A row that no column of dates holds: read as a line is. */
function looseRow(row: Row, n: number, context: TableContext, isAlone: boolean): Raw[] {
  const full = row.cells.flatMap((cell, c) => (isEmpty(cell) ? [] : [{ cell, c }]));
  const [first] = full;
  const isDay = !isAlone && context.isInMonth && /^\s*\d{1,2}\b/.test(first?.cell.text ?? '');
  if (
    !first ||
    (!isDay &&
      !full.some(
        ({ cell }) => cell.spans.dates.length || weeklyIn(cell.text, cell.spans, context.reader.language),
      ))
  )
    return [];
  const text = full.map(({ cell }) => cell.text).join(': ');
  return context.asLine(
    text,
    { block: context.block, row: n, cell: first.c, from: 0, to: first.cell.text.length },
    row.where,
    isAlone,
  );
}
