import type { OwnWrite, OwnWritten } from '@zephyrfield/core/api/schemas';
import { expandEntry, type Entry } from '@zephyrfield/core/gather/entries';
import { contentOf, ownOf, type OwnItem } from '@zephyrfield/core/item/own';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import type { BriefStore } from '../briefs/store.ts';
import type { CalendarStore } from '../calendars/store.ts';
import type { Clock } from '../clock.ts';
import { orderedId } from '../db/ids.ts';
import { horizon } from '../gather/horizon.ts';
import { ProblemError, changedMeanwhile, notFound } from '../http/problem.ts';
import type { OwnStore } from './own-store.ts';

interface OwnDeps {
  store: OwnStore;
  calendars: CalendarStore;
  briefs: BriefStore;
  clock: Clock;
  changed(learnerId: string): void;
}

/** Writing items of a person's own making. */
export function ownService({ store, calendars, briefs, clock, changed }: OwnDeps) {
  /** The dates of an item inside the stored horizon. */
  function datesOf(own: OwnItem, uid: string, zoneName: string, now: number) {
    const entry: Entry = { uid, fingerprint: 0, part: null, sort: own.sort, handIn: own.handIn, course: null, title: own.title, content: contentOf(own, uid) };
    // What it is was said by a person, for each of its dates.
    const as = { calendar: 'own' as const, rules: { split: null, apart: [], corrections: [{ of: { uid }, sort: own.sort, handIn: own.handIn }] } };
    return { entry, dates: expandEntry(entry, { ...horizon(now), zone: ianaZone(zoneName) ?? UTC, zones: {}, as }) };
  }

  function writeOne(learnerId: string, { id: given, calendarId, item: own, version, from }: OwnWrite, now: number): OwnWritten {
    const old = given === null ? undefined : store.byId(given);
    if (given !== null && (!old || old.item.learnerId !== learnerId || old.kind !== 'handMade')) throw notFound('item of your own making');
    if (old && old.item.version !== version) throw changedMeanwhile();
    const calendar = calendars.byId(calendarId);
    if (!calendar || calendar.learnerId !== learnerId)
      throw new ProblemError(422, 'invalid', 'There is no such calendar.', { remedy: 'Choose another calendar.', fields: [{ path: 'calendarId', message: 'Choose a calendar.' }] });
    const before = { calendarId: old?.item.calendarId ?? calendarId, item: old && old.item.goneAt === null ? ownOf(old.item.content, old.item) : null };
    const id = given ?? orderedId(now);
    const next = version + 1;
    if (!own) {
      if (!old) throw notFound('item of your own making');
      store.markGone(id, now, next);
      store.putDates(old.item, []);
      return { id, version: next, before };
    }
    const uid = old?.item.uid ?? `${id}@zephyrfield`;
    const { entry, dates } = datesOf(own, uid, calendar.zone, now);
    if (own.when && !dates.length && own.repeat)
      throw new ProblemError(422, 'invalid', 'This never comes about.', { remedy: 'Choose another end, or other days.', fields: [{ path: 'repeat', message: 'With these days and this end it never comes about.' }] }); // prettier-ignore
    const row = { id, learnerId, calendarId, sourceId: store.sourceFor(calendarId, learnerId, now, () => orderedId(now)), uid, sort: own.sort, handIn: own.handIn, title: own.title, content: entry.content, version: next, goneAt: null, createdAt: now, updatedAt: now }; // prettier-ignore
    store.put(row);
    store.putDates(row, dates);
    if (from && from !== id) briefs.copyShared(from, id);
    followDates(id, dates.map((d) => d.key), [id, ...(from ? [from] : [])]); // prettier-ignore
    return { id, version: next, before };
  }

  /** Own layers go along with their dates: to the date of the same name, else to the one on the same day. */
  function followDates(id: string, keys: readonly string[], sources: readonly string[]): void {
    const free = new Set(keys);
    for (const { key } of store.layersOf(id)) free.delete(key);
    for (const sourceId of new Set(sources)) {
      for (const layer of store.layersOf(sourceId)) {
        if (sourceId === id && keys.includes(layer.key)) continue;
        const to = free.has(layer.key) ? layer.key : [...free].find((k) => k.slice(0, 10) === layer.key.slice(0, 10));
        // What does not repeat has one date without a name.
        const only = to ?? (keys.length === 1 && layer.key === '' ? keys[0] : undefined);
        if (only === undefined || !free.has(only)) continue;
        free.delete(only);
        store.moveLayer(layer, { itemId: id, key: only });
      }
    }
  }

  return {
    /** Writes them all or none. */
    write(learnerId: string, writes: readonly OwnWrite[]): OwnWritten[] {
      const now = clock.now();
      const written = store.transaction(() => writes.map((w) => writeOne(learnerId, w, now)));
      changed(learnerId);
      return written;
    },
    /** Works out dates that have come into the horizon since. */
    extend(): void {
      const now = clock.now();
      const { to } = horizon(now);
      store.transaction(() => {
        const sources = store.shortOf(to).map((s) => s.id);
        if (!sources.length) return;
        for (const row of store.itemsOf(sources)) {
          const { dates } = datesOf(ownOf(row.content, row), row.uid, calendars.byId(row.calendarId)!.zone, now);
          store.putDates(row, dates);
        }
        store.reached(sources, to);
      });
    },
  };
}
export type OwnService = ReturnType<typeof ownService>;
