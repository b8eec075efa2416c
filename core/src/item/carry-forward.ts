import { whenOn, whenShift } from '../time/shift.ts';
import { onDaysOff, untilText } from '../recurrence/pattern.ts';
import { parseRule } from '../recurrence/rule.ts';
import { DAY, formatDate } from '../time/civil.ts';
import { dayIn, instantIn, recurrenceIdOf, type When, type ZoneFinder } from '../time/when.ts';
import type { Zone } from '../time/zone.ts';
import { timesOf, type OwnItem } from './own.ts';

/** A term as far as dates are laid over it: its first week's first day, and what is no school, as day numbers. */
export interface TermDays {
  firstWeek: number;
  lastDay: number;
  daysOff: readonly { from: number; to: number; name: string }[];
}

/** What is to be looked at before an item stands in the new term. */
export type CarryDoubt =
  /** It would have been on a day off, and is on the next day of school instead */
  { kind: 'dayOff'; name: string; was: string } | { kind: 'afterTerm' } | { kind: 'undated' };

/** An item laid over another term. */
export interface CarriedItem {
  from: string;
  item: OwnItem;
  /** Which of a series’ dates has become which, by recurrence-id: what single dates carry goes along */
  dates: { was: string; is: string }[];
  /** Number of dates it has in the new term; 1 for what does not repeat */
  count: number;
  doubt: CarryDoubt | null;
}

export interface CarryOptions {
  before: TermDays;
  after: TermDays;
  zone: Zone;
  zones: ZoneFinder;
}

/** Number of dates of one series that are carried. */
const MOST_DATES = 400;

const isOff = (day: number, { daysOff }: TermDays) => daysOff.find((d) => day >= d.from && day <= d.to);
const isWeekend = (day: number) => (((day + 3) % 7) + 7) % 7 > 4;

/**
 * Last term's items laid over a new one: each on the weekday and in the week of the term that it was in, at the same
 * hour on the wall clock. What would be on a day off stands on the next day of school, series leave such days out; days
 * that were left out for the old term's days off are taken in again. In the order of their new dates.
 */
export function carryForward(
  items: readonly { id: string; item: OwnItem }[],
  options: CarryOptions,
): CarriedItem[] {
  const carried = items.map((each) => carryOne(each, options));
  const at = ({ item: { when } }: CarriedItem) => (when ? instantIn(when, options.zone) : Infinity);
  return carried.sort((a, b) => at(a) - at(b) || (a.from < b.from ? -1 : 1));
}

function carryOne({ id, item }: { id: string; item: OwnItem }, options: CarryOptions): CarriedItem {
  const { before, after, zone } = options;
  const by = after.firstWeek - before.firstWeek;
  const moved = (when: When) => whenOn(when, dayIn(when, zone) + by, zone);
  if (!item.when) return { from: id, item, dates: [], count: 1, doubt: { kind: 'undated' } };
  if (item.repeat) return carrySeries(id, item, item.when, moved, options);
  const day = dayIn(item.when, zone) + by;
  const off = isOff(day, after);
  const on = off ? nextSchoolDay(day, after) : day;
  const next = placed(item, whenOn(item.when, on, zone));
  const doubt: CarryDoubt | null =
    on > after.lastDay
      ? { kind: 'afterTerm' }
      : off
        ? { kind: 'dayOff', name: off.name, was: formatDate(day) }
        : null;
  return { from: id, item: next, dates: [], count: 1, doubt };
}

/** An item at another time, its end as long after it. */
export const placed = (item: OwnItem, when: When): OwnItem => ({
  ...item,
  when,
  end: item.end && item.when ? whenShift(item.end, item.when, when) : item.end,
});

function nextSchoolDay(day: number, term: TermDays): number {
  let on = day;
  while (on < day + 60 && (isOff(on, term) || isWeekend(on))) on++;
  return on;
}

function carrySeries(
  id: string,
  item: OwnItem,
  first: When,
  moved: (when: When) => When,
  { before, after, zone, zones }: CarryOptions,
): CarriedItem {
  const repeat = item.repeat!;
  const from = instantIn(first, zone) - DAY;
  const span = { from, to: from + 800 * DAY, zone, zones, limit: MOST_DATES };
  const wasOff = (when: When) => isOff(dayIn(when, zone), before) !== undefined;
  const start = moved(first);
  const bare: OwnItem = {
    ...placed(item, start),
    repeat: { rule: ruleFor(repeat.rule, start, moved, zone), except: [] },
    changes: [],
  };
  const nextSpan = { ...span, from: instantIn(start, zone) - DAY, to: instantIn(start, zone) + 800 * DAY };
  const off = onDaysOff(timesOf(bare, nextSpan), after.daysOff, zone);
  const except = [...repeat.except.filter((when) => !wasOff(when)).map(moved), ...off];
  const left = new Set(except.map(recurrenceIdOf));
  const changes = item.changes
    .filter(({ of, calledOff }) => !(calledOff && wasOff(of)))
    .map(({ of, when, end, ...rest }) => {
      const changed = { ...rest, of: moved(of) };
      return {
        ...changed,
        ...(when && { when: moved(when) }),
        ...(end !== undefined && { end: end && moved(end) }),
      };
    })
    .filter(({ of }) => !left.has(recurrenceIdOf(of)));
  const next = {
    ...bare,
    repeat: { ...bare.repeat!, except: [...new Map(except.map((w) => [recurrenceIdOf(w), w])).values()] },
    changes,
  };
  const dates = timesOf({ ...item, changes: [] }, span)
    .map((of) => ({ was: recurrenceIdOf(of), is: recurrenceIdOf(moved(of)) }))
    .filter(({ is }) => !left.has(is));
  const count = timesOf(next, nextSpan).length;
  return {
    from: id,
    item: next,
    dates,
    count,
    doubt: dayIn(start, zone) > after.lastDay ? { kind: 'afterTerm' } : null,
  };
}

/** A rule whose last day is moved along; a number of times stays. */
function ruleFor(rule: string, start: When, moved: (when: When) => When, zone: Zone): string {
  const { until } = parseRule(rule);
  if (!until) return rule;
  const local = until.kind === 'instant' ? until.ms + zone.offsetAt(until.ms) : until.ms;
  const last = moved({ kind: 'date', date: formatDate(Math.floor(local / DAY)) });
  const parts = rule.split(';').filter((part) => !/^UNTIL=/i.test(part));
  return [...parts, `UNTIL=${untilText(dayIn(last, zone), start, zone)}`].join(';');
}
