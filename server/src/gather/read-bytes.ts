import { contentFrom, contentText } from '@zephyrfield/core/ical/content';
import {
  entriesOf,
  expandEntry,
  type Entry,
  type EntryOccurrence,
  type Understanding,
} from '@zephyrfield/core/gather/entries';
import { OCCURRENCE_LIMIT } from '@zephyrfield/core/gather/occurrences';
import { proposeSplits, type SplitProposal } from '@zephyrfield/core/gather/split';
import { isOfDeadlines } from '@zephyrfield/core/gather/manner';
import { wordingOf } from '@zephyrfield/core/gather/snapshot';
import { duplicateKeyOf } from '@zephyrfield/core/gather/duplicates';
import { joinWindows, unjoin } from '@zephyrfield/core/gather/windows';
import type { FeedItem } from '@zephyrfield/core/ical/feed-item';
import type { Known, KnownEntries } from '@zephyrfield/core/ical/known';
import { readFeed, type Reading } from '@zephyrfield/core/ical/reading';
import { zoneFinder, type OwnZones } from '@zephyrfield/core/ical/zones';
import { MOST } from '../limits.ts';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';

/** How entries are to be worked out, wherever they come from. */
export interface DeriveOptions {
  /** IANA name of the calendar's zone */
  zone: string;
  as: Understanding;
  /** Horizon for occurrences, instants in milliseconds */
  from: number;
  to: number;
  /** The most dates that may be kept of it */
  most?: number;
}

/**
 * What the store knows of the last reading. Digests travel between threads as two flat pieces, which costs
 * next to nothing.
 */
export interface KnownBefore {
  context: string;
  total: number;
  /** UIDs, a line each, and in the same order the digests of what they say and of what is written (NaN: not known) */
  uids: string;
  digests: Float64Array;
  written: Float64Array;
  openings: readonly string[];
  /** What all of its entries looked like together (`core/gather/manner`) */
  ofDeadlines: boolean;
}

export interface ReadJob extends DeriveOptions {
  bytes: Uint8Array;
  charset?: string | undefined;
  /** What an earlier reading knew, so that what has not changed is not parsed */
  known?: KnownBefore | undefined;
  /** True where splits are to be proposed */
  propose?: boolean;
}

/** Works out stored entries anew, under other rules. */
export interface RederiveJob extends DeriveOptions {
  /** As `contentText` wrote them */
  contents: readonly string[];
  zones: OwnZones;
}

/**
 * An entry as it leaves the worker: its content as text already, since a text crosses threads at little cost.
 */
export interface ReadEntry extends Omit<Entry, 'content'> {
  content: string;
  wording: string;
  url: string | null;
  /** Digest of what is written under its UID; null where that cannot be told */
  written: number | null;
  /** To be read anew every time, whatever its digest */
  mustReparse: boolean;
  duplicateKey: string | null;
  repeats: boolean;
  occurrences: EntryOccurrence[];
}

/** What was worked out: entries with their occurrences, and what the next reading needs to know. */
export interface Derived {
  entries: ReadEntry[];
  openings: string[];
  ofDeadlines: boolean;
  /** UIDs that are word for word as they were, and are not among the entries */
  unchanged: ReadonlySet<string> | 'all';
  /** As a reading says it */
  rewritten: Reading['rewritten'];
  warnings: Reading['warnings'];
  /** Place where the reading breaks off */
  cutOff: Reading['cutOff'];
}

export type ReadResult = Derived &
  Omit<Reading, 'items' | 'unsettled' | 'written'> & { splits: SplitProposal[] };

/** The whole way from bytes to entries. Pure but for its speed; runs in a worker thread. */
export function readBytes(job: ReadJob): ReadResult {
  const options = { charset: job.charset, fallbackZone: ianaZone(job.zone) ?? UTC };
  const known = job.known && knownFrom(job.known);
  const { items, unsettled, written, ...reading } = readFeed(job.bytes, { ...options, known });
  const windows = joinWindows(items, job.as.rules?.unjoined);
  // Whether a closing that was left unread now has an opening can only be seen in the whole.
  if (
    job.known &&
    reading.unchanged !== 'all' &&
    reading.unchanged.size &&
    windows.openings.some((uid) => !job.known!.openings.includes(uid))
  )
    return readBytes({ ...job, known: undefined });
  // Where most was left unread, what was known of the whole still holds.
  const ofDeadlines =
    reading.unchanged !== 'all' && !reading.unchanged.size
      ? isOfDeadlines(items)
      : (job.known?.ofDeadlines ?? false);
  const as = { ...job.as, ofDeadlines };
  const derived = derive(windows.items, new Set([...unsettled, ...windows.edges]), reading.zones, {
    ...job,
    as,
    written,
  });
  return {
    ...reading,
    zones: { ...reading.zones },
    openings: windows.openings,
    ofDeadlines,
    entries: derived.entries,
    warnings: [...reading.warnings, ...derived.warnings],
    splits: job.propose ? proposeSplits(windows.items) : [],
  };
}

function knownFrom({ context, total, uids, digests, written }: KnownBefore): Known {
  const find = (): KnownEntries => {
    const places = new Map(uids.split('\n').map((uid, i) => [uid, i]));
    return { indexOf: (uid) => places.get(uid), digests, written };
  };
  let found: KnownEntries | undefined;
  return { context, total, entries: () => (found ??= find()) };
}

/** Gives what stored entries are under other rules. */
export function rederive(job: RederiveJob): Derived {
  const contents = job.contents.map(contentFrom);
  const items = unjoin(
    contents.flatMap(({ master, overrides }) => (master ? [master, ...overrides] : overrides)),
  );
  const windows = joinWindows(items, job.as.rules?.unjoined);
  const ofDeadlines = isOfDeadlines(items);
  const as = { ...job.as, ofDeadlines };
  return {
    ...derive(windows.items, new Set(windows.edges), job.zones, { ...job, as }),
    openings: windows.openings,
    ofDeadlines,
    unchanged: new Set(),
    rewritten: [],
    cutOff: null,
  };
}

function derive(
  items: FeedItem[],
  mustReparse: ReadonlySet<string>,
  zones: OwnZones,
  job: DeriveOptions & { written?: ReadonlyMap<string, number> },
): Pick<Derived, 'entries' | 'warnings'> {
  const zone = ianaZone(job.zone) ?? UTC;
  const all = entriesOf({ items }, job.as);
  const dates = new Map<Entry, EntryOccurrence[]>();
  const find = zoneFinder(zones, zone);
  const most = Math.min(job.most ?? MOST.datesOfReading, MOST.datesOfReading);
  let left = most;
  // What stands once comes first: no repeat, however wild, may crowd out a deadline.
  for (const entry of [...all].sort(
    (a, b) => Number(Boolean(a.content.master?.repeat)) - Number(Boolean(b.content.master?.repeat)),
  )) {
    const limit = Math.min(OCCURRENCE_LIMIT, left);
    const occurrences = expandEntry(entry, {
      from: job.from,
      to: job.to,
      zone,
      zones: find,
      as: job.as,
      limit,
    }).slice(0, left);
    left -= occurrences.length;
    dates.set(entry, occurrences);
  }
  const entries = all.map((entry): ReadEntry => {
    const { uid, fingerprint, section, kind, handIn, doubt, course, title, content } = entry;
    const occurrences = dates.get(entry)!;
    const face = content.master ?? content.overrides[0];
    // Field by field: spreading ten thousand of them takes longer than all else here.
    return {
      uid,
      fingerprint,
      section,
      kind,
      handIn,
      doubt,
      course,
      title,
      content: contentText(content),
      wording: wordingOf(content),
      url: face?.url ?? null,
      written: job.written?.get(uid) ?? null,
      mustReparse: mustReparse.has(uid),
      duplicateKey: duplicateKeyOf(entry, occurrences[0], zone),
      repeats: Boolean(content.master?.repeat),
      occurrences,
    };
  });
  const warnings =
    left === 0
      ? [
          {
            line: null,
            message: `there is more in it than can be kept; ${most ? `the first ${most} dates are shown` : 'none of its dates are'}`,
          },
        ]
      : [];
  return { entries, warnings };
}
