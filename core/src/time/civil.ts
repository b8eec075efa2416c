/**
 * Civil (proleptic Gregorian) arithmetic on plain numbers.
 *
 * A *day number* counts days since 1970-01-01. A *local time* is wall-clock time as milliseconds since
 * 1970-01-01T00:00 with no zone: it is not an instant until a zone makes it one. Both are plain numbers
 * because repeats step through tens of thousands of them.
 */
export const SECOND = 1000;
export const MINUTE = 60 * SECOND;
export const HOUR = 60 * MINUTE;
export const DAY = 24 * HOUR;

export interface CivilDate {
  year: number;
  /** 1 to 12 */
  month: number;
  /** 1 to 31 */
  day: number;
}

/** Days in 400 years, after which the calendar repeats; and from the first of March of the year 0 to 1970 */
const ERA = 146_097;
const EPOCH = 719_468;

/**
 * Day number of a civil date; months and days outside their range carry over. Counted from the first of March, so
 * that a leap day is the last of its year. By plain arithmetic: a `Date` for each would be most of the time of a
 * long repeat.
 */
export function dayNumber(year: number, month: number, day: number): number {
  const years = Math.floor((month - 1) / 12);
  const m = month - 1 - years * 12;
  const y = year + years - (m < 2 ? 1 : 0);
  const era = Math.floor(y / 400);
  const of = y - era * 400;
  const inYear = Math.floor((153 * ((m + 10) % 12) + 2) / 5) + day - 1;
  return era * ERA + of * 365 + Math.floor(of / 4) - Math.floor(of / 100) + inYear - EPOCH;
}

/** The civil date of a day number: the way back. */
export function civilDate(days: number): CivilDate {
  const z = days + EPOCH;
  const era = Math.floor(z / ERA);
  const inEra = z - era * ERA;
  const of = Math.floor(
    (inEra - Math.floor(inEra / 1460) + Math.floor(inEra / 36_524) - Math.floor(inEra / 146_096)) / 365,
  );
  const inYear = inEra - (365 * of + Math.floor(of / 4) - Math.floor(of / 100));
  const m = Math.floor((5 * inYear + 2) / 153);
  const month = m < 10 ? m + 3 : m - 9;
  return {
    year: of + era * 400 + (month <= 2 ? 1 : 0),
    month,
    day: inYear - Math.floor((153 * m + 2) / 5) + 1,
  };
}

/** ISO weekday of a day number: 1 Monday … 7 Sunday. */
export function weekday(days: number): number {
  return ((((days + 3) % 7) + 7) % 7) + 1;
}

export function daysInMonth(year: number, month: number): number {
  return dayNumber(year, month + 1, 1) - dayNumber(year, month, 1);
}

export function daysInYear(year: number): number {
  return dayNumber(year + 1, 1, 1) - dayNumber(year, 1, 1);
}

/** The day a week starts on or before `days`. `firstDay` is an ISO weekday. */
export function startOfWeek(days: number, firstDay: number): number {
  return days - ((weekday(days) - firstDay + 7) % 7);
}

/**
 * First day of week 1 of `year`: the first week with at least four days in it (RFC 5545 3.3.10, ISO 8601 for
 * Monday).
 */
export function firstWeekOfYear(year: number, firstDay: number): number {
  return startOfWeek(dayNumber(year, 1, 4), firstDay);
}

const TWO = Array.from({ length: 100 }, (_, n) => String(n).padStart(2, '0'));
const four = (n: number) => String(n).padStart(4, '0');

/** Days as text: a feed has thousands of occurrences on a few hundred days. */
const DAYS = new Map<number, string>();
const MOST_DAYS = 5_000;

/** `2026-10-06` */
export function formatDate(days: number): string {
  let text = DAYS.get(days);
  if (text !== undefined) return text;
  const { year, month, day } = civilDate(days);
  text = `${four(year)}-${TWO[month]}-${TWO[day]}`;
  if (DAYS.size >= MOST_DAYS) DAYS.clear();
  DAYS.set(days, text);
  return text;
}

/** The last day of the year 9999: a day beyond has no text of this form. */
const LAST = dayNumber(9999, 12, 31);
const FIRST = dayNumber(0, 1, 1);

/** Times of day to the minute, as texts: put behind a day, they make a text of two pieces and not of six. */
const CLOCK = Array.from(
  { length: 1440 },
  (_, minute) => `T${TWO[Math.floor(minute / 60)]}:${TWO[minute % 60]}:00`,
);
const CLOCK_Z = CLOCK.map((time) => `${time}Z`);

/**
 * A local time as text
 * @param clock the times of day as its form has them, and what it ends in
 * @throws RangeError where that is no time
 */
function formatTime(local: number, clock: readonly string[], end: string): string {
  const days = Math.floor(local / DAY);
  if (!(days >= FIRST && days <= LAST)) return new Date(local).toISOString().slice(0, 19) + end;
  const seconds = Math.floor((local - days * DAY) / SECOND);
  const text = clock[Math.floor(seconds / 60)]!;
  return seconds % 60
    ? `${formatDate(days)}${text.slice(0, 7)}${TWO[seconds % 60]}${end}`
    : formatDate(days) + text;
}

/**
 * `2026-10-06T16:10:00` of a local time
 * @throws RangeError where that is no time
 */
export const formatLocal = (local: number): string => formatTime(local, CLOCK, '');

/**
 * `2026-10-06T15:10:00Z` of an instant in milliseconds since the epoch
 * @throws RangeError where that is no time
 */
export const formatInstant = (ms: number): string => formatTime(ms, CLOCK_Z, 'Z');

/**
 * Two digits of a text as a number; NaN where they are none. Read by hand: a feed has tens of thousands of
 * dates.
 */
function twoDigits(text: string, at: number): number {
  const tens = text.charCodeAt(at) - 48;
  const ones = text.charCodeAt(at + 1) - 48;
  return tens >= 0 && tens <= 9 && ones >= 0 && ones <= 9 ? tens * 10 + ones : NaN;
}

/** Day number of the `YYYY-MM-DD` a text begins with; NaN where there is no such day. */
function leadingDate(text: string): number {
  if (text.charCodeAt(4) !== 45 || text.charCodeAt(7) !== 45) return NaN;
  const year = twoDigits(text, 0) * 100 + twoDigits(text, 2);
  const month = twoDigits(text, 5);
  const day = twoDigits(text, 8);
  if (!(month >= 1 && month <= 12 && day >= 1) || (day > 28 && day > daysInMonth(year, month))) return NaN;
  return dayNumber(year, month, day);
}

/** Day number of `YYYY-MM-DD`; NaN where there is no such day (31 November). */
export function parseDate(text: string): number {
  return text.length === 10 ? leadingDate(text) : NaN;
}

/** Local time of `YYYY-MM-DDTHH:MM:SS` (a trailing Z is ignored); NaN where there is no such time. */
export function parseLocal(text: string): number {
  const rest = text.length === 20 ? text.charCodeAt(19) : text.length === 19 ? 90 : 0;
  if (rest !== 90 || text.charCodeAt(10) !== 84 || text.charCodeAt(13) !== 58 || text.charCodeAt(16) !== 58)
    return NaN;
  const [h, min, s] = [twoDigits(text, 11), twoDigits(text, 14), twoDigits(text, 17)];
  // A leap second (60) is read as the second before it, as RFC 5545 3.3.12 allows.
  if (!(h <= 23 && min <= 59 && s <= 60)) return NaN;
  return leadingDate(text) * DAY + h * HOUR + min * MINUTE + Math.min(s, 59) * SECOND;
}

/** Milliseconds since the epoch of `YYYY-MM-DDTHH:MM:SSZ`. */
export function parseInstant(text: string): number {
  return text.endsWith('Z') ? parseLocal(text) : NaN;
}
