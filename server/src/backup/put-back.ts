import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { setImmediate } from 'node:timers/promises';
import { FEEDS, FILES, type ItemRef } from '@zephyrfield/core/api/archive';
import type { BriefService } from '../briefs/service.ts';
import type { CalendarStore } from '../calendars/store.ts';
import type { Clock } from '../clock.ts';
import { orderedId } from '../db/ids.ts';
import type { GatherService } from '../gather/service.ts';
import type { OwnItemWrite, OwnService } from '../items/own-service.ts';
import { ProblemError } from '../http/problem.ts';
import type { OwnWritten } from '@zephyrfield/core/api/schemas';
import type { ItemStore } from '../items/store.ts';
import type { PlanStore } from '../plan/store.ts';
import { nameOfItem, type NewNames } from './names.ts';
import { pagesOf } from './rows.ts';
import type { RestoreStore } from './store.ts';
import type { Unpacked } from './unpack.ts';

export interface PutBackDeps {
  calendars: CalendarStore;
  gather: GatherService;
  own: OwnService;
  items: ItemStore;
  briefs: BriefService;
  plans: PlanStore;
  store: RestoreStore;
  clock: Clock;
}

/** An archive that was unpacked, and for whom it is brought back. */
export interface ToPutBack {
  archive: Pick<Unpacked, 'calendars' | 'plan'>;
  /** The folder it was unpacked into: its rows, feeds and files */
  work: string;
  learnerId: string;
  personId: string;
  /** Who else may be named as somebody a calendar is for */
  crew: ReadonlySet<string>;
  /** Tells whether they may follow a link, by the digest of its address */
  mayFollow(digest: string): boolean;
}

/** Puts what an archive holds into a schedule that is there, by the services that people’s presses reach. */
export function puttingBack({ calendars, gather, own, items, briefs, plans, store, clock }: PutBackDeps) {
  /** Puts all of it back. @returns what each thing is called now */
  async function putBack({
    archive,
    work,
    learnerId,
    personId,
    crew,
    mayFollow,
  }: ToPutBack): Promise<NewNames> {
    const now = clock.now();
    const calendarOf = new Map<string, string>();
    store.transaction(() => {
      archive.calendars.forEach(({ ref, audience, ...calendar }, position) => {
        const id = orderedId(now);
        calendarOf.set(ref, id);
        // What was for some alone stays so: for those of them who are there, and for whoever brings it back.
        const persons = [personId, ...(audience?.persons ?? []).filter((p) => crew.has(p) && p !== personId)];
        const row = { id, learnerId, ...calendar, position, madeBy: personId, createdAt: now };
        calendars.add({ ...row, audience: audience && { persons, others: audience.others } });
      });
    });
    const at = (ref: string) => calendarOf.get(ref)!;
    const idOf = new Map<string, string>();
    for await (const page of pagesOf(work, 'sources'))
      for (const { ref, feed, calendar, sections, ...source } of page) {
        const mapped = Object.fromEntries(Object.entries(sections).map(([section, of]) => [section, at(of)]));
        const body = new Uint8Array(await readFile(join(work, FEEDS, feed)));
        const id = await gather.putBack(
          learnerId,
          { ...source, calendarId: at(calendar), sections: mapped, mayFollow },
          body,
          personId,
        );
        for (const { itemId, uid } of store.itemsOf(id)) idOf.set(nameOfItem({ source: ref, uid }), itemId);
      }
    for await (const page of pagesOf(work, 'own')) {
      const writes = page.map(({ calendar, item }) => ({
        id: null,
        calendarId: at(calendar),
        item,
        version: 0,
      }));
      const written = await writeInParts(learnerId, writes, personId);
      page.forEach(({ ref }, k) => idOf.set(nameOfItem({ own: ref }), written[k]!.id));
    }
    const itemOf = (of: ItemRef) => idOf.get(nameOfItem(of));
    await putLayers(work, itemOf, personId, now);
    for await (const page of pagesOf(work, 'briefs'))
      for (const { of, recurrenceId, brief } of page) {
        const itemId = itemOf(of);
        if (itemId) briefs.write(itemId, { recurrenceId, brief, alike: false });
        await setImmediate();
      }
    for await (const page of pagesOf(work, 'files'))
      for (const { of, recurrenceId, name, digest, as } of page) {
        const itemId = itemOf(of);
        if (!itemId) continue;
        const bytes = new Uint8Array(await readFile(join(work, FILES, digest)));
        await briefs.addFile(personId, itemId, recurrenceId, name, bytes, as);
      }
    if (archive.plan) {
      const travel = Object.fromEntries(
        Object.entries(archive.plan.travel).map(([ref, way]) => [at(ref), way]),
      );
      store.transaction(() => plans.writeSettings(learnerId, { ...archive.plan!, travel }, 0, now));
    }
    return { items: idOf, calendars: calendarOf };
  }

  /** Writes own items, as many at once as may be. @throws ProblemError where one by itself is too much */
  async function writeInParts(
    learnerId: string,
    writes: readonly OwnItemWrite[],
    personId: string,
  ): Promise<OwnWritten[]> {
    try {
      return await own.write(learnerId, writes, personId);
    } catch (error) {
      if (!(error instanceof ProblemError) || writes.length < 2) throw error;
      const half = Math.ceil(writes.length / 2);
      const first = await writeInParts(learnerId, writes.slice(0, half), personId);
      return [...first, ...(await writeInParts(learnerId, writes.slice(half), personId))];
    }
  }

  /** Gives what people added to items, page by page, with others answered between. */
  async function putLayers(
    work: string,
    itemOf: (of: ItemRef) => string | undefined,
    personId: string,
    now: number,
  ): Promise<void> {
    const each = async <R extends { of: ItemRef }>(
      pages: AsyncIterable<R[]>,
      put: (itemId: string, row: Omit<R, 'of'>) => unknown,
    ) => {
      for await (const page of pages)
        store.transaction(() => {
          for (const { of, ...row } of page) {
            const itemId = itemOf(of);
            if (itemId) put(itemId, row);
          }
        });
    };
    const ms = (instant: string | null) => (instant === null ? null : Date.parse(instant));
    await each(pagesOf(work, 'layers'), (itemId, { finishedAt, ...row }) =>
      items.writeLayer({ ...row, itemId, finishedAt: ms(finishedAt), updatedAt: now }, 0),
    );
    await each(pagesOf(work, 'notes'), (itemId, row) =>
      items.writePersonLayer({ ...row, itemId, personId, updatedAt: now }, 0),
    );
    await each(pagesOf(work, 'records'), (itemId, { at, by, note, ...row }) =>
      // Who told it has no account here by that name alone: the name stays in its words.
      items.addRecord({
        ...row,
        itemId,
        at: Date.parse(at),
        note: by ? [note, `(told by ${by})`].filter(Boolean).join(' ') : note,
      }),
    );
    await each(pagesOf(work, 'runUps'), (itemId, { recurrenceId, runUp }) =>
      plans.put({ itemId, recurrenceId, ...runUp, version: 1, updatedAt: now }),
    );
  }

  return putBack;
}
