import { DAY, HOUR, MINUTE, SECOND, dayNumber } from './civil.ts';

/** What turns wall-clock time into instants and back. All numbers are milliseconds. */
export interface Zone {
  readonly id: string;
  /** Gives what to add to an instant to get local time. */
  offsetAt(instant: number): number;
  /**
   * The instant of a local time, as RFC 5545 3.3.5 says: a time that does not exist is read with the offset
   * before the gap (so it lands after it), a time that happens twice is its first.
   */
  toInstant(local: number): number;
  /** False where clocks skip this local time; RFC 5545 3.3.10 drops a repeat's occurrences there. */
  exists(local: number): boolean;
}

/**
 * A zone described by its offset changes, in ascending order. The first entry holds from the beginning of
 * time.
 */
export class TransitionZone implements Zone {
  constructor(
    readonly id: string,
    private readonly at: readonly number[],
    private readonly offset: readonly number[],
  ) {}

  offsetAt(instant: number): number {
    return this.offset[this.index(instant)]!;
  }

  private index(instant: number): number {
    let low = 0;
    let high = this.at.length - 1;
    while (low < high) {
      const mid = (low + high + 1) >> 1;
      if (this.at[mid]! <= instant) low = mid;
      else high = mid - 1;
    }
    return low;
  }

  toInstant(local: number): number {
    // No offset is further than a day from UTC, so the right period is one of the few around the naive
    // reading.
    const first = this.index(local - DAY);
    for (let i = first; i < this.at.length; i++) {
      const instant = local - this.offset[i]!;
      const next = this.at[i + 1] ?? Infinity;
      if (instant < next)
        return instant >= this.at[i]! || i === first ? instant : local - this.offset[i - 1]!;
    }
    return local - this.offset[this.offset.length - 1]!;
  }

  exists(local: number): boolean {
    const instant = this.toInstant(local);
    return instant + this.offsetAt(instant) === local;
  }
}

export function fixedZone(id: string, offset: number): Zone {
  return new TransitionZone(id, [-Infinity], [offset]);
}

export const UTC: Zone = fixedZone('UTC', 0);

/**
 * A zone of the time-zone database. Its offset changes are found on demand, some four years at a time, by
 * sampling weekly and closing in: Intl answers in microseconds where a search for each next change takes
 * milliseconds.
 */
class DatabaseZone implements Zone {
  private readonly spans = new Map<number, TransitionZone>();
  private readonly format: Intl.DateTimeFormat;

  constructor(readonly id: string) {
    this.format = new Intl.DateTimeFormat('en-US', {
      timeZone: id,
      hourCycle: 'h23',
      era: 'short',
      year: 'numeric',
      month: 'numeric',
      day: 'numeric',
      hour: 'numeric',
      minute: 'numeric',
      second: 'numeric',
    });
  }

  offsetAt(instant: number): number {
    return this.span(instant).offsetAt(instant);
  }

  toInstant(local: number): number {
    return this.span(local).toInstant(local);
  }

  exists(local: number): boolean {
    return this.span(local).exists(local);
  }

  private span(ms: number): TransitionZone {
    const index = Math.floor(ms / SPAN);
    let span = this.spans.get(index);
    if (!span)
      this.spans.set(index, (span = this.survey(index * SPAN - 3 * DAY, (index + 1) * SPAN + 3 * DAY)));
    return span;
  }

  private survey(begin: number, to: number): TransitionZone {
    // Clocks change at whole seconds: from a fraction of one, a change would be found a fraction too late.
    const from = Math.floor(begin / SECOND) * SECOND;
    const at = [-Infinity];
    const offset = [this.measure(from)];
    for (let ms = from; ms < to; ms += 7 * DAY) {
      const before = offset[offset.length - 1]!;
      const after = this.measure(ms + 7 * DAY);
      if (after === before) continue;
      let low = ms;
      let high = ms + 7 * DAY;
      while (high - low > SECOND) {
        const mid = low + Math.floor((high - low) / 2 / SECOND) * SECOND;
        if (this.measure(mid) === before) low = mid;
        else high = mid;
      }
      at.push(high);
      offset.push(after);
    }
    return new TransitionZone(this.id, at, offset);
  }

  private measure(instant: number): number {
    const m = /^(\d+)\/(\d+)\/(\d+) (\w+), (\d+):(\d+):(\d+)$/.exec(this.format.format(instant));
    if (!m) return 0;
    const year = m[4] === 'B' || m[4] === 'BC' ? 1 - Number(m[3]) : Number(m[3]);
    const local =
      dayNumber(year, Number(m[1]), Number(m[2])) * DAY +
      Number(m[5]) * HOUR +
      Number(m[6]) * MINUTE +
      Number(m[7]) * SECOND;
    return local - Math.floor(instant / SECOND) * SECOND;
  }
}

const SPAN = 2 ** 37;
const cache = new Map<string, Zone | null>();

/** The zone of the time-zone database with this name, in any letter case; undefined if there is none. */
export function ianaZone(name: string): Zone | undefined {
  let zone = cache.get(name);
  if (zone === undefined) {
    zone = findZone(name);
    // Feeds choose these names: what is remembered must not grow without end.
    if (cache.size < 2000) cache.set(name, zone);
  }
  return zone ?? undefined;
}

function findZone(name: string): Zone | null {
  if (name === 'UTC' || name === 'Z') return UTC;
  if (!/^[A-Za-z][A-Za-z0-9+\-_/]*$/.test(name)) return null;
  try {
    // Names stay as they are given: Intl would put the oldest name of a place in place of its present one.
    return new DatabaseZone(spelling(name));
  } catch {
    return null;
  }
}

let spellings: Map<string, string> | undefined;

/** A zone's name in the letter case of the database. */
function spelling(name: string): string {
  spellings ??= new Map(Intl.supportedValuesOf('timeZone').map((each) => [each.toLowerCase(), each]));
  return spellings.get(name.toLowerCase()) ?? name;
}
