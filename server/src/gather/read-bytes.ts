import { entriesOf, expandEntry, type Entry, type EntryOccurrence } from '@zephyrfield/core/gather/entries';
import { OCCURRENCE_LIMIT } from '@zephyrfield/core/gather/occurrences';
import { joinWindows } from '@zephyrfield/core/gather/windows';
import { readFeed, type Reading } from '@zephyrfield/core/ical/reading';
import type { CalendarSort } from '@zephyrfield/core/item/sort';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';

export interface ReadJob {
  bytes: Uint8Array;
  charset?: string | undefined;
  /** IANA name of the calendar's zone */
  zone: string;
  calendar: CalendarSort;
  /** Horizon for occurrences, instants in milliseconds */
  from: number;
  to: number;
}

export interface ReadEntry extends Entry {
  occurrences: EntryOccurrence[];
}

/** A reading as it leaves the worker: what the feed says of itself, and its entries with their occurrences. */
export type ReadResult = Omit<Reading, 'items'> & { entries: ReadEntry[] };

/** The most occurrences one reading may ask the store to keep: a school's year has a few thousand. */
const MOST_OCCURRENCES = 100_000;

/** The whole way from bytes to entries. Pure but for its speed; runs in a worker thread. */
export function readBytes(job: ReadJob): ReadResult {
  const zone = ianaZone(job.zone) ?? UTC;
  const { items, ...reading } = readFeed(job.bytes, { charset: job.charset, fallbackZone: zone });
  const all = entriesOf({ items: joinWindows(items) }, job.calendar);
  const dates = new Map<Entry, EntryOccurrence[]>();
  let left = MOST_OCCURRENCES;
  // What stands once comes first: no repeat, however wild, may crowd out a deadline.
  for (const entry of [...all].sort((a, b) => Number(Boolean(a.content.master?.repeat)) - Number(Boolean(b.content.master?.repeat)))) {
    const limit = Math.min(OCCURRENCE_LIMIT, left);
    const occurrences = expandEntry(entry, { from: job.from, to: job.to, zone, zones: reading.zones, calendar: job.calendar, limit }).slice(0, left);
    left -= occurrences.length;
    dates.set(entry, occurrences);
  }
  const entries = all.map((entry) => ({ ...entry, occurrences: dates.get(entry)! }));
  if (left === 0) reading.warnings.push({ line: null, message: `there is more in it than can be kept; the first ${MOST_OCCURRENCES} dates are shown` });
  return { ...reading, zones: { ...reading.zones }, entries };
}
