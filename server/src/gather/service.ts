import { createHash, randomUUID } from 'node:crypto';
import type { CalendarView, FollowRequest, Preview, ReadingResult, SourceView } from '@zephyrfield/core/api/schemas';
import { summarise } from '@zephyrfield/core/gather/summary';
import { suggestFlag } from '@zephyrfield/core/item/flag';
import type { CalendarSort } from '@zephyrfield/core/item/sort';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import { calendarView } from '../calendars/routes.ts';
import type { CalendarStore } from '../calendars/store.ts';
import type { Clock } from '../clock.ts';
import { ProblemError, notFound } from '../http/problem.ts';
import type { Secrets } from '../secrets.ts';
import { maskAddress, normaliseAddress } from './address.ts';
import { applyReading } from './apply.ts';
import { fetchFeed, type FetchOptions, type Fetched } from './fetch.ts';
import { HOLD, horizon } from './horizon.ts';
import type { ReadResult } from './read-bytes.ts';
import type { Reader } from './reader.ts';
import { nextCheck } from './schedule.ts';
import type { GatherStore, SourceRow } from './store.ts';
import { FeedTrouble, TROUBLES, type TroubleCode } from './trouble.ts';

export interface GatherDeps {
  store: GatherStore;
  calendars: CalendarStore;
  reader: Reader;
  secrets: Secrets;
  clock: Clock;
  fetch: Omit<FetchOptions, 'etag' | 'lastModified'>;
  /** A number in [0, 1), for spreading checks */
  chance(): number;
  /** Called after something of a learner's schedule has changed */
  changed(learnerId: string): void;
}

/** A source with nothing wrong. */
const SOUND = { troubleCode: null, troubleSince: null, failures: 0, heldSince: null, heldTimes: 0, heldMissing: 0, heldOf: 0 };
const NOTHING = { added: 0, changed: 0, gone: 0 };

const sha256 = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');
const iso = (ms: number | null) => (ms === null ? null : new Date(ms).toISOString());

export function gatherService({ store, calendars, reader, secrets, clock, fetch, chance, changed }: GatherDeps) {
  /** Readings under way, by source: never two for one link. */
  const underWay = new Map<string, Promise<ReadingResult>>();

  async function read(fetched: Fetched, zone: string, calendar: CalendarSort): Promise<ReadResult> {
    const { from, to } = horizon(clock.now());
    return reader.read({ bytes: fetched.body!, charset: fetched.charset, zone, calendar, from, to });
  }

  function sourceView(row: SourceRow, entries: number): SourceView {
    const code = row.troubleCode as TroubleCode | null;
    const [message, remedy] = code && code in TROUBLES ? TROUBLES[code] : ['', ''];
    return {
      id: row.id,
      calendarId: row.calendarId,
      kind: row.kind,
      address: row.addressMasked,
      entries,
      lastChecked: iso(row.lastCheckedAt),
      lastGood: iso(row.lastGoodAt),
      heldBack: row.heldSince === null ? null : { since: new Date(row.heldSince).toISOString(), missing: row.heldMissing, of: row.heldOf },
      nextCheck: iso(row.nextCheckAt),
      trouble: code ? { code, message, remedy, since: new Date(row.troubleSince ?? row.lastCheckedAt ?? 0).toISOString() } : null,
      warnings: row.warnings,
    };
  }

  async function preview(learnerId: string, address: string, zone: string): Promise<Preview> {
    try {
      const url = normaliseAddress(address);
      const fetched = await fetchFeed(url, fetch);
      const reading = await read(fetched, zone, 'course');
      const viewer = ianaZone(zone) ?? UTC;
      const known = store.byDigest(learnerId, secrets.digest(url.href));
      return {
        name: reading.name,
        ...summarise(reading.entries, clock.now(), viewer),
        zone: reading.zone,
        warnings: reading.warnings,
        suggestion: suggestFlag(reading.name ?? url.hostname, calendars.ofLearner(learnerId)),
        alreadyFollowed: known ? (calendars.byId(known.calendarId)?.name ?? null) : null,
      };
    } catch (error) {
      throw asProblem(error);
    }
  }

  /** Follows a link: everything is read before anything is saved, and saved in one transaction. */
  async function follow(learnerId: string, request: FollowRequest): Promise<{ calendar: CalendarView; source: SourceView }> {
    try {
      const url = normaliseAddress(request.address);
      const digest = secrets.digest(url.href);
      refuseTwice(learnerId, digest);
      const fetched = await fetchFeed(url, fetch);
      const reading = await read(fetched, request.zone, request.sort);
      const followed = store.transaction(() => {
        refuseTwice(learnerId, digest);
        const now = clock.now();
        const { name, sort, colour, flag, zone } = request;
        const calendar = calendars.add({ id: randomUUID(), learnerId, name, sort, colour, flag, zone, position: calendars.nextPosition(learnerId), createdAt: now });
        const id = randomUUID();
        const { to } = horizon(now);
        store.add({
          id,
          learnerId,
          calendarId: calendar.id,
          kind: 'followedLink',
          addressSealed: secrets.seal(url.href),
          addressMasked: maskAddress(url),
          addressDigest: digest,
          createdAt: now,
          ...good(fetched, reading, now, to),
        });
        applyReading(store, { id, learnerId, calendarId: calendar.id, horizonTo: 0 }, reading, { now, zone: ianaZone(zone) ?? UTC, horizon: horizon(now), believed: true, first: true });
        store.change(id, { nextCheckAt: nextCheck(now, { refreshSeconds: reading.refreshSeconds, nextDue: store.nextDue(id, now), failures: 0, retryAfter: undefined, chance: chance() }) });
        return { calendar: calendarView(calendar), source: sourceView(store.byId(id)!, store.entryCount(id)) };
      });
      changed(learnerId);
      return followed;
    } catch (error) {
      throw asProblem(error);
    }
  }

  function refuseTwice(learnerId: string, digest: string): void {
    const known = store.byDigest(learnerId, digest);
    if (!known) return;
    const name = calendars.byId(known.calendarId)?.name ?? 'another calendar';
    throw new ProblemError(409, 'already-followed', `You already follow this link, as “${name}”.`, { remedy: 'There is nothing to do. To see it under another name, change that calendar.' });
  }

  const good = (fetched: Fetched, reading: ReadResult, now: number, horizonTo: number) => ({
    etag: fetched.etag,
    lastModified: fetched.lastModified,
    bodyDigest: sha256(fetched.body!),
    zones: reading.zones,
    feedName: reading.name,
    refreshSeconds: reading.refreshSeconds,
    warnings: reading.warnings,
    horizonTo,
    lastCheckedAt: now,
    lastGoodAt: now,
    ...SOUND,
  });

  /** Checks a followed link now. A link that fails keeps its last good items and says what is wrong. */
  function readSource(id: string, confirm = false): Promise<ReadingResult> {
    const running = underWay.get(id);
    if (running && !confirm) return running;
    const reading = (running ?? Promise.resolve()).then(() => readOnce(id, confirm)).finally(() => underWay.get(id) === reading && underWay.delete(id));
    underWay.set(id, reading);
    return reading;
  }

  const result = (id: string, counts = NOTHING): ReadingResult => ({
    ...counts,
    source: sourceView(store.byId(id)!, store.entryCount(id)),
    unchanged: counts.added + counts.changed + counts.gone === 0,
  });

  async function readOnce(id: string, confirm: boolean): Promise<ReadingResult> {
    const row = store.byId(id);
    if (!row) throw notFound('followed link');
    try {
      const read = await fetchAndRead(row);
      return store.transaction(() => settle(row, read, confirm));
    } catch (error) {
      if (!(error instanceof FeedTrouble)) throw error;
      const now = clock.now();
      const failures = row.failures + 1;
      const next = nextCheck(now, { refreshSeconds: row.refreshSeconds, nextDue: null, failures, retryAfter: error.retryAfter, chance: chance() });
      store.transaction(() =>
        store.change(id, {
          lastCheckedAt: now,
          troubleCode: error.code,
          troubleSince: row.troubleCode === error.code ? row.troubleSince : now,
          failures,
          nextCheckAt: row.nextCheckAt === null ? null : next,
        }),
      );
      return result(id);
    } finally {
      changed(row.learnerId);
    }
  }

  /** Null for the reading where nothing has changed at the other end. */
  async function fetchAndRead(row: SourceRow): Promise<{ fetched: Fetched; reading: ReadResult | null }> {
    // When the horizon has moved on, repeats have to be worked out further; and what was held back is looked at again.
    // Then the whole feed is asked for.
    const whole = row.horizonTo !== horizon(clock.now()).to || row.heldSince !== null;
    const url = new URL(secrets.open(row.addressSealed));
    const fetched = await fetchFeed(url, { ...fetch, ...(whole ? {} : { etag: row.etag, lastModified: row.lastModified }) });
    if (!fetched.body || (!whole && sha256(fetched.body) === row.bodyDigest)) return { fetched, reading: null };
    const calendar = calendars.byId(row.calendarId)!;
    return { fetched, reading: await read(fetched, calendar.zone, calendar.sort) };
  }

  /** Puts a reading into the store, inside a transaction. */
  function settle(row: SourceRow, { fetched, reading }: { fetched: Fetched; reading: ReadResult | null }, confirm: boolean): ReadingResult {
    const now = clock.now();
    // It may have been taken away while its feed was being read.
    if (!store.byId(row.id)) throw notFound('followed link');
    const moved = takeOver(row, fetched.movedTo);
    const next = (refreshSeconds: number | null) =>
      row.nextCheckAt === null ? null : nextCheck(now, { refreshSeconds, nextDue: store.nextDue(row.id, now), failures: 0, retryAfter: undefined, chance: chance() });
    if (!reading) {
      store.change(row.id, { ...SOUND, ...moved, lastCheckedAt: now, lastGoodAt: now, nextCheckAt: next(row.refreshSeconds) });
      return result(row.id);
    }
    const span = horizon(now);
    const times = row.heldTimes + 1;
    const believed = confirm || (row.heldSince !== null && times >= HOLD.readings && now - row.heldSince >= HOLD.ms);
    const applied = applyReading(store, row, reading, { now, zone: ianaZone(calendars.byId(row.calendarId)!.zone) ?? UTC, horizon: span, believed, first: false });
    if (applied.heldBack) {
      const { missing, of } = applied.heldBack;
      store.change(row.id, { ...SOUND, ...moved, lastCheckedAt: now, heldSince: row.heldSince ?? now, heldTimes: times, heldMissing: missing, heldOf: of, nextCheckAt: next(row.refreshSeconds) });
      return result(row.id);
    }
    store.change(row.id, { ...good(fetched, reading, now, span.to), ...moved, nextCheckAt: next(reading.refreshSeconds) });
    return result(row.id, applied);
  }

  /** What a permanent redirect changes; nothing where another of the learner's links leads there already. */
  function takeOver(row: SourceRow, to: URL | null): Partial<SourceRow> {
    const addressDigest = to && secrets.digest(to.href);
    if (!to || !addressDigest || store.byDigest(row.learnerId, addressDigest)) return {};
    return { addressSealed: secrets.seal(to.href), addressMasked: maskAddress(to), addressDigest };
  }

  /** Stops following a link: its calendar, entries and own layers go. */
  function remove(id: string): void {
    const row = store.byId(id);
    if (!row) throw notFound('followed link');
    store.transaction(() => calendars.remove(row.calendarId));
    changed(row.learnerId);
  }

  /** Pauses the checks that go by themselves, or goes on with them at once. */
  function pause(id: string, paused: boolean): SourceView {
    store.transaction(() => store.change(id, { nextCheckAt: paused ? null : clock.now() }));
    return sourceView(store.byId(id)!, store.entryCount(id));
  }

  return { preview, follow, readSource, pause, remove, sourceView };
}
export type GatherService = ReturnType<typeof gatherService>;

function asProblem(error: unknown): unknown {
  if (!(error instanceof FeedTrouble)) return error;
  const [title, remedy] = TROUBLES[error.code];
  return new ProblemError(422, `feed-${error.code}`, title, { remedy, detail: 'Nothing was saved.' });
}
