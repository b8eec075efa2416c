import type { Zone } from '../time/zone.ts';
import { ianaZone } from '../time/zone.ts';
import { cut, type Block } from './cut.ts';
import { decode } from './decode.ts';
import { readItem } from './component.ts';
import type { FeedItem } from './feed-item.ts';
import { parseComponent } from './property.ts';
import { readDuration } from './values.ts';
import { readObservances, zoneFinder, type OwnZones } from './zones.ts';

export interface Warning {
  /** Line in the feed, counted from 1; null where it is about the whole */
  line: number | null;
  message: string;
}

/** What a feed says, whole. */
export interface Reading {
  name: string | null;
  description: string | null;
  /** CSS colour name or hex, as RFC 7986 COLOR or the common X- property states it */
  colour: string | null;
  /** The zone the feed says it is in (X-WR-TIMEZONE), else the one most of its times are written in */
  zone: string | null;
  /** How often it asks to be read, in seconds */
  refreshSeconds: number | null;
  zones: OwnZones;
  items: FeedItem[];
  warnings: Warning[];
}

/** The bytes are not a calendar. `looksLike` says what they are instead. */
export class NotACalendar extends Error {
  constructor(readonly looksLike: 'webPage' | 'nothing' | 'something else') {
    super(
      looksLike === 'webPage'
        ? 'This is a web page, not a calendar feed.'
        : looksLike === 'nothing'
          ? 'There is nothing in it: the answer is empty.'
          : 'This is not an iCalendar feed: there is no calendar in it.',
    );
  }
}

export interface ReadOptions {
  /** Charset named by an HTTP header */
  charset?: string | undefined;
  /** Where unknown zone names are read */
  fallbackZone: Zone;
}

const MAX_WARNINGS = 200;

/**
 * Reads iCalendar bytes (RFC 5545, with RFC 7986 and the usual X- properties).
 * One bad component costs that component and a warning, not the feed.
 * @throws NotACalendar where there is no calendar in it
 */
export function readFeed(bytes: Uint8Array, options: ReadOptions): Reading {
  const decoded = decode(bytes, options.charset);
  const parts = cut(decoded.text);
  if (!parts) throw new NotACalendar(looksLike(decoded.text));
  const warnings: Warning[] = decoded.warnings.map((message) => ({ line: null, message }));
  const warn = (line: number | null, message: string) => {
    if (warnings.length < MAX_WARNINGS) warnings.push({ line, message });
  };
  for (const w of parts.warnings) warn(w.line, w.message);

  const calendar = parseComponent('VCALENDAR', parts.calendar, () => warn(null, 'a line between the calendar’s properties could not be read'));
  const zones = readZones(parts.zones, warn);
  const unknown = new Set<string>();
  const stated = calendar.text('x-wr-timezone') ?? calendar.text('timezone-id');
  const zoneByTzid = zoneFinder(zones, options.fallbackZone, (tzid) => {
    if (!unknown.has(tzid)) warn(null, `the time zone “${tzid.slice(0, 60)}” is not known; its times are read as ${options.fallbackZone.id}`);
    unknown.add(tzid);
  });
  const ownZone = (stated && zoneFinder(zones, options.fallbackZone)(stated)) || null;

  const items: FeedItem[] = [];
  for (const block of parts.items) {
    if (block.name !== 'VEVENT' && block.name !== 'VTODO') continue;
    const item = readBlock(block, zoneByTzid, warn);
    if (item) items.push(ownZone ? inZone(item, ownZone) : item);
  }
  const ttl = readDuration(calendar.text('refresh-interval') ?? calendar.text('x-published-ttl') ?? '');
  return {
    name: calendar.text('x-wr-calname') ?? calendar.text('name') ?? null,
    description: calendar.text('x-wr-caldesc') ?? calendar.text('description') ?? null,
    colour: calendar.text('color') ?? calendar.text('x-apple-calendar-color') ?? null,
    zone: (stated && ianaZone(stated)?.id) ?? commonZone(items),
    refreshSeconds: ttl ? ttl.days * 86_400 + ttl.ms / 1000 : null,
    zones,
    items: settleIdentifiers(items, warn),
    warnings,
  };
}

/** The zone most of a feed's times are written in, UTC left aside. */
function commonZone(items: readonly FeedItem[]): string | null {
  const counts = new Map<string, number>();
  for (const { start, due } of items) {
    const when = start ?? due;
    if (when?.kind === 'instant' && when.zone !== 'UTC') counts.set(when.zone, (counts.get(when.zone) ?? 0) + 1);
  }
  const [most] = [...counts].sort((a, b) => b[1] - a[1]);
  return most?.[0] ?? null;
}

function looksLike(text: string): NotACalendar['looksLike'] {
  if (!text.trim()) return 'nothing';
  return /^\s*(<!doctype html|<html|<head|<body|<!--)/i.test(text.slice(0, 2000)) ? 'webPage' : 'something else';
}

function readZones(blocks: Block[], warn: (line: number, message: string) => void): OwnZones {
  const zones: OwnZones = Object.create(null) as OwnZones;
  for (const block of blocks.slice(0, 500)) {
    const component = parseComponent(block.name, block.lines, () => {});
    const tzid = component.text('tzid');
    const observances = readObservances(component);
    if (tzid && observances.length) zones[tzid.replaceAll('"', '').trim()] = observances.slice(0, 400);
    else warn(block.line, 'a time zone description could not be read');
  }
  return zones;
}

function readBlock(block: Block, zoneByTzid: (tzid: string) => Zone, warn: (line: number, message: string) => void): FeedItem | null {
  try {
    const component = parseComponent(block.name, block.lines, (index) => warn(block.line + 1 + index, `a line that is no property was passed over: ${block.lines[index]!.slice(0, 40)}`));
    return readItem(component, block.line, { zoneByTzid, warn: (message) => warn(block.line, message) });
  } catch (error) {
    warn(block.line, `an entry could not be read and was left out (${error instanceof Error ? error.message.slice(0, 80) : 'unknown reason'})`);
    return null;
  }
}

/** A feed that states its zone means its floating times there. */
function inZone(item: FeedItem, zone: Zone): FeedItem {
  const set = <T extends FeedItem['start']>(when: T): T => (when?.kind === 'floating' ? { kind: 'instant', at: instantText(when.local, zone), zone: zone.id } : when) as T;
  const repeat = item.repeat && {
    ...item.repeat,
    dates: item.repeat.dates.map((d) => ({ ...d, start: set(d.start) })),
    exceptDates: item.repeat.exceptDates.map(set),
  };
  return { ...item, start: set(item.start), end: set(item.end), due: set(item.due), recurrenceId: set(item.recurrenceId), repeat };
}

function instantText(local: string, zone: Zone): string {
  return new Date(zone.toInstant(Date.parse(local + 'Z'))).toISOString().slice(0, 19) + 'Z';
}

/**
 * One item per UID and recurrence-id. Of two versions the higher SEQUENCE counts; two different entries under one UID
 * (a writer's mistake) are both kept, since dropping one could be dropping a deadline.
 */
function settleIdentifiers(items: FeedItem[], warn: (line: number, message: string) => void): FeedItem[] {
  const byKey = new Map<string, FeedItem>();
  for (const item of items) {
    const key = identity(item);
    const other = byKey.get(key);
    if (!other) {
      byKey.set(key, item);
      continue;
    }
    if (JSON.stringify(essence(other)) === JSON.stringify(essence(item))) continue;
    if (item.recurrenceId || other.sequence !== item.sequence) {
      if (item.sequence >= other.sequence) byKey.set(key, item);
      continue;
    }
    warn(item.line, `the identifier ${item.uid.slice(0, 60)} is used for two different entries; both are kept`);
    let n = 2;
    while (byKey.has(identity({ ...item, uid: `${item.uid}#${n}` }))) n++;
    byKey.set(identity({ ...item, uid: `${item.uid}#${n}` }), { ...item, uid: `${item.uid}#${n}` });
  }
  return [...byKey.values()];
}

const identity = (item: FeedItem) => `${item.uid}\n${item.recurrenceId ? JSON.stringify(item.recurrenceId) : ''}`;
const essence = (item: FeedItem) => ({ ...item, line: 0, sequence: 0 });
