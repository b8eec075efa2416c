import { createHash } from 'node:crypto';
import type {
  CalendarView,
  FollowRequest,
  NewCalendar,
  Preview,
  ReadingResult,
  SourceChange,
  SourceView,
} from '@zephyrfield/core/api/schemas';
import { NO_RULES } from '@zephyrfield/core/gather/rules';
import { summarise } from '@zephyrfield/core/gather/summary';
import { suggestFlag } from '@zephyrfield/core/item/flag';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import { calendarView } from '../calendars/views.ts';
import type { CalendarStore } from '../calendars/store.ts';
import type { Clock } from '../clock.ts';
import { orderedId } from '../db/ids.ts';
import { ProblemError, notFound, tooMany } from '../http/problem.ts';
import { MOST } from '../limits.ts';
import type { Secrets } from '../secrets.ts';
import { maskAddress, normaliseAddress } from './address.ts';
import { applyReading, type Applied } from './apply.ts';
import { fetchFeed, type FetchOptions, type Fetched } from './fetch.ts';
import { HOLD, horizon } from './horizon.ts';
import { addCalendar, calendarsFor, partFinder, understandingOf } from './sections.ts';
import type { ReadJob, ReadResult } from './read-bytes.ts';
import { UsedUp, type Pool } from '../work/pool.ts';
import { nextCheck } from './schedule.ts';
import type { GatherStore, SourceRow } from './store.ts';
import { FeedTrouble, TROUBLES } from './trouble.ts';
import type { Turns } from './turns.ts';
import { sourceView } from './views.ts';

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
  /** One thing at a time for each source, by its id */
  turns: Turns;
}

/** A source with nothing wrong. */
const SOUND = {
  troubleCode: null,
  troubleSince: null,
  failures: 0,
  heldSince: null,
  heldTimes: 0,
  heldMissing: 0,
  heldOf: 0,
};
const NOTHING = { added: 0, changed: 0, gone: 0 };

const sha256 = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');

/** Bytes to be read, wherever they come from. */
export type Arrived = Pick<Fetched, 'charset'> & {
  body: Uint8Array;
  etag?: string | null;
  lastModified?: string | null;
};

export function gatherService({
  store,
  calendars,
  pool,
  secrets,
  clock,
  fetch,
  chance,
  changed,
  checked,
  turns,
}: GatherDeps) {
  /** Readings under way, by source: who asks meanwhile gets the same one. */
  const underWay = new Map<string, Promise<ReadingResult>>();

  /** Reads bytes in the turn of who asks. @throws FeedTrouble */
  const read = (job: ReadJob, owner: string): Promise<ReadResult> =>
    pool
      .run('read', job, owner)
      .catch((error: unknown) =>
        Promise.reject(error instanceof UsedUp ? new FeedTrouble('reading') : error),
      );

  /** What is in bytes nobody has seen before, for a preview or to begin with. */
  const readNew = (
    { body, charset }: Arrived,
    zone: string,
    owner: string,
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
        propose: !request,
      },
      owner,
    );
  };

  function previewOf(
    learnerId: string,
    reading: ReadResult,
    zone: string,
    otherwiseNamed: string,
  ): Omit<Preview, 'alreadyFollowed' | 'file'> {
    return {
      name: reading.name,
      ...summarise(reading.entries, clock.now(), ianaZone(zone) ?? UTC),
      zone: reading.zone,
      warnings: reading.warnings,
      suggestion: suggestFlag(reading.name ?? otherwiseNamed, calendars.ofLearner(learnerId)),
      splits: reading.splits.slice(0, 6),
    };
  }

  async function preview(learnerId: string, address: string, zone: string, owner: string): Promise<Preview> {
    try {
      const url = normaliseAddress(address);
      const reading = await readNew(withBody(await fetchFeed(url, fetch)), zone, owner);
      const known = followed(learnerId, secrets.digest(url.href));
      return {
        ...previewOf(learnerId, reading, zone, url.hostname),
        alreadyFollowed: known ? (calendars.byId(known.calendarId)?.name ?? null) : null,
        file: null,
      };
    } catch (error) {
      throw asProblem(error);
    }
  }

  const followed = (learnerId: string, digest: string): SourceRow | undefined => {
    const row = store.byDigest(learnerId, digest);
    return row?.removedAt === null ? row : undefined;
  };

  /** Follows a link: everything is read before anything is saved, and saved in one transaction. */
  async function follow(
    learnerId: string,
    request: FollowRequest,
    owner = learnerId,
  ): Promise<{ calendar: CalendarView; source: SourceView }> {
    try {
      const url = normaliseAddress(request.address);
      const digest = secrets.digest(url.href);
      refuseTwice(learnerId, digest);
      refuseTooMany(learnerId);
      const fetched = withBody(await fetchFeed(url, fetch));
      const reading = await readNew(fetched, request.zone, owner, request);
      const begun = store.transaction(() => {
        refuseTwice(learnerId, digest);
        const source = {
          kind: 'followedLink' as const,
          addressSealed: secrets.seal(url.href),
          addressMasked: maskAddress(url),
          addressDigest: digest,
        };
        const { calendar, id } = begin(learnerId, request, source, fetched, reading);
        store.change(id, { nextCheckAt: whenNext(id, reading.refreshSeconds) });
        return { calendar, source: sourceView(store.byId(id)!, store) };
      });
      changed(learnerId);
      return begun;
    } catch (error) {
      throw asProblem(error);
    }
  }

  /**
   * Makes a source with its calendar or calendars and puts its first reading in. One that was followed before
   * is taken up again, so that what was ticked off in it is back in its place. Inside a transaction.
   */
  function begin(
    learnerId: string,
    request: NewCalendar,
    source: Pick<SourceRow, 'kind' | 'addressSealed' | 'addressMasked' | 'addressDigest'>,
    arrived: Arrived,
    reading: ReadResult,
  ): { calendar: CalendarView; id: string } {
    const now = clock.now();
    const before = store.byDigest(learnerId, source.addressDigest);
    const { name, kind, category, colour, flag, zone, split } = request;
    const there = before ? calendars.ofSource(before.id) : [];
    const sections = split
      ? calendarsFor(split, calendars, learnerId, there, { kind, category, zone }, now)
      : {};
    const calendarId =
      Object.values(sections)[0] ??
      (there[0] ?? addCalendar(calendars, learnerId, name, { kind, category, zone }, now)).id;
    if (!split) calendars.change(calendarId, { name, kind, category, colour, flag, zone });
    const id = before?.id ?? orderedId(now);
    const row = {
      ...source,
      calendarId,
      sections,
      rules: { ...NO_RULES, split: split?.rule ?? null },
      newSections: [],
      removedAt: null,
    };
    if (before) store.change(id, row);
    else store.add({ ...row, id, learnerId, createdAt: now });
    const span = horizon(now);
    const finder = partFinder({ ...row, learnerId, feedName: reading.name }, calendars, now);
    applyReading(store, { id, learnerId, horizonTo: span.to }, reading, {
      now,
      zone: ianaZone(zone) ?? UTC,
      horizon: span,
      believed: true,
      quiet: true,
      all: true,
      calendarOf: finder.calendarOf,
    });
    store.change(id, { ...good(arrived, reading, now, span.to), sections: finder.sections });
    return { calendar: calendarView(calendars.byId(calendarId)!), id };
  }

  function refuseTooMany(learnerId: string): void {
    if (store.ofLearner(learnerId).length >= MOST.sources)
      throw tooMany(
        `There are ${MOST.sources} links and files in this schedule, which is the most.`,
        'Stop following one first.',
      );
    if (calendars.ofLearner(learnerId).length >= MOST.calendars)
      throw tooMany(`There are ${MOST.calendars} calendars, which is the most.`, 'Remove one first.');
  }

  function refuseTwice(learnerId: string, digest: string): void {
    const known = followed(learnerId, digest);
    if (!known) return;
    const name = calendars.byId(known.calendarId)?.name ?? 'another calendar';
    throw new ProblemError(409, 'already-followed', `You already follow this link, as “${name}”.`, {
      remedy: 'There is nothing to do. To see it under another name, change that calendar.',
    });
  }

  const good = (arrived: Arrived, reading: ReadResult, now: number, horizonTo: number) => ({
    etag: arrived.etag ?? null,
    lastModified: arrived.lastModified ?? null,
    bodyDigest: sha256(arrived.body),
    zones: reading.zones,
    feedName: reading.name,
    refreshSeconds: reading.refreshSeconds,
    // What was odd in blocks that were not looked at again has not become right.
    ...(reading.unchanged === 'all' ? {} : { warnings: reading.warnings, openings: reading.openings }),
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

  /**
   * Checks a followed link now. A link that fails keeps its last good items and says what is wrong.
   * @param owner who asks; without it, it is a check that goes by itself
   */
  function readSource(id: string, confirm = false, owner?: string): Promise<ReadingResult> {
    const running = underWay.get(id);
    if (running && !confirm) return running;
    const reading = turns
      .take(id, () => readOnce(id, confirm, owner))
      .finally(() => underWay.get(id) === reading && underWay.delete(id));
    underWay.set(id, reading);
    return reading;
  }

  const result = (id: string, counts = NOTHING): ReadingResult => ({
    ...counts,
    source: sourceView(store.byId(id)!, store),
    unchanged: counts.added + counts.changed + counts.gone === 0,
  });

  async function readOnce(id: string, confirm: boolean, owner: string | undefined): Promise<ReadingResult> {
    const row = store.byId(id);
    if (!row || row.removedAt !== null) throw notFound('followed link');
    if (row.kind !== 'followedLink')
      throw new ProblemError(422, 'one-time-file', 'A one-time file has nothing to check.', {
        remedy: 'To bring it up to date, read a newer copy of the file.',
      });
    let isNews = true;
    try {
      const { fetched, reading } = await fetchAndRead(row, owner ?? row.learnerId);
      isNews = reading !== null || row.troubleCode !== null;
      return store.transaction(() => {
        const moved = takeOver(row, fetched.movedTo);
        if (reading && fetched.body) return settle(row, withBody(fetched), reading, confirm, moved);
        const now = clock.now();
        if (!store.byId(row.id)) throw notFound('followed link');
        store.change(row.id, {
          ...SOUND,
          ...moved,
          lastCheckedAt: now,
          lastGoodAt: now,
          nextCheckAt: row.nextCheckAt === null ? null : whenNext(id, row.refreshSeconds),
        });
        return result(row.id);
      });
    } catch (error) {
      if (!(error instanceof FeedTrouble)) throw error;
      const now = clock.now();
      const failures = row.failures + 1;
      const next = nextCheck(now, {
        refreshSeconds: row.refreshSeconds,
        nextDue: null,
        failures,
        retryAfter: error.retryAfter,
        chance: chance(),
      });
      isNews = row.troubleCode !== error.code;
      const troubleSince = isNews ? now : row.troubleSince;
      store.transaction(() =>
        store.change(id, {
          lastCheckedAt: now,
          troubleCode: error.code,
          troubleSince,
          failures,
          nextCheckAt: row.nextCheckAt === null ? null : next,
        }),
      );
      return result(id);
    } finally {
      (isNews ? changed : checked)(row.learnerId);
    }
  }

  /** Null for the reading where nothing has changed at the other end. */
  async function fetchAndRead(
    row: SourceRow,
    owner: string,
  ): Promise<{ fetched: Fetched; reading: ReadResult | null }> {
    const whole = wantsWhole(row);
    const url = new URL(secrets.open(row.addressSealed));
    const fetched = await fetchFeed(url, {
      ...fetch,
      ...(whole ? {} : { etag: row.etag, lastModified: row.lastModified }),
    });
    if (!fetched.body || (!whole && sha256(fetched.body) === row.bodyDigest))
      return { fetched, reading: null };
    return { fetched, reading: await readAgain(row, withBody(fetched), owner) };
  }

  /**
   * When the horizon has moved on, repeats have to be worked out further; and what was held back is looked at
   * again. Then the whole feed is asked for, and all of it is parsed.
   */
  const wantsWhole = (row: SourceRow) => row.horizonTo !== horizon(clock.now()).to || row.heldSince !== null;

  function readAgain(row: SourceRow, { body, charset }: Arrived, owner: string): Promise<ReadResult> {
    const { context, total, openings } = row;
    const known =
      wantsWhole(row) || context === null || total === null
        ? undefined
        : { context, total, openings, ...store.known(row.id) };
    const job = {
      bytes: body,
      charset,
      zone: calendars.byId(row.calendarId)!.zone,
      as: understandingOf(row, calendars),
      ...horizon(clock.now()),
      known,
    };
    return read(job, owner);
  }

  /** Puts a reading into the store, inside a transaction. */
  function settle(
    row: SourceRow,
    arrived: Arrived,
    reading: ReadResult,
    confirm: boolean,
    moved: Partial<SourceRow> = {},
  ): ReadingResult {
    const now = clock.now();
    // It may have been taken away while its feed was being read.
    if (!store.byId(row.id)) throw notFound('followed link');
    const applied = apply(row, reading, confirm || isBelieved(row, now), now);
    const nextCheckAt =
      row.nextCheckAt === null
        ? null
        : whenNext(row.id, applied.heldBack ? row.refreshSeconds : reading.refreshSeconds);
    if (applied.heldBack) {
      const { missing, of } = applied.heldBack;
      store.change(row.id, {
        ...SOUND,
        ...moved,
        lastCheckedAt: now,
        heldSince: row.heldSince ?? now,
        heldTimes: row.heldTimes + 1,
        heldMissing: missing,
        heldOf: of,
        nextCheckAt,
      });
      return result(row.id);
    }
    store.change(row.id, { ...good(arrived, reading, now, horizon(now).to), ...moved, nextCheckAt });
    return result(row.id, applied);
  }

  const isBelieved = (row: SourceRow, now: number) =>
    row.heldSince !== null && row.heldTimes + 1 >= HOLD.readings && now - row.heldSince >= HOLD.ms;

  function apply(row: SourceRow, reading: ReadResult, believed: boolean, now: number): Applied {
    const finder = partFinder(row, calendars, now);
    const zone = ianaZone(calendars.byId(row.calendarId)!.zone) ?? UTC;
    // Read under other circumstances (a zone's rules, a newer reader), the same text may mean something else.
    const all = row.context !== reading.context;
    const applied = applyReading(store, row, reading, {
      now,
      zone,
      horizon: horizon(now),
      believed,
      quiet: false,
      all,
      calendarOf: finder.calendarOf,
    });
    if (finder.fresh.length)
      store.change(row.id, { sections: finder.sections, newSections: [...row.newSections, ...finder.fresh] });
    return applied;
  }

  /** What a permanent redirect changes; nothing where another of the learner's links leads there already. */
  function takeOver(row: SourceRow, to: URL | null): Partial<SourceRow> {
    const addressDigest = to && secrets.digest(to.href);
    if (!to || !addressDigest || store.byDigest(row.learnerId, addressDigest)) return {};
    return { addressSealed: secrets.seal(to.href), addressMasked: maskAddress(to), addressDigest };
  }

  /**
   * Pauses the checks that go by themselves, or goes on with them at once; takes note that new parts have
   * been seen.
   */
  function change(id: string, { paused, partsSeen }: SourceChange): SourceView {
    const row = store.byId(id)!;
    const checks =
      paused === undefined || row.kind !== 'followedLink' ? {} : { nextCheckAt: paused ? null : clock.now() };
    const values = { ...checks, ...(partsSeen ? { newSections: [] } : {}) };
    if (Object.keys(values).length) store.transaction(() => store.change(id, values));
    changed(row.learnerId);
    return sourceView(store.byId(id)!, store);
  }

  return {
    preview,
    previewOf,
    follow,
    begin,
    refuseTooMany,
    readNew,
    readAgain,
    settle,
    readSource,
    change,
    view: (row: SourceRow) => sourceView(row, store),
  };
}
export type GatherService = ReturnType<typeof gatherService>;

/** What was fetched, with its body: a first request always has one. */
function withBody(fetched: Fetched): Arrived {
  if (!fetched.body) throw new FeedTrouble('answer');
  return { ...fetched, body: fetched.body };
}

export function asProblem(error: unknown): unknown {
  if (!(error instanceof FeedTrouble)) return error;
  const [title, remedy] = TROUBLES[error.code];
  return new ProblemError(422, `feed-${error.code}`, title, { remedy, detail: 'Nothing was saved.' });
}
