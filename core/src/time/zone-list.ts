import { plain } from '../lib/plain.ts';

/** A time zone as people look for it. */
export interface ZoneEntry {
  /** As the time-zone database has it: `America/Argentina/Buenos_Aires` */
  name: string;
  /** `Buenos Aires` */
  city: string;
  /** `America, Argentina`; empty for zones that are of no region */
  region: string;
  /** `UTC−3`, `UTC+5:30`, at the moment it was asked for */
  offset: string;
  /** `Argentina Standard Time` */
  words: string;
}

const partOf = (name: string, at: number, timeZoneName: 'long' | 'shortOffset'): string =>
  new Intl.DateTimeFormat('en', { timeZone: name, timeZoneName })
    .formatToParts(at)
    .find((part) => part.type === 'timeZoneName')?.value ?? '';

/** The names of all zones that are known here, in order. */
export const zoneNames = (): string[] =>
  typeof Intl.supportedValuesOf === 'function' ? Intl.supportedValuesOf('timeZone') : [];

/**
 * A zone by its name, as it stands at an instant (milliseconds). What Intl says of one takes half a millisecond:
 * of all, they are asked for in slices.
 * @throws RangeError where there is no such zone
 */
export function zoneEntry(name: string, at: number): ZoneEntry {
  const places = name.replaceAll('_', ' ').split('/');
  const offset = partOf(name, at, 'shortOffset').replace('GMT', 'UTC').replace('-', '−');
  return {
    name,
    city: places.at(-1)!,
    region: places.slice(0, -1).join(', '),
    offset,
    words: partOf(name, at, 'long'),
  };
}

const searched = (text: string) => plain(text).replaceAll('−', '-');

/**
 * The zones that fit what was typed: beginnings of a city, a region, an offset or a zone's name, in any order.
 * Those whose city begins with it come first.
 */
export function searchZones(zones: readonly ZoneEntry[], text: string): ZoneEntry[] {
  const words = searched(text)
    .split(/[\s,/]+/)
    .filter(Boolean);
  const fits = zones.filter((zone) => {
    const all = searched(
      `${zone.name.replaceAll('_', ' ')} ${zone.words} ${zone.offset} ${zone.offset.slice(3)}`,
    );
    const tokens = all.split(/[\s,/]+/);
    return words.every((word) => tokens.some((token) => token.startsWith(word)));
  });
  const [first = ''] = words;
  const rank = (zone: ZoneEntry) => (searched(zone.city).startsWith(first) ? 0 : 1);
  return fits.sort((a, b) => rank(a) - rank(b) || (a.city < b.city ? -1 : 1));
}
