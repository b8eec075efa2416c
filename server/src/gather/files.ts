import { randomUUID } from 'node:crypto';
import type {
  CalendarView,
  NewCalendar,
  Preview,
  ReadingResult,
  SourceView,
} from '@zephyrfield/core/api/schemas';
import type { CalendarStore } from '../calendars/store.ts';
import type { Clock } from '../clock.ts';
import { orderedId } from '../db/ids.ts';
import { ProblemError, notFound } from '../http/problem.ts';
import { MOST } from '../limits.ts';
import type { Sights } from '../people/sights.ts';
import type { Secrets } from '../secrets.ts';
import type { ReadResult } from './read-bytes.ts';
import { asProblem } from './reader.ts';
import type { GatherService } from './service.ts';
import { isSameFeed } from './same-feed.ts';
import { inSteps, type Steps } from './steps.ts';
import type { GatherStore, SourceRow } from './store.ts';
import type { Turns } from './turns.ts';

interface FileDeps {
  gather: GatherService;
  store: GatherStore;
  calendars: CalendarStore;
  secrets: Secrets;
  clock: Clock;
  turns: Turns;
  sights: Sights;
  changed(learnerId: string): void;
}

/** Time a file that was sent waits to be read in. */
const WAITS = 86_400_000;

/** One-time files: copies of a day, sent, looked at, and read in or brought up to date by a newer copy. */
export function fileService({ gather, store, calendars, secrets, clock, turns, changed, sights }: FileDeps) {
  /**
   * Reads a file and says what is in it. It waits a day to be read in; nothing is shown of it before that.
   */
  async function send(
    learnerId: string,
    bytes: Uint8Array,
    name: string,
    zone: string,
    owner: string,
  ): Promise<Preview> {
    try {
      const reading = await gather.readNew({ body: bytes, charset: undefined }, zone, owner, learnerId);
      const now = clock.now();
      const id = orderedId(now);
      store.transaction(() => {
        store.forgetWaiting(now - WAITS);
        store.dropOldestWaiting(learnerId, MOST.waitingFiles - 1);
        store.addWaiting({ id, learnerId, name, bytes: Buffer.from(bytes), createdAt: now });
      });
      const source = newerCopyOf(learnerId, name, reading, owner);
      const copyOf = source && {
        sourceId: source.id,
        calendar: calendars.byId(source.calendarId)?.name ?? source.addressMasked,
        readOn: new Date(source.lastGoodAt ?? source.createdAt).toISOString(),
      };
      return {
        ...gather.previewOf(learnerId, reading, zone, name.replace(/\.\w{1,5}$/, '')),
        alreadyFollowed: null,
        isPlain: false,
        file: { id, name, copyOf: copyOf ?? null },
      };
    } catch (error) {
      throw asProblem(error, true);
    }
  }

  /**
   * The one-time file that another is a newer copy of: it has at least half of its entries, by their UIDs; or
   * it has the same name and calls itself the same. Browsers number a second download, which is left out of
   * account.
   */
  function newerCopyOf(
    learnerId: string,
    name: string,
    reading: ReadResult,
    owner: string,
  ): SourceRow | undefined {
    const kept = sights(owner, learnerId);
    const plain = (file: string) =>
      file
        .toLowerCase()
        .replace(/\(\d+\)(?=\.|$)/, '')
        .replace(/\s/g, '');
    const uids = new Set(reading.entries.map((e) => e.uid));
    return store.filesOf(learnerId).find((source) => {
      if (kept.has(source.calendarId)) return false;
      if (isSameFeed(store.liveUids(source.id), uids)) return true;
      return (
        plain(source.addressMasked) === plain(name) &&
        source.feedName !== null &&
        source.feedName === reading.name
      );
    });
  }

  /** A file that waits, for somebody who may edit its learner's schedule. */
  function waiting(id: string) {
    const file = store.waiting(id);
    if (!file)
      throw new ProblemError(404, 'file-gone', 'That file waits here no more.', {
        remedy: 'Choose it again; a file is kept for a day.',
      });
    return file;
  }

  /** Reads a file that waits in as a calendar, or several. */
  async function take(
    id: string,
    request: NewCalendar,
    owner: string,
  ): Promise<{ calendar: CalendarView; source: SourceView }> {
    const { learnerId, name, bytes } = waiting(id);
    gather.refuseTooMany(learnerId);
    const arrived = { body: new Uint8Array(bytes), charset: undefined };
    const reading = await gather
      .readNew(arrived, request.zone, owner, learnerId, request)
      .catch((error: unknown) => Promise.reject(asProblem(error, true)));
    const source = {
      kind: 'oneTimeFile' as const,
      addressSealed: '',
      addressMasked: name,
      addressDigest: secrets.digest(`file:${randomUUID()}`),
    };
    const taken = await gather.begin(learnerId, request, source, arrived, reading, () =>
      store.removeWaiting(id),
    );
    changed(learnerId);
    return taken;
  }

  /**
   * Brings a one-time file up to date with a newer copy. What has changed is news, as with a followed link.
   */
  function takeInto(
    sourceId: string,
    fileId: string,
    confirm: boolean,
    owner: string,
  ): Promise<ReadingResult> {
    return turns.take(sourceId, async () => {
      const row = store.byId(sourceId);
      if (row?.kind !== 'oneTimeFile' || row.removedAt !== null) throw notFound('one-time file');
      const file = waiting(fileId);
      if (file.learnerId !== row.learnerId) throw notFound('file');
      const arrived = { body: new Uint8Array(file.bytes), charset: undefined };
      const reading = await gather
        .readAgain(row, arrived, owner)
        .catch((error: unknown) => Promise.reject(asProblem(error, true)));
      const put = function* (): Steps<ReadingResult> {
        const settled = yield* gather.settle(row, arrived, reading, confirm, { addressMasked: file.name });
        // What was held back waits for a word; everything else is done with.
        if (!settled.source.heldBack) store.removeWaiting(fileId);
        return settled;
      };
      const result = await inSteps(store, put());
      changed(row.learnerId);
      return result;
    });
  }

  return {
    send,
    take,
    takeInto,
    tidy: () => store.transaction(() => store.forgetWaiting(clock.now() - WAITS)),
  };
}
export type FileService = ReturnType<typeof fileService>;
