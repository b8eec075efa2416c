import { addDigests } from '../src/ical/digest';
import type { Known } from '../src/ical/known';
import { readFeed, type Reading } from '../src/ical/reading';
import { ianaZone } from '../src/time/zone';

export const DUBLIN = ianaZone('Europe/Dublin')!;

/** A calendar around the given lines, with the line ends the standard wants. */
export const calendar = (...lines: string[]) =>
  ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//Test//EN', ...lines, 'END:VCALENDAR', ''].join('\r\n');
export const event = (...lines: string[]) =>
  ['BEGIN:VEVENT', 'DTSTAMP:20260701T120000Z', ...lines, 'END:VEVENT'].join('\r\n');
export const todo = (...lines: string[]) =>
  ['BEGIN:VTODO', 'DTSTAMP:20260701T120000Z', ...lines, 'END:VTODO'].join('\r\n');

export const bytes = (text: string) => new TextEncoder().encode(text);
export const read = (text: string | Uint8Array, zone = DUBLIN, charset?: string): Reading =>
  readFeed(typeof text === 'string' ? bytes(text) : text, { fallbackZone: zone, charset });

/** What a store knows of a reading: each UID with the digests of all that stands under it. */
export function knownFrom({ items, unsettled, written, context, total }: Reading): Known {
  const digests = new Map<string, number>();
  for (const { uid, digest } of items)
    if (!unsettled.has(uid)) digests.set(uid, addDigests(digests.get(uid) ?? 0, digest));
  const places = new Map([...digests.keys()].map((uid, at) => [uid, at]));
  const entries = {
    indexOf: (uid: string) => places.get(uid),
    digests: Float64Array.from(digests.values()),
    written: Float64Array.from(digests.keys(), (uid) => written.get(uid) ?? NaN),
  };
  return { context, total, entries: () => entries };
}
