import { DAY, parseDate } from '../time/civil.ts';
import {
  dateOf,
  floatingOf,
  instantIn,
  instantOf,
  localIn,
  type When,
  type ZoneFinder,
} from '../time/when.ts';
import type { Zone } from '../time/zone.ts';
import type { Budget } from './expand.ts';

/** Time an occurrence lasts: days on the calendar first, then exact milliseconds (RFC 5545 3.3.6). */
export interface Length {
  days: number;
  ms: number;
}

/** RRULE, RDATE, EXRULE and EXDATE of one component, the rules as written. */
export interface Repeat {
  rules: string[];
  exceptRules: string[];
  dates: { start: When; length?: Length | undefined }[];
  exceptDates: When[];
}

/**
 * Whether it goes on for ever: a rule has neither an end nor a number of times that anybody counts (RFC 5545
 * 3.3.10).
 */
export const isEndless = (repeat: Repeat | null): boolean =>
  repeat?.rules.some((rule) => !/(?:^|;)\s*(?:UNTIL\s*=|COUNT\s*=\s*0*\d{1,6}(?!\d))/i.test(rule)) ?? false;

/** Parts of a component that expansion needs; a feed's item has all of it. */
export interface Repeatable {
  start: When | null;
  /** End, or due date where there is a start as well */
  end: When | null;
  due: When | null;
  /** Given instead of an end */
  length: Length | null;
  repeat: Repeat | null;
  recurrenceId: When | null;
  /** RANGE=THISANDFUTURE (RFC 5545 3.2.13) */
  andFuture: boolean;
}

export interface Horizon {
  /** Instants, in milliseconds: what touches from ≤ t < to is given. */
  from: number;
  to: number;
  /** Whose wall clock floating times and all-day dates are on. */
  viewer: Zone;
  zones: ZoneFinder;
  /** The most occurrences one item may have. */
  limit: number;
  /** Work that is left for its rules; without it, each has as much as any may have */
  budget?: Budget | undefined;
  warn(message: string): void;
}

/** The date a component stands at: its start, or its due date where it has only that. */
export const anchorOf = (item: Pick<Repeatable, 'start' | 'due'>): When | null => item.start ?? item.due;

/**
 * The length of every occurrence: as DURATION says, else the exact distance from start to end (RFC 5545
 * 3.8.5.3).
 */
export function lengthOf(item: Repeatable, { viewer }: Horizon): Length {
  if (item.length) return item.length;
  const end = item.end ?? (item.start ? item.due : null);
  if (!item.start || !end) return { days: 0, ms: 0 };
  if (item.start.kind === 'date' && end.kind === 'date')
    return { days: Math.max(0, parseDate(end.date) - parseDate(item.start.date)), ms: 0 };
  return { days: 0, ms: Math.max(0, instantIn(end, viewer) - instantIn(item.start, viewer)) };
}

/** A When of the same kind and zone as `like`, at this local time. */
export function atLocal(like: When, local: number, zones: ZoneFinder): When {
  if (like.kind === 'date') return dateOf(Math.floor(local / DAY));
  if (like.kind === 'floating') return floatingOf(local);
  return instantOf(zones(like.zone).toInstant(local), like.zone);
}

/** The day of a moment on the calendar of a zone, in days since 1970. */
export const dayOf = (when: When, zone: Zone) => Math.floor(localIn(when, zone) / DAY);
