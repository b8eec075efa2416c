import { DAY } from '../time/civil.ts';
import { nothingAbove, type Above, type Lines } from './above.ts';
import { onceEach, timeForAll, withBreaks, withTimes } from './finish.ts';
import type { OutlineOptions, OutlineReading, Raw } from './found.ts';
import { languageOf } from './languages.ts';
import { rawsOfUnit, shortIn } from './lines.ts';
import { dayOf, isInTerm, orderOf, type Order } from './order.ts';
import type { Page, PageTable } from './page.ts';
import type { DateSaid } from './said.ts';
import { foundOf } from './settle.ts';
import { rawsOfTable } from './table.ts';
import { unitsOf, type Unit } from './units.ts';
import { Weeks } from './weeks.ts';
import { isNamed } from './kinds.ts';

/** In the first cells of a row a date stands, if in any. */
const FEW = 3;
/** The first rows of a table tell how it writes its dates. */
const FEW_ROWS = 50;
/** Number of rows that are given; a page that says more is no outline of a course. */
const MOST = 2_000;

/** Reads a course outline: what is due, what takes place, and where each was found. */
export function readOutline(page: Page, options: OutlineOptions): OutlineReading {
  const text = page.blocks
    .map((b) =>
      b.kind === 'line' ? b.text : b.rows.map((r) => r.cells.map((c) => c.text).join(' ')).join('\n'),
    )
    .join('\n');
  const { language, known } = languageOf(text);
  const weeks = new Weeks();
  const reader = { language, at: new Date(Math.floor((options.from + options.to) / 2) * DAY + DAY / 2) };
  const all = rawsOf(page, { reader, weeks, shortFirst: 0, shortLast: 0 }, options);
  const raws = all.slice(0, MOST);
  // A list may have few little words; where a date in words was found, they are read.
  const isRead = known || raws.some(({ date }) => date?.form === 'words' && date.week === null);
  markTopics(raws);
  const { order, isOpen } = orderOf(listsOf(raws), options);
  const settled = order ?? 'dmy';
  const told = weeks.resolve((parts) => dayOf(parts, settled, options));
  const near = groupsInTerm(raws, settled, options);
  const forAll = timeForAll(text);
  let last = options.from;
  const found = raws.flatMap((raw) => {
    const each = foundOf(raw, { options, order: settled, isOpen, told, near, last });
    if (each?.day) last = each.day;
    return each ?? [];
  });
  withTimes(found, forAll);
  return {
    found: onceEach(withBreaks(found)),
    order,
    isOrderOpen: isOpen,
    language: language.name,
    notes: [
      ...page.notes,
      ...(all.length > MOST ? [`Only the first ${MOST} of what was found are shown.`] : []),
      ...(isRead
        ? []
        : ['The text is in a language that dates in words are not read in. Dates in numbers are.']),
    ],
  };
}

/** From so many dates in two numbers on, more of them say nothing new. */
const ENOUGH = 3;

/** Notes how many lines, and first cells of rows, begin or end with a date in two numbers. */
function countShort({ blocks }: Page, units: ReadonlyMap<number, Unit>, lines: Lines): void {
  const count = (text: string) => {
    if (lines.shortFirst >= ENOUGH && lines.shortLast >= ENOUGH) return;
    const { first, last } = shortIn(text, lines.reader);
    if (first) lines.shortFirst++;
    if (last) lines.shortLast++;
  };
  for (const { text } of units.values()) count(text);
  for (const block of blocks)
    if (block.kind === 'table')
      for (const { cells } of block.rows.slice(0, FEW_ROWS))
        for (const { text } of cells.slice(0, FEW)) count(text);
}

/** Everything that the page says of days, in its order. */
function rawsOf(page: Page, lines: Lines, options: OutlineOptions): Raw[] {
  const units = unitsOf(page);
  countShort(page, units, lines);
  const standing = nothingAbove('the beginning');
  const raws: Raw[] = [];
  page.blocks.forEach((block, n) => {
    if (block.kind === 'table') {
      raws.push(...tableRaws(block, n, standing, lines, options));
      standing.day = null;
      return;
    }
    const unit = units.get(n);
    if (!unit) return;
    if (unit.level > 0) standing.group = `block ${n}`;
    raws.push(...rawsOfUnit(unit, standing, lines));
  });
  return raws;
}

function tableRaws(
  table: PageTable,
  block: number,
  standing: Above,
  lines: Lines,
  options: OutlineOptions,
): Raw[] {
  const group = `table ${block}`;
  const mayBeInTerm = ({ first, week }: DateSaid) =>
    week !== null ||
    (['dmy', 'mdy'] as const).some((order) => {
      if (first.isOpen && (order === 'mdy' ? first.month : first.day) > 12) return false;
      const day = dayOf(first, order, options);
      return day !== null && isInTerm(day, options);
    });
  return rawsOfTable(table, {
    ...{
      block,
      group,
      hint: standing.hint,
      hour: standing.hour,
      reader: lines.reader,
      weeks: lines.weeks,
      mayBeInTerm,
    },
    isTurned: false,
    isInMonth: standing.month !== null,
    asLine(text, at, where, isAlone) {
      const unit: Unit = {
        text,
        where,
        level: 0,
        indent: 0,
        isItem: false,
        isApart: false,
        isFull: false,
        pieces: [{ at: 0, block, from: 0, length: text.length }],
      };
      const own = isAlone ? nothingAbove(group, standing.hint) : standing;
      return rawsOfUnit(unit, own, lines).map((raw) => ({ ...raw, at, dateAt: raw.dateAt && at }));
    },
  });
}

/** In a list in which what is due says so, what has no name of work is what a lesson is about. */
function markTopics(raws: readonly Raw[]): void {
  const [due, all] = [new Map<string, number>(), new Map<string, number>()];
  const count = (of: Map<string, number>, group: string) => of.set(group, (of.get(group) ?? 0) + 1);
  for (const { hint, group } of raws) {
    count(all, group);
    if (hint === 'work') count(due, group);
  }
  // Where most are due, the others are as well.
  const isMixed = (group: string) =>
    (due.get(group) ?? 0) >= 3 && due.get(group)! * 10 <= all.get(group)! * 6;
  for (const raw of raws)
    if (raw.hint === null && raw.date && raw.manner === 'firm' && isMixed(raw.group) && !isNamed(raw.title))
      raw.hint = 'topic';
}

/** Dates in the order they stand, by where they stand. */
function listsOf(raws: readonly Raw[]): DateSaid[][] {
  const lists = new Map<string, DateSaid[]>();
  let last: DateSaid | null = null;
  for (const { date, group } of raws) {
    if (!date || date === last) continue;
    last = date;
    lists.set(group, [...(lists.get(group) ?? []), date]);
  }
  return [...lists.values()];
}

/** Stretches of the page in which something is within the term: what is outside of it there is a slip. */
function groupsInTerm(raws: readonly Raw[], order: Order, options: OutlineOptions): ReadonlySet<string> {
  const counted = new Map<string, number>();
  for (const { date, day, group } of raws) {
    const at = day ?? (date && date.week === null ? dayOf(date.first, order, options) : null);
    if (at !== null && isInTerm(at, options)) counted.set(group, (counted.get(group) ?? 0) + 1);
  }
  return new Set([...counted].flatMap(([group, n]) => (n >= 2 ? [group] : [])));
}
