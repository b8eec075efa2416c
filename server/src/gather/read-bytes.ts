import { entriesOf, expandEntry, type Entry, type EntryOccurrence } from '@zephyrfield/core/gather/entries';
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

/** The whole way from bytes to entries. Pure but for its speed; runs in a worker thread. */
export function readBytes(job: ReadJob): ReadResult {
  const zone = ianaZone(job.zone) ?? UTC;
  const { items, ...reading } = readFeed(job.bytes, { charset: job.charset, fallbackZone: zone });
  const entries = entriesOf({ items: joinWindows(items) }, job.calendar).map((entry) => ({
    ...entry,
    occurrences: expandEntry(entry, { from: job.from, to: job.to, zone, zones: reading.zones, calendar: job.calendar }),
  }));
  return { ...reading, zones: { ...reading.zones }, entries };
}
