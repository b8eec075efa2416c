import type { FeedItem } from '../ical/feed-item.ts';
import { zoneFinder, type OwnZones } from '../ical/zones.ts';
import { expandSeries, type Occurrence } from '../recurrence/series.ts';
import type { Zone } from '../time/zone.ts';

export interface OccurrenceOptions {
  from: number;
  to: number;
  viewer: Zone;
  zones: OwnZones;
  limit?: number;
  warn?: (message: string, item: FeedItem) => void;
}

/** The most occurrences one item may have in a horizon: five a day for four years. */
export const OCCURRENCE_LIMIT = 7500;

/** Groups items by UID: a master with its overrides. Order of first appearance. */
export function seriesOf<T extends FeedItem>(items: readonly T[]): { master: T | null; overrides: T[] }[] {
  const groups = new Map<string, { master: T | null; overrides: T[] }>();
  for (const item of items) {
    let group = groups.get(item.uid);
    if (!group) groups.set(item.uid, (group = { master: null, overrides: [] }));
    if (item.recurrenceId) group.overrides.push(item);
    else group.master = item;
  }
  return [...groups.values()];
}

/** Every occurrence of a reading's items inside a window (instants, milliseconds). */
export function occurrencesOf<T extends FeedItem>(
  items: readonly T[],
  options: OccurrenceOptions,
): Occurrence<T>[] {
  const zones = zoneFinder(options.zones, options.viewer);
  return seriesOf(items).flatMap(({ master, overrides }) =>
    expandSeries(master, overrides, {
      from: options.from,
      to: options.to,
      viewer: options.viewer,
      zones,
      limit: options.limit ?? OCCURRENCE_LIMIT,
      warn: (message) => options.warn?.(message, (master ?? overrides[0])!),
    }),
  );
}
