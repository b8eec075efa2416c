import { formatDate, formatInstant, parseDate, parseLocal } from '@zephyrfield/core/time/civil';
import { ianaZone } from '@zephyrfield/core/time/zone';
import type { CampusDate } from '@zephyrfield/stand-ins/campus/feed';

/** Skerrow Harbour School's time zone, and the moment at which the demo clock starts. */
export const ZONE = 'Europe/Dublin';
export const DEMO_START = Date.parse('2026-10-06T15:10:00Z');

/** Monday of week 1 of the autumn term 2026. */
const FIRST_MONDAY = parseDate('2026-08-31');
const WEEKS = 16;
/** The week without lessons: mid-term break, 26 to 30 October. */
const BREAK_WEEK = 9;

/** `week` counts from 1, `weekday` from 1 for Monday. */
export const dayOf = (week: number, weekday: number) =>
  formatDate(FIRST_MONDAY + (week - 1) * 7 + weekday - 1);

export const teachingWeeks = (first = 1, last = WEEKS) =>
  Array.from({ length: last - first + 1 }, (_, i) => first + i).filter((w) => w !== BREAK_WEEK);

export const wholeDay = (date: string): CampusDate => ({ kind: 'date', date });
export const nextDay = (date: string, days = 1): CampusDate => ({
  kind: 'date',
  date: formatDate(parseDate(date) + days),
});
export const local = (date: string, time: string, tzid = ZONE): CampusDate => ({
  kind: 'zoned',
  local: `${date}T${time}:00`,
  tzid,
});

/** Skerrow's wall-clock time written in UTC, as some course servers do. */
export function inUtc(date: string, time: string): CampusDate {
  return { kind: 'utc', at: formatInstant(ianaZone(ZONE)!.toInstant(parseLocal(`${date}T${time}:00`))) };
}
