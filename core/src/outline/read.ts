import { DAY, civilDate, startOfWeek, weekday } from '../time/civil.ts';
import { isWork } from '../item/kind.ts';
import { wordsIn } from '../lib/plain.ts';
import { capital } from '../words/text.ts';
import { longDay, shortDay, weekdayName } from '../words/when.ts';
import type { DateSaid, DayParts } from './dates.ts';
import type { Doubt, Found, OutlineOptions, OutlineReading, Raw } from './found.ts';
import { languageOf } from './languages.ts';
import { rawsOfUnit, shortIn, type Lines, type Above } from './lines.ts';
import { dayOf, isInTerm, orderOf, ordered, type Order } from './order.ts';
import type { Page, PageTable } from './page.ts';
import { rawsOfTable } from './table.ts';
import { timesIn } from './times.ts';
import { unitsOf, type Unit } from './units.ts';
import { Weeks, mondayOf } from './weeks.ts';
import { handInFor, isTopicOf, kindFor } from './words.ts';

/** So many rows are given; a page that says more is no outline of a course. */
const MOST = 2_000;
/** With so many others of its day a row is compared. */
const MOST_COMPARED = 60;

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
  const raws = rawsOf(page, { reader, weeks, shortFirst: 0, shortLast: 0 }, options).slice(0, MOST);
  const { order, isOpen } = orderOf(listsOf(raws), options);
  const settled = order ?? 'dmy';
  const told = weeks.resolve((parts) => dayOf(parts, settled, options));
  const near = groupsInTerm(raws, settled, options);
  const forAll = timeForAll(text);
  const found = raws.flatMap((raw) => foundOf(raw, { options, order: settled, isOpen, told, near }) ?? []);
  withTimes(found, forAll);
  return {
    found: onceEach(withBreaks(found)),
    order,
    isOrderOpen: isOpen,
    language: language.name,
    notes: [
      ...page.notes,
      ...(known
        ? []
        : ['The text is in a language that dates in words are not read in. Dates in numbers are.']),
    ],
  };
}

/** Everything that the page says of days, in its order. */
function rawsOf(page: Page, lines: Lines, options: OutlineOptions): Raw[] {
  const units = unitsOf(page);
  for (const unit of units.values()) {
    const { first, last } = shortIn(unit.text, lines.reader);
    if (first) lines.shortFirst++;
    if (last) lines.shortLast++;
  }
  const standing: Above = {
    day: null,
    week: null,
    month: null,
    hint: null,
    title: '',
    group: 'the beginning',
    shape: '',
  };
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
  const mayBeInTerm = ({ first }: DateSaid) =>
    (['dmy', 'mdy'] as const).some((order) => {
      if (first.isOpen && (order === 'mdy' ? first.month : first.day) > 12) return false;
      const day = dayOf(first, order, options);
      return day !== null && isInTerm(day, options);
    });
  return rawsOfTable(table, {
    ...{ block, group, hint: standing.hint, reader: lines.reader, weeks: lines.weeks, mayBeInTerm },
    asLine(text, at, where) {
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
      const own: Above = {
        day: null,
        week: null,
        month: null,
        hint: standing.hint,
        title: '',
        group,
        shape: '',
      };
      return rawsOfUnit(unit, own, lines).map((raw) => ({ ...raw, at, dateAt: raw.dateAt && at }));
    },
  });
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

interface Settling {
  options: OutlineOptions;
  order: Order;
  isOpen: boolean;
  told: ReadonlyMap<number, number>;
  near: ReadonlySet<string>;
}

function foundOf(raw: Raw, settling: Settling): Found | null {
  const { options, near } = settling;
  const { title, place, details, sort, minute, until } = raw;
  const kind = kindFor(title, raw.hint, sort, minute);
  const handIn = handInFor(title, details, kind);
  const base = {
    ...{
      title: capital(withoutWay(title, handIn)),
      kind,
      minute,
      until,
      place,
      details,
      at: raw.at,
      dateAt: raw.dateAt,
    },
    handIn,
    isTopic: isTopicOf(kind, raw.hint),
    ...{ day: null, lastDay: null, days: [], weekdays: [], doubts: [] as Doubt[] },
  };
  if (raw.weekly) return weeklyFound(raw, base, settling);
  const { day, last, doubts, isReal } = dayAndDoubts(raw, settling);
  if (day === null && isReal) return null;
  if (day !== null && !isInTerm(day, options)) {
    if (raw.manner === 'loose' || !near.has(raw.group)) return null;
    const isAfter = day > options.to;
    doubts.push({
      kind: 'outside',
      words: `${longDay(day)} ${civilDate(day).year} is ${isAfter ? 'after' : 'before'} the term.`,
    });
  } else if (day !== null && !isInTerm(day, options, 0) && raw.manner === 'loose' && !near.has(raw.group))
    return null;
  return { ...base, day, lastDay: last !== null && day !== null && last > day ? last : null, doubts };
}

/** A title without how it is handed in, which is told beside it. */
const withoutWay = (title: string, handIn: Found['handIn']): string =>
  handIn === 'unknown' || handIn === 'nothing'
    ? title
    : title.replace(/, ?(?:on paper|online|by e?-?mail|in class)$/i, '');

function dayAndDoubts(raw: Raw, { options, order, isOpen, told }: Settling) {
  const doubts: Doubt[] = [];
  if (raw.day !== null) {
    if (raw.weekday !== null && raw.weekday !== weekday(raw.day))
      doubts.push(otherWeekday(raw.day, raw.weekday));
    return { day: raw.day, last: raw.lastKnown, doubts, isReal: true };
  }
  const said = raw.date!;
  if (said.week !== null && said.week >= 0) {
    const monday = mondayOf(said.week, told, options.from);
    const each = said.weekday ?? (isWork(kindFor(raw.title, raw.hint, raw.sort, raw.minute)) ? 5 : 1);
    // A whole week without anything.
    const isOff = said.weekday === null && kindFor(raw.title, raw.hint, raw.sort, null) === 'dayOff';
    return { day: monday + each - 1, last: isOff ? monday + 4 : null, doubts, isReal: true };
  }
  const at = (parts: DayParts) => dayOf(parts, order, options);
  let day = at(said.first);
  // A row of a week, a column of a weekday.
  if (day !== null && said.week === -1 && said.weekday) day = startOfWeek(day, 1) + said.weekday - 1;
  const last = raw.lastDay ? at(raw.lastDay.first) : said.last && at(said.last);
  if (day === null) {
    const { month, day: d } = ordered(said.first, order);
    const month3 = shortDay(dayOf({ year: 2024, month, day: 1, isOpen: false }, order, options)!).split(
      ' ',
    )[2];
    doubts.push({ kind: 'impossible', words: `There is no ${d} ${month3}.` });
    return { day: null, last: null, doubts, isReal: false };
  }
  const weekdayTold = said.week === -1 ? null : (said.weekday ?? raw.weekday);
  if (weekdayTold !== null && weekdayTold !== weekday(day)) {
    doubts.push(otherWeekday(day, weekdayTold));
  }
  if (
    isOpen &&
    said.first.isOpen &&
    said.first.month <= 12 &&
    said.first.day <= 12 &&
    said.first.month !== said.first.day
  ) {
    const other = dayOf(said.first, order === 'dmy' ? 'mdy' : 'dmy', options);
    doubts.push({
      kind: 'order',
      words: `${shortDay(day).slice(4)}, or ${other === null ? 'another day' : shortDay(other).slice(4)}?`,
    });
  }
  return { day, last: last ?? null, doubts, isReal: true };
}

const otherWeekday = (day: number, told: number): Doubt => ({
  kind: 'weekday',
  words: `${shortDay(day).slice(4)} is a ${weekdayName(day)}, and not a ${nameOf(told)}.`,
});

/** Some Monday, to name weekdays by. */
const MONDAY = 4;
const nameOf = (iso: number) => weekdayName(MONDAY + iso - 1);

function weeklyFound(
  raw: Raw,
  base: Omit<Found, 'day'> & { day: null },
  { options, order }: Settling,
): Found | null {
  const { weekdays, from, until, except, exceptWords, month } = raw.weekly!;
  const first = (from && dayOf(from.first, order, options)) ?? options.from;
  const last = (until && dayOf(until.first, order, options)) ?? options.to;
  if (last < first || last - first > 400) return null;
  const left = new Set<number>();
  for (const said of except) {
    const day = dayOf(said.first, order, options);
    const end = said.last ? dayOf(said.last, order, options) : day;
    for (let d = day ?? 0; day !== null && end !== null && d <= end && d - day < 60; d++) left.add(d);
  }
  const days: number[] = [];
  for (let d = first; d <= last; d++)
    if (weekdays.includes(weekday(d)) && !left.has(d) && (month === null || civilDate(d).month === month))
      days.push(d);
  const [start] = days;
  if (start === undefined) return null;
  return {
    ...base,
    details: [base.details, exceptWords && !except.length ? exceptWords : ''].filter(Boolean).join('\n'),
    day: start,
    days,
    weekdays: [...weekdays],
  };
}

const FOR_ALL =
  /\b(?:all|every|each|everything|anything|any)\b[^.\n]{0,60}\b(?:due|handed in|hand in|submitted|deadlines?|hand-ins?)\b[^.\n]{0,60}|\b(?:deadlines?|due times?|due|hand-ins?)\b[^.\n]{0,30}\b(?:always|are at|is at|all)\b[^.\n]{0,40}/gi;

/** The hour that a text gives for all work; null for none. */
function timeForAll(text: string): number | null {
  for (const [said] of text
    .slice(0, 200_000)
    .replace(/\n(?=\p{Ll})/gu, ' ')
    .matchAll(FOR_ALL)) {
    const [time] = timesIn(said);
    if (time) return time.minute;
  }
  return null;
}

function withTimes(found: Found[], forAll: number | null): void {
  if (forAll === null) return;
  for (const f of found)
    if (f.minute === null && isWork(f.kind) && f.kind !== 'test' && f.kind !== 'reading') f.minute = forAll;
}

const NAMED_BREAK = /reading week|holiday|break|half-?term|ferien|vacances|vacaciones/;

/** What repeats and is no work leaves out days on which there is nothing; work on such a day is doubtful. */
function withBreaks(found: readonly Found[]): Found[] {
  const off = new Set<number>();
  for (const f of found)
    if (f.kind === 'dayOff' && f.day !== null && !f.days.length && !f.isTopic)
      for (let d = f.day; d <= (f.lastDay ?? f.day) && d - f.day < 60; d++) off.add(d);
  return found.map((f) => {
    const free = f.days.filter((d) => off.has(d));
    if (!free.length) return f;
    const isLeft = NAMED_BREAK.test(f.details);
    if (!isWork(f.kind) || isLeft) return { ...f, days: f.days.filter((d) => !off.has(d)) };
    const words = `${free.map((d) => shortDay(d).slice(4)).join(', ')} ${free.length === 1 ? 'is a day' : 'are days'} off.`;
    return { ...f, doubts: [...f.doubts, { kind: 'break' as const, words }] };
  });
}

/** What is told twice is one; told in the same words, the second is kept as doubtful. */
function onceEach(found: readonly Found[]): Found[] {
  const byDay = new Map<number, { f: Found; words: Set<string> }[]>();
  return found.flatMap((f) => {
    if (f.day === null || f.days.length) return [f];
    const words = wordsIn(f.title);
    const others = byDay.get(f.day) ?? [];
    byDay.set(f.day, [...others, { f, words }]);
    const same = others.slice(0, MOST_COMPARED).find((o) => isSame(o.words, words) && !o.f.days.length);
    if (!same) return [f];
    if (f.minute !== null && same.f.minute === null) same.f.minute = f.minute;
    return same.words.size === words.size
      ? [{ ...f, doubts: [...f.doubts, { kind: 'twice' as const, words: 'This stands here twice.' }] }]
      : [];
  });
}

function isSame(a: ReadonlySet<string>, b: ReadonlySet<string>): boolean {
  const [few, many] = a.size <= b.size ? [a, b] : [b, a];
  if (few.size === 0) return false;
  let shared = 0;
  for (const word of few) if (many.has(word)) shared++;
  return few.size === 1 ? many.size === 1 && shared === 1 : shared === few.size;
}
