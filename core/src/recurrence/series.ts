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
  type ZoneFinder,
} from '../time/when.ts';
import { UTC, type Zone } from '../time/zone.ts';
import { expandRule, type Budget } from './expand.ts';
import { RuleError, parseRule, type Rule } from './rule.ts';

/** How long an occurrence lasts: days on the calendar first, then exact milliseconds (RFC 5545 3.3.6). */
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

/** What expansion needs to know of a component; a feed's item has all of it. */
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

/** Where a repeat puts an occurrence: its start, the same as an instant where that is known, and a length of its own. */
interface Start {
  start: When;
  at?: number;
  length?: Length | undefined;
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
const dayOf = (when: When, zone: Zone) => Math.floor(localIn(when, zone) / DAY);

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

/** A When of the same kind and zone as `like`, at this local time. */
function atLocal(like: When, local: number, zones: ZoneFinder): When {
  if (like.kind === 'date') return dateOf(Math.floor(local / DAY));
  if (like.kind === 'floating') return floatingOf(local);
  return instantOf(zones(like.zone).toInstant(local), like.zone);
}

/** The starts that a component's repeats give, by what names them. */
function repeatedStarts(master: Repeatable, horizon: Horizon): Map<string, Start> {
  const anchor = anchorOf(master);
  const repeat = master.repeat;
  if (!anchor || !repeat) return new Map();
  const zone = anchor.kind === 'instant' ? horizon.zones(anchor.zone) : horizon.viewer;
  const allDay = anchor.kind === 'date';
  const own = anchor.kind === 'floating' || allDay ? UTC : zone;
  const startLocal = ownLocal(anchor, horizon.zones);
  // Instances that began before the horizon may still be running in it; a day covers any zone's distance from
  // UTC.
  const length = lengthOf(master, horizon);
  const from = horizon.from - length.days * DAY - Math.max(0, length.ms) - 2 * DAY;
  const to = horizon.to + 2 * DAY;
  const all = (rules: string[]) => {
    const found = new Map<number, true>();
    for (const text of rules) {
      const rule = readRule(text, horizon);
      if (!rule) continue;
      const { times, cutShort } = expandRule(
        rule,
        startLocal,
        {
          allDay,
          from,
          to,
          toInstant: (l) => (anchor.kind === 'instant' ? own.toInstant(l) : horizon.viewer.toInstant(l)),
          exists: (l) => own.exists(l),
          budget: horizon.budget,
        },
        horizon.limit,
      );
      if (cutShort) horizon.warn(`repeats too often to show in full: ${text.slice(0, 80)}`);
      for (const t of times) found.set(t, true);
    }
    return found;
  };

  const starts = new Map<string, Start>();
  const put = (start: When, own?: Length) => starts.set(recurrenceIdOf(start), { start, length: own });
  // "The DTSTART property value ... counts as the first occurrence" (RFC 5545 3.8.5.3), in step with its rule
  // or not.
  put(anchor);
  for (const local of all(repeat.rules).keys()) {
    if (anchor.kind !== 'instant') put(atLocal(anchor, local, horizon.zones));
    else {
      const at = own.toInstant(local);
      const start = instantOf(at, anchor.zone);
      starts.set(start.at, { start, at });
    }
  }
  for (const { start, length: own } of repeat.dates)
    put(
      start.kind === 'date' && !allDay
        ? atLocal(anchor, parseDate(start.date) * DAY + (((startLocal % DAY) + DAY) % DAY), horizon.zones)
        : start,
      own,
    );
  for (const local of all(repeat.exceptRules).keys())
    starts.delete(recurrenceIdOf(atLocal(anchor, local, horizon.zones)));
  except(starts, repeat.exceptDates, anchor, zone, horizon);
  return starts;
}

/**
 * Takes out EXDATEs: of the same form by their key; a bare date takes out its whole day, another form its
 * moment.
 */
function except(
  starts: Map<string, { start: When }>,
  exceptDates: readonly When[],
  anchor: When,
  zone: Zone,
  horizon: Horizon,
): void {
  const days = new Set<number>();
  const moments = new Set<number>();
  for (const date of exceptDates) {
    if (date.kind === anchor.kind) starts.delete(recurrenceIdOf(date));
    else if (date.kind === 'date' || anchor.kind === 'date')
      days.add(dayOf(date, date.kind === 'instant' ? horizon.zones(date.zone) : zone));
    else moments.add(date.kind === 'floating' ? instantIn(date, zone) : instantIn(date, horizon.viewer));
  }
  if (!days.size && !moments.size) return;
  for (const [recurrenceId, { start }] of starts)
    if (days.has(dayOf(start, zone)) || moments.has(instantIn(start, zone))) starts.delete(recurrenceId);
}

function readRule(text: string, horizon: Horizon): Rule | null {
  try {
    return parseRule(text);
  } catch (error) {
    if (!(error instanceof RuleError)) throw error;
    horizon.warn(`a repeat that cannot be followed was left out: ${error.message}`);
    return null;
  }
}

/**
 * The length of every occurrence: as DURATION says, else the exact distance from start to end (RFC 5545
 * 3.8.5.3).
 */
function lengthOf(item: Repeatable, { viewer }: Horizon): Length {
  if (item.length) return item.length;
  const end = item.end ?? (item.start ? item.due : null);
  if (!item.start || !end) return { days: 0, ms: 0 };
  if (item.start.kind === 'date' && end.kind === 'date')
    return { days: Math.max(0, parseDate(end.date) - parseDate(item.start.date)), ms: 0 };
  return { days: 0, ms: Math.max(0, instantIn(end, viewer) - instantIn(item.start, viewer)) };
}

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
