import { ianaZone, type Zone } from '../time/zone.ts';
import { cut, type Block, type CutOff } from './cut.ts';
import { decode } from './decode.ts';
import { clip, readItem } from './component.ts';
import { addDigests } from './digest.ts';
import type { FeedItem } from './feed-item.ts';
import { hash } from '../lib/hash.ts';
import { parseComponent } from './property.ts';
import { readDuration } from './values.ts';
import { readObservances, zoneFinder, type OwnZones } from './zones.ts';

/** What a feed says of itself is cut here, in characters. */
const LONGEST_FEED_NAME = 200;
const LONGEST_FEED_TEXT = 2_000;

export interface Warning {
  /** Line in the feed, counted from 1; null where it is about the whole */
  line: number | null;
  message: string;
}

/** What a feed says, whole. */
export interface Reading {
  name: string | null;
  description: string | null;
  /** CSS colour name or hex, as COLOR states it (RFC 7986 5.9) */
  colour: string | null;
  /** The zone the feed says it is in (X-WR-TIMEZONE), else the one most of its times are written in */
  zone: string | null;
  /** How often it asks to be read, in seconds */
  refreshSeconds: number | null;
  zones: OwnZones;
  items: FeedItem[];
  warnings: Warning[];
  /** Digest of everything outside its entries that bears on how they are read */
  context: string;
  /** Digest of all its entries' blocks together */
  total: number;
  /** UIDs whose blocks are word for word known already, or `all` of them; they are not among `items` */
  unchanged: ReadonlySet<string> | 'all';
  /** UIDs of what was odd in some way (a warning, an identifier used twice): to be read anew every time */
  unsettled: Set<string>;
  /** Where it breaks off; null where it ends as it should */
  cutOff: CutOff | null;
}

/** What an earlier reading of the same feed knew. */
export interface Known {
  context: string;
  /** Digest of all its entries' blocks together */
  total: number;
  /** Digests of entries' blocks by UID, asked for where the total differs; what is not among them is read */
  digests(): ReadonlyMap<string, number>;
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
  /** Lets blocks that have not changed since then go unparsed */
  known?: Known | undefined;
}

/**
 * Part of every context: raised when this reader comes to understand a feed otherwise, so that all is read
 * anew.
 */
const READER = 1;

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

  const calendar = parseComponent('VCALENDAR', parts.calendar, () =>
    warn(null, 'a line between the calendar’s properties could not be read'),
  );
  const zones = readZones(parts.zones, warn);
  const stated = calendar.text('x-wr-timezone') ?? calendar.text('timezone-id');
  const context = hash(
    JSON.stringify([
      READER,
      options.fallbackZone.id,
      stated,
      Object.entries(zones).sort(([a], [b]) => (a < b ? -1 : 1)),
    ]),
  );
  const total = parts.items.reduce((sum, { digest }) => addDigests(sum, digest), 0);
  const { known } = options;
  const unchanged =
    known?.context !== context
      ? new Set<string>()
      : known.total === total
        ? ('all' as const)
        : unchangedSince(known.digests(), parts.items);

  const unsettled = new Set<string>();
  const unknown = new Set<string>();
  let odd = false;
  const find = zoneFinder(zones, options.fallbackZone, (tzid) => {
    warn(
      null,
      `the time zone “${tzid.slice(0, 60)}” is not known; its times are read as ${options.fallbackZone.id}`,
    );
    unknown.add(tzid);
  });
  const within: BlockContext = {
    zoneByTzid: (tzid) => {
      const zone = find(tzid);
      odd ||= unknown.has(tzid);
      return zone;
    },
    warn: (line, message) => {
      odd = true;
      warn(line, message);
    },
  };
  const ownZone = (stated && zoneFinder(zones, options.fallbackZone)(stated)) || null;

  const items: FeedItem[] = [];
  for (const block of unchanged === 'all' ? [] : parts.items) {
    if (
      (block.name !== 'VEVENT' && block.name !== 'VTODO') ||
      (block.uid !== null && unchanged !== 'all' && unchanged.has(block.uid))
    )
      continue;
    odd = block.uid === null;
    const item = readBlock(block, within);
    if (odd && block.uid) unsettled.add(block.uid);
    if (!item) continue;
    if (odd) unsettled.add(item.uid);
    items.push(ownZone ? inZone(item, ownZone) : item);
  }
  const ttl = readDuration(calendar.text('refresh-interval') ?? calendar.text('x-published-ttl') ?? '');
  return {
    name: clip(calendar.text('x-wr-calname') ?? calendar.text('name'), LONGEST_FEED_NAME) ?? null,
    description:
      clip(calendar.text('x-wr-caldesc') ?? calendar.text('description'), LONGEST_FEED_TEXT) ?? null,
    colour: clip(calendar.text('color'), LONGEST_FEED_NAME) ?? null,
    zone: (stated && ianaZone(stated)?.id) ?? commonZone(items),
    refreshSeconds: ttl ? ttl.days * 86_400 + ttl.ms / 1000 : null,
    zones,
    items: settleIdentifiers(items, unsettled, warn),
    warnings,
    context,
    total,
    unchanged,
    unsettled,
    cutOff: parts.cutOff,
  };
}

/** UIDs of which all blocks are as they were. */
function unchangedSince(digests: ReadonlyMap<string, number>, blocks: readonly Block[]): Set<string> {
  const unchanged = new Set<string>();
  for (const [uid, { digest }] of byUid(blocks)) if (digests.get(uid) === digest) unchanged.add(uid);
  return unchanged;
}

/** Entries' blocks by the UID they state, with one digest for all of a UID's. */
function byUid(blocks: readonly Block[]): Map<string, { digest: number }> {
  const groups = new Map<string, { digest: number }>();
  for (const { name, uid, digest } of blocks) {
    if (uid === null || (name !== 'VEVENT' && name !== 'VTODO')) continue;
    const group = groups.get(uid);
    if (group) group.digest = addDigests(group.digest, digest);
    else groups.set(uid, { digest });
  }
  return groups;
}

interface BlockContext {
  zoneByTzid(tzid: string): Zone;
  warn(line: number, message: string): void;
}

/** The zone most of a feed's times are written in, UTC left aside. */
function commonZone(items: readonly FeedItem[]): string | null {
  const counts = new Map<string, number>();
  for (const { start, due } of items) {
    const when = start ?? due;
    if (when?.kind === 'instant' && when.zone !== 'UTC')
      counts.set(when.zone, (counts.get(when.zone) ?? 0) + 1);
  }
  const [most] = [...counts].sort((a, b) => b[1] - a[1]);
  return most?.[0] ?? null;
}

function looksLike(text: string): NotACalendar['looksLike'] {
  if (!text.trim()) return 'nothing';
  return /^\s*(<!doctype html|<html|<head|<body|<!--)/i.test(text.slice(0, 2000))
    ? 'webPage'
    : 'something else';
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

function readBlock(block: Block, { zoneByTzid, warn }: BlockContext): FeedItem | null {
  try {
    const lines = block.lines;
    const component = parseComponent(block.name, lines, (index) =>
      warn(block.lineOf(index), `a line that is no property was passed over: ${lines[index]!.slice(0, 40)}`),
    );
    return readItem(component, block, { zoneByTzid, warn: (message) => warn(block.line, message) });
  } catch (error) {
    warn(
      block.line,
      `an entry could not be read and was left out (${error instanceof Error ? error.message.slice(0, 80) : 'unknown reason'})`,
    );
    return null;
  }
}

/** A feed that states its zone means its floating times there. */
function inZone(item: FeedItem, zone: Zone): FeedItem {
  const set = <T extends FeedItem['start']>(when: T): T =>
    (when?.kind === 'floating'
      ? { kind: 'instant', at: instantText(when.local, zone), zone: zone.id }
      : when) as T;
  const repeat = item.repeat && {
    ...item.repeat,
    dates: item.repeat.dates.map((d) => ({ ...d, start: set(d.start) })),
    exceptDates: item.repeat.exceptDates.map(set),
  };
  return {
    ...item,
    start: set(item.start),
    end: set(item.end),
    due: set(item.due),
    recurrenceId: set(item.recurrenceId),
    repeat,
  };
}

function instantText(local: string, zone: Zone): string {
  return new Date(zone.toInstant(Date.parse(local + 'Z'))).toISOString().slice(0, 19) + 'Z';
}

/** So many different entries under one UID may be a writer's mistake; more of them, and it is no identifier. */
const MOST_OF_A_UID = 100;

/**
 * One item per UID and recurrence-id. Of two versions the higher SEQUENCE counts; different entries under one UID (a
 * writer's mistake) are all kept, since dropping one could be dropping a deadline. Of a UID that stands on more
 * entries than any mistake explains, the first is kept and the others are counted.
 */
function settleIdentifiers(
  items: FeedItem[],
  unsettled: Set<string>,
  warn: (line: number, message: string) => void,
): FeedItem[] {
  const byKey = new Map<string, FeedItem>();
  /** The entries that share a key with one before, by their UID */
  const shared = new Map<string, { first: FeedItem; said: Set<string>; others: FeedItem[] }>();
  for (const item of items) {
    const key = identity(item);
    const other = byKey.get(key);
    if (!other) {
      byKey.set(key, item);
      continue;
    }
    // Its blocks' digest stands for two entries, so it cannot say that one of them has not changed.
    unsettled.add(item.uid);
    if (item.recurrenceId || other.sequence !== item.sequence) {
      if (item.sequence >= other.sequence) byKey.set(key, item);
      continue;
    }
    let group = shared.get(item.uid);
    if (!group) shared.set(item.uid, (group = { first: other, said: new Set([essence(other)]), others: [] }));
    const says = essence(item);
    if (group.said.has(says)) continue;
    group.said.add(says);
    group.others.push(item);
  }
  const taken = new Set([...byKey.values()].map((item) => item.uid));
  for (const [uid, { first, others }] of shared) {
    if (others.length >= MOST_OF_A_UID) {
      warn(
        first.line,
        `the identifier ${uid.slice(0, 60)} is used for ${others.length + 1} different entries; only the first is kept`,
      );
      continue;
    }
    let n = 2;
    for (const item of others) {
      warn(item.line, `the identifier ${uid.slice(0, 60)} is used for two different entries; both are kept`);
      while (taken.has(`${uid}#${n}`)) n++;
      const duplicate = { ...item, uid: `${uid}#${n}` };
      taken.add(duplicate.uid);
      unsettled.add(duplicate.uid);
      byKey.set(identity(duplicate), duplicate);
    }
  }
  return [...byKey.values()];
}

const identity = (item: FeedItem) =>
  `${item.uid}\n${item.recurrenceId ? JSON.stringify(item.recurrenceId) : ''}`;
const essence = (item: FeedItem): string => JSON.stringify({ ...item, line: 0, sequence: 0, digest: 0 });
