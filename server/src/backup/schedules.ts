import { randomUUID } from 'node:crypto';
import { createWriteStream, mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { Transform, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { ArchiveLook } from '@zephyrfield/core/api/archive';
import type { Learner } from '@zephyrfield/core/api/schemas';
import type { Clock } from '../clock.ts';
import type { GatherService } from '../gather/service.ts';
import { FeedTrouble } from '../gather/trouble.ts';
import { ProblemError, tooLarge, tooMany } from '../http/problem.ts';
import { MOST } from '../limits.ts';
import type { Sights } from '../people/sights.ts';
import type { PeopleStore } from '../people/store.ts';
import { UsedUp, type Pool } from '../work/pool.ts';
import { PACK, UNPACK } from './jobs.ts';
import type { NewNames } from './names.ts';
import type { ToPutBack } from './put-back.ts';
import type { RestoreStore } from './store.ts';
import type { Unpacked } from './unpack.ts';

export interface SchedulesDeps {
  pool: Pool;
  people: PeopleStore;
  store: RestoreStore;
  sights: Sights;
  clock: Clock;
  /** A link that was sealed here, for who may follow it */
  openedFor: GatherService['openedFor'];
  /** Puts what an archive holds into a schedule that is there */
  putBack(what: ToPutBack): Promise<NewNames>;
  /** The database's file, and the folder of files */
  file: string;
  folder: string;
  changed(learnerId: string): void;
  accessChanged(personId: string): void;
}

const bad = (why: string) =>
  new ProblemError(422, 'archive', 'This archive cannot be used.', {
    remedy: `${why} Choose another one. Nothing was changed.`,
  });

/** One schedule as an archive, and back: as a new schedule, or in the place of another. */
export function scheduleArchives(deps: SchedulesDeps) {
  const { pool, people, store, sights, clock, putBack, openedFor, file, folder, changed, accessChanged } =
    deps;
  /** Person who has one made or looked at just now: each takes room on the disk. */
  const busy = new Set<string>();

  /** Does something in a folder of its own, one thing at a time for each person. However it ends, the folder goes. */
  async function inFolder<T>(personId: string, work: (folder: string) => Promise<T>): Promise<T> {
    if (busy.has(personId))
      throw tooMany('Another archive of yours is worked on.', 'Wait until that is done, and try again.');
    busy.add(personId);
    mkdirSync(folder, { recursive: true, mode: 0o700 });
    const own = mkdtempSync(join(folder, '.archive-'));
    try {
      return await work(own);
    } finally {
      rmSync(own, { recursive: true, force: true });
      busy.delete(personId);
    }
  }

  /** Takes an archive in, as it comes. @returns where it lies */
  async function take(stream: Readable, into: string): Promise<string> {
    const path = join(into, 'schedule.zip');
    let size = 0;
    const bounded = new Transform({
      transform(part: Buffer, _encoding, done) {
        size += part.length;
        done(size > MOST.archiveBytes ? tooLarge() : null, part);
      },
    });
    await pipeline(stream, bounded, createWriteStream(path, { mode: 0o600 }));
    return path;
  }

  async function unpacked(
    path: string,
    into: string | null,
    compareWith: string | null,
    personId: string,
  ): Promise<Unpacked> {
    const job = { path, into, with: compareWith ? { file, learnerId: compareWith, personId } : null };
    const found = await pool.run(UNPACK, job, personId).catch((error: unknown) => {
      throw error instanceof UsedUp ? bad('It takes too long to read.') : error;
    });
    if ('why' in found) throw bad(found.why);
    return found;
  }

  /**
   * A sealed link opens only for who keeps a schedule that follows it now: somebody who was let go takes no link along
   * that goes on being followed.
   */
  const follows = (personId: string) => (digest: string) =>
    store
      .followedBy(personId, digest)
      .some(({ learnerId, calendarId }) => !sights(personId, learnerId).has(calendarId));

  /** @throws ProblemError where something in it would be lost to somebody */
  function requireAllSeen(learner: Learner, personId: string): void {
    if (!sights(personId, learner.id).size) return;
    throw new ProblemError(409, 'kept-calendar', 'Somebody keeps a calendar of this schedule from you.', {
      remedy: 'It would be lost to them. Bring the archive back as a schedule of its own.',
    });
  }

  /** A schedule that nobody is in yet: until all of it is there, nobody sees it. */
  function begin(id: string, { learner }: Unpacked, personId: string): void {
    people.transaction(() => {
      if (people.learnersBegunBy(personId) >= MOST.learners)
        throw tooMany(
          `You have begun ${MOST.learners} schedules, which is the most.`,
          'Delete one of them first.',
        );
      people.addLearner({ id, ...learner, createdAt: clock.now(), createdBy: personId, personId: null });
      store.mark(id);
    });
  }

  return {
    /** Packs a schedule, and has it sent; it is there for as long as that takes. */
    pack: (learnerId: string, personId: string, send: (path: string) => Promise<void>): Promise<void> =>
      inFolder(personId, async (work) => {
        const job = { file, folder, work, learnerId, personId, now: clock.now() };
        const path = await pool.run(PACK, job, personId).catch((error: unknown) => {
          throw error instanceof UsedUp
            ? new ProblemError(422, 'too-much', 'This schedule is too large for an archive.', {
                remedy: 'Whoever runs this server can back it up with all others.',
              })
            : error;
        });
        await send(path);
      }),

    /** Says what is in an archive, and what of a schedule is otherwise now. */
    look: (stream: Readable, personId: string, compareWith: string | null): Promise<ArchiveLook> =>
      inFolder(personId, async (work) => {
        const path = await take(stream, work);
        const found = await unpacked(path, null, compareWith, personId);
        const { sources, own, finished, briefs, files, runUps } = found.counts;
        return {
          name: found.learner.name,
          made: found.made,
          calendars: found.calendars.map((c) => c.name),
          sources,
          items: own,
          finished,
          briefs,
          files,
          runUps,
          sealedLinks: found.links
            .filter(({ sealed }) => !openedFor(sealed, follows(personId)))
            .map(({ masked }) => masked),
          compared: found.compared,
        };
      }),

    /**
     * Makes a schedule of an archive. Where it is put in the place of another, the crew and what goes out go over to it, and
     * the other stays with whoever restores, under a name that says so.
     * @returns its id
     */
    restore: (stream: Readable, personId: string, inPlaceOf: Learner | null): Promise<string> =>
      inFolder(personId, async (work) => {
        if (inPlaceOf) requireAllSeen(inPlaceOf, personId);
        const path = await take(stream, work);
        const archive = await unpacked(path, work, null, personId);
        const learnerId = randomUUID();
        begin(learnerId, archive, personId);
        try {
          const crew = new Set(inPlaceOf ? store.crewOf(inPlaceOf.id) : []);
          const names = await putBack({
            archive,
            work,
            learnerId,
            personId,
            crew,
            mayFollow: follows(personId),
          });
          // Meanwhile somebody may have kept one from them.
          if (inPlaceOf) requireAllSeen(inPlaceOf, personId);
          const place = inPlaceOf && { from: inPlaceOf.id, names };
          for (const each of store.open(learnerId, personId, place, clock.now())) accessChanged(each);
        } catch (error) {
          await store.forget(learnerId);
          throw error instanceof FeedTrouble ? bad('What one of its sources brought cannot be read.') : error;
        }
        changed(learnerId);
        return learnerId;
      }),

    /** Takes away what a crash has left of bringing one back. */
    removeUnfinished: store.removeUnfinished,
  };
}
export type ScheduleArchives = ReturnType<typeof scheduleArchives>;
