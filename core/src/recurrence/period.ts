import {
  DAY,
  HOUR,
  MINUTE,
  SECOND,
  civilDate,
  dayNumber,
  daysInMonth,
  daysInYear,
  firstWeekOfYear,
  startOfWeek,
  weekday,
} from '../time/civil.ts';
import type { Rule } from './rule.ts';

/**
 * The parts of DTSTART that fill what a rule leaves unsaid (RFC 5545 3.3.10: "information gleaned from
 * DTSTART").
 */
export interface Anchor {
  day: number;
  hour: number;
  minute: number;
  second: number;
}

const has = (list: readonly number[], value: number, length: number) =>
  list.includes(value) || list.includes(value - length - 1);

function inWeekNo(rule: Rule, day: number): boolean {
  const { year } = civilDate(day);
  // Nearly always the week's year is the day's own.
  for (const y of [year, year - 1, year + 1]) {
    const first = firstWeekOfYear(y, rule.weekStart);
    const next = firstWeekOfYear(y + 1, rule.weekStart);
    if (day >= first && day < next)
      return has(rule.byWeekNo, Math.floor((day - first) / 7) + 1, (next - first) / 7);
  }
  return false;
}

/** BYDAY for one day; a numbered weekday counts inside the span `first` … `first + length - 1`. */
function inByDay(rule: Rule, day: number, first: number, length: number, numbered: boolean): boolean {
  const own = weekday(day);
  return rule.byDay.some(({ weekday: wanted, nth }) => {
    if (wanted !== own) return false;
    if (nth === 0 || !numbered) return true;
    const place = Math.floor((day - first) / 7) + 1;
    const places = place + Math.floor((first + length - 1 - day) / 7);
    return nth > 0 ? place === nth : place === places + nth + 1;
  });
}

/**
 * Whether a day passes the BY parts that speak of days. For every frequency the table of RFC 5545 3.3.10
 * ("expand" and "limit") comes to the same: a day is in the set when every part present holds.
 */
export function dayMatches(rule: Rule, day: number): boolean {
  const { year, month, day: monthDay } = civilDate(day);
  if (rule.byMonth.length && !rule.byMonth.includes(month)) return false;
  if (rule.byMonthDay.length && !has(rule.byMonthDay, monthDay, daysInMonth(year, month))) return false;
  if (rule.byYearDay.length && !has(rule.byYearDay, day - dayNumber(year, 1, 1) + 1, daysInYear(year)))
    return false;
  if (rule.byWeekNo.length && rule.freq === 'YEARLY' && !inWeekNo(rule, day)) return false;
  if (!rule.byDay.length) return true;
  // A numbered weekday counts in the month for MONTHLY and for YEARLY with BYMONTH, in the year for YEARLY
  // without.
  const inMonth = rule.freq === 'MONTHLY' || rule.byMonth.length > 0;
  const numbered = rule.freq === 'MONTHLY' || (rule.freq === 'YEARLY' && !rule.byWeekNo.length);
  return inMonth
    ? inByDay(rule, day, dayNumber(year, month, 1), daysInMonth(year, month), numbered)
    : inByDay(rule, day, dayNumber(year, 1, 1), daysInYear(year), numbered);
}

/** The rule with what DTSTART says filled in, so that its BY parts alone decide. */
export function anchored(rule: Rule, anchor: Anchor): Rule {
  const { month, day } = civilDate(anchor.day);
  const filled = { ...rule };
  const dayParts = rule.byDay.length + rule.byMonthDay.length + rule.byYearDay.length;
  if (rule.freq === 'WEEKLY' && !rule.byDay.length) filled.byDay = [{ weekday: weekday(anchor.day), nth: 0 }];
  if (rule.freq === 'MONTHLY' && !dayParts) filled.byMonthDay = [day];
  if (rule.freq === 'YEARLY' && !dayParts) {
    if (rule.byWeekNo.length) filled.byDay = [{ weekday: weekday(anchor.day), nth: 0 }];
    else {
      filled.byMonthDay = [day];
      if (!rule.byMonth.length) filled.byMonth = [month];
    }
  }
  return filled;
}

const sorted = (list: readonly number[]) => [...new Set(list)].sort((a, b) => a - b);

/** Offsets inside a day (or hour, minute) that the time parts ask for, ascending, in milliseconds. */
export function timesWithin(rule: Rule, anchor: Anchor): number[] {
  const hours = rule.byHour.length ? sorted(rule.byHour) : [anchor.hour];
  const minutes = rule.byMinute.length ? sorted(rule.byMinute) : [anchor.minute];
  const seconds = rule.bySecond.length ? sorted(rule.bySecond) : [anchor.second];
  const minuteSet = minutes.flatMap((m) => seconds.map((s) => m * MINUTE + s * SECOND));
  switch (rule.freq) {
    case 'SECONDLY':
      return [0];
    case 'MINUTELY':
      return seconds.map((s) => s * SECOND);
    case 'HOURLY':
      return minuteSet;
    default:
      return hours.flatMap((h) => minuteSet.map((rest) => h * HOUR + rest));
  }
}

/** A run of days: the period of one step of a YEARLY, MONTHLY, WEEKLY or DAILY rule. */
export function periodDays(rule: Rule, anchor: Anchor, step: number): { first: number; length: number } {
  const { year, month } = civilDate(anchor.day);
  const k = step * rule.interval;
  switch (rule.freq) {
    case 'YEARLY':
      return { first: dayNumber(year + k, 1, 1), length: daysInYear(year + k) };
    case 'MONTHLY': {
      const first = dayNumber(year, month + k, 1);
      return { first, length: dayNumber(year, month + k + 1, 1) - first };
    }
    case 'WEEKLY':
      return { first: startOfWeek(anchor.day, rule.weekStart) + 7 * k, length: 7 };
    default:
      return { first: anchor.day + k, length: 1 };
  }
}

/** The last step whose period begins no later than `local`; a step at which a search may start. */
export function stepBefore(rule: Rule, anchor: Anchor, local: number): number {
  const day = Math.floor(local / DAY);
  const start = civilDate(anchor.day);
  const there = civilDate(day);
  const periods =
    rule.freq === 'YEARLY'
      ? there.year - start.year
      : rule.freq === 'MONTHLY'
        ? (there.year - start.year) * 12 + there.month - start.month
        : (day - anchor.day) / (rule.freq === 'WEEKLY' ? 7 : 1);
  return Math.max(0, Math.floor(periods / rule.interval) - 1);
}
