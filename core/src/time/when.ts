import { DAY, formatDate, formatInstant, formatLocal, parseDate, parseInstant, parseLocal } from './civil.ts';
import { UTC, type Zone } from './zone.ts';

/**
 * A date as a calendar means it. The three kinds never turn into each other by themselves: an all-day date is
 * a date and not midnight somewhere, a floating time is the same on every wall clock, an instant is one
 * moment for everybody.
 */
export type When =
  | { kind: 'date'; date: string }
  | { kind: 'floating'; local: string }
  | { kind: 'instant'; at: string; zone: string };

export const dateOf = (days: number): When => ({ kind: 'date', date: formatDate(days) });
export const floatingOf = (local: number): When => ({ kind: 'floating', local: formatLocal(local) });
export const instantOf = (ms: number, zone = 'UTC'): When & { kind: 'instant' } => ({
  kind: 'instant',
  at: formatInstant(ms),
  zone,
});

/** Finds a zone by the name a When carries; the IANA ones and a feed's own. */
export type ZoneFinder = (name: string) => Zone;

/**
 * The moment a When begins for somebody in `viewer`, in milliseconds since the epoch: an all-day date begins
 * at that person's midnight, a floating time is on that person's wall clock.
 */
export function instantIn(when: When, viewer: Zone): number {
  if (when.kind === 'instant') return parseInstant(when.at);
  if (when.kind === 'floating') return viewer.toInstant(parseLocal(when.local));
  return viewer.toInstant(parseDate(when.date) * DAY);
}

/** The day number on which somebody in `viewer` sees it. */
export function dayIn(when: When, viewer: Zone): number {
  return when.kind === 'date' ? parseDate(when.date) : Math.floor(localIn(when, viewer) / DAY);
}

/** Wall-clock time for somebody in `viewer`; midnight for an all-day date. */
export function localIn(when: When, viewer: Zone): number {
  if (when.kind === 'date') return parseDate(when.date) * DAY;
  if (when.kind === 'floating') return parseLocal(when.local);
  const ms = parseInstant(when.at);
  return ms + viewer.offsetAt(ms);
}

/** Wall-clock time in the When's own zone: what its repeats are counted in. */
export function ownLocal(when: When, zones: ZoneFinder): number {
  return localIn(when, when.kind === 'instant' ? zones(when.zone) : UTC);
}

/**
 * One text per moment, the same for the same moment: dates and floating times as written, instants in UTC.
 */
export function recurrenceIdOf(when: When): string {
  return when.kind === 'date' ? when.date : when.kind === 'floating' ? when.local : when.at;
}

/** Zone names as JSON, each written once */
const ZONE_TEXTS = new Map<string, string>();
function zoneText(zone: string): string {
  const text = ZONE_TEXTS.get(zone) ?? JSON.stringify(zone);
  if (ZONE_TEXTS.size < 1000) ZONE_TEXTS.set(zone, text);
  return text;
}

/** A When as JSON, as `JSON.stringify` would write it: a feed has tens of thousands of them. */
export function whenText(when: When): string {
  if (when.kind === 'instant') return `{"kind":"instant","at":"${when.at}","zone":${zoneText(when.zone)}}`;
  return when.kind === 'date'
    ? `{"kind":"date","date":"${when.date}"}`
    : `{"kind":"floating","local":"${when.local}"}`;
}
