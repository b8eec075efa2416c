import { ianaZone, type Zone } from '../time/zone.ts';
import { cut, type Block, type Cut, type CutOff } from './cut.ts';
import { decode, type Decoded } from './decode.ts';
import { clip, readItem } from './component.ts';
import { addDigests } from './digest.ts';
import { settleIdentifiers } from './identifiers.ts';
import { isEntry, settledOf, unchangedSince, writtenIn, type Known } from './known.ts';
import type { FeedItem } from './feed-item.ts';
import { hash } from '../lib/hash.ts';
import { piecesOf, type Pieces } from './pieces.ts';
import { parseComponent } from './property.ts';
import { readDuration } from './values.ts';
import { readObservances, zoneFinder, type OwnZones } from './zones.ts';

/** Length at which a feed's words of itself are cut, in characters. */
const LONGEST_FEED_NAME = 200;
const LONGEST_FEED_TEXT = 2_000;

export interface Warning {
  /** Line in the feed, counted from 1; null where it is about the whole */
  line: number | null;
  message: string;
}

/** Feed as a whole. */
export interface Reading {
  name: string | null;
  description: string | null;
  /** CSS colour name or hex, as COLOR states it (RFC 7986 5.9) */
  colour: string | null;
  /** The zone the feed says it is in (X-WR-TIMEZONE), else the one most of its times are written in */
  zone: string | null;
  /** Interval at which it asks to be read, in seconds */
  refreshSeconds: number | null;
  zones: OwnZones;
  items: FeedItem[];
  warnings: Warning[];
  /** Digest of everything outside its entries that bears on how they are read */
  context: string;
  /** Digest of all its entries together */
  total: number;
  /** Digests of what is written under each UID, where that can be told without cutting (`pieces`) */
  written: ReadonlyMap<string, number>;
  /** UIDs whose blocks say what is known already, or `all` of them; they are not among `items` */
  unchanged: ReadonlySet<string> | 'all';
  /** Those of them that say it in other words of the format, with the digest of what is written now */
  rewritten: [uid: string, written: number][];
  /** UIDs of what was odd in some way (a warning, an identifier used twice): to be read anew every time */
  unsettled: Set<string>;
  /** Place where it breaks off; null where it ends as it should */
  cutOff: CutOff | null;
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
  /** Zone in which unknown zone names are read */
  fallbackZone: Zone;
  /** Lets blocks that have not changed since then go unparsed */
  known?: Known | undefined;
}

/**
 * Part of every context: raised when this reader comes to understand a feed otherwise, so that all is read
 * anew.
 */
const READER = 2;

const MAX_WARNINGS = 200;

/**
 * Reads iCalendar bytes (RFC 5545, with RFC 7986 and the usual X- properties).
 * One bad component costs that component and a warning, not the feed.
 * @throws NotACalendar where there is no calendar in it
 */
export function readFeed(bytes: Uint8Array, options: ReadOptions): Reading {
  const decoded = decode(bytes, options.charset);
  const pieces = piecesOf(decoded.text, bytes);
  const { known } = options;
  const rest = pieces && known && readRest(decoded, pieces, known, options);
  if (rest) return rest;
  const parts = cut(decoded.text);
  if (!parts) throw new NotACalendar(looksLike(decoded.text));
  // Where the two do not find the same entries, it is written in some odd way, and only the cut counts.
  const isPlain = pieces !== null && isWhole(parts, pieces.digests.length);
  const total = isPlain ? pieces.total : parts.items.reduce((sum, { digest }) => addDigests(sum, digest), 0);
  const written = isPlain
    ? writtenIn(pieces, () => true, parts.items.filter(isEntry))
    : new Map<string, number>();
  const found = { total, written, same: NONE, lineOf: (line: number) => line };
  const reading = readParts(decoded.warnings, parts, found, options);
  const { items, unchanged } = reading;
  // What stands under one UID belongs together; not every way to write one is plain to see before it is parsed.
  const isSplit = unchanged !== 'all' && items.some(({ uid }) => unchanged.has(uid));
  return isSplit ? readParts(decoded.warnings, parts, found, { ...options, known: undefined }) : reading;
}

/**
 * Reads what is not written as it was, and nothing else.
 * @returns null where the rest may mean something else by itself than in the whole
 */
function readRest(decoded: Decoded, pieces: Pieces, known: Known, options: ReadOptions): Reading | null {
  const { total } = pieces;
  const settled = total === known.total ? null : settledOf(known.entries(), pieces);
  if (settled && !settled.uids.size) return null;
  const isKept = (i: number) => (settled ? settled.is[i] === 0 : !pieces.isClosed(i));
  const rest = pieces.keep(isKept);
  const parts = cut(rest.text);
  const isSettled = (uid: string | null) => uid !== null && settled !== null && settled.uids.has(uid);
  // What stands under one UID belongs together.
  if (!parts || !isWhole(parts, rest.count) || parts.items.some(({ uid }) => isSettled(uid))) return null;
  const same = settled?.uids ?? ('all' as const);
  const written = settled
    ? writtenIn(pieces, isKept, parts.items.filter(isEntry))
    : new Map<string, number>();
  const reading = readParts(decoded.warnings, parts, { total, written, same, lineOf: rest.lineOf }, options);
  const isOtherwise =
    reading.context !== known.context ||
    reading.items.some(({ uid }) => isSettled(uid)) ||
    [...reading.unsettled].some(isSettled);
  return isOtherwise ? null : reading;
}

/** Tells whether so many entries were found, and nothing that is built in an odd way. */
const isWhole = ({ items, warnings, cutOff }: Cut, entries: number) =>
  !cutOff && !warnings.length && items.filter(isEntry).length === entries;

interface Found {
  total: number;
  written: ReadonlyMap<string, number>;
  /** UIDs under which all is written as it was, which are not among the parts */
  same: ReadonlySet<string> | 'all';
  /** The feed's line that one of what was cut is */
  lineOf(line: number): number;
}

const NONE: ReadonlySet<string> = new Set();

function readParts(
  oddBytes: readonly string[],
  parts: Cut,
  { total, written, same, lineOf }: Found,
  options: ReadOptions,
): Reading {
  const warnings: Warning[] = oddBytes.map((message) => ({ line: null, message }));
  const warn = (line: number | null, message: string) => {
    if (warnings.length < MAX_WARNINGS) warnings.push({ line: line && lineOf(line), message });
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
  const { known } = options;
  const rewritten: [string, number][] = [];
  const unchanged =
    known?.context !== context
      ? new Set<string>()
      : same === 'all' || known.total === total
        ? ('all' as const)
        : unchangedSince(known.entries(), parts.items, same, (uid) => {
            const now = written.get(uid);
            if (now !== undefined) rewritten.push([uid, now]);
          });

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
    if (!isEntry(block) || (block.uid !== null && unchanged !== 'all' && unchanged.has(block.uid))) continue;
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
    written,
    unchanged,
    rewritten,
    unsettled,
    cutOff: parts.cutOff,
  };
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
