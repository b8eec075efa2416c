import { RELEASE } from '@zephyrfield/core/lib/release';
import { randomUUID } from 'node:crypto';
import { openApi } from '@zephyrfield/core/api/openapi';
import { paths } from '@zephyrfield/core/api/paths';
import { DAY } from '@zephyrfield/core/time/civil';
import compression from 'compression';
import express, { Router, type Express, type RequestHandler } from 'express';
import { ipKeyGenerator, rateLimit } from 'express-rate-limit';
import { mountBriefs } from './briefs/routes.ts';
import { mountCalendars } from './calendars/routes.ts';
import { calendarsOf } from './calendars/views.ts';
import { mountCrew } from './crew/routes.ts';
import { mountGather } from './gather/routes.ts';
import { changeView } from './gather/views.ts';
import { firstView } from './first-view/first-view.ts';
import { mountLive } from './http/live.ts';
import { MadeJson, Replies, keyOfReply } from './http/replies.ts';
import { routes } from '@zephyrfield/core/api/routes';
import { between } from '@zephyrfield/core/view/near';
import { health } from './http/health.ts';
import { mounter, type Mount } from './http/mount.ts';
import { whoAsks, type Caller } from './http/caller.ts';
import { notFound, notWritable, problemHandler, tooOften, REQUEST_ID } from './http/problem.ts';
import { sameSite, securityHeaders } from './http/security.ts';
import { serveWeb } from './http/web.ts';
import { BETWEEN } from './items/jobs.ts';
import { mountItems } from './items/routes.ts';
import { occurrencesBetween } from './items/views.ts';
import { mountTable } from './table/routes.ts';
import { mountOutlines } from './outline/routes.ts';
import { mountOpenTimes } from './open-times/routes.ts';
import { mountNotes } from './notes/routes.ts';
import { mountPublish } from './publish/routes.ts';
import type { ItemRow } from './gather/store.ts';
import { makeServices, type Services, type Deps } from './wiring.ts';
import { schedulesOf } from './people/see-as.ts';
import { admission, seeingAs } from './people/access.ts';
import { authenticator } from './people/auth.ts';
import { ownersIn } from './people/owners.ts';
import { mountAccounts, mountOwnAccount, mountPeople } from './people/routes.ts';
import { sessionView } from './people/views.ts';
import { mountArchives } from './backup/routes.ts';
import { mountOut, mountShared } from './out/routes.ts';
import { mountPlan } from './plan/routes.ts';
import { planView } from './plan/views.ts';
import { mountMailStop, mountNotify } from './notify/routes.ts';

export type { Services } from './wiring.ts';

export interface AppDeps extends Omit<Deps, 'isDemo'> {
  /** Adds routes of its own before the rest, for the demo world */
  demo?: (mount: Mount, services: Services) => void;
}

/** Routes that fetch for others, or take files in: what could be turned against somebody. */
const COSTLY = [
  paths.preview,
  paths.follow,
  paths.sendFile,
  paths.readSource,
  paths.sendBriefFile,
  paths.sendNoteFile,
  paths.sendOutline,
  paths.lookAtArchive,
  paths.restoreSchedule,
].map((p) => p.path);
const SIGNING_IN = [
  paths.signIn,
  paths.signUp,
  paths.beginAccount,
  paths.changePassword,
  paths.lookAtInvitation,
  paths.acceptInvitation,
  paths.forgotPassword,
  paths.lookAtReset,
  paths.resetPassword,
  paths.leaveForGood,
  paths.takeSecondStep,
  paths.beginPasskey,
  paths.passkeyChallenge,
  paths.passkeySignIn,
  paths.confirmSecondStep,
].map((p) => p.path);

/** How long nobody may have looked for links to check, in milliseconds. */
const STUCK = 60_000;

/** Mounts all that the server answers. */
export function createApp(deps: AppDeps): { app: Express; services: Services } {
  const { config, db, clock, wallClock, security, metrics, storage, replica, log, demo } = deps;
  const services = makeServices({ ...deps, isDemo: Boolean(demo) });
  const {
    people,
    gathered,
    items,
    calendars,
    own,
    briefs,
    understanding,
    notify,
    deliveries,
    live,
    streams,
    changed,
  } = services;

  const app = express();
  app.disable('x-powered-by');
  if (config.TRUST_PROXY)
    app.set(
      'trust proxy',
      /^\d+$/.test(config.TRUST_PROXY) ? Number(config.TRUST_PROXY) : config.TRUST_PROXY,
    );
  app.use((_req, res, next) => {
    res.set(REQUEST_ID, randomUUID());
    next();
  });
  app.use(metrics.requests);
  app.use(
    health(
      {
        database: () => db.$client.prepare('SELECT 1').pluck().get() === 1,
        migrations: () => db.$client.prepare('SELECT count(*) FROM __drizzle_migrations').pluck().get() !== 0,
        storage: () => storage.isThere() && storage.isSound && storage.canWrite(),
        // It looks every ten seconds; a minute without it is no delay.
        schedule: () => performance.now() - services.schedule.lookedAt() < STUCK,
      },
      // Without mail it serves people all the same, and starting it anew would not help.
      {
        mail: () => services.post.troubleSince() === null,
        ...(replica ? { replica: () => replica.isWell() } : {}),
      },
    ),
  );
  app.use(securityHeaders(config.WEB, config.PUBLIC_URL?.startsWith('https:') ?? false));
  app.use('/api', sameSite(config.PUBLIC_URL));
  // What is written into a database that was taken away would be found by nobody.
  app.use('/api', (req, _res, next) => {
    if (req.method !== 'GET' && !storage.isThere()) throw notWritable();
    next();
  });
  app.post(SIGNING_IN, atMost(config.SIGN_INS_PER_MINUTE));
  app.post(COSTLY, atMost(config.CHECKS_PER_MINUTE));
  // Not the live updates: a compressor would keep them back until it has enough.
  app.use(
    '/api',
    compression({
      filter: (req, res) =>
        !/event-stream/.test(String(res.getHeader('Content-Type'))) && compression.filter(req, res),
    }),
  );

  const api = Router();
  const authenticate = authenticator(services.auth, people, wallClock.now);
  const replies = new Replies();
  const { sights } = services;
  const versions = {
    of: services.versions.of,
    hasOwn: (personId: string, learnerId: string) =>
      items.hasOwn(personId, learnerId) || sights(personId, learnerId).size > 0,
  };
  const admit = admission(people, ownersIn(db), sights);
  const mount = mounter(api, {
    authenticate,
    admit,
    seeAs: seeingAs(admit, services.crews.member),
    security,
    maxFileBytes: config.FETCH_MEGABYTES * 2 ** 20,
    replies,
    versions,
    limit: atMost(config.REQUESTS_PER_MINUTE, (res) => {
      const caller = res.locals['caller'] as Caller | null;
      return caller ? whoAsks(caller) : undefined;
    }),
  });
  demo?.(mount, services);
  mountAccounts(mount, services.accounts, services.signingUp);
  mountOwnAccount(mount, services.ownAccount, services.secondStep, services.passkeys);
  mountPeople(mount, {
    people,
    clock,
    demo: Boolean(demo),
    openSignUp: config.OPEN_SIGN_UP,
    changed,
    settingsChanged: deliveries.wakePerson,
  });
  mountCalendars(mount, {
    calendars,
    clock,
    sights,
    changed,
    whenChanged: understanding.calendarChanged,
    forget: services.removal.forget,
  });
  mountGather(mount, { ...services, store: gathered, sights });
  const historyOf = (id: string) => gathered.changesOfItem(id).map((row) => changeView(row, 0));
  const lookedAt = ({ uid, calendarId }: ItemRow, personId: string) => {
    const found = services.published.looked({ uid, calendarId, personId });
    return found.of ? found : null;
  };
  mountItems(mount, {
    store: items,
    own,
    briefs,
    clock,
    understanding,
    notify,
    lookedAt,
    historyOf,
    changed,
    between: async (span) =>
      new MadeJson(await deps.pool.run(BETWEEN, { file: db.$client.name, ...span }, span.personId)),
  });
  mountPublish(mount, services.publish);
  mountTable(mount, services.table);
  mountNotes(mount, services.notes);
  mountOpenTimes(mount, services.openTimes, services.replies);
  mountOutlines(mount, services.outlines);
  mountPlan(mount, {
    store: services.plans,
    clock,
    sights,
    hasDate: (itemId, recurrenceId, personId) =>
      items.occurrence(itemId, recurrenceId, personId) !== undefined,
    learnerOf: (itemId) => items.item(itemId)!.item.learnerId,
    changed,
  });
  mountBriefs(mount, briefs);
  mountNotify(mount, { notify, store: deliveries, changed });
  mountCrew(mount, { crew: services.crew, store: services.crews, calendars, sights, clock });
  mountOut(mount, services.shares);
  mountArchives(mount, services.archives);
  mountLive(mount, {
    live,
    streams,
    hasSession: people.hasSession,
    isIn: (personId, learnerId) => schedulesOf(people, personId).some((l) => l.id === learnerId),
    othersOf: (personId, learnerId) =>
      people
        .learnersOf(personId)
        .map((l) => l.id)
        .filter((id) => id !== learnerId),
    now: wallClock.now,
  });
  app.use(api);
  app.use(['/out', '/open'], atMost(config.REQUESTS_PER_MINUTE));
  mountShared(app, services.shares);
  mountMailStop(app, { personOf: services.personOfStop, stop: notify.stopMail });
  // Made when it is first asked for: that takes a third of a second, which no start is to wait for.
  let contract: object | undefined;
  app.get('/api/openapi.json', (_req, res) => void res.json((contract ??= openApi(RELEASE))));
  app.get('/api/health', (_req, res) => void res.json({ ok: true }));
  app.use('/api', () => {
    throw notFound('address in the API');
  });
  if (config.WEB) {
    const session = (personId: string) =>
      sessionView(people, personId, { now: clock.now(), demo: Boolean(demo), open: config.OPEN_SIGN_UP });
    const occurrences = (learnerId: string, personId: string, first: number, last: number) => {
      const who = versions.hasOwn(personId, learnerId) ? personId : '';
      const params = { learnerId };
      // The very reply that the page's scripts ask for next.
      const key = keyOfReply(
        routes.occurrences.path,
        learnerId,
        versions.of(learnerId),
        who,
        params,
        between(first, last),
      );
      return replies.text(key, () => occurrencesBetween(items, learnerId, personId, first * DAY, last * DAY));
    };
    const mayDraw = (personId: string) =>
      services.limits.take('draw', personId).then(
        () => true,
        () => false,
      );
    app.use(
      firstView({
        web: config.WEB,
        authenticate,
        draw: services.draw,
        mayDraw,
        session,
        calendars: (id, personId) => calendarsOf(calendars, id, sights(personId, id)),
        plan: (id, personId) => planView(services.plans, id, sights(personId, id)),
        occurrences,
        versionOf: services.versions.of,
        log,
      }),
    );
    app.use(serveWeb(config.WEB));
  }
  app.use(problemHandler(log, security));
  return { app, services };
}

/**
 * Limits how often somebody may ask, per minute.
 * @param who whom a request is counted for; the address it came from where that is nobody
 */
function atMost(
  limit: number,
  who: (res: Parameters<RequestHandler>[1]) => string | undefined = () => undefined,
): RequestHandler {
  return rateLimit({
    windowMs: 60_000,
    limit,
    standardHeaders: 'draft-8',
    legacyHeaders: false,
    // What is believed of X-Forwarded-For is said by ZEPHYRFIELD_TRUST_PROXY; the package's own doubts are
    // not ours.
    validate: false,
    keyGenerator: (req, res) => who(res as Parameters<RequestHandler>[1]) ?? ipKeyGenerator(req.ip ?? ''),
    handler: (_req, _res, next) => next(tooOften(60)),
  });
}
