import { setImmediate } from 'node:timers/promises';
import type { Log } from '../log.ts';
import type { OwnWritten } from '@zephyrfield/core/api/schemas';
import { contentFrom } from '@zephyrfield/core/ical/content';
import { ownOf, type OwnItem } from '@zephyrfield/core/item/own';
import type { BriefStore } from '../briefs/store.ts';
import type { CalendarStore } from '../calendars/store.ts';
import type { Clock } from '../clock.ts';
import { keyedId, orderedId } from '../db/ids.ts';
import { horizon } from '../gather/horizon.ts';
import { ProblemError, changedMeanwhile, notFound, placeOf, tooMany } from '../http/problem.ts';
import { MOST } from '../limits.ts';
import { Stopping, UsedUp, type Pool } from '../work/pool.ts';
import { OWN_DATES } from './jobs.ts';
import { quickDatesOf, type OwnDates } from './own-dates.ts';
import type { OwnStore } from './own-store.ts';

interface OwnDeps {
  store: OwnStore;
  calendars: CalendarStore;
  briefs: BriefStore;
  pool: Pool;
  clock: Clock;
  changed(learnerId: string): void;
  log: Log;
}

/**
 * An own item to be written, with its ids admitted: null for `id` makes a new one, null for `item` takes it
 * away.
 */
export interface OwnItemWrite {
  /** Names a new one from where it was made */
  key?: string | undefined;
  id: string | null;
  calendarId: string;
  item: OwnItem | null;
  version: number;
  /** The item it was parted from: ticks and notes on its dates come along */
  from?: string | undefined;
}

/** Number of items that are worked out anew at once when the horizon moves on. */
const PAGE = 50;
/**
 * Dates that are written in one transaction, some thirty milliseconds of the server's own thread. Of more, each item's
 * first ones are; the others follow in steps, before the answer.
 */
const AT_ONCE = 2_000;
/** Number of characters all of one item may be, with each of its changed dates written out. */
const MOST_CONTENT = 2_000_000;

const wrongRepeat = (title: string, message: string) =>
  new ProblemError(422, 'invalid', title, {
    remedy: 'Choose another end, or other days.',
    fields: [{ path: 'repeat', message }],
  });

/** Writing items of a person's own making. */
export function ownService({ store, calendars, briefs, pool, clock, changed, log }: OwnDeps) {
  const uidOf = (id: string) => `${id}@zephyrfield`;

  /** An item as it stands, if it is one of the learner's own making. */
  function standing(learnerId: string, id: string) {
    const found = store.byId(id);
    if (!found || found.item.learnerId !== learnerId || found.kind !== 'handMade')
      throw notFound('item of your own making');
    return found;
  }

  /** Gives what the writes need to know that takes time: worked out before anything is written. */
  async function workOut(
    learnerId: string,
    writes: readonly (OwnItemWrite & { id: string })[],
    owner: string,
  ): Promise<Map<string, OwnDates>> {
    const items = writes.flatMap(({ id, item, calendarId }) =>
      item
        ? [
            {
              id,
              own: item,
              uid: store.byId(id)?.item.uid ?? uidOf(id),
              zone: calendars.byId(calendarId)?.zone ?? 'UTC',
            },
          ]
        : [],
    );
    if (!items.length) return new Map();
    const job = { items, ...horizon(clock.now()), apart: false };
    const tooMuch = (error: unknown): never => {
      throw error instanceof UsedUp ? tooMuchWork() : error;
    };
    const found = quickDatesOf(job) ?? (await pool.run(OWN_DATES, job, owner).catch(tooMuch));
    if (found.some((f) => f.dates === null)) throw tooMuchWork();
    if (found.some((f) => f.content.length > MOST_CONTENT))
      throw tooMany(
        'That is too much for one item.',
        'Keep its details shorter, or change fewer of its dates.',
      );
    const dates = found.reduce((sum, f) => sum + f.dates!.length, 0);
    if (dates > MOST.datesAtOnce)
      throw tooMany(
        `That makes ${dates} dates; at most ${MOST.datesAtOnce} can be written at once.`,
        'Write fewer at once, or choose an earlier end.',
      );
    const others = store.datesBeside(
      learnerId,
      writes.map(({ id }) => id),
    );
    if (dates > 1 && others + dates > MOST.datesOfOwn)
      throw tooMany(
        `Your own items would have ${others + dates} dates; at most ${MOST.datesOfOwn} are kept.`,
        'Choose an earlier end for what repeats, or take something away first.',
      );
    return new Map(items.map(({ id }, i) => [id, found[i]!]));
  }

  /**
   * Writes one that was made before under the same key, whose answer was lost: nothing where it says the same, else what
   * it says now.
   */
  function writeAgain(
    learnerId: string,
    write: OwnItemWrite & { id: string },
    dates: OwnDates | undefined,
    now: number,
    most: number,
  ): OwnWritten | null {
    const made = write.key === undefined ? undefined : store.byId(write.id)?.item;
    if (!made || made.learnerId !== learnerId) return null;
    const { id, version } = made;
    const isSame = JSON.stringify(ownOf(made.content, made)) === JSON.stringify(write.item);
    const before = { calendarId: write.calendarId, item: null };
    if (isSame && made.calendarId === write.calendarId && made.goneAt === null)
      return { id, version, before };
    return { ...writeOne(learnerId, { ...write, version }, false, dates, now, most), before };
  }

  function writeOne(
    learnerId: string,
    write: OwnItemWrite & { id: string },
    isNew: boolean,
    dates: OwnDates | undefined,
    now: number,
    most: number,
  ): OwnWritten {
    const { id, calendarId, item: own, version, from } = write;
    const old = isNew ? undefined : standing(learnerId, id);
    if (old && old.item.version !== version) throw changedMeanwhile();
    if (calendars.byId(calendarId)?.learnerId !== learnerId) throw notFound('calendar');
    const before = {
      calendarId: old?.item.calendarId ?? calendarId,
      item: old && old.item.goneAt === null ? ownOf(old.item.content, old.item) : null,
    };
    const next = version + 1;
    if (!own || !dates?.dates) {
      if (!old) throw notFound('item of your own making');
      store.markGone(id, now, next);
      store.putDates(old.item, []);
      return { id, version: next, before };
    }
    if (own.when && !dates.dates.length && own.repeat)
      throw wrongRepeat('This has no dates.', 'With these days and this end it has no dates.');
    const sourceId = store.sourceFor(calendarId, learnerId, now, () => orderedId(now));
    const { kind, handIn, title } = own;
    const uid = old?.item.uid ?? uidOf(id);
    const content = contentFrom(dates.content);
    const row = {
      id,
      learnerId,
      calendarId,
      sourceId,
      uid,
      kind,
      handIn,
      title,
      content,
      version: next,
      goneAt: null,
      createdAt: now,
      updatedAt: now,
    };
    store.put(row);
    store.putDates(row, dates.dates.slice(0, most));
    if (from && from !== id) briefs.copyShared(from, id);
    followDates(
      id,
      dates.dates.map((d) => d.recurrenceId),
      [id, ...(from ? [from] : [])],
    );
    return { id, version: next, before };
  }

  /**
   * Writes the dates that did not go along with their items, each item's in a step of its own. What is cut short is worked
   * out like what a horizon has moved past: the sources say how far they are until all of it stands.
   */
  async function writeRest(
    written: readonly OwnWritten[],
    dates: ReadonlyMap<string, OwnDates>,
    former: ReadonlyMap<string, number>,
  ): Promise<void> {
    for (const { id, version } of written) {
      await setImmediate();
      const all = dates.get(id)?.dates;
      if (!all) continue;
      store.transaction(() => {
        const [row] = store.itemsById([id]);
        if (row?.version === version) store.putDates(row, all);
      });
    }
    store.transaction(() => {
      for (const [sourceId, horizonTo] of former) store.reached([sourceId], horizonTo);
    });
  }

  /** Own layers go along with their dates: to the date of the same name, else to the one on the same day. */
  function followDates(id: string, keys: readonly string[], sources: readonly string[]): void {
    const free = new Set(keys);
    for (const recurrenceId of store.layers.datesOf(id)) free.delete(recurrenceId);
    const byDay = new Map<string, string[]>();
    for (const recurrenceId of free)
      byDay.set(recurrenceId.slice(0, 10), [...(byDay.get(recurrenceId.slice(0, 10)) ?? []), recurrenceId]);
    const known = new Set(keys);
    for (const sourceId of new Set(sources)) {
      for (const recurrenceId of store.layers.datesOf(sourceId)) {
        if (sourceId === id && known.has(recurrenceId)) continue;
        const to = free.has(recurrenceId)
          ? recurrenceId
          : byDay.get(recurrenceId.slice(0, 10))?.find((k) => free.has(k));
        // What does not repeat has one date without a name.
        const only = to ?? (keys.length === 1 && recurrenceId === '' ? keys[0] : undefined);
        if (only === undefined || !free.has(only)) continue;
        free.delete(only);
        store.layers.move({ itemId: sourceId, recurrenceId }, { itemId: id, recurrenceId: only });
      }
    }
  }

  /**
   * Works out some items anew, up to a horizon; leaves those alone that somebody writes meanwhile. Where all of
   * them together take too long, each half is tried by itself, so that one of them never keeps the others back.
   * @throws when one item by itself takes too long
   */
  async function extendPage(ids: readonly string[], span: { from: number; to: number }): Promise<void> {
    const rows = store.itemsById(ids);
    const items = rows.map((row) => ({
      own: ownOf(row.content, row),
      uid: row.uid,
      zone: calendars.byId(row.calendarId)!.zone,
    }));
    let found: OwnDates[];
    try {
      found = await pool.run(OWN_DATES, { items, ...span, apart: true }, null);
    } catch (error) {
      if (ids.length < 2 || error instanceof Stopping) throw error;
      const half = Math.ceil(ids.length / 2);
      const halves = await Promise.allSettled([
        extendPage(ids.slice(0, half), span),
        extendPage(ids.slice(half), span),
      ]);
      for (const each of halves) if (each.status === 'rejected') throw each.reason as Error;
      return;
    }
    // One after the other, with others answered between: a daily one has more than a thousand dates.
    for (const [i, row] of rows.entries()) {
      const { dates } = found[i]!;
      if (!dates) continue;
      store.transaction(() => {
        if (store.itemsById([row.id])[0]?.version === row.version) store.putDates(row, dates);
      });
      await setImmediate();
    }
  }

  return {
    /**
     * Writes them all or none.
     * @param owner who asks
     */
    async write(learnerId: string, given: readonly OwnItemWrite[], owner: string): Promise<OwnWritten[]> {
      const now = clock.now();
      const writes = given.map((write) => ({
        ...write,
        isNew: write.id === null,
        id: write.id ?? (write.key === undefined ? orderedId(now) : keyedId(learnerId, write.key)),
      }));
      for (const { id, isNew } of writes) if (!isNew) standing(learnerId, id);
      const dates = await workOut(learnerId, writes, owner);
      const lengths = [...dates.values()].map((found) => found.dates?.length ?? 0);
      const isLong = lengths.reduce((sum, n) => sum + n, 0) > AT_ONCE;
      const most = isLong ? Math.floor(AT_ONCE / lengths.length) : Infinity;
      const former = new Map<string, number>();
      const written = store.transaction(() => {
        const begun = writes.filter((w) => w.isNew).length;
        if (begun && store.countOf(learnerId) + begun > MOST.ownItems)
          throw tooMany(
            `There are ${MOST.ownItems} items of your own, which is the most.`,
            'Remove some first.',
          );
        const all = writes.map((write) => {
          const found = dates.get(write.id);
          const again = write.isNew ? writeAgain(learnerId, write, found, now, most) : null;
          return again ?? writeOne(learnerId, write, write.isNew, found, now, most);
        });
        if (isLong)
          for (const { id, horizonTo } of store.sourcesOf(writes.map((write) => write.calendarId))) {
            former.set(id, horizonTo);
            store.reached([id], 0);
          }
        return all;
      });
      if (isLong) await writeRest(written, dates, former);
      changed(learnerId);
      return written;
    },

    /** Works out what repeats further, once the stored horizon has moved on. Nothing waits for it. */
    async extend(): Promise<void> {
      const span = horizon(clock.now());
      for (const source of store.shortOf(span.to)) {
        const ids = store.liveIds(source.id);
        let isWhole = true;
        for (let i = 0; i < ids.length; i += PAGE)
          await extendPage(ids.slice(i, i + PAGE), span).catch((error: unknown) => {
            if (error instanceof Stopping) throw error;
            // The others go on; this one is tried again tomorrow.
            isWhole = false;
            log('working out own items further failed', { fault: placeOf(error) });
          });
        if (isWhole) store.transaction(() => store.reached([source.id], span.to));
        changed(source.learnerId);
      }
    },
  };
}
export type OwnService = ReturnType<typeof ownService>;

const tooMuchWork = () =>
  wrongRepeat('This takes too long to work out.', 'It begins too long ago, or asks for too much at once.');
