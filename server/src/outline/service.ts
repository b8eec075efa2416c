import type { AddedRow, OutlineHead, OutlineTerm, OutlineView } from '@zephyrfield/core/api/outlines';
import { parseDate } from '@zephyrfield/core/time/civil';
import type { CalendarStore } from '../calendars/store.ts';
import type { Clock } from '../clock.ts';
import { keyedId, orderedId } from '../db/ids.ts';
import { ProblemError, notFound, tooMany } from '../http/problem.ts';
import { MOST } from '../limits.ts';
import type { Sights } from '../people/sights.ts';
import { UsedUp, type Pool } from '../work/pool.ts';
import { READ_OUTLINE } from './jobs.ts';
import type { OutlineJob, OutlineRead } from './job.ts';
import type { OutlineStore, OutlineStored } from './store.ts';

export interface OutlineDeps {
  store: OutlineStore;
  calendars: Pick<CalendarStore, 'byId'>;
  sights: Sights;
  pool: Pool;
  clock: Clock;
  changed(learnerId: string): void;
}

/** Time an outline that was given waits to be kept, in milliseconds. */
const WAITS = 86_400_000;

/** Course outlines: read beside the server’s own thread, looked through, and kept with the calendar they filled. */
export function outlineService({ store, calendars, sights, pool, clock, changed }: OutlineDeps) {
  async function read(job: OutlineJob, owner: string): Promise<Extract<OutlineRead, { page: string }>> {
    const found = await pool.run(READ_OUTLINE, job, owner).catch((error: unknown) => {
      if (error instanceof UsedUp)
        throw new ProblemError(422, 'outline-too-much', 'It takes too much to read.', {
          remedy: 'Copy the part with the dates and paste it.',
        });
      throw error;
    });
    if ('trouble' in found)
      throw new ProblemError(422, 'outline', found.trouble.words, {
        ...(found.trouble.remedy && { remedy: found.trouble.remedy }),
        detail: 'Nothing was saved.',
      });
    return found;
  }

  const optionsOf = ({ from, to, order }: OutlineTerm) => ({
    from: parseDate(from),
    to: parseDate(to),
    order: order ?? null,
  });

  const headOf = (
    row: Pick<OutlineStored, 'id' | 'name' | 'calendarId' | 'createdAt' | 'added'>,
  ): OutlineHead => ({
    id: row.id,
    name: row.name,
    calendarId: row.calendarId,
    readAt: new Date(row.createdAt).toISOString(),
    items: row.added,
  });

  /** Outlines with what was added from them, as far as it is still there. */
  function stillThere<T extends Pick<OutlineStored, 'added'>>(rows: readonly T[]): T[] {
    const there = store.standing(rows.flatMap((row) => row.added.map((a) => a.itemId)));
    return rows.map((row) => ({ ...row, added: row.added.filter((a) => there.has(a.itemId)) }));
  }

  function viewOf(
    row: OutlineStored,
    term: OutlineTerm,
    { view }: Extract<OutlineRead, { page: string }>,
  ): OutlineView {
    const [standing] = stillThere([row]);
    return { ...headOf(standing!), ...view, term: { from: term.from, to: term.to } };
  }

  return {
    /** Gives what is kept with calendars that somebody sees. */
    of(learnerId: string, personId: string): OutlineHead[] {
      const hidden = sights(personId, learnerId);
      const rows = store.kept(learnerId).filter((row) => !hidden.has(row.calendarId!));
      return stillThere(rows).map(headOf);
    },

    /** Reads what was given; nothing of it stands in a schedule yet. */
    async send(
      learnerId: string,
      personId: string,
      bytes: Uint8Array,
      { name, ...term }: OutlineTerm & { name: string },
    ): Promise<OutlineView> {
      if (bytes.length > MOST.fileBytes)
        throw new ProblemError(413, 'too-large', `${name} is larger than 10 MB.`, {
          remedy: 'Copy the part with the dates and paste it.',
        });
      const found = await read({ file: { bytes, name }, options: optionsOf(term) }, personId);
      const now = clock.now();
      const row: OutlineStored = {
        ...{ id: orderedId(now), learnerId, calendarId: null, personId, name },
        ...{ page: found.page, added: [], createdAt: now },
      };
      store.transaction(() => {
        store.forgetWaiting(now - WAITS);
        store.dropOldestWaiting(personId, MOST.waitingOutlines - 1);
        store.add(row);
      });
      return viewOf(row, term, found);
    },

    /** Reads one again, for another term or order. */
    async view(id: string, personId: string, term: OutlineTerm): Promise<OutlineView> {
      const row = store.byId(id);
      if (!row) throw notFound('outline');
      return viewOf(row, term, await read({ page: row.page, options: optionsOf(term) }, personId));
    },

    /** Keeps one with its calendar, and what became of its rows; an older version of it goes. */
    keep(
      id: string,
      kept: {
        calendarId: string;
        rows: readonly (Omit<AddedRow, 'itemId'> & { key?: string | undefined; item?: string | undefined })[];
        replaces?: string | undefined;
      },
    ): OutlineHead {
      return store.transaction(() => {
        const row = store.byId(id);
        if (!row) throw notFound('outline');
        const { learnerId } = row;
        if (calendars.byId(kept.calendarId)?.learnerId !== learnerId) throw notFound('calendar');
        if (row.calendarId === null && store.countOf(learnerId) >= MOST.outlines)
          throw tooMany(`There are ${MOST.outlines} outlines, which is the most.`, 'Let go of some first.');
        const added = kept.rows.flatMap(({ key, item, ...each }): AddedRow[] => {
          const itemId = item ?? (key === undefined ? null : keyedId(learnerId, key));
          return itemId === null ? [] : [{ itemId, ...each }];
        });
        if (kept.replaces !== undefined && kept.replaces !== id) {
          const older = store.byId(kept.replaces);
          if (older?.learnerId !== learnerId) throw notFound('outline');
          store.remove(older.id);
        }
        store.keep(id, kept.calendarId, added);
        changed(learnerId);
        return headOf({ ...row, calendarId: kept.calendarId, added });
      });
    },

    /** Lets go of one; what was added from it stays. */
    forget(id: string): void {
      store.transaction(() => {
        const row = store.byId(id);
        store.remove(id);
        if (row) changed(row.learnerId);
      });
    },

    tidy: (): void => void store.transaction(() => store.forgetWaiting(clock.now() - WAITS)),
  };
}
export type OutlineService = ReturnType<typeof outlineService>;
