import { randomUUID } from 'node:crypto';
import { createWriteStream, mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { Transform, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { setImmediate } from 'node:timers/promises';
import {
  FEEDS,
  FILES,
  type ArchiveLook,
  type ItemRef,
  type ScheduleArchive,
} from '@zephyrfield/core/api/archive';
import type { Learner } from '@zephyrfield/core/api/schemas';
import type { BriefService } from '../briefs/service.ts';
import type { CalendarStore } from '../calendars/store.ts';
import type { Clock } from '../clock.ts';
import { orderedId } from '../db/ids.ts';
import type { GatherService } from '../gather/service.ts';
import { ProblemError, tooLarge, tooMany } from '../http/problem.ts';
import type { OwnService } from '../items/own-service.ts';
import type { ItemStore } from '../items/store.ts';
import { MOST } from '../limits.ts';
import type { Sights } from '../people/sights.ts';
import type { PeopleStore } from '../people/store.ts';
import type { PlanStore } from '../plan/store.ts';
import type { Secrets } from '../secrets.ts';
import { UsedUp, type Pool } from '../work/pool.ts';
import type { RestoreStore } from './store.ts';
import type { Unpacked } from './unpack.ts';

export interface SchedulesDeps {
  pool: Pool;
  people: PeopleStore;
  calendars: CalendarStore;
  gather: GatherService;
  own: OwnService;
  items: ItemStore;
  briefs: BriefService;
  plans: PlanStore;
  store: RestoreStore;
  secrets: Secrets;
  sights: Sights;
  clock: Clock;
  /** The database's file, and the folder of files */
  file: string;
  folder: string;
  changed(learnerId: string): void;
  accessChanged(personId: string): void;
}

const bad = (why: string) =>
  new ProblemError(422, 'archive', 'This archive cannot be used.', {
    detail: why,
    remedy: 'Choose another one. Nothing was changed.',
  });

/** How many own items are written at once, and how many rows in one turn. */
const OWN_AT_ONCE = 40;
const ROWS_AT_ONCE = 200;

/** One schedule as an archive, and back: as a new schedule, or in the place of another. */
export function scheduleArchives(deps: SchedulesDeps) {
  const {
    pool,
    people,
    calendars,
    gather,
    own,
    items,
    briefs,
    plans,
    store,
    secrets,
    sights,
    clock,
    file,
    folder,
  } = deps;

  /** Takes an archive in, as it comes, into a folder of its own. */
  async function take(stream: Readable): Promise<{ path: string; work: string }> {
    mkdirSync(folder, { recursive: true, mode: 0o700 });
    const work = mkdtempSync(join(folder, '.archive-'));
    const path = join(work, 'schedule.zip');
    let size = 0;
    const bounded = new Transform({
      transform(part: Buffer, _encoding, done) {
        size += part.length;
        done(size > MOST.archiveBytes ? tooLarge() : null, part);
      },
    });
    try {
      await pipeline(stream, bounded, createWriteStream(path, { mode: 0o600 }));
      return { path, work };
    } catch (error) {
      rmSync(work, { recursive: true, force: true });
      throw error;
    }
  }

  async function unpacked(
    path: string,
    into: string | null,
    compareWith: string | null,
    personId: string,
  ): Promise<Unpacked> {
    const job = { path, into, with: compareWith ? { file, learnerId: compareWith, personId } : null };
    const found = await pool.run('unpack', job, personId).catch((error: unknown) => {
      if (error instanceof UsedUp) throw bad('It takes too long to read.');
      throw error;
    });
    if ('why' in found) throw bad(found.why);
    return found;
  }

  const isSealedHere = (sealed: string): boolean => {
    try {
      secrets.open(sealed);
      return true;
    } catch {
      return false;
    }
  };

  return {
    /** Packs a schedule; gives where the archive lies, and what lets go of it. */
    async pack(learnerId: string, personId: string): Promise<{ path: string; done(): void }> {
      const path = await pool.run('pack', { file, folder, learnerId, personId, now: clock.now() }, personId);
      return { path, done: () => rmSync(dirname(path), { recursive: true, force: true }) };
    },

    /** Says what is in an archive, and what of a schedule is otherwise now. */
    async look(stream: Readable, personId: string, compareWith: string | null): Promise<ArchiveLook> {
      const { path, work } = await take(stream);
      try {
        const { made, archive, compared } = await unpacked(path, null, compareWith, personId);
        const { learner, sources, layers, own: hand } = archive;
        return {
          name: learner.name,
          made,
          calendars: archive.calendars.map((c) => c.name),
          sources: sources.length,
          items: hand.length,
          finished: layers.filter((l) => l.finishedAt !== null).length,
          briefs: archive.briefs.length,
          files: archive.files.length,
          runUps: archive.runUps.length,
          sealedLinks: sources
            .filter((s) => s.kind === 'followedLink' && !isSealedHere(s.sealed))
            .map((s) => s.masked),
          compared,
        };
      } finally {
        rmSync(work, { recursive: true, force: true });
      }
    },

    /**
     * Makes a schedule of an archive. Where it is put in the place of another, the crew and what goes out go over to it, and
     * the other stays with whoever restores, under a name that says so.
     * @returns its id
     */
    async restore(stream: Readable, personId: string, inPlaceOf: Learner | null): Promise<string> {
      if (inPlaceOf && sights(personId, inPlaceOf.id).size)
        throw new ProblemError(409, 'kept-calendar', 'Somebody keeps a calendar of this schedule from you.', {
          remedy: 'It would be lost to them. Bring the archive back as a schedule of its own.',
        });
      const { path, work } = await take(stream);
      const id = randomUUID();
      let isBegun = false;
      try {
        const { archive } = await unpacked(path, work, null, personId);
        begin(id, archive, personId);
        isBegun = true;
        const crew = new Set(inPlaceOf ? store.crewOf(inPlaceOf.id) : []);
        const idOf = await putBack(id, archive, work, personId, crew);
        if (inPlaceOf)
          for (const each of store.exchange({ from: inPlaceOf.id, to: id, idOf }, personId, clock.now()))
            deps.accessChanged(each);
      } catch (error) {
        if (isBegun) store.forget(id);
        throw error;
      } finally {
        rmSync(work, { recursive: true, force: true });
      }
      deps.accessChanged(personId);
      deps.changed(id);
      return id;
    },
  };

  function begin(id: string, { learner }: ScheduleArchive, personId: string): void {
    const now = clock.now();
    people.transaction(() => {
      if (people.learnersBegunBy(personId) >= MOST.learners)
        throw tooMany(
          `You have begun ${MOST.learners} schedules, which is the most.`,
          'Delete one of them first.',
        );
      people.addLearner({ id, ...learner, createdAt: now, createdBy: personId, personId: null });
      people.join({ personId, learnerId: id, access: 'keep', joinedAt: now });
    });
  }

  /** Puts all of it back; gives the items’ ids by what the archive calls them. @param crew who else may be named */
  async function putBack(
    learnerId: string,
    archive: ScheduleArchive,
    work: string,
    personId: string,
    crew: ReadonlySet<string>,
  ): Promise<ReadonlyMap<string, string>> {
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
    for (const { ref, feed, calendar, sections, ...source } of archive.sources) {
      const mapped = Object.fromEntries(Object.entries(sections).map(([section, of]) => [section, at(of)]));
      const body = new Uint8Array(await readFile(join(work, FEEDS, feed)));
      const id = await gather.putBack(
        learnerId,
        { ...source, calendarId: at(calendar), sections: mapped },
        body,
        personId,
      );
      for (const { itemId, uid } of store.itemsOf(id)) idOf.set(`${ref} ${uid}`, itemId);
    }
    for (let n = 0; n < archive.own.length; n += OWN_AT_ONCE) {
      const part = archive.own.slice(n, n + OWN_AT_ONCE);
      const writes = part.map(({ calendar, item }) => ({
        id: null,
        calendarId: at(calendar),
        item,
        version: 0,
      }));
      const written = await own.write(learnerId, writes, personId);
      part.forEach(({ ref }, k) => idOf.set(`own ${ref}`, written[k]!.id));
    }
    const itemOf = (of: ItemRef) => idOf.get('own' in of ? `own ${of.own}` : `${of.source} ${of.uid}`);
    await putLayers(archive, itemOf, personId, now);
    for (const { of, recurrenceId, brief } of archive.briefs) {
      const itemId = itemOf(of);
      if (itemId) briefs.write(itemId, { recurrenceId, brief, alike: false });
      await setImmediate();
    }
    for (const { of, recurrenceId, name, digest, as } of archive.files) {
      const itemId = itemOf(of);
      if (itemId)
        await briefs.addFile(
          personId,
          itemId,
          recurrenceId,
          name,
          new Uint8Array(await readFile(join(work, FILES, digest))),
          as,
        );
    }
    if (archive.plan) {
      const travel = Object.fromEntries(
        Object.entries(archive.plan.travel).flatMap(([ref, way]) =>
          calendarOf.has(ref) ? [[at(ref), way]] : [],
        ),
      );
      store.transaction(() => plans.writeSettings(learnerId, { ...archive.plan!, travel }, 0, now));
    }
    return idOf;
  }

  /** What people added to items, row by row, with others answered between. */
  async function putLayers(
    { layers, notes, records, runUps }: ScheduleArchive,
    itemOf: (of: ItemRef) => string | undefined,
    personId: string,
    now: number,
  ): Promise<void> {
    const each = async <R extends { of: ItemRef }>(
      rows: readonly R[],
      put: (itemId: string, row: Omit<R, 'of'>) => unknown,
    ) => {
      for (let n = 0; n < rows.length; n += ROWS_AT_ONCE) {
        store.transaction(() => {
          for (const { of, ...row } of rows.slice(n, n + ROWS_AT_ONCE)) {
            const itemId = itemOf(of);
            if (itemId) put(itemId, row);
          }
        });
        await setImmediate();
      }
    };
    const ms = (instant: string | null) => (instant === null ? null : Date.parse(instant));
    await each(layers, (itemId, { finishedAt, ...row }) =>
      items.writeLayer({ ...row, itemId, finishedAt: ms(finishedAt), updatedAt: now }, 0),
    );
    await each(notes, (itemId, row) =>
      items.writePersonLayer({ ...row, itemId, personId, updatedAt: now }, 0),
    );
    await each(records, (itemId, { at, by, note, ...row }) =>
      // Who told it has no account here by that name alone: the name stays in its words.
      items.addRecord({
        ...row,
        itemId,
        at: Date.parse(at),
        note: by ? [note, `(told by ${by})`].filter(Boolean).join(' ') : note,
      }),
    );
    await each(runUps, (itemId, { recurrenceId, runUp }) =>
      plans.put({ itemId, recurrenceId, ...runUp, version: 1, updatedAt: now }),
    );
  }
}
export type ScheduleArchives = ReturnType<typeof scheduleArchives>;
