import { differ, isSuspicious, type Differences, type Snapshot } from '@zephyrfield/core/gather/differences';
import { snapshotOf } from '@zephyrfield/core/gather/snapshot';
import type { Zone } from '@zephyrfield/core/time/zone';
import { orderedId } from '../db/ids.ts';
import { notFound } from '../http/problem.ts';
import type { Derived, ReadEntry } from './read-bytes.ts';
import type { GatherStore, ItemHead, SourceRow } from './store.ts';
import { settleSame } from './duplicates.ts';
import { byUid, newsOf, saidOf, storeNews } from './news.ts';
import { STEP, type Steps } from './steps.ts';

export interface Applied {
  added: number;
  changed: number;
  gone: number;
  /** Set where the reading was not applied, since it had lost most of what was still to come */
  heldBack: { missing: number; of: number } | null;
}

type Source = Pick<SourceRow, 'id' | 'learnerId' | 'horizonTo'>;

export interface ApplyOptions {
  now: number;
  /** The calendar's: whose wall clock a series keeps its hour on */
  zone: Zone;
  horizon: { from: number; to: number };
  /** The person (or several readings over a day) has said that what is missing is really gone */
  believed: boolean;
  /** No news: the first reading of a source, or its entries worked out anew under other rules */
  quiet: boolean;
  /** Every entry is looked at, whatever its digest says */
  all?: boolean;
  /** The calendar a part goes to; may make one */
  calendarOf(section: string | null): string;
}

/**
 * Puts a reading in place of the one before. Entries are compared by digest, and only what differs is looked
 * at closely; items keep their identity by UID (or what is plainly the same thing under another), so own
 * layers stay on them. Nearly all readings take one step. Of a longer one each step is whole in itself: entries with
 * their dates, own layers and news. Broken off, the next reading does what is left.
 */
export function* applyReading(
  store: GatherStore,
  source: Source,
  reading: Derived,
  options: ApplyOptions,
): Steps<Applied> {
  const { now, zone, horizon, believed, quiet } = options;
  if (reading.unchanged === 'all') return NOTHING;
  const found = comparedWith(store, source, reading, options);
  const { existing, touched, missing } = found;
  const isNew = quiet && existing.size === 0;
  const standing = isNew ? [] : [...touched.map((e) => existing.get(e.uid)), ...missing];
  // The end of the older horizon bounds what can be compared: what lies beyond it is not new, only worked out
  // now.
  const differences = differ(
    yield* snapshots(store, source.id, standing),
    isNew ? [] : touched.map(standingOf),
    {
      asOf: now,
      viewer: zone,
      from: horizon.from,
      to: isNew ? horizon.to : Math.min(source.horizonTo, horizon.to),
      isRenewed: believed && missing.length > 0 && missing.length === existing.size,
    },
  );
  const stillToCome = missing.length ? store.stillToCome(source.id, now) : 0;
  if (!believed && missing.length && isSuspicious(differences, stillToCome))
    return { ...NOTHING, heldBack: { missing: differences.removed.length, of: stillToCome } };
  yield* write(store, source, { ...found, differences, rewritten: reading.rewritten }, options);
  return isNew ? { added: touched.length, changed: 0, gone: 0, heldBack: null } : count(differences);
}

interface Compared {
  /** What is stored of the entries that were read, and of those that are missing, by UID */
  existing: Map<string, ItemHead>;
  /** Entries to be looked at closely */
  touched: ReadEntry[];
  /** What is stored, and was not read */
  missing: ItemHead[];
}

/** Finds by digests what has to be looked at closely. */
function comparedWith(
  store: GatherStore,
  source: Source,
  reading: Derived,
  { horizon, all = false }: ApplyOptions,
): Compared {
  const existing = headsOf(store, source.id, reading);
  const touched: ReadEntry[] = [];
  const seen = new Set(reading.unchanged);
  const horizonMoved = source.horizonTo !== horizon.to;
  const { cutOff } = reading;
  for (const entry of reading.entries) {
    seen.add(entry.uid);
    const old = existing.get(entry.uid);
    // The entry in which a reading breaks off says what it said before, and so does a series: single dates of it
    // may stand further down.
    if (old && cutOff && (cutOff.unfinished === entry.uid || entry.repeats)) continue;
    const isSame = old?.digest === entry.fingerprint && old.goneAt === null;
    if (all || !isSame || (horizonMoved && entry.repeats)) touched.push(entry);
  }
  // Of what lies behind the place where it breaks off nothing is known.
  const missing = (cutOff ? [] : store.liveUids(source.id))
    .filter((uid) => !seen.has(uid))
    .map((uid) => existing.get(uid) ?? store.itemByUid(source.id, uid)!);
  for (const row of missing) existing.set(row.uid, row);
  return { existing, touched, missing };
}

/** Gives what stands of some items that are not gone, as it is compared. */
function* snapshots(
  store: GatherStore,
  sourceId: string,
  rows: readonly (ItemHead | undefined)[],
): Steps<Snapshot[]> {
  const found: Snapshot[] = [];
  let count = 0;
  for (const row of rows) {
    if (!row || row.goneAt !== null) continue;
    const standing = snapshot(store, row);
    found.push(standing);
    if ((count += 1 + standing.occurrences.length) < STEP) continue;
    count = 0;
    yield* pause(store, sourceId);
  }
  return found;
}

/** Writes what differs: with each entry its dates, its own layers and its news, in one step. */
function* write(
  store: GatherStore,
  source: Source,
  {
    existing,
    touched,
    missing,
    differences,
    rewritten,
  }: Compared & { differences: Differences; rewritten: Derived['rewritten'] },
  options: ApplyOptions,
): Steps<void> {
  for (const { from, to } of differences.reissued) {
    const row = existing.get(from)!;
    existing.delete(from);
    existing.set(to, row);
  }
  const hasFresh = touched.some((e) => !existing.has(e.uid));
  const news = byUid(options.quiet ? [] : newsOf(differences));
  const movedIds = byUid(differences.movedIds);
  /** What this step has written */
  const ids = new Map<string, string>();
  let rows = 0;
  const finish = () => {
    rows = 0;
    if (!ids.size) return;
    moveLayers(store, movedIds, ids);
    settleSame(store.duplicates, source.learnerId, [...ids.values()], options.zone);
    storeNews(store, source.learnerId, news, ids, options.now);
    ids.clear();
  };
  function* written(count: number): Steps<void> {
    if ((rows += count) < STEP) return;
    finish();
    yield* pause(store, source.id);
  }
  for (const entry of touched) {
    ids.set(entry.uid, put(store, source, entry, existing.get(entry.uid), options));
    yield* written(1 + entry.occurrences.length);
  }
  // What lies in the past stays: many feeds show only a moving window of time.
  const rolledOff = new Set(differences.rolledOff.map((r) => r.uid));
  for (const row of missing) {
    if (existing.get(row.uid) !== row || rolledOff.has(row.uid)) continue;
    store.markGone(row.id, options.now);
    store.occurrences.clear(row.id);
    // Something new may be what this was: a person is asked before what they have added is out of sight.
    if (hasFresh && store.layers.datesOf(row.id).length) store.unmatched.setUnmatched(row.id, true);
    ids.set(row.uid, row.id);
    yield* written(2);
  }
  for (const [uid, writing] of rewritten) {
    store.rewrite(source.id, uid, writing);
    yield* written(1);
  }
  finish();
}

/** Ends a step. @throws ProblemError where the source was taken away meanwhile: then nothing more is put into it */
function* pause(store: GatherStore, sourceId: string): Steps<void> {
  yield;
  if (store.byId(sourceId)?.removedAt !== null) throw notFound('followed link');
}

const NOTHING: Applied = { added: 0, changed: 0, gone: 0, heldBack: null };

/** Stored heads of what a reading has, by UID: one by one where these are few. */
function headsOf(store: GatherStore, sourceId: string, { entries }: Derived): Map<string, ItemHead> {
  const heads =
    entries.length > 500
      ? store.itemsOf(sourceId)
      : entries.map((e) => store.itemByUid(sourceId, e.uid)).filter((row) => row !== undefined);
  return new Map(heads.map((row) => [row.uid, row]));
}

const snapshot = (store: GatherStore, row: ItemHead): Snapshot =>
  snapshotOf({ uid: row.uid, title: row.title, content: store.content(row.id) }, store.occurrencesOf(row.id));
const standingOf = ({ uid, title, wording, url, occurrences }: ReadEntry): Snapshot => ({
  uid,
  title,
  wording,
  url,
  occurrences,
});

function put(
  store: GatherStore,
  source: Source,
  entry: ReadEntry,
  old: ItemHead | undefined,
  { now, calendarOf, all }: ApplyOptions,
): string {
  const {
    uid,
    fingerprint: digest,
    written,
    section,
    kind,
    handIn,
    doubt,
    course,
    title,
    content,
    duplicateKey,
  } = entry;
  const id = old?.id ?? orderedId(now);
  // What is worked out anew from the store cannot know what was odd about it when it was read.
  const mustReparse = entry.mustReparse || (all === true && old?.mustReparse === true);
  const row = {
    id,
    calendarId: calendarOf(section),
    uid,
    digest,
    written,
    mustReparse,
    section,
    kind,
    handIn,
    doubt,
    course,
    title,
    content,
    duplicateKey,
    updatedAt: now,
  };
  if (old) store.changeItem(row);
  else store.addItem(row, source);
  store.occurrences.put({ ...row, learnerId: source.learnerId }, entry.occurrences, {
    duplicate: old?.sameAs != null,
    own: false,
  });
  return id;
}

/** A series moved as a whole: its occurrences have new names, and own layers go along. */
function moveLayers(
  store: GatherStore,
  movedIds: ReadonlyMap<string, (Differences['movedIds'][number] & { order: number })[]>,
  ids: ReadonlyMap<string, string>,
): void {
  store.layers.moveAll(
    saidOf(movedIds, ids.keys()).map(({ uid, from, to }) => {
      const itemId = ids.get(uid)!;
      return { from: { itemId, recurrenceId: from }, to: { itemId, recurrenceId: to } };
    }),
  );
}

/** Counts how many entries are new, changed or gone, each counted once. */
function count(d: Differences): Applied {
  const uids = (list: { uid: string }[]) => new Set(list.map((e) => e.uid));
  const added = uids(d.added.filter((e) => e.recurrenceId === null));
  const gone = uids(d.removed.filter((e) => e.recurrenceId === null));
  const changed = uids([...d.moved, ...d.reworded, ...d.calledOff, ...d.added, ...d.removed]);
  for (const uid of [...added, ...gone]) changed.delete(uid);
  return { added: added.size, changed: changed.size, gone: gone.size, heldBack: null };
}
