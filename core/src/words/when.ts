import { DAY, HOUR, MINUTE, civilDate, parseDate, weekday } from '../time/civil.ts';
import { dayIn, instantIn, localIn, type When } from '../time/when.ts';
import type { Zone } from '../time/zone.ts';

const WEEKDAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
const MONTHS = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
];

export const weekdayName = (day: number) => WEEKDAYS[weekday(day) - 1]!;
export const monthName = (month: number) => MONTHS[month - 1]!;

/** `Tue 6 Oct` */
export function shortDay(day: number): string {
  return `${weekdayName(day).slice(0, 3)} ${dayAndMonth(civilDate(day))}`;
}

/** `Tuesday 6 October`, with the year where it is not `thisYear` */
export function longDay(day: number, thisYear?: number): string {
  const { year, month, day: d } = civilDate(day);
  return `${weekdayName(day)} ${d} ${monthName(month)}${thisYear !== undefined && thisYear !== year ? ` ${year}` : ''}`;
}

/** Who looks: a zone, how that person likes hours to be written, and when their night is over. */
export interface Viewer extends Zone {
  hours?: 12 | 24;
  /** Up to this hour, not included, a deadline belongs to the night before; 0 where nothing is said */
  nightUntil?: number;
}

/**
 * Somebody in a zone, with how they like hours to be written and when their night is over. A zone's functions
 * are its class's: they are handed on.
 */
export const viewerOf = (
  zone: Zone,
  { hours, nightUntil }: { hours: 12 | 24; nightUntil: number },
): Viewer => ({
  id: zone.id,
  hours,
  nightUntil,
  offsetAt: (instant) => zone.offsetAt(instant),
  toInstant: (local) => zone.toInstant(local),
  exists: (local) => zone.exists(local),
});

/** `23:59` on the wall clock of `viewer`, or `11:59 pm` for who likes it so */
export function clockTime(when: When, viewer: Viewer): string {
  const local = localIn(when, viewer);
  return minuteWords(Math.floor((((local % DAY) + DAY) % DAY) / MINUTE), viewer.hours);
}

/** Minutes from midnight as a time of day. */
export function minuteWords(minutes: number, hours: 12 | 24 = 24): string {
  const [h, m] = [Math.floor(minutes / 60), String(minutes % 60).padStart(2, '0')];
  return hours === 12
    ? `${h % 12 || 12}:${m} ${h % 24 < 12 ? 'am' : 'pm'}`
    : `${String(h).padStart(2, '0')}:${m}`;
}

/** `5 – 11 October`, `28 Sep – 4 Oct`, with the year where it is not `thisYear` */
export function daysWords(first: number, last: number, thisYear?: number): string {
  const [a, b] = [civilDate(first), civilDate(last)];
  const year = thisYear !== undefined && b.year !== thisYear ? ` ${b.year}` : '';
  return a.month === b.month
    ? `${a.day} – ${b.day} ${monthName(b.month)}${year}`
    : `${dayAndMonth(a)} – ${dayAndMonth(b)}${year}`;
}

/** `6 Oct` */
const dayAndMonth = ({ day, month }: { day: number; month: number }) =>
  `${day} ${monthName(month).slice(0, 3)}`;

/** `today`, `tomorrow`, `yesterday`, `in 3 days`, `2 weeks ago`; from whole days */
export function daysAway(day: number, today: number): string {
  const n = day - today;
  if (n === 0) return 'today';
  if (n === 1) return 'tomorrow';
  if (n === -1) return 'yesterday';
  const size = Math.abs(n);
  const span = size < 14 ? `${size} days` : `${Math.round(size / 7)} weeks`;
  return n > 0 ? `in ${span}` : `${span} ago`;
}

/** `in 50 minutes`, `in 3 hours`, `2 hours ago`, and days further off */
export function away(ms: number, now: number): string {
  const size = Math.abs(ms - now);
  if (size < MINUTE) return 'now';
  const count =
    size < HOUR ? Math.round(size / MINUTE) : size < DAY ? Math.round(size / HOUR) : Math.round(size / DAY);
  const unit = size < HOUR ? 'minute' : size < DAY ? 'hour' : 'day';
  const span = `${count} ${unit}${count === 1 ? '' : 's'}`;
  return ms > now ? `in ${span}` : `${span} ago`;
}

/** Tells when somebody in `viewer` has to be there or be done: `Thursday 8 October, 23:59` */
export function whenWords(when: When, viewer: Viewer, thisYear?: number): string {
  const day = longDay(dayIn(when, viewer), thisYear);
  return when.kind === 'date' ? day : `${day}, ${clockTime(when, viewer)}`;
}

/**
 * The day number on which somebody has to be finished by: of a deadline in the small hours, the day before,
 * since that is the evening on which the work is done.
 */
export function dueDay(due: When, viewer: Viewer): number {
  if (due.kind === 'date') return parseDate(due.date);
  return Math.floor((localIn(due, viewer) - (viewer.nightUntil ?? 0) * HOUR) / DAY);
}

/** Tells how a deadline is led in where it comes after midnight: `the night of `, else nothing. */
export const nightOf = (due: When, viewer: Viewer): string =>
  dueDay(due, viewer) < dayIn(due, viewer) ? 'the night of ' : '';

/** Tells when something is due: `Thursday 8 October, 23:59`, `the night of Thursday 8 October, 00:59` */
export function dueWords(due: When, viewer: Viewer, thisYear?: number): string {
  const day = `${nightOf(due, viewer)}${longDay(dueDay(due, viewer), thisYear)}`;
  return due.kind === 'date' ? day : `${day}, ${clockTime(due, viewer)}`;
}

/** The same in short: `Thu 8 Oct 16:00`, `the night of Thu 8 Oct 00:59` */
export const shortDue = (due: When, viewer: Viewer): string =>
  `${nightOf(due, viewer)}${shortDay(dueDay(due, viewer))}${due.kind === 'date' ? '' : ` ${clockTime(due, viewer)}`}`;

/**
 * A span: `09:10 – 10:50`, `all day`, `Mon 26 Oct to Fri 30 Oct`, `Sat 10 Oct 10:00 to Sun 11 Oct 15:00`.
 * All-day ends are exclusive.
 */
export const spanWords = (start: When, end: When | null, viewer: Viewer): string =>
  overDays(start, end, viewer) ?? (hoursFrom(start, end, viewer) || 'all day');

/** The same with its day, for where that is not said already: `Thu 8 Oct, 09:10 – 10:50`, `Thu 8 Oct`. */
export const spanDayWords = (start: When, end: When | null, viewer: Viewer): string =>
  overDays(start, end, viewer) ??
  [shortDay(dayIn(start, viewer)), hoursFrom(start, end, viewer)].filter(Boolean).join(', ');

/** Gives what lasts over several days, said by them; null for all else. */
function overDays(start: When, end: When | null, viewer: Viewer): string | null {
  const first = dayIn(start, viewer);
  if (start.kind === 'date') {
    const last = end?.kind === 'date' ? parseDate(end.date) - 1 : first;
    return last > first ? `${shortDay(first)} to ${shortDay(last)}` : null;
  }
  if (!isEnd(start, end, viewer)) return null;
  const last = dayIn(end, viewer);
  return last > first
    ? `${shortDay(first)} ${clockTime(start, viewer)} to ${shortDay(last)} ${clockTime(end, viewer)}`
    : null;
}

/** `09:10 – 10:50`, or when it begins where it has no end; empty for whole days */
const hoursFrom = (start: When, end: When | null, viewer: Viewer): string =>
  start.kind === 'date'
    ? ''
    : [clockTime(start, viewer), ...(isEnd(start, end, viewer) ? [clockTime(end, viewer)] : [])].join(' – ');

const isEnd = (start: When, end: When | null, viewer: Viewer): end is When =>
  end !== null && instantIn(end, viewer) > instantIn(start, viewer);

/** Today's day number for somebody in `viewer`. */
export const today = (now: number, viewer: Zone) => Math.floor((now + viewer.offsetAt(now)) / DAY);

/** `Thu 8 Oct 16:00`, or the day alone where there is no hour */
export const shortWhen = (when: When, viewer: Zone): string =>
  `${shortDay(dayIn(when, viewer))}${when.kind === 'date' ? '' : ` ${clockTime(when, viewer)}`}`;

/** Minutes since midnight on the wall clock of `viewer`. */
export const minuteOfDay = (now: number, viewer: Zone): number =>
  Math.floor((now + viewer.offsetAt(now) - today(now, viewer) * DAY) / MINUTE);

/** `2 h 30`, `45 min`, `3 h` */
export function hoursWords(minutes: number): string {
  const rounded = Math.round(minutes / 5) * 5;
  if (rounded < 60) return `${rounded} min`;
  const rest = rounded % 60;
  return `${Math.floor(rounded / 60)} h${rest ? ` ${rest}` : ''}`;
}
