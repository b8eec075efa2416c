import { DAY, civilDate, dayNumber, daysInMonth, formatDate, parseDate, weekday } from '../time/civil.ts';
import { localIn, recurrenceIdOf, type When } from '../time/when.ts';
import type { Zone } from '../time/zone.ts';
import { longDay, monthName, weekdayName } from '../words/when.ts';
import { RuleError, parseRule } from './rule.ts';

/**
 * What people ask of a repeat, as a form holds it. A rule that says more than this cannot be put in these
 * words.
 */
export interface Pattern {
  every: 'day' | 'week' | 'month' | 'year';
  /** Every so many of them */
  interval: number;
  /** ISO weekdays, for weeks */
  weekdays: number[];
  /** For months: the same date, or the same weekday counted from the beginning (or, the last) */
  monthBy: 'date' | 'weekday';
  /** Last day, as `2026-12-16`; null without one */
  until: string | null;
  /** Number of times; null without a number */
  count: number | null;
}

const CODES = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'];
const FREQ = { day: 'DAILY', week: 'WEEKLY', month: 'MONTHLY', year: 'YEARLY' } as const;

export const WEEKDAYS_OF_SCHOOL = [1, 2, 3, 4, 5];

/** Which weekday of its month a day is, counted from 1; -1 for the last where there is no fifth. */
function nthOf(day: number): number {
  const date = civilDate(day);
  const nth = Math.ceil(date.day / 7);
  return nth === 5 || (nth === 4 && date.day + 7 > daysInMonth(date.year, date.month)) ? -1 : nth;
}

/**
 * UNTIL for what begins like `start` and has its last time on a day: of the same form as DTSTART, and in UTC
 * where that has a zone (RFC 5545 3.3.10).
 * @param day day number on the wall clock of `zone`
 */
export function untilText(day: number, start: When, zone: Zone): string {
  const compact = (text: string) => text.replace(/[-:]/g, '');
  if (start.kind === 'date') return compact(formatDate(day));
  const last = (day + 1) * DAY - 1000;
  const iso = (ms: number) => compact(new Date(ms).toISOString().slice(0, 19));
  return start.kind === 'floating' ? iso(last) : `${iso(zone.toInstant(last))}Z`;
}

/**
 * A pattern as a rule (RFC 5545 3.3.10) for something that begins on `start`, on the wall clock of `zone`.
 */
export function patternToRule(pattern: Pattern, start: When, zone: Zone): string {
  const day = Math.floor(localIn(start, zone) / DAY);
  const parts = [`FREQ=${FREQ[pattern.every]}`];
  if (pattern.interval > 1) parts.push(`INTERVAL=${pattern.interval}`);
  if (pattern.every === 'week')
    parts.push(
      `BYDAY=${[...new Set(pattern.weekdays.length ? pattern.weekdays : [weekday(day)])]
        .sort()
        .map((d) => CODES[d - 1])
        .join(',')}`,
    );
  if (pattern.every === 'month')
    parts.push(
      pattern.monthBy === 'date'
        ? `BYMONTHDAY=${civilDate(day).day}`
        : `BYDAY=${nthOf(day)}${CODES[weekday(day) - 1]}`,
    );
  if (pattern.count !== null) parts.push(`COUNT=${pattern.count}`);
  else if (pattern.until !== null) parts.push(`UNTIL=${untilText(parseDate(pattern.until), start, zone)}`);
  return parts.join(';');
}

/** A rule as a pattern; null where it says something the form has no words for, or cannot be read. */
export function ruleToPattern(text: string, start: When, zone: Zone): Pattern | null {
  try {
    const rule = parseRule(text);
    const every = (
      { DAILY: 'day', WEEKLY: 'week', MONTHLY: 'month', YEARLY: 'year' } as Record<string, Pattern['every']>
    )[rule.freq];
    if (!every) return null;
    const day = Math.floor(localIn(start, zone) / DAY);
    const until =
      rule.until &&
      formatDate(
        Math.floor(
          (rule.until.kind === 'instant' ? rule.until.ms + zone.offsetAt(rule.until.ms) : rule.until.ms) /
            DAY,
        ),
      );
    const pattern: Pattern = {
      every,
      interval: rule.interval,
      weekdays: every === 'week' ? rule.byDay.map((d) => d.weekday) : [],
      monthBy: every === 'month' && rule.byDay.length ? 'weekday' : 'date',
      until: until ?? null,
      count: rule.count ?? null,
    };
    if (every === 'week' && !pattern.weekdays.length) pattern.weekdays = [weekday(day)];
    // The form can say it if what the form says means the same rule.
    const plain = { ...rule, until: undefined, count: undefined };
    const again = parseRule(patternToRule({ ...pattern, until: null, count: null }, start, zone));
    const same = (a: object) => JSON.stringify({ ...a, until: undefined, count: undefined });
    const implied = {
      ...plain,
      byDay: plain.byDay.length ? plain.byDay : again.byDay,
      byMonthDay: plain.byMonthDay.length ? plain.byMonthDay : again.byMonthDay,
    };
    return same(every === 'week' || every === 'month' ? implied : plain) === same(again) ? pattern : null;
  } catch (error) {
    if (error instanceof RuleError) return null;
    throw error;
  }
}

const listed = (words: readonly string[]) =>
  words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;
const ORDINALS = ['first', 'second', 'third', 'fourth'];
const ordinal = (n: number) =>
  `${n}${n % 100 > 10 && n % 100 < 14 ? 'th' : (['th', 'st', 'nd', 'rd'][n % 10] ?? 'th')}`;

/** Says a pattern back: `every Monday and Wednesday until 16 December`. */
export function patternWords(pattern: Pattern, start: When, zone: Zone, thisYear?: number): string {
  const day = Math.floor(localIn(start, zone) / DAY);
  const { every, interval, count, until } = pattern;
  const date = civilDate(day);
  const each = interval === 1 ? 'every' : interval === 2 ? 'every second' : `every ${ordinal(interval)}`;
  const days = (pattern.weekdays.length ? [...pattern.weekdays].sort() : [weekday(day)]).map((d) =>
    weekdayName(d - 1 + MONDAY),
  );
  const school =
    every === 'week' &&
    interval === 1 &&
    pattern.weekdays.length === 5 &&
    WEEKDAYS_OF_SCHOOL.every((d) => pattern.weekdays.includes(d));
  const nth = nthOf(day);
  const head = {
    day: interval === 1 ? 'every day' : `${each} day`,
    week: school
      ? 'every weekday'
      : interval === 1
        ? `every ${listed(days)}`
        : `${each} week on ${listed(days)}`,
    month: `${each} month on the ${pattern.monthBy === 'date' ? ordinal(date.day) : `${nth < 0 ? 'last' : ORDINALS[nth - 1]} ${weekdayName(day)}`}`,
    year: `${each} year on ${date.day} ${monthName(date.month)}`,
  }[every];
  if (count !== null) return `${head}, ${count === 1 ? 'once' : `${count} times`}`;
  const last = until === null ? NaN : parseDate(until);
  return Number.isNaN(last) ? head : `${head} until ${longDay(last, thisYear).replace(/^\w+ /, '')}`;
}

/** A Monday, to name weekdays by. */
const MONDAY = dayNumber(2024, 1, 1);

/** Days of breaks among the times something stands at: what to leave out where it is not to be then. */
export function onDaysOff(
  times: readonly When[],
  daysOff: readonly { from: number; to: number }[],
  zone: Zone,
): When[] {
  const seen = new Set<string>();
  return times.filter((when) => {
    const day = Math.floor(localIn(when, zone) / DAY);
    const key = recurrenceIdOf(when);
    if (seen.has(key) || !daysOff.some((d) => day >= d.from && day <= d.to)) return false;
    seen.add(key);
    return true;
  });
}
