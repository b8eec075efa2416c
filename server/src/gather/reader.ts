import { createHash } from 'node:crypto';
import type { NewCalendar } from '@zephyrfield/core/api/schemas';
import type { Understanding } from '@zephyrfield/core/gather/entries';
import { NO_RULES } from '@zephyrfield/core/gather/rules';
import type { CalendarStore } from '../calendars/store.ts';
import type { Clock } from '../clock.ts';
import { ProblemError } from '../http/problem.ts';
import { MOST } from '../limits.ts';
import type { Sights } from '../people/sights.ts';
import type { Secrets } from '../secrets.ts';
import { UsedUp, type Pool } from '../work/pool.ts';
import { READ } from './jobs.ts';
import { fetchFeed, type FetchOptions, type Fetched } from './fetch.ts';
import { horizon } from './horizon.ts';
import type { ReadJob, ReadResult } from './read-bytes.ts';
import { understandingOf } from './sections.ts';
import { nextCheck } from './schedule.ts';
import { Shared } from './shared.ts';
import type { GatherStore, SourceRow } from './store.ts';
import { FeedTrouble, FILE_TROUBLES, TROUBLES } from './trouble.ts';
import type { Turns } from './turns.ts';

export interface GatherDeps {
  store: GatherStore;
  calendars: CalendarStore;
  pool: Pool;
  secrets: Secrets;
  clock: Clock;
  fetch: Omit<FetchOptions, 'etag' | 'lastModified'>;
  /** A number in [0, 1), for spreading checks */
  chance(): number;
  /** Called after something of a learner's schedule has changed */
  changed(learnerId: string): void;
  /** Called after a check that found nothing else than before */
  checked(learnerId: string): void;
  /** What is kept from whoever asks: its name is not told */
  sights: Sights;
  /** One thing at a time for each source, by its id */
  turns: Turns;
}

/** A source with nothing wrong. */
export const SOUND = {
  troubleCode: null,
  troubleSince: null,
  failures: 0,
  heldSince: null,
  heldTimes: 0,
  heldMissing: 0,
  heldOf: 0,
};

/** Gives what bytes are known by. */
export const sha256 = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');

/** Bytes to be read, wherever they come from. */
export type Arrived = Pick<Fetched, 'charset'> & {
  body: Uint8Array;
  etag?: string | null;
  lastModified?: string | null;
};

/** What a reading takes in memory, to what its bytes take; measured with feeds of ten thousand entries. */
const SIZE_OF_A_READING = 6;

/** Fetching feeds and reading their bytes in worker threads. Nothing is stored here. */
export function feedReader({ store, calendars, pool, secrets, clock, fetch, chance }: GatherDeps) {
  const shared = new Shared(() => clock.now());
  /** Reads bytes in the turn of who asks. @throws FeedTrouble */
  const read = (job: ReadJob, owner: string): Promise<ReadResult> =>
    pool
      .run(READ, job, owner)
      .catch((error: unknown) =>
        Promise.reject(error instanceof UsedUp ? new FeedTrouble('reading') : error),
      );

  /** Counts how many dates a source may have, so that a learner's schedule stays within its bounds. */
  const room = (learnerId: string, sourceId = ''): number =>
    Math.max(0, Math.min(MOST.datesOfReading, MOST.datesOfLearner - store.datesBeside(learnerId, sourceId)));

  /** Gives what is in bytes nobody has seen before, for a preview or to begin with. */
  const readNew = (
    { body, charset }: Arrived,
    zone: string,
    owner: string,
    learnerId: string,
    request?: NewCalendar,
  ): Promise<ReadResult> => {
    const rules = { ...NO_RULES, split: request?.split?.rule ?? null };
    return read(
      {
        bytes: body,
        charset,
        zone,
        as: { calendar: request?.kind ?? 'course', rules },
        ...horizon(clock.now()),
        most: room(learnerId),
        propose: !request,
      },
      owner,
    );
  };

  /** Gives what is in bytes that are understood as they were before. */
  const readKnown = (
    { body, charset }: Arrived,
    zone: string,
    owner: string,
    as: Understanding,
    learnerId: string,
  ): Promise<ReadResult> =>
    read({ bytes: body, charset, zone, as, ...horizon(clock.now()), most: room(learnerId) }, owner);

  /**
   * When the horizon has moved on, repeats have to be worked out further; and what was held back is looked at
   * again. Then the whole feed is asked for, and all of it is parsed.
   */
  const wantsWhole = (row: SourceRow) => row.horizonTo !== horizon(clock.now()).to || row.heldSince !== null;

  function readAgain(row: SourceRow, { body, charset }: Arrived, owner: string): Promise<ReadResult> {
    const { context, total, openings, ofDeadlines } = row;
    const known =
      wantsWhole(row) || context === null || total === null
        ? undefined
        : { context, total, openings, ofDeadlines, ...store.known(row.id) };
    const job = {
      bytes: body,
      charset,
      zone: calendars.byId(row.calendarId)!.zone,
      as: understandingOf(row, calendars),
      ...horizon(clock.now()),
      most: room(row.learnerId, row.id),
      known,
    };
    return read(job, owner);
  }

  /** @throws FeedTrouble where it was sealed with a key that is lost */
  const addressOf = (row: SourceRow): URL => {
    try {
      return new URL(secrets.open(row.addressSealed));
    } catch {
      throw new FeedTrouble('sealed');
    }
  };

  /**
   * All that a reading hangs on beside its bytes: how they are to be understood, and what was known. Of two sources
   * that were read from the same bytes in the same way, the same is known.
   */
  const readKey = (row: SourceRow, { body, charset }: Arrived): string => {
    const { addressDigest, bodyDigest, context, total, openings, ofDeadlines, calendarId } = row;
    const { zone } = calendars.byId(calendarId)!;
    const as = understandingOf(row, calendars);
    const before = wantsWhole(row) ? null : { bodyDigest, context, total, openings, ofDeadlines };
    const within = [horizon(clock.now()), room(row.learnerId, row.id)];
    return `read ${JSON.stringify([addressDigest, sha256(body), charset, zone, as, ...within, before])}`;
  };

  /** Tells whether the same bytes are the same reading for two who follow one link. */
  const isReadAlike = (a: SourceRow, b: SourceRow, arrived: Arrived): boolean =>
    readKey(a, arrived) === readKey(b, arrived);

  /**
   * Null for the reading where nothing has changed at the other end.
   * @param owner who asks; without it, it is a check that goes by itself
   */
  async function fetchAndRead(
    row: SourceRow,
    owner: string | undefined,
  ): Promise<{ fetched: Fetched; reading: ReadResult | null }> {
    // Who asks for a check wants to see what is there now, and not a minute ago.
    const isShared = row.isPlain && owner === undefined;
    const whole = wantsWhole(row);
    const known = whole ? {} : { etag: row.etag, lastModified: row.lastModified };
    const ask = () => fetchFeed(addressOf(row), { ...fetch, ...known });
    const fetched = isShared
      ? await shared.once(
          `fetch ${JSON.stringify([row.addressDigest, known])}`,
          ({ body }) => body?.length ?? 0,
          ask,
        )
      : await ask();
    if (!fetched.body || (!whole && sha256(fetched.body) === row.bodyDigest))
      return { fetched, reading: null };
    const arrived = withBody(fetched);
    const reading = isShared
      ? await shared.once(
          readKey(row, arrived),
          () => SIZE_OF_A_READING * arrived.body.length,
          () => readAgain(row, arrived, row.learnerId),
        )
      : await readAgain(row, arrived, owner ?? row.learnerId);
    return { fetched, reading };
  }

  const good = (arrived: Arrived, reading: ReadResult, now: number, horizonTo: number) => ({
    etag: arrived.etag ?? null,
    lastModified: arrived.lastModified ?? null,
    bodyDigest: sha256(arrived.body),
    zones: reading.zones,
    feedName: reading.name,
    refreshSeconds: reading.refreshSeconds,
    // What was odd in blocks that were not looked at again has not become right.
    ...(reading.unchanged === 'all'
      ? {}
      : {
          warnings: reading.warnings,
          openings: reading.openings,
          ofDeadlines: reading.ofDeadlines,
        }),
    context: reading.context,
    total: reading.total,
    horizonTo,
    lastCheckedAt: now,
    lastGoodAt: now,
    ...SOUND,
  });

  const whenNext = (id: string, refreshSeconds: number | null) =>
    nextCheck(clock.now(), {
      refreshSeconds,
      nextDue: store.nextDue(id, clock.now()),
      failures: 0,
      retryAfter: undefined,
      chance: chance(),
    });

  return { readNew, readKnown, readAgain, fetchAndRead, isReadAlike, good, whenNext };
}
export type FeedReader = ReturnType<typeof feedReader>;

/** Gives what was fetched, with its body: a first request always has one. */
export function withBody(fetched: Fetched): Arrived {
  if (!fetched.body) throw new FeedTrouble('answer');
  return { ...fetched, body: fetched.body };
}

/** A feed's trouble as a problem to answer with; any other error as it is. */
export function asProblem(error: unknown, isFile = false): unknown {
  if (!(error instanceof FeedTrouble)) return error;
  const [title, remedy] = (isFile ? FILE_TROUBLES[error.code] : undefined) ?? TROUBLES[error.code];
  return new ProblemError(422, `feed-${error.code}`, title, { remedy, detail: 'Nothing was saved.' });
}
