import { createHash, randomUUID } from 'node:crypto';
import type { CalendarView, FollowRequest, Preview, ReadingResult, SourceView } from '@zephyrfield/core/api/schemas';
import { summarise } from '@zephyrfield/core/gather/summary';
import { suggestFlag } from '@zephyrfield/core/item/flag';
import type { CalendarSort } from '@zephyrfield/core/item/sort';
import { DAY } from '@zephyrfield/core/time/civil';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import { calendarView } from '../calendars/routes.ts';
import type { CalendarStore } from '../calendars/store.ts';
import type { Clock } from '../clock.ts';
import { ProblemError } from '../http/problem.ts';
import type { Secrets } from '../secrets.ts';
import { maskAddress, normaliseAddress } from './address.ts';
import { applyReading } from './apply.ts';
import { fetchFeed, type FetchOptions, type Fetched } from './fetch.ts';
import type { ReadResult } from './read-bytes.ts';
import type { Reader } from './reader.ts';
import type { GatherStore, SourceRow } from './store.ts';
import { FeedTrouble, TROUBLES, type TroubleCode } from './trouble.ts';

export interface GatherDeps {
  store: GatherStore;
  calendars: CalendarStore;
  reader: Reader;
  secrets: Secrets;
  clock: Clock;
  fetch: Omit<FetchOptions, 'etag' | 'lastModified'>;
}

/** How far occurrences are worked out, back and ahead of now. */
const BACK = 400 * DAY;
const AHEAD = 730 * DAY;
/** Horizons are whole months of thirty days, so that they do not move at every reading. */
const STEP = 30 * DAY;

const horizon = (now: number) => ({ from: Math.floor((now - BACK) / STEP) * STEP, to: Math.ceil((now + AHEAD) / STEP) * STEP });
const sha256 = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');
const iso = (ms: number | null) => (ms === null ? null : new Date(ms).toISOString());

export function gatherService({ store, calendars, reader, secrets, clock, fetch }: GatherDeps) {
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
      return store.transaction(() => {
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
        applyReading(store, { id, learnerId, calendarId: calendar.id, horizonTo: to }, reading, now, to);
        return { calendar: calendarView(calendar), source: sourceView(store.byId(id)!, store.entryCount(id)) };
      });
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
    troubleCode: null,
    troubleSince: null,
  });

  /** Checks a followed link now. A link that fails keeps its last good items and says what is wrong. */
  function readSource(id: string): Promise<ReadingResult> {
    const running = underWay.get(id);
    if (running) return running;
    const reading = readOnce(id).finally(() => underWay.delete(id));
    underWay.set(id, reading);
    return reading;
  }

  async function readOnce(id: string): Promise<ReadingResult> {
    const row = store.byId(id)!;
    const { to } = horizon(clock.now());
    // When the horizon has moved on, repeats have to be worked out further: then the whole feed is asked for.
    const whole = row.horizonTo !== to;
    const unchanged = () => ({ source: sourceView(store.byId(id)!, store.entryCount(id)), unchanged: true, added: 0, changed: 0, gone: 0 });
    const stillGood = { troubleCode: null, troubleSince: null };
    try {
      const url = new URL(secrets.open(row.addressSealed));
      const fetched = await fetchFeed(url, { ...fetch, ...(whole ? {} : { etag: row.etag, lastModified: row.lastModified }) });
      const moved = fetched.movedTo ? { addressSealed: secrets.seal(fetched.movedTo.href), addressMasked: maskAddress(fetched.movedTo), addressDigest: secrets.digest(fetched.movedTo.href) } : {};
      if (!fetched.body || (!whole && sha256(fetched.body) === row.bodyDigest)) {
        store.transaction(() =>
          store.change(id, { ...stillGood, ...moved, ...(fetched.body ? { etag: fetched.etag, lastModified: fetched.lastModified } : {}), lastCheckedAt: clock.now(), lastGoodAt: clock.now() }),
        );
        return unchanged();
      }
      const calendar = calendars.byId(row.calendarId)!;
      const reading = await read(fetched, calendar.zone, calendar.sort);
      return store.transaction(() => {
        const now = clock.now();
        const applied = applyReading(store, row, reading, now, to);
        store.change(id, { ...good(fetched, reading, now, to), ...moved });
        return { ...applied, source: sourceView(store.byId(id)!, store.entryCount(id)), unchanged: applied.added + applied.changed + applied.gone === 0 };
      });
    } catch (error) {
      if (!(error instanceof FeedTrouble)) throw error;
      const now = clock.now();
      store.transaction(() => store.change(id, { lastCheckedAt: now, troubleCode: error.code, troubleSince: row.troubleCode === error.code ? row.troubleSince : now }));
      return unchanged();
    }
  }

  return { preview, follow, readSource, sourceView };
}
export type GatherService = ReturnType<typeof gatherService>;

function asProblem(error: unknown): unknown {
  if (!(error instanceof FeedTrouble)) return error;
  const [title, remedy] = TROUBLES[error.code];
  return new ProblemError(422, `feed-${error.code}`, title, { remedy, detail: 'Nothing was saved.' });
}
