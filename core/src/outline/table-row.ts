import { isGivenOut, isRemark } from './beside.ts';
import type { Hint, Raw } from './found.ts';
import { hintFor, isDue } from './hints.ts';
import { isNamed } from './kinds.ts';
import type { Language } from './languages.ts';
import { inWeek } from './said.ts';
import { spansIn } from './spans.ts';
import { saidOf, type Dated } from './table-date.ts';
import { isEmpty, type Cell, type Plan, type Role, type Row, type TableContext } from './table-plan.ts';
import { items, says, tidied, without } from './title.ts';
import { anyDayOf, weekdaysIn } from './week-line.ts';

/** Gives what is due says so; what names no work in the row of a week is what the week is about. */
function hintOfItem(
  hint: Hint | null,
  words: string,
  { title, date }: Pick<Raw, 'title' | 'date'>,
): Hint | null {
  const due = hintFor(hint, words);
  return due === null && date?.week === -1 && date.weekday === null && !isNamed(title) ? 'topic' : due;
}

const cellsOf = (row: Row, { roles }: Plan, is: Role['is']): Cell[] =>
  roles.flatMap((role, c) => (role.is === is && !isEmpty(row.cells[c]) ? [row.cells[c]!] : []));

const UNTIL = /^\s*(?:until|till|through|to|bis|jusqu['’]au|hasta)\s/i;

/** What is the same for all that a row says. */
type Common = Omit<Raw, 'title' | 'hint' | 'at'>;

function commonOf(row: Row, dated: Dated, plan: Plan, { hour, group }: TableContext): Common {
  const of = (is: Role['is']) => cellsOf(row, plan, is);
  const told = (cell: Cell | undefined) => cell?.minute ?? cell?.spans.times[0]?.minute;
  const [begin, end] = of('time');
  // Without names over them, an hour may stand among what is said besides.
  const clock = begin ?? (plan.header < 0 ? of('remark').find((c) => c.spans.times.length > 0) : undefined);
  // `until 9 October` beside what lasts.
  const until = of('remark').find((c) => c.date !== null && UNTIL.test(c.text));
  const lines = (cells: readonly Cell[], joint: string) => cells.map((c) => c.text.trim()).join(joint);
  return {
    ...{ date: dated.said, day: dated.day, lastKnown: dated.lastKnown },
    lastDay: dated.last ?? until?.date ?? null,
    ...{ weekday: dated.weekday, dateAt: dated.at, weekly: null, hour, group, manner: 'firm' },
    minute: told(clock) ?? dated.minute,
    until: clock?.spans.times[0]?.until ?? told(end) ?? dated.until,
    sort: lines(of('sort'), ' '),
    place: of('place')[0]?.text.trim() ?? '',
    details: lines(of('remark'), '\n'),
  };
}

/** A cell of a row, by where it stands. */
interface At {
  cell: Cell;
  role: Role;
  row: number;
  column: number;
}

/** Gives what a cell says: one item, or several. */
function cellRaws(
  { cell, role, row, column }: At,
  dated: Dated,
  common: Common,
  context: TableContext,
): Raw[] {
  const rest = role.is === 'date' ? restOf(cell) : null;
  if ((role.is !== 'content' && role.is !== 'ofWeekday' && !rest) || cell.isBelow) return [];
  const named = role.is === 'content' ? (role.hint ?? context.hint) : null;
  const given = role.is === 'ofWeekday' ? context.hint : (named ?? (dated.isDeadline ? 'work' : null));
  return (rest ? [{ text: rest, from: 0 }] : items(cell.text)).flatMap((item): Raw[] => {
    const inside = cell.spans.times.filter(
      (t) => t.from >= item.from && t.to <= item.from + item.text.length,
    );
    const spans = inside.map((t) => ({ from: t.from - item.from, to: t.to - item.from }));
    const title = without(item.text, rest ? [] : spans);
    if (!says(title) || isGivenOut(title)) return [];
    const whole = role.is === 'content' && role.named ? `${tidied(role.header)}: ${title}` : title;
    const own = ownDate(cell, item, dated, role, whole, context.reader.language);
    const [time] = inside;
    return [
      {
        ...{ ...common, ...own },
        ...(time ? { minute: time.minute, until: time.until } : {}),
        hint: hintOfItem(given, item.text, { title: own.title, date: own.date ?? dated.said }),
        at: { block: context.block, row, cell: column, from: item.from, to: item.from + item.text.length },
      },
    ];
  });
}

/**
 * What a row with a date says.
 * @param isCarried the date is that of the row above
 */
export function rowRaws(
  row: Row,
  n: number,
  dated: Dated,
  plan: Plan,
  context: TableContext,
  isCarried: boolean,
): Raw[] {
  const common = commonOf(row, dated, plan, context);
  const isLeft = (cell: Cell) => isCarried && isRemark(cell.text);
  const raws = plan.roles.flatMap((role, column) => {
    const cell = row.cells[column];
    if (!cell || isEmpty(cell) || isLeft(cell)) return [];
    return cellRaws({ cell, role, row: n, column }, dated, common, context);
  });
  // Without names over them, what stands a little further in is a title as well.
  const [only] = plan.header < 0 && !raws.length ? cellsOf(row, plan, 'remark') : [];
  const alone = only ? without(only.text, only.spans.times) : '';
  if (only && says(alone) && !isLeft(only))
    raws.push({
      ...{ ...common, details: '', title: alone, hint: context.hint },
      at: { block: context.block, row: n, cell: row.cells.indexOf(only), from: 0, to: only.text.length },
    });
  const under = (raw: Raw, header: string): Raw =>
    header ? { ...raw, title: `${raw.title}: ${tidied(header)}` } : raw;
  const [first] = raws;
  const others = dated.others.flatMap(({ said, day, at, header }) =>
    first ? [under({ ...first, date: said, day, dateAt: at, lastDay: null, lastKnown: null }, header)] : [],
  );
  return [...raws.map((raw) => under(raw, dated.header)), ...others];
}
/** Gives what a date's cell says besides the date: `25 Sep, by 17:00` nothing, `1 Oct – Quiz` its title. */
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
