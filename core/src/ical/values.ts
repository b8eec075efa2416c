import { DAY, HOUR, MINUTE, SECOND, parseDate, parseLocal } from '../time/civil.ts';
import { instantOf, type When } from '../time/when.ts';
import type { Zone } from '../time/zone.ts';
import type { Length } from '../recurrence/repeatable.ts';
import type { Property } from './property.ts';

export type ZoneByTzid = (tzid: string) => Zone;

const DATE_TIME = /^(\d{4})-?(\d\d)-?(\d\d)(?:T(\d\d):?(\d\d):?(\d\d)?(?:\.\d+)?(Z|[+-]\d\d:?\d\d)?)?$/i;

/**
 * Reads one DATE or DATE-TIME value (RFC 5545 3.3.4, 3.3.5).
 * @returns null where it is no date that exists
 */
export function readWhen(text: string, tzid: string | undefined, zoneByTzid: ZoneByTzid): When | null {
  const m = DATE_TIME.exec(text.trim());
  if (!m) return null;
  const date = `${m[1]}-${m[2]}-${m[3]}`;
  if (Number.isNaN(parseDate(date))) return null;
  if (!m[4]) return { kind: 'date', date };
  const local = parseLocal(`${date}T${m[4]}:${m[5]}:${m[6] ?? '00'}`);
  if (Number.isNaN(local)) return null;
  if (m[7]) {
    const sign = /^([+-])(\d\d):?(\d\d)$/.exec(m[7]);
    const offset = sign
      ? (sign[1] === '-' ? -1 : 1) * (Number(sign[2]) * HOUR + Number(sign[3]) * MINUTE)
      : 0;
    return instantOf(local - offset);
  }
  if (!tzid)
    return { kind: 'floating', local: `${date}T${m[4]}:${m[5]}:${m[6] ?? '00'}`.replace(/60$/, '59') };
  const zone = zoneByTzid(tzid);
  return instantOf(zone.toInstant(local), zone.id);
}

/** The TZID parameter without the quotes some writers leave in, undefined where there is none. */
export function tzidOf(property: Property): string | undefined {
  const tzid = property[1]['tzid'];
  return (Array.isArray(tzid) ? tzid[0] : tzid)?.replaceAll('"', '').trim() || undefined;
}

/** Every value of a date property (EXDATE and RDATE hold lists). */
export function readWhens(property: Property, zoneByTzid: ZoneByTzid): (When | null)[] {
  return String(property[3] ?? '')
    .split(',')
    .filter((v) => v.trim())
    .map((v) => readWhen(v, tzidOf(property), zoneByTzid));
}

const DURATION = /^([+-])?P(?:(\d+)W)?(?:(\d+)D)?(?:T(?:(\d+)H)?(?:(\d+)M)?(?:(\d+)S)?)?$/i;

/** Reads a DURATION (RFC 5545 3.3.6); null where malformed. Days and weeks are kept apart from exact time. */
export function readDuration(text: string): Length | null {
  const m = DURATION.exec(text.trim());
  if (!m || m.slice(2).every((g) => g === undefined)) return null;
  const [weeks, days, hours, minutes, seconds] = m.slice(2).map((g) => Number(g ?? 0)) as [
    number,
    number,
    number,
    number,
    number,
  ];
  const sign = m[1] === '-' ? -1 : 1;
  // Adding nothing turns -0 into 0.
  const length = {
    days: sign * (weeks * 7 + days) + 0,
    ms: sign * (hours * HOUR + minutes * MINUTE + seconds * SECOND) + 0,
  };
  return Math.abs(length.days) * DAY + Math.abs(length.ms) > 3660 * DAY ? null : length;
}

/** Reads one PERIOD of an RDATE (RFC 5545 3.3.9): its start, and its length if it gives one. */
export function readPeriod(
  text: string,
  tzid: string | undefined,
  zoneByTzid: ZoneByTzid,
): { start: When; length: Length | undefined } | null {
  const [first, second] = text.split('/');
  const start = readWhen(first ?? '', tzid, zoneByTzid);
  if (!start) return null;
  if (!second) return { start, length: undefined };
  if (/^[+-]?P/i.test(second)) return { start, length: readDuration(second) ?? undefined };
  const end = readWhen(second, tzid, zoneByTzid);
  if (start.kind !== 'instant' || end?.kind !== 'instant') return { start, length: undefined };
  return { start, length: { days: 0, ms: Math.max(0, parseLocal(end.at) - parseLocal(start.at)) } };
}
