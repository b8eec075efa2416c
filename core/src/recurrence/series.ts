import { DAY, parseDate } from '../time/civil.ts';
import {
  dateOf,
  floatingOf,
  instantIn,
  instantOf,
  localIn,
  ownLocal,
  recurrenceIdOf,
  type When,
} from '../time/when.ts';
import {
  anchorOf,
  atLocal,
  dayOf,
  lengthOf,
  type Horizon,
  type Length,
  type Repeatable,
} from './repeatable.ts';
import { repeatedStarts, type Start } from './starts.ts';

export interface Occurrence<T> {
  item: T;
  /**
   * Names this occurrence among its series for good: where it stood before any move. Empty for what does not
   * repeat.
   */
  recurrenceId: string;
  start: When;
  end: When | null;
  due: When | null;
  overridden: boolean;
}

/**
 * The occurrences of one UID inside a horizon: its master (if any) repeated, with overrides put in their
 * places. An override whose place the rule does not give is still shown. Times in no particular order.
 */
export function expandSeries<T extends Repeatable>(
  master: T | null,
  overrides: readonly T[],
  horizon: Horizon,
): Occurrence<T>[] {
  if (master && !master.repeat && !overrides.length) {
    const single = occurrence(master, anchorOf(master), '', false, horizon);
    return single && touches(single, horizon) ? [single] : [];
  }
  const repeats = master?.repeat ? repeatedStarts(master, horizon) : null;
  const starts = repeats ?? new Map<string, Start>();
  if (master && !master.repeat) {
    const only = anchorOf(master);
    if (only) starts.set(recurrenceIdOf(only), { start: only });
  }

  const shifts = overrides
    .filter((o) => o.andFuture && o.recurrenceId && anchorOf(o))
    .sort((a, b) => instantIn(a.recurrenceId!, horizon.viewer) - instantIn(b.recurrenceId!, horizon.viewer));
  const shiftAt = shifts.map((s) => instantIn(s.recurrenceId!, horizon.viewer));
  const place = placer(starts, master, horizon);
  const result: Occurrence<T>[] = [];
  const placed = new Set<string>();
  for (const override of overrides) {
    const recurrenceId = place(override.recurrenceId!);
    const moved = occurrence(
      override,
      anchorOf(override) ?? override.recurrenceId,
      recurrenceId,
      true,
      horizon,
    );
    placed.add(recurrenceId);
    if (moved && touches(moved, horizon)) result.push(moved);
  }
  const stand = master && standing(master, horizon);
  for (const [recurrenceId, each] of starts) {
    if (placed.has(recurrenceId) || !master) continue;
    const shift = shifts.length
      ? shifts[lastAtMost(shiftAt, each.at ?? instantIn(each.start, horizon.viewer))]
      : undefined;
    const repeated = shift ? shifted(shift, each.start, recurrenceId, horizon) : stand!(each, recurrenceId);
    if (repeated) result.push(repeated);
  }
  return result;
}

/**
 * What stands at the starts of one component. Its length is worked out once, and instants that are known are not
 * read back from their texts: a series may have thousands of dates, and a feed thousands of series.
 */
function standing<T extends Repeatable>(
  item: T,
  horizon: Horizon,
): (at: Start, recurrenceId: string) => Occurrence<T> | null {
  const { from, to } = horizon;
  const length = lengthOf(item, horizon);
  const own = anchorOf(item);
  const ownId = own && recurrenceIdOf(own);
  const endZone = item.end?.kind === 'instant' ? item.end.zone : null;
  // The most common of all: at an hour, for so long.
  const isPlain = !item.due && length.days === 0 && (item.length ?? item.end) !== null;
  return (each, recurrenceId) => {
    const { start, at } = each;
    if (isPlain && at !== undefined && !each.length && start.kind === 'instant' && recurrenceId !== ownId) {
      const stop = at + length.ms;
      return at < to && (stop > from || (stop <= at && at >= from))
        ? {
            item,
            recurrenceId,
            start,
            end: instantOf(stop, endZone ?? start.zone),
            due: null,
            overridden: false,
          }
        : null;
    }
    const found = occurrence(item, start, recurrenceId, false, horizon, each.length);
    return found && touches(found, horizon) ? found : null;
  };
}

/** The place of the last of some ascending numbers that is at most this; -1 where all are beyond it. */
function lastAtMost(ascending: readonly number[], most: number): number {
  let low = 0;
  let high = ascending.length;
  while (low < high) {
    const mid = (low + high) >> 1;
    if (ascending[mid]! <= most) low = mid + 1;
    else high = mid;
  }
  return low - 1;
}

/**
 * Which occurrence an override means; a date or another zone's time is understood as well as the very start. Each
 * way of looking is prepared once, since a series may have thousands of overrides.
 */
function placer(
  starts: ReadonlyMap<string, unknown>,
  master: Repeatable | null,
  { viewer, zones }: Horizon,
): (id: When) => string {
  const anchor = master && anchorOf(master);
  const ownZone = anchor?.kind === 'instant' ? zones(anchor.zone) : viewer;
  const indexed = (keyOf: (start: When) => number) => {
    let index: Map<number, string> | null = null;
    return (key: number) => {
      if (!index) {
        index = new Map();
        for (const name of starts.keys()) {
          const at = keyOf(whenLike(anchor!, name));
          if (!index.has(at)) index.set(at, name);
        }
      }
      return index.get(key);
    };
  };
  const onDay = indexed((start) => dayOf(start, ownZone));
  const atMoment = indexed((start) => instantIn(start, ownZone));
  return (id) => {
    const recurrenceId = recurrenceIdOf(id);
    if (starts.has(recurrenceId) || !anchor || anchor.kind === id.kind) return recurrenceId;
    return (
      (id.kind === 'date' ? onDay(parseDate(id.date)) : atMoment(instantIn(id, ownZone))) ?? recurrenceId
    );
  };
}

const whenLike = (anchor: When, recurrenceId: string): When =>
  anchor.kind === 'instant'
    ? { ...anchor, at: recurrenceId }
    : anchor.kind === 'date'
      ? { kind: 'date', date: recurrenceId }
      : { kind: 'floating', local: recurrenceId };

/**
 * An occurrence that follows a this-and-future override: as far from its own place as that override is from
 * its.
 */
function shifted<T extends Repeatable>(
  override: T,
  start: When,
  recurrenceId: string,
  horizon: Horizon,
): Occurrence<T> | null {
  const anchor = anchorOf(override)!;
  const delta =
    ownLocal(anchor, horizon.zones) -
    ownLocal({ ...override.recurrenceId!, ...sameZone(anchor) } as When, horizon.zones);
  const found = occurrence(
    override,
    atLocal(
      anchor,
      ownLocal({ ...start, ...sameZone(anchor) } as When, horizon.zones) + delta,
      horizon.zones,
    ),
    recurrenceId,
    true,
    horizon,
  );
  return found && touches(found, horizon) ? found : null;
}

const sameZone = (when: When) => (when.kind === 'instant' ? { zone: when.zone } : {});

function addLength(start: When, length: Length, endZone: When | null, { zones, viewer }: Horizon): When {
  if (start.kind === 'date') return dateOf(parseDate(start.date) + length.days + Math.floor(length.ms / DAY));
  const zone = start.kind === 'instant' ? zones(start.zone) : viewer;
  // Days keep the hour on the wall clock, the rest is exact (RFC 5545 3.3.6).
  const ms =
    length.days === 0 ? instantIn(start, zone) : zone.toInstant(localIn(start, zone) + length.days * DAY);
  const end = ms + length.ms;
  if (start.kind === 'floating') return floatingOf(end + zone.offsetAt(end));
  return instantOf(end, endZone?.kind === 'instant' ? endZone.zone : start.zone);
}

function occurrence<T extends Repeatable>(
  item: T,
  start: When | null,
  recurrenceId: string,
  overridden: boolean,
  horizon: Horizon,
  ownLength?: Length,
): Occurrence<T> | null {
  if (!start) return null;
  const isOwn =
    !ownLength && !item.length && recurrenceIdOf(start) === recurrenceIdOf(anchorOf(item) ?? start);
  if (isOwn) return { item, recurrenceId, start, end: item.end, due: item.due, overridden };
  const hasEnd = Boolean(ownLength ?? item.length ?? item.end);
  const length = ownLength ?? lengthOf(item, horizon);
  const end = hasEnd ? addLength(start, length, item.end, horizon) : null;
  const due = !item.due ? null : item.start ? addLength(start, length, item.due, horizon) : start;
  return { item, recurrenceId, start, end, due, overridden };
}

function touches(o: Occurrence<unknown>, { from, to, viewer }: Horizon): boolean {
  const start = instantIn(o.start, viewer);
  const end = o.end ?? o.due;
  // An all-day item without an end lasts its day; anything else without one is a moment.
  const stop = end ? instantIn(end, viewer) : o.start.kind === 'date' ? start + DAY : start;
  return start < to && (stop > from || (stop <= start && start >= from));
}
