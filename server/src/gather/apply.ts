import { randomUUID } from 'node:crypto';
import type { ReadEntry, ReadResult } from './read-bytes.ts';
import type { GatherStore, SourceRow } from './store.ts';

export interface Applied {
  added: number;
  changed: number;
  gone: number;
}

/**
 * Puts a reading in place of the one before. Items keep their identity by UID, so own layers stay on them; what the
 * feed no longer has is marked as gone if it was still to come, and kept as it is if it lies in the past: many feeds
 * show only a moving window of time. To be called inside a transaction.
 */
export function applyReading(store: GatherStore, source: Pick<SourceRow, 'id' | 'learnerId' | 'calendarId' | 'horizonTo'>, reading: ReadResult, now: number, horizonTo: number): Applied {
  const existing = new Map(store.itemsOf(source.id).map((row) => [row.uid, row]));
  const applied: Applied = { added: 0, changed: 0, gone: 0 };
  const horizonMoved = source.horizonTo !== horizonTo;
  for (const entry of reading.entries) {
    const old = existing.get(entry.uid);
    existing.delete(entry.uid);
    const isSame = old?.fingerprint === entry.fingerprint && old.goneAt === null;
    if (isSame && !(horizonMoved && entry.content.master?.repeat)) continue;
    const values = { fingerprint: entry.fingerprint, sort: entry.sort, handIn: entry.handIn, course: entry.course, title: entry.title, content: entry.content, goneAt: null, updatedAt: now };
    const id = old?.id ?? randomUUID();
    if (old) {
      store.changeItem({ id, ...values });
      store.clearOccurrences(id);
      if (!isSame) applied.changed++;
    } else {
      store.addItem({ id, learnerId: source.learnerId, calendarId: source.calendarId, sourceId: source.id, uid: entry.uid, createdAt: now, ...values });
      applied.added++;
    }
    addOccurrences(store, source, id, entry);
  }
  for (const old of existing.values()) {
    if (old.goneAt !== null) continue;
    if (store.lastMoment(old.id) < now) continue;
    store.markGone(old.id, now);
    store.clearOccurrences(old.id);
    applied.gone++;
  }
  return applied;
}

function addOccurrences(store: GatherStore, source: Pick<SourceRow, 'learnerId' | 'calendarId'>, itemId: string, entry: ReadEntry): void {
  for (const { from, to, ...o } of entry.occurrences) {
    store.addOccurrence({ itemId, learnerId: source.learnerId, calendarId: source.calendarId, ...o, fromMs: from, toMs: to });
  }
}
