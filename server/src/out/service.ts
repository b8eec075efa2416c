import { createHash, randomBytes } from 'node:crypto';
import type { Learner } from '@zephyrfield/core/api/schemas';
import type { ShareLook } from '@zephyrfield/core/api/share';
import { may } from '@zephyrfield/core/item/access';
import { PRIVATE_LINK, type ShareRules } from '@zephyrfield/core/out/share';
import { spanPrinted } from '@zephyrfield/core/out/paper';
import type { PaperAsked } from '@zephyrfield/core/out/paper-size';
import type { TableOf } from '@zephyrfield/core/out/columns';
import { DAY, formatDate, parseDate } from '@zephyrfield/core/time/civil';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import { today } from '@zephyrfield/core/words/when';
import type { Clock } from '../clock.ts';
import type { CrewService } from '../crew/service.ts';
import { orderedId } from '../db/ids.ts';
import { ProblemError, notAllowed, notFound, tooMany } from '../http/problem.ts';
import { MOST } from '../limits.ts';
import { standingOf } from '../people/access.ts';
import { asEverybody } from '../http/eyes.ts';
import type { Sights } from '../people/sights.ts';
import type { PeopleStore } from '../people/store.ts';
import type { Pool } from '../work/pool.ts';
import { GO_OUT } from './jobs.ts';
import { paperRule, sorryPage } from './pages.ts';
import { fileRules, type GoingOut } from './make.ts';
import { keptReady, type Ready } from './ready.ts';
import type { ShareRow, ShareStore } from './store.ts';

/** How far back and ahead a link reaches, in milliseconds. */
const REACH = { back: 92 * DAY, ahead: 400 * DAY } as const;
/** The same of a file for which nothing else is asked. */
const FILE_REACH = { back: 800 * DAY, ahead: 800 * DAY } as const;
/** How often it is noted how often a link was fetched, in milliseconds. */
const NOTE_AFTER = 60_000;

export interface ShareDeps {
  store: ShareStore;
  people: Pick<PeopleStore, 'learnersOf'>;
  pool: Pool;
  clock: Clock;
  /** The database's file, which is read beside the server's own thread */
  file: string;
  /** Folder of the built web app, where pages are drawn from */
  web: string | undefined;
  /** Where people reach this server */
  base(): string;
  versionOf(learnerId: string): number;
  sights: Sights;
  /** Notes what happened with access to a schedule */
  note: CrewService['note'];
  changed(learnerId: string): void;
}

export interface Shared {
  name: string;
  rules: ShareRules;
  page: boolean;
  until: string | null;
}

const digestOf = (secret: string) => createHash('sha256').update(secret).digest('hex');
/** 192 random bits. */
const newSecret = () => randomBytes(24).toString('base64url');

/** Letting a schedule go out: by links that need no account, and as files. */
export function shareService(deps: ShareDeps) {
  const { store, people, pool, clock, file, web, base, versionOf, sights, note, changed } = deps;
  const ready = keptReady();
  const fetches = new Map<string, { times: number; at: number }>();
  let notedAt = clock.now();

  const learnerOf = (personId: string, learnerId: string): Learner | undefined =>
    people.learnersOf(personId).find((l) => l.id === learnerId);
  const mayShare = (personId: string, learner: Learner | undefined): boolean =>
    learner !== undefined && may(standingOf(personId, learner), 'share');

  function requireSharing(personId: string, learner: Learner): void {
    if (!mayShare(personId, learner)) throw notAllowed('let this schedule go out');
  }

  /** Finds a link of a schedule that somebody sees: their own, or any for a keeper. @throws ProblemError 403 or 404 */
  function seen(id: string, personId: string, learner: Learner): ShareRow {
    requireSharing(personId, learner);
    const found = store.byId(id);
    if (!found || (found.madeBy !== personId && !may(standingOf(personId, learner), 'keep')))
      throw notFound('link');
    return found;
  }

  /**
   * Finds a link of one's own. What goes out by it is what its maker sees, so that nobody else may say what does, or
   * have its address.
   * @throws ProblemError 403 or 404
   */
  function requireOwn(id: string, personId: string, learner: Learner): ShareRow {
    const found = seen(id, personId, learner);
    if (found.madeBy !== personId)
      throw notAllowed('change a link that somebody else has made: you may pause it, or delete it');
    return found;
  }

  /** Tells whether somebody sees every calendar that a link names. */
  const seesAllOf = (personId: string, learnerId: string, { calendars }: ShareRules) => {
    const kept = sights(personId, learnerId);
    return !calendars?.some((id) => kept.has(id));
  };

  const todayOf = (learnerId: string) => today(clock.now(), ianaZone(store.zoneOf(learnerId)) ?? UTC);
  /** A link for all calendars is for those that are for everybody; what is kept from somebody has to be named. */
  const linkSpan = (learnerId: string, madeBy: string, { calendars }: ShareRules) =>
    spanOf(REACH, learnerId, calendars === null ? asEverybody(madeBy, learnerId) : madeBy);
  const spanOf = ({ back, ahead }: { back: number; ahead: number }, learnerId: string, personId: string) => ({
    learnerId,
    personId,
    from: clock.now() - back,
    to: clock.now() + ahead,
  });
  const make = (job: GoingOut, owner: string) => pool.run(GO_OUT, job, owner);

  /** Notes how often links were fetched, once in a while. */
  function noteFetches(isNow = false): void {
    if (!isNow && clock.now() - notedAt < NOTE_AFTER) return;
    notedAt = clock.now();
    if (!fetches.size) return;
    store.transaction(() => {
      for (const [id, { times, at }] of fetches) store.fetched(id, times, at);
    });
    fetches.clear();
  }

  /** A link by its secret, where something goes out by it just now. @throws ProblemError 404, 410 or 503 */
  function open(secret: string): ShareRow {
    const found = store.byDigest(digestOf(secret));
    if (!found || !mayShare(found.madeBy, learnerOf(found.madeBy, found.learnerId))) throw notFound('link');
    if (found.until !== null && todayOf(found.learnerId) > parseDate(found.until))
      throw new ProblemError(410, 'over', 'This link is over.', { remedy: 'Ask for another one.' });
    if (found.paused)
      throw new ProblemError(503, 'paused', 'This link is paused.', { remedy: 'Try again later.' });
    fetches.set(found.id, { times: (fetches.get(found.id)?.times ?? 0) + 1, at: clock.now() });
    noteFetches();
    return found;
  }

  const keyOf = (row: ShareRow) =>
    JSON.stringify([row.version, row.name, versionOf(row.learnerId), formatDate(todayOf(row.learnerId))]);

  /** A link as somebody sees it: without the calendars, and the name, that would tell of what is kept from them. */
  function shownTo(personId: string, row: ShareRow): ShareRow {
    if (seesAllOf(personId, row.learnerId, row.rules)) return row;
    const kept = sights(personId, row.learnerId);
    const calendars = row.rules.calendars!.filter((id) => !kept.has(id));
    return { ...row, name: PRIVATE_LINK, rules: { ...row.rules, calendars } };
  }

  return {
    mayShare,
    /** The links of a schedule that somebody may change, each with whether anything goes out by it */
    list(learner: Learner, personId: string) {
      if (!mayShare(personId, learner)) return [];
      noteFetches(true);
      const isKeeper = may(standingOf(personId, learner), 'keep');
      return store
        .ofLearner(learner.id)
        .filter((row) => isKeeper || row.share.madeBy === personId)
        .map((row) => ({
          ...row,
          share: shownTo(personId, row.share),
          own: row.share.madeBy === personId,
          stands: mayShare(row.share.madeBy, learnerOf(row.share.madeBy, learner.id)),
        }));
    },
    /** One of them. */
    one(id: string, learner: Learner, personId: string) {
      return this.list(learner, personId).find((row) => row.share.id === id)!;
    },
    /** @returns its id, and its secret, which is told this once */
    add(learner: Learner, personId: string, { name, rules, page, until }: Shared) {
      requireSharing(personId, learner);
      const secret = newSecret();
      const now = clock.now();
      const id = orderedId(now);
      store.transaction(() => {
        if (store.count(learner.id) >= MOST.shares)
          throw tooMany(
            `A schedule goes out by at most ${MOST.shares} links.`,
            'Take one of them back first.',
          );
        store.add({
          id,
          learnerId: learner.id,
          madeBy: personId,
          name,
          digest: digestOf(secret),
          rules,
          page,
          until,
          createdAt: now,
        });
        note(learner.id, 'goesOut', personId, name, null, rules.calendars);
      });
      changed(learner.id);
      return { id, secret };
    },
    change(id: string, learner: Learner, personId: string, to: Partial<Shared & { paused: boolean }>): void {
      const { paused, ...rest } = to;
      const isPausing = paused === true && Object.values(rest).every((value) => value === undefined);
      if (isPausing) seen(id, personId, learner);
      else requireOwn(id, personId, learner);
      store.change(id, to);
      changed(learner.id);
    },
    /** Gives a link another address. @returns its secret */
    renew(id: string, learner: Learner, personId: string): string {
      requireOwn(id, personId, learner);
      const secret = newSecret();
      store.change(id, { digest: digestOf(secret) });
      changed(learner.id);
      return secret;
    },
    takeBack(id: string, learner: Learner, personId: string): void {
      const found = seen(id, personId, learner);
      store.transaction(() => {
        store.remove(id);
        note(learner.id, 'outNoMore', personId, found.name, null, found.rules.calendars);
      });
      ready.forget(`calendar ${id}`);
      ready.forget(`page ${id}`);
      changed(learner.id);
    },
    /** Gives what others would see. */
    async look(learner: Learner, personId: string, rules: ShareRules): Promise<ShareLook> {
      requireSharing(personId, learner);
      const span = linkSpan(learner.id, personId, rules);
      return JSON.parse(
        await make({ file, now: clock.now(), span, as: 'look', rules }, personId),
      ) as ShareLook;
    },
    /** Gives what goes out by a link, as an iCalendar object. */
    calendar(secret: string): Promise<Ready> {
      const row = open(secret);
      const { id, learnerId, madeBy, name, rules } = row;
      return ready.once(`calendar ${id}`, keyOf(row), () => {
        const span = linkSpan(learnerId, madeBy, rules);
        const job = {
          file,
          now: clock.now(),
          span,
          as: 'calendar',
          name,
          rules,
          salt: id,
          apart: false,
        } as const;
        return make(job, `share ${id}`);
      });
    },
    /** A month of what goes out by a link, as a page; null where no page goes with it. */
    page(secret: string, month: string | undefined): Promise<Ready> {
      const row = open(secret);
      const { id, learnerId, madeBy, name, rules, page } = row;
      if (!page || !web) throw notFound('page');
      const span = linkSpan(learnerId, madeBy, rules);
      const address = `${base()}/out/${secret}.ics`;
      // What it says of the time it was made at is of a minute.
      const key = JSON.stringify([keyOf(row), Math.floor(clock.now() / 60_000), month]);
      return ready.once(`page ${id}`, key, () => {
        const asked = { web, name, month, path: `/open/${secret}`, address };
        return make({ file, now: clock.now(), span, as: 'page', rules, salt: id, ...asked }, `share ${id}`);
      });
    },
    /** A file of what somebody sees, between two days where these are given. */
    file(learnerId: string, personId: string, asked: FileAsked): Promise<string> {
      const zone = ianaZone(store.zoneOf(learnerId)) ?? UTC;
      const day = (date: string, more: number) => zone.toInstant((parseDate(date) + more) * DAY);
      const usual = spanOf(FILE_REACH, learnerId, personId);
      const span = {
        ...usual,
        from: asked.from ? day(asked.from, 0) : usual.from,
        to: asked.to ? day(asked.to, 1) : usual.to,
      };
      const common = { file, now: clock.now(), span };
      const { calendars, table } = asked;
      return make(
        table
          ? { ...common, as: 'table', calendars, of: table.of, columns: table.columns }
          : {
              ...common,
              as: 'calendar',
              name: asked.name,
              rules: fileRules(calendars),
              salt: learnerId,
              apart: Boolean(asked.from ?? asked.to),
            },
        personId,
      );
    },
    /** A week or a month of one learner or several, to be printed. */
    async paper(learnerIds: readonly string[], personId: string, asked: PaperAsked, briefs: boolean) {
      if (!web) throw notFound('page');
      const span = { learnerId: learnerIds[0]!, personId, ...spanPrinted(asked, clock.now()) };
      const job = {
        file,
        now: clock.now(),
        span,
        as: 'paper',
        web,
        asked,
        briefs,
        learners: [...learnerIds],
      } as const;
      const html = await make({ ...job, learners: [...learnerIds] }, personId);
      return { html, rule: createHash('sha256').update(paperRule(asked)).digest('base64') };
    },
    /** A page that says why there is none. */
    sorry: (title: string, remedy = 'Ask whoever gave you the link.') =>
      web ? sorryPage(web, title, remedy) : title,
    /** At the stop, what is not noted yet is. */
    close: () => noteFetches(true),
  };
}
export type ShareService = ReturnType<typeof shareService>;

/** What somebody wants as a file. */
export interface FileAsked {
  /** What the calendar in it is called */
  name: string;
  calendars: string[] | null;
  from?: string | undefined;
  to?: string | undefined;
  table?: { of: TableOf; columns: string[] | undefined };
}
