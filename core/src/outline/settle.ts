import { isWork } from '../item/kind.ts';
import { civilDate, daysInMonth, startOfWeek, weekday } from '../time/civil.ts';
import { capital } from '../words/text.ts';
import { longDay, shortDay, weekdayName } from '../words/when.ts';
import type { Doubt, Found, OutlineOptions, Raw } from './found.ts';
import { dayOf, dayWithoutMonth, isInTerm, ordered, type Order } from './order.ts';
import type { DateSaid, DayParts } from './said.ts';
import { mondayOf, type ToldWeeks } from './weeks.ts';
import { handInFor, isHandedIn, isTopicOf, kindFor } from './kinds.ts';

/** Nothing lasts for so many days. */
const LONGEST = 45;
const WEEK = 7;
const PART =
  /^(?:module|part|unit|block|term|phase|section|chapter|modul|teil|einheit|bloc|unidad)\b.{0,16}$/i;

/** Facts that are known once the whole page has been read. */
export interface Settling {
  options: OutlineOptions;
  order: Order;
  isOpen: boolean;
  told: ToldWeeks;
  near: ReadonlySet<string>;
  /** The day that was found last */
  last: number;
}

/** A row with its day, and what is doubtful about it; null for what is of no day of this term. */
export function foundOf(raw: Raw, settling: Settling): Found | null {
  const { options, near } = settling;
  const { title, place, details, sort, until } = raw;
  const kind = kindFor(title, raw.hint, sort, raw.minute);
  const minute = raw.minute ?? (isHandedIn(kind) ? raw.hour : null);
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
  // A span as long as the term is the term; a part of it is none that one goes to.
  if (day !== null && last !== null && last - day > (PART.test(title) ? WEEK : LONGEST)) return null;
  return { ...base, day, lastDay: last !== null && day !== null && last > day ? last : null, doubts };
}

/** A title without how it is handed in, which is told beside it. */
const withoutWay = (title: string, handIn: Found['handIn']): string =>
  handIn === 'unknown' || handIn === 'nothing'
    ? title
    : title.replace(/, ?(?:on paper|online|by e?-?mail|in class)$/i, '');

function dayAndDoubts(raw: Raw, { options, order, isOpen, told, last: before }: Settling) {
  const doubts: Doubt[] = [];
  if (raw.day !== null) {
    if (raw.weekday !== null && raw.weekday !== weekday(raw.day))
      doubts.push(otherWeekday(raw.day, raw.weekday));
    return { day: raw.day, last: raw.lastKnown, doubts, isReal: true };
  }
  const said = raw.date!;
  if (said.week !== null && said.week >= 0) {
    return { ...inWeekOf(raw, said, mondayOf(said.week, told, options.from)), doubts, isReal: true };
  }
  const at = (parts: DayParts) => dayOf(parts, order, options);
  let day = said.first.month < 1 ? dayWithoutMonth(said, before) : at(said.first);
  if (day === null && said.first.month < 1) return { day: null, last: null, doubts, isReal: true };
  // A week that is told by one of its days.
  if (day !== null && said.week === -1) {
    const week = inWeekOf(raw, said, startOfWeek(day, 1));
    if (said.weekday === null) return { ...week, doubts, isReal: true };
    day = week.day;
  }
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

/** A day of a week: its weekday, else Friday for work and Monday for anything else; a break is the whole week. */
function inWeekOf(
  { title, hint, sort, minute }: Raw,
  { weekday: told, weeks = 1 }: DateSaid,
  monday: number,
) {
  const kind = kindFor(title, hint, sort, minute);
  const each = told ?? (isWork(kind) ? 5 : 1);
  return { day: monday + each - 1, last: told === null && kind === 'dayOff' ? monday + weeks * 7 - 3 : null };
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
  const { weekdays, interval, nth, from, until, except, exceptWords, month } = raw.weekly!;
  const first = (from && dayOf(from.first, order, options)) ?? options.from;
  const last = (until && dayOf(until.first, order, options)) ?? options.to;
  if (last < first || last - first > 400) return null;
  const left = new Set<number>();
  for (const said of except) {
    const day = dayOf(said.first, order, options);
    const end = said.last ? dayOf(said.last, order, options) : day;
    for (let d = day ?? 0; day !== null && end !== null && d <= end && d - day < 60; d++) left.add(d);
  }
  const on: number[] = [];
  for (let d = first; d <= last; d++)
    if (weekdays.includes(weekday(d)) && (month === null || civilDate(d).month === month) && isNth(d, nth))
      on.push(d);
  const week = on[0] === undefined ? 0 : startOfWeek(on[0], 1);
  const days = on.filter((d) => ((startOfWeek(d, 1) - week) / 7) % interval === 0 && !left.has(d));
  const [start] = days;
  if (start === undefined) return null;
  if (days.length === 1 && nth !== null) return { ...base, day: start };
  return {
    ...base,
    details: [base.details, exceptWords && !except.length ? exceptWords : ''].filter(Boolean).join('\n'),
    day: start,
    days,
    weekdays: [...weekdays],
  };
}

/** Tells whether a day is the so manieth of its weekday in its month; the last one is -1. */
function isNth(day: number, nth: number | null): boolean {
  if (nth === null) return true;
  const date = civilDate(day);
  return nth < 0 ? date.day > daysInMonth(date.year, date.month) - 7 : Math.ceil(date.day / 7) === nth;
}
