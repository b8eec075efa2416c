import { randomUUID } from 'node:crypto';
import { differ, isSuspicious, type Differences } from '@zephyrfield/core/gather/differences';
import { snapshotOf } from '@zephyrfield/core/gather/snapshot';
import type { When } from '@zephyrfield/core/time/when';
import type { Zone } from '@zephyrfield/core/time/zone';
import type { ReadEntry, ReadResult } from './read-bytes.ts';
import type { GatherStore, ItemHead, SourceRow } from './store.ts';

export interface Applied {
  added: number;
  changed: number;
  gone: number;
  /** Set where the reading was not applied, since it had lost most of what was still to come */
  heldBack: { missing: number; of: number } | null;
}

type Source = Pick<SourceRow, 'id' | 'learnerId' | 'calendarId' | 'horizonTo'>;

export interface ApplyOptions {
  now: number;
  /** The calendar's: whose wall clock a series keeps its hour on */
  zone: Zone;
  horizon: { from: number; to: number };
  /** The person (or several readings over a day) has said that what is missing is really gone */
  believed: boolean;
  /** The first reading of a source is no news */
  first: boolean;
}

/**
 * Puts a reading in place of the one before. Entries are compared by fingerprint, and only what differs is looked at
 * closely; items keep their identity by UID (or what is plainly the same thing under another), so own layers stay on
 * them. To be called inside a transaction.
 */
export function applyReading(store: GatherStore, source: Source, reading: ReadResult, { now, zone, horizon, believed, first }: ApplyOptions): Applied {
  const existing = new Map(store.itemsOf(source.id).map((row) => [row.uid, row]));
  const touched: ReadEntry[] = [];
  const seen = new Set<string>();
  const horizonMoved = source.horizonTo !== horizon.to;
  for (const entry of reading.entries) {
    seen.add(entry.uid);
    const old = existing.get(entry.uid);
    const isSame = old?.fingerprint === entry.fingerprint && old.goneAt === null;
    if (!isSame || (horizonMoved && entry.content.master?.repeat)) touched.push(entry);
  }
  const missing = [...existing.values()].filter((row) => !seen.has(row.uid) && row.goneAt === null);

  const before = [...touched.map((e) => existing.get(e.uid)).filter((row) => row !== undefined && row.goneAt === null), ...missing].map((row) => snapshot(store, row!));
  // The end of the older horizon bounds what can be compared: what lies beyond it is not new, only worked out now.
  const differences = differ(before, touched.map((e) => snapshotOf(e, e.occurrences)), { asOf: now, viewer: zone, from: horizon.from, to: first ? horizon.to : Math.min(source.horizonTo, horizon.to) }); // prettier-ignore
  const stillToCome = missing.length ? store.stillToCome(source.id, now) : 0;
  if (!believed && missing.length && isSuspicious(differences, stillToCome)) {
    return { added: 0, changed: 0, gone: 0, heldBack: { missing: differences.removed.length, of: stillToCome } };
  }

  for (const { from, to } of differences.reissued) {
    const row = existing.get(from)!;
    existing.delete(from);
    existing.set(to, row);
  }
  for (const entry of touched) put(store, source, entry, existing.get(entry.uid), now);
  // What lies in the past stays: many feeds show only a moving window of time.
  const rolledOff = new Set(differences.rolledOff.map((r) => r.uid));
  for (const row of missing) {
    if (existing.get(row.uid) !== row || rolledOff.has(row.uid)) continue;
    store.markGone(row.id, now);
    store.clearOccurrences(row.id);
  }
  const ids = new Map(store.itemsOf(source.id).map((row) => [row.uid, row.id]));
  rekey(store, differences, ids);
  if (!first) tell(store, source, differences, ids, now);
  return count(differences);
}

const snapshot = (store: GatherStore, row: ItemHead) => snapshotOf({ uid: row.uid, title: row.title, content: store.content(row.id) }, store.occurrencesOf(row.id));

function put(store: GatherStore, source: Source, entry: ReadEntry, old: ItemHead | undefined, now: number): void {
  const { uid, fingerprint, sort, handIn, course, title, content } = entry;
  const id = old?.id ?? randomUUID();
  if (old) {
    store.changeItem({ id, uid, fingerprint, sort, handIn, course, title, content, goneAt: null, updatedAt: now });
    store.clearOccurrences(id);
  } else {
    store.addItem({
      id,
      learnerId: source.learnerId,
      calendarId: source.calendarId,
      sourceId: source.id,
      uid,
      fingerprint,
      sort,
      handIn,
      course,
      title,
      content,
      goneAt: null,
      createdAt: now,
      updatedAt: now,
    });
  }
  for (const { from, to, ...o } of entry.occurrences) {
    store.addOccurrence({ itemId: id, learnerId: source.learnerId, calendarId: source.calendarId, ...o, fromMs: from, toMs: to });
  }
}

/** A series moved as a whole: its occurrences have new names, and own layers go along. */
function rekey(store: GatherStore, { rekeyed }: Differences, ids: ReadonlyMap<string, string>): void {
  const moves = rekeyed.map(({ uid, from, to }) => ({ layer: store.layer(ids.get(uid)!, from), to })).filter((m) => m.layer !== undefined);
  // Out first, in afterwards: a new name may be another one's old name.
  for (const { layer } of moves) store.removeLayer(layer!.itemId, layer!.key);
  for (const { layer, to } of moves) store.addLayer({ ...layer!, key: to });
}

function tell(store: GatherStore, { learnerId, calendarId }: Source, d: Differences, ids: ReadonlyMap<string, string>, at: number): void {
  const news = (uid: string, key: string | null, kind: 'added' | 'moved' | 'reworded' | 'calledOff' | 'removed', more: { title: string; from?: When; to?: When; formerTitle?: string }) => {
    const itemId = ids.get(uid);
    if (itemId) store.addChange({ learnerId, calendarId, itemId, key: key ?? '', kind, title: more.title, from: more.from ?? null, to: more.to ?? null, formerTitle: more.formerTitle ?? null, at });
  };
  for (const e of d.added) news(e.uid, e.recurrenceId, 'added', { title: e.title, to: e.start });
  for (const e of d.moved) news(e.uid, e.recurrenceId, 'moved', { title: e.title, from: e.from, to: e.to });
  for (const e of d.reworded) news(e.uid, e.recurrenceId, 'reworded', { title: e.title, ...(e.from === e.to ? {} : { formerTitle: e.from }) });
  for (const e of d.calledOff) news(e.uid, e.recurrenceId, 'calledOff', { title: e.title, from: e.start });
  for (const e of d.removed) news(e.uid, e.recurrenceId, 'removed', { title: e.title, from: e.start });
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
