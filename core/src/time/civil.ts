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

/** Day number of a civil date; months and days outside their range carry over. */
export function dayNumber(year: number, month: number, day: number): number {
  // Date.UTC reads years 0 to 99 as 1900 to 1999.
  if (year >= 0 && year < 100)
    return Math.floor(new Date(Date.UTC(2000, month - 1, day)).setUTCFullYear(year) / DAY);
  return Math.floor(Date.UTC(year, month - 1, day) / DAY);
}

export function civilDate(days: number): CivilDate {
  const d = new Date(days * DAY);
  return { year: d.getUTCFullYear(), month: d.getUTCMonth() + 1, day: d.getUTCDate() };
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

const two = (n: number) => (n < 10 ? '0' + n : '' + n);
const four = (n: number) => String(n).padStart(4, '0');

/** `2026-10-06` */
export function formatDate(days: number): string {
  const { year, month, day } = civilDate(days);
  return `${four(year)}-${two(month)}-${two(day)}`;
}

/** `2026-10-06T16:10:00` of a local time */
export function formatLocal(local: number): string {
  return new Date(local).toISOString().slice(0, 19);
}

/** `2026-10-06T15:10:00Z` of an instant in milliseconds since the epoch */
export function formatInstant(ms: number): string {
  return formatLocal(ms) + 'Z';
}

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
