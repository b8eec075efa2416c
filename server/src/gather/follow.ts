import { randomUUID } from 'node:crypto';
import type {
  CalendarView,
  FollowRequest,
  NewCalendar,
  Preview,
  SourceView,
} from '@zephyrfield/core/api/schemas';
import { NO_RULES } from '@zephyrfield/core/gather/rules';
import { summarise } from '@zephyrfield/core/gather/summary';
import { suggestFlag } from '@zephyrfield/core/item/flag';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import { calendarView } from '../calendars/views.ts';
import { orderedId } from '../db/ids.ts';
import { ProblemError, tooMany } from '../http/problem.ts';
import { MOST } from '../limits.ts';
import { normaliseAddress, storedAddress, type StoredAddress } from './address.ts';
import { applyReading } from './apply.ts';
import { horizon } from './horizon.ts';
import type { ReadResult } from './read-bytes.ts';
import { fetchLink } from './link.ts';
import { asProblem, type Arrived, type FeedReader, type GatherDeps } from './reader.ts';
import { addCalendar, calendarsFor, sectionFinder, understandingOf } from './sections.ts';
import { isSameFeed } from './same-feed.ts';
import { inSteps, type Steps } from './steps.ts';
import type { SourceRow } from './store.ts';
import { sourceView } from './views.ts';

/** What is known of a source before it is there. */
type Begun = Pick<SourceRow, 'kind' | 'addressSealed' | 'addressMasked' | 'addressDigest'> &
  Partial<StoredAddress>;

/** A source as an archive has it, in calendars that are there. */
export interface PutBack {
  kind: 'followedLink' | 'oneTimeFile';
  calendarId: string;
  sections: SourceRow['sections'];
  rules: SourceRow['rules'];
  sealed: string;
  masked: string;
  paused: boolean;
  /** Tells whether who brings it back may follow a link, by the digest of its address */
  mayFollow(digest: string): boolean;
}

/** Looking into links, and beginning to follow them. */
export function following(
  { store, calendars, secrets, clock, fetch, changed, turns, sights }: GatherDeps,
  { readNew, readKnown, good, whenNext }: FeedReader,
) {
  function previewOf(
    learnerId: string,
    reading: ReadResult,
    zone: string,
    otherwiseNamed: string,
  ): Omit<Preview, 'alreadyFollowed' | 'isPlain' | 'file'> {
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
      const { url, fetched } = await fetchLink(address, fetch);
      const reading = await readNew(fetched, zone, owner, learnerId);
      const known = followed(learnerId, secrets.digest(url.href));
      return {
        ...previewOf(learnerId, reading, zone, url.hostname),
        alreadyFollowed: known ? nameFor(owner, known) : null,
        isPlain: url.protocol === 'http:',
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

  /** Follows a link: everything is read before anything is saved. */
  async function follow(
    learnerId: string,
    request: FollowRequest,
    owner = learnerId,
  ): Promise<{ calendar: CalendarView; source: SourceView }> {
    try {
      refuseTwice(learnerId, secrets.digest(normaliseAddress(request.address).href), owner);
      refuseTooMany(learnerId);
      const { url, fetched } = await fetchLink(request.address, fetch);
      const reading = await readNew(fetched, request.zone, owner, learnerId, request);
      refuseUnreadable(learnerId, reading);
      const source = { kind: 'followedLink' as const, ...storedAddress(url, secrets) };
      const begun = await begin(learnerId, request, source, fetched, reading, (id) =>
        store.change(id, { nextCheckAt: whenNext(id, reading.refreshSeconds) }),
      );
      changed(learnerId);
      return begun;
    } catch (error) {
      throw asProblem(error);
    }
  }

  /**
   * Makes a source with its calendar or calendars and puts its first reading in. One that was followed before
   * is taken up again, so that what was ticked off in it is back in its place. Broken off, a link is checked
   * again at once, and a file is not there (`unfinished`). Nothing else goes on with it meanwhile.
   * @param atLast done in its last step
   */
  function begin(
    learnerId: string,
    request: NewCalendar,
    source: Begun,
    arrived: Arrived,
    reading: ReadResult,
    atLast: (id: string) => void,
  ): Promise<{ calendar: CalendarView; source: SourceView }> {
    const id = store.byDigest(learnerId, source.addressDigest)?.id ?? orderedId(clock.now());
    const steps = function* (): Steps<{ calendar: CalendarView; source: SourceView }> {
      const calendar = yield* putIn(id, learnerId, request, source, arrived, reading);
      atLast(id);
      return { calendar, source: sourceView(store.byId(id)!, store) };
    };
    return turns.take(id, () => inSteps(store, steps()));
  }

  function* putIn(
    id: string,
    learnerId: string,
    request: NewCalendar,
    source: Begun,
    arrived: Arrived,
    reading: ReadResult,
  ): Steps<CalendarView> {
    refuseTwice(learnerId, source.addressDigest);
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
    const row = {
      ...source,
      calendarId,
      sections,
      rules: { ...NO_RULES, split: split?.rule ?? null },
      newSections: [],
      removedAt: null,
      // Nothing is known of it until all of it has been put in.
      context: null,
      total: null,
      bodyDigest: null,
      etag: null,
      lastModified: null,
      lastGoodAt: null,
      nextCheckAt: source.kind === 'followedLink' ? now : null,
    };
    if (before) store.change(id, row);
    else store.add({ ...row, id, learnerId, createdAt: now });
    yield* firstReading(id, { ...row, learnerId }, arrived, reading);
    return calendarView(calendars.byId(calendarId)!);
  }

  /** Puts the first reading of a source in: all of it, and none of it news. */
  function* firstReading(
    id: string,
    row: Pick<SourceRow, 'learnerId' | 'calendarId' | 'sections' | 'rules'>,
    arrived: Arrived,
    reading: ReadResult,
  ): Steps<void> {
    const now = clock.now();
    const span = horizon(now);
    const { zone } = calendars.byId(row.calendarId)!;
    const finder = sectionFinder({ ...row, feedName: reading.name }, calendars, now, (found) =>
      store.change(id, { sections: found.sections }),
    );
    yield* applyReading(store, { id, learnerId: row.learnerId, horizonTo: span.to }, reading, {
      now,
      zone: ianaZone(zone) ?? UTC,
      horizon: span,
      believed: true,
      quiet: true,
      all: true,
      calendarOf: finder.calendarOf,
    });
    store.change(id, good(arrived, reading, now, span.to));
  }

  /**
   * Puts a source back that an archive has: in its calendars and with its rules as they were, read anew from what it had
   * brought. Its address counts where it was sealed here and `mayFollow` says so; else it has to be entered again.
   */
  async function putBack(
    learnerId: string,
    source: PutBack,
    body: Uint8Array,
    owner: string,
  ): Promise<string> {
    const { calendarId, sections, rules, sealed, masked, kind, paused, mayFollow } = source;
    const url = kind === 'followedLink' ? openedFor(sealed, mayFollow) : null;
    const address = url
      ? storedAddress(url, secrets)
      : {
          addressSealed: '',
          addressMasked: masked,
          addressDigest: secrets.digest(`restored:${randomUUID()}`),
        };
    const now = clock.now();
    const zone = calendars.byId(calendarId)!.zone;
    const row = { ...address, kind, calendarId, sections, rules, nextCheckAt: null };
    const arrived = { body, charset: 'utf-8' };
    const reading = await readKnown(arrived, zone, owner, understandingOf(row, calendars), learnerId);
    const id = orderedId(now);
    const steps = function* (): Steps<void> {
      store.add({ ...row, id, learnerId, createdAt: now });
      yield* firstReading(id, { ...row, learnerId }, arrived, reading);
      const isChecked = kind === 'followedLink' && !paused;
      store.change(id, { nextCheckAt: isChecked ? now : null });
    };
    await turns.take(id, () => inSteps(store, steps()));
    return id;
  }

  /** A link that was sealed here, for who may follow it; null where it opens for nobody, or not for them. */
  function openedFor(sealed: string, mayFollow: (digest: string) => boolean): URL | null {
    try {
      const url = new URL(secrets.open(sealed));
      return mayFollow(secrets.digest(url.href)) ? url : null;
    } catch {
      // It was sealed elsewhere, or is no address at all.
      return null;
    }
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

  /** Gives what a source's calendar is called, for who asks; null where it is kept from them. */
  const nameFor = (owner: string, { learnerId, calendarId }: SourceRow): string | null =>
    sights(owner, learnerId).has(calendarId) ? null : (calendars.byId(calendarId)?.name ?? null);

  function refuseTwice(learnerId: string, digest: string, owner = ''): void {
    const known = followed(learnerId, digest);
    if (!known) return;
    const name = nameFor(owner, known);
    throw new ProblemError(
      409,
      'already-followed',
      `You already follow this link${name ? `, as “${name}”` : ''}.`,
      {
        remedy: 'There is nothing to do. To see it under another name, change that calendar.',
      },
    );
  }

  /** A link whose address can no longer be read is known by what is in it: it is given its address, and not a twin. */
  function refuseUnreadable(learnerId: string, { entries }: ReadResult): void {
    const read = new Set(entries.map((e) => e.uid));
    const twin = store
      .ofLearner(learnerId)
      .find((s) => s.troubleCode === 'sealed' && isSameFeed(store.liveUids(s.id), read));
    if (!twin) return;
    const name = calendars.byId(twin.calendarId)?.name ?? 'another calendar';
    throw new ProblemError(409, 'already-followed', `You already follow this link, as “${name}”.`, {
      remedy: 'Its address can no longer be read here. Enter the link there, and all you have added stays.',
    });
  }

  return { putBack, openedFor, preview, previewOf, follow, begin, refuseTooMany, refuseTwice };
}
