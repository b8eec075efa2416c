import { findIana } from 'windows-iana';
import { HOUR, MINUTE, SECOND, parseLocal } from '../time/civil.ts';
import { TransitionZone, fixedZone, ianaZone, type Zone } from '../time/zone.ts';
import { expandRule } from '../recurrence/expand.ts';
import { parseRule } from '../recurrence/rule.ts';
import type { Component } from './property.ts';

/** One STANDARD or DAYLIGHT of a VTIMEZONE (RFC 5545 3.6.5), ready to be stored beside a source. */
export interface Observance {
  /** Local time of its first onset */
  start: string;
  offsetFrom: number;
  offsetTo: number;
  rules: string[];
  dates: string[];
}

/** A feed's own zones by the name it gives them. They belong to that feed alone. */
export type OwnZones = Record<string, Observance[]>;

function readOffset(text: string | undefined): number | null {
  const m = /^([+-])(\d\d):?(\d\d):?(\d\d)?$/.exec((text ?? '').trim());
  if (!m) return null;
  return (m[1] === '-' ? -1 : 1) * (Number(m[2]) * HOUR + Number(m[3]) * MINUTE + Number(m[4] ?? 0) * SECOND);
}

const localText = (value: string) =>
  value
    .trim()
    .replace(
      /^(\d{4})-?(\d\d)-?(\d\d)T?(\d\d)?:?(\d\d)?:?(\d\d)?.*$/i,
      (_, y, mo, d, h, mi, s) => `${y}-${mo}-${d}T${h ?? '00'}:${mi ?? '00'}:${s ?? '00'}`,
    );

/** Reads a VTIMEZONE's observances; those that say no offset are passed over. */
export function readObservances(zone: Component): Observance[] {
  return zone.children.flatMap((child) => {
    const offsetTo = readOffset(child.text('tzoffsetto'));
    const start = localText(child.text('dtstart') ?? '');
    if (offsetTo === null || Number.isNaN(parseLocal(start))) return [];
    return [
      {
        start,
        offsetTo,
        offsetFrom: readOffset(child.text('tzoffsetfrom')) ?? offsetTo,
        rules: child.all('rrule').map((p) => String(p[3])),
        dates: child
          .all('rdate')
          .flatMap((p) => String(p[3]).split(','))
          .map(localText),
      },
    ];
  });
}

const UNTIL_YEAR = Date.UTC(2100, 0, 1);

/** The zone that observances describe; undefined where there are none. */
export function zoneOfObservances(id: string, observances: readonly Observance[]): Zone | undefined {
  const onsets = new Map<number, number>();
  let earliest: { at: number; before: number } | null = null;
  for (const o of observances) {
    const start = parseLocal(o.start);
    const put = (local: number) => onsets.set(local - o.offsetFrom, o.offsetTo);
    put(start);
    if (!earliest || start - o.offsetFrom < earliest.at)
      earliest = { at: start - o.offsetFrom, before: o.offsetFrom };
    for (const date of o.dates) {
      const local = parseLocal(date);
      if (!Number.isNaN(local)) put(local);
    }
    for (const text of o.rules) {
      try {
        const { times } = expandRule(
          parseRule(text),
          start,
          {
            allDay: false,
            from: start,
            to: UNTIL_YEAR,
            toInstant: (l) => l - o.offsetFrom,
            exists: () => true,
          },
          2000,
        );
        times.forEach(put);
      } catch {
        // A rule that cannot be followed leaves its first onset standing.
      }
    }
  }
  if (!earliest) return undefined;
  const ordered = [...onsets].sort((a, b) => a[0] - b[0]);
  // Before the first onset its TZOFFSETFROM holds.
  return new TransitionZone(
    id,
    [-Infinity, ...ordered.map(([at]) => at)],
    [earliest.before, ...ordered.map(([, offset]) => offset)],
  );
}

/**
 * What a name that is in no table may still say: "GMT+2", "UTC-03:30", "+0100", "(UTC+01:00) Harbour towns".
 */
function zoneOfOffsetName(name: string): Zone | undefined {
  const m = /^\(?(?:(?:UTC|GMT)\s*([+-])\s*(\d{1,2})|([+-])(\d{2}))(?::?(\d{2}))?(?:\)|$)/i.exec(name);
  if (!m) return undefined;
  const [sign, hours, minutes] = [m[1] ?? m[3], Number(m[2] ?? m[4]), Number(m[5] ?? 0)];
  if (hours > 14 || minutes > 59) return undefined;
  const offset = (sign === '-' ? -1 : 1) * (hours * HOUR + minutes * MINUTE);
  return fixedZone(name, offset === 0 ? 0 : offset);
}

/**
 * Finds the zone a TZID means: the time-zone database's own name; the feed's VTIMEZONE; a database name at
 * the end of a path; a name office programs write (CLDR's windowsZones); a name that is an offset.
 * @returns undefined where nothing is known of it
 */
export function resolveZone(tzid: string, own: OwnZones): Zone | undefined {
  const name = tzid.trim();
  return (
    ianaZone(name) ??
    (Object.hasOwn(own, name) ? zoneOfObservances(name, own[name]!) : undefined) ??
    ianaZone(/^\/.*?\/([A-Za-z_]+(?:\/[A-Za-z_+\-0-9]+){1,2})$/.exec(name)?.[1] ?? '') ??
    ianaZone(/^\/([A-Za-z_]+\/[A-Za-z_+\-0-9]+)$/.exec(name)?.[1] ?? '') ??
    ianaZone(findIana(name)[0] ?? '') ??
    zoneOfOffsetName(name)
  );
}

/**
 * A finder for the zones of one feed, its results kept; unknown names are read as `fallback` and told once.
 */
export function zoneFinder(
  own: OwnZones,
  fallback: Zone,
  unknown: (tzid: string) => void = () => {},
): (tzid: string) => Zone {
  const found = new Map<string, Zone>();
  return (tzid) => {
    let zone = found.get(tzid);
    if (!zone) {
      zone = resolveZone(tzid, own);
      if (!zone) unknown(tzid);
      zone ??= fallback;
      found.set(tzid, zone);
    }
    return zone;
  };
}
