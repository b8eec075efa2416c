import { civilDate, dayNumber, daysInMonth, weekday } from '../time/civil.ts';
import type { DateSaid, DayParts } from './said.ts';
import type { OutlineOptions } from './found.ts';

export type Order = 'dmy' | 'mdy';

/** From so many dates on, a list says something by going forward. */
const FEWEST = 4;
/** Days before and behind the term that may still belong to it: exams, a first meeting. */
const AROUND = 14;

/** A day as it is written, read in an order. */
export function ordered(parts: DayParts, order: Order): { year: number | null; month: number; day: number } {
  const { year, month, day, isOpen } = parts;
  if (!isOpen) return { year, month, day };
  const read = order === 'mdy' ? { month, day } : { month: day, day: month };
  // What can be read in one way only is read so.
  return read.month > 12 ? { year, month: read.day, day: read.month } : { year, ...read };
}

/**
 * The day number of a date; a year that is not told is the one that puts it into the term, or nearest to it.
 * null for a day that is not in the calendar, and for one without a month.
 */
export function dayOf(
  parts: DayParts,
  order: Order,
  { from, to }: Pick<OutlineOptions, 'from' | 'to'>,
): number | null {
  const { year, month, day } = ordered(parts, order);
  if (month < 1) return null;
  if (year !== null) return day <= daysInMonth(year, month) ? dayNumber(year, month, day) : null;
  const middle = (from + to) / 2;
  let best: number | null = null;
  const near = civilDate(Math.floor(middle)).year;
  for (const each of [near - 1, near, near + 1]) {
    if (day > daysInMonth(each, month)) continue;
    const at = dayNumber(each, month, day);
    if (best === null || Math.abs(at - middle) < Math.abs(best - middle)) best = at;
  }
  return best;
}

/** Months that are tried for a day without one. */
const MONTHS_ON = 6;

/**
 * `by Monday 14th`: the next such day from another one on, on its weekday where one is told; a week before it counts.
 * null where there is none.
 */
export function dayWithoutMonth(said: DateSaid, last: number): number | null {
  const { year, month } = civilDate(last);
  for (let n = 0; n < MONTHS_ON; n++) {
    const [y, m] = month + n > 12 ? [year + 1, month + n - 12] : [year, month + n];
    if (said.first.day > daysInMonth(y, m)) continue;
    const day = dayNumber(y, m, said.first.day);
    if (day >= last - 7 && (said.weekday === null || said.weekday === weekday(day))) return day;
  }
  return null;
}

export const isInTerm = (
  day: number,
  { from, to }: Pick<OutlineOptions, 'from' | 'to'>,
  around = AROUND,
): boolean => day >= from - around && day <= to + around;

/**
 * Which order dates in numbers are written in: what can be a day only, weekdays beside them, the term, and that lists
 * go forward in time.
 * @param lists dates in numbers in the order they stand, by where they stand
 * @returns `isOpen` where nothing tells
 */
export function orderOf(
  lists: readonly (readonly DateSaid[])[],
  options: OutlineOptions,
): { order: Order | null; isOpen: boolean } {
  const all = lists.flat().filter((said) => said.first.isOpen);
  if (!all.length) return { order: null, isOpen: false };
  if (options.order) return { order: options.order, isOpen: false };
  const [dmy, mdy] = (['dmy', 'mdy'] as const).map((order) => fit(lists, order, options));
  if (dmy === mdy) return { order: null, isOpen: all.some(({ first }) => first.month !== first.day) };
  return { order: dmy! > mdy! ? 'dmy' : 'mdy', isOpen: false };
}

function fit(lists: readonly (readonly DateSaid[])[], order: Order, options: OutlineOptions): number {
  let sum = 0;
  for (const list of lists) {
    let last = -Infinity;
    let isForward = list.length >= FEWEST;
    for (const said of list) {
      const parts = said.first;
      if (!parts.isOpen) continue;
      const month = order === 'mdy' ? parts.month : parts.day;
      if (month > 12) {
        sum -= 8;
        continue;
      }
      const day = dayOf(parts, order, options);
      if (day === null) {
        sum -= 4;
        continue;
      }
      if (isInTerm(day, options)) sum += 3;
      if (said.weekday !== null) sum += said.weekday === weekday(day) ? 3 : -3;
      isForward &&= day >= last;
      last = day;
    }
    // A list goes forward in time, all of it or it says nothing.
    if (isForward) sum += list.length;
  }
  return sum;
}
