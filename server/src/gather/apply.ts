import {
  differ,
  isSuspicious,
  standsAt,
  type Differences,
  type Snapshot,
} from '@zephyrfield/core/gather/differences';
import { snapshotOf } from '@zephyrfield/core/gather/snapshot';
import { recurrenceIdOf, type When } from '@zephyrfield/core/time/when';
import type { Zone } from '@zephyrfield/core/time/zone';
import { orderedId } from '../db/ids.ts';
import type { Derived, ReadEntry } from './read-bytes.ts';
import type { GatherStore, ItemHead, SourceRow } from './store.ts';
import { settleSame } from './duplicates.ts';

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
 * layers stay on them. To be called inside a transaction.
 */
export function applyReading(
  store: GatherStore,
  source: Source,
  reading: Derived,
  options: ApplyOptions,
): Applied {
  const { now, zone, horizon, believed, quiet, all = false } = options;
  if (reading.unchanged === 'all') return NOTHING;
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

  const isNew = quiet && existing.size === 0;
  const before = isNew
    ? []
    : [
        ...touched.map((e) => existing.get(e.uid)).filter((row) => row !== undefined && row.goneAt === null),
        ...missing,
      ].map((row) => snapshot(store, row!));
  // The end of the older horizon bounds what can be compared: what lies beyond it is not new, only worked out
  // now.
  const differences = differ(before, isNew ? [] : touched.map(standingOf), {
    asOf: now,
    viewer: zone,
    from: horizon.from,
    to: isNew ? horizon.to : Math.min(source.horizonTo, horizon.to),
    isRenewed: believed && missing.length > 0 && missing.length === existing.size,
  });
  const stillToCome = missing.length ? store.stillToCome(source.id, now) : 0;
  if (!believed && missing.length && isSuspicious(differences, stillToCome)) {
    return { ...NOTHING, heldBack: { missing: differences.removed.length, of: stillToCome } };
  }

  for (const { from, to } of differences.reissued) {
    const row = existing.get(from)!;
    existing.delete(from);
    existing.set(to, row);
  }
  const hasFresh = touched.some((e) => !existing.has(e.uid));
  const ids = new Map<string, string>();
  for (const entry of touched)
    ids.set(entry.uid, put(store, source, entry, existing.get(entry.uid), options));
  // What lies in the past stays: many feeds show only a moving window of time.
  const rolledOff = new Set(differences.rolledOff.map((r) => r.uid));
  for (const row of missing) {
    if (existing.get(row.uid) !== row || rolledOff.has(row.uid)) continue;
    store.markGone(row.id, now);
    store.occurrences.clear(row.id);
    // Something new may be what this was: a person is asked before what they have added is out of sight.
    if (hasFresh && store.layers.datesOf(row.id).length) store.unmatched.setUnmatched(row.id, true);
    ids.set(row.uid, row.id);
  }
  moveLayers(store, differences, ids);
  if (ids.size) settleSame(store.duplicates, source.learnerId, [...ids.values()], zone);
  if (!quiet) storeChanges(store, source, differences, ids, options);
  return isNew ? { added: touched.length, changed: 0, gone: 0, heldBack: null } : count(differences);
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
  const { uid, fingerprint: digest, section, kind, handIn, course, title, content, duplicateKey } = entry;
  const id = old?.id ?? orderedId(now);
  // What is worked out anew from the store cannot know what was odd about it when it was read.
  const mustReparse = entry.mustReparse || (all === true && old?.mustReparse === true);
  const row = {
    id,
    calendarId: calendarOf(section),
    uid,
    digest,
    mustReparse,
    section,
    kind,
    handIn,
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
function moveLayers(store: GatherStore, { movedIds }: Differences, ids: ReadonlyMap<string, string>): void {
  store.layers.moveAll(
    movedIds.map(({ uid, from, to }) => {
      const itemId = ids.get(uid)!;
      return { from: { itemId, recurrenceId: from }, to: { itemId, recurrenceId: to } };
    }),
  );
}

type ChangeDetails = { title: string; from?: When; to?: When; formerTitle?: string };

function storeChanges(
  store: GatherStore,
  { learnerId }: Source,
  d: Differences,
  ids: ReadonlyMap<string, string>,
  { now }: ApplyOptions,
): void {
  const put = (
    uid: string,
    recurrenceId: string | null,
    kind: 'added' | 'moved' | 'reworded' | 'calledOff' | 'removed',
    more: ChangeDetails,
  ) => {
    const itemId = ids.get(uid);
    const head = itemId === undefined ? undefined : store.duplicates.head(itemId);
    if (!head || (head.sameAs !== null && isToldBy(store, head.sameAs, kind, more))) return;
    store.addChange({
      learnerId,
      calendarId: head.calendarId,
      itemId: head.id,
      recurrenceId: recurrenceId ?? '',
      kind,
      title: more.title,
      from: more.from ?? null,
      to: more.to ?? null,
      formerTitle: more.formerTitle ?? null,
      at: now,
    });
  };
  for (const e of d.added) put(e.uid, e.recurrenceId, 'added', { title: e.title, to: e.start });
  for (const e of d.moved) put(e.uid, e.recurrenceId, 'moved', { title: e.title, from: e.from, to: e.to });
  for (const e of d.reworded)
    put(e.uid, e.recurrenceId, 'reworded', {
      title: e.title,
      ...(e.from === e.to ? {} : { formerTitle: e.from }),
    });
  for (const e of d.calledOff) put(e.uid, e.recurrenceId, 'calledOff', { title: e.title, from: e.start });
  for (const e of d.removed) put(e.uid, e.recurrenceId, 'removed', { title: e.title, from: e.start });
}

/**
 * Whether news of an item that is shown as part of another one is no news there: the other one stands
 * already, or still, where this one now says. A date that only this one has moved is told.
 */
function isToldBy(store: GatherStore, primary: string, kind: string, { to }: ChangeDetails): boolean {
  const standing = store.occurrencesOf(primary).filter((o) => o.status !== 'cancelled');
  if (kind === 'moved' && to) return standing.some((o) => recurrenceIdOf(standsAt(o)) === recurrenceIdOf(to));
  return kind === 'calledOff' ? standing.length === 0 : true;
}

/** How many entries are new, changed or gone, each counted once. */
function count(d: Differences): Applied {
  const uids = (list: { uid: string }[]) => new Set(list.map((e) => e.uid));
  const added = uids(d.added.filter((e) => e.recurrenceId === null));
  const gone = uids(d.removed.filter((e) => e.recurrenceId === null));
  const changed = uids([...d.moved, ...d.reworded, ...d.calledOff, ...d.added, ...d.removed]);
  for (const uid of [...added, ...gone]) changed.delete(uid);
  return { added: added.size, changed: changed.size, gone: gone.size, heldBack: null };
}
