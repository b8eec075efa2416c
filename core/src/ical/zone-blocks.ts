import { DAY, HOUR, MINUTE, SECOND, formatLocal } from '../time/civil.ts';
import { UTC, ianaZone, type Zone } from '../time/zone.ts';
import type { Property, Written } from './property.ts';
import { zoneOfObservances, type Observance, type OwnZones } from './zones.ts';

/** The zones that the times of a calendar going out are in, each with its VTIMEZONE (RFC 5545 3.6.5). */
export interface WrittenZones {
  /** Tells how a zone is written; null where nothing can be said of it, so that its times go out in UTC */
  of(name: string): { tzid: string; zone: Zone } | null;
}

interface WrittenZone {
  tzid: string;
  zone: Zone;
  block: Written;
}

/** Gathers the zones of one calendar. Two feeds may give one name to zones of their own: these get two names. */
export class ZoneBlocks {
  private readonly found = new Map<string, WrittenZone | null>();
  private readonly own = new Map<string, WrittenZone>();

  /** The zones as the times of one source name them. */
  within(zones: OwnZones): WrittenZones {
    return {
      of: (name) => {
        if (name === UTC.id) return null;
        return this.known(name) ?? (Object.hasOwn(zones, name) ? this.ofSource(name, zones[name]!) : null);
      },
    };
  }

  /** The VTIMEZONEs of all that was named. */
  blocks(): Written[] {
    return [...this.found.values(), ...this.own.values()].flatMap((zone) => (zone ? [zone.block] : []));
  }

  private known(name: string): WrittenZone | null {
    const kept = this.found.get(name);
    if (kept !== undefined) return kept;
    const zone = ianaZone(name);
    const made = zone ? { tzid: zone.id, zone, block: blockFrom(zone.id, observancesOf(zone)) } : null;
    this.found.set(name, made);
    return made;
  }

  private ofSource(name: string, observances: readonly Observance[]): WrittenZone | null {
    const key = JSON.stringify([name, observances]);
    const kept = this.own.get(key);
    if (kept) return kept;
    const zone = zoneOfObservances(name, observances);
    if (!zone) return null;
    const taken = [...this.own.values()].filter((each) => each.zone.id === name).length;
    const tzid = taken ? `${name} ${taken + 1}` : name;
    const made = { tzid, zone, block: blockFrom(tzid, observances) };
    this.own.set(key, made);
    return made;
  }
}

/** The years whose changes of clocks go out: those before and after keep the first and the last hours. */
const [FROM, TO] = [Date.UTC(2020, 0, 1), Date.UTC(2046, 0, 1)];
/** No zone changes its clocks twice within so long, but for a few days of a past Ramadan. */
const STEP = 6 * DAY;
const known = new Map<string, Observance[]>();

/**
 * A zone's changes of clocks as they are reckoned here, so that whoever reads a local time by them gets the moment that
 * was meant: lists of time zones that packages bring along are of other editions, and leave out what is irregular.
 */
function observancesOf(zone: Zone): Observance[] {
  const kept = known.get(zone.id);
  if (kept) return kept;
  const groups = new Map<string, Observance>();
  const put = (at: number, offsetFrom: number, offsetTo: number) => {
    const local = formatLocal(at + offsetFrom);
    const group = groups.get(`${offsetFrom} ${offsetTo}`);
    if (group) group.dates.push(local);
    else
      groups.set(`${offsetFrom} ${offsetTo}`, { start: local, offsetFrom, offsetTo, rules: [], dates: [] });
  };
  let before = zone.offsetAt(FROM);
  put(FROM, before, before);
  for (let at = FROM; at < TO; at += STEP) {
    const after = zone.offsetAt(at + STEP);
    if (after !== before) put(changeBetween(zone, at, at + STEP), before, after);
    before = after;
  }
  const found = [...groups.values()];
  known.set(zone.id, found);
  return found;
}

/** The first second of other hours between two instants that have different ones. */
function changeBetween(zone: Zone, from: number, to: number): number {
  const before = zone.offsetAt(from);
  let [low, high] = [from, to];
  while (high - low > SECOND) {
    const middle = Math.floor((low + high) / 2 / SECOND) * SECOND;
    if (zone.offsetAt(middle) === before) low = middle;
    else high = middle;
  }
  return high;
}

/** A VTIMEZONE that says what was read of one. */
function blockFrom(tzid: string, observances: readonly Observance[]): Written {
  const sub = ({ start, offsetFrom, offsetTo, rules, dates }: Observance): Written => [
    offsetTo > offsetFrom ? 'daylight' : 'standard',
    [
      ['dtstart', {}, 'date-time', start],
      ['tzoffsetfrom', {}, 'utc-offset', offsetText(offsetFrom)],
      ['tzoffsetto', {}, 'utc-offset', offsetText(offsetTo)],
      ...rules.map((rule): Property => ['rrule', {}, 'unknown', rule]),
      ...dates.map((date): Property => ['rdate', {}, 'date-time', date]),
    ],
    [],
  ];
  return ['vtimezone', [['tzid', {}, 'text', tzid]], observances.map(sub)];
}

function offsetText(ms: number): string {
  const [sign, size] = [ms < 0 ? '-' : '+', Math.abs(ms)];
  const two = (value: number) => String(Math.floor(value)).padStart(2, '0');
  const seconds = (size % MINUTE) / SECOND;
  return `${sign}${two(size / HOUR)}:${two((size % HOUR) / MINUTE)}${seconds ? `:${two(seconds)}` : ''}`;
}
