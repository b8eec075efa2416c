import { randomUUID } from 'node:crypto';
import { openApi } from '@zephyrfield/core/api/openapi';
import { RELEASE } from '@zephyrfield/core/lib/release';
import compression from 'compression';
import express, { Router, type Express } from 'express';
import type { ReplicaState } from './backup/replica-state.ts';
import { authenticator } from './accounts/auth.ts';
import { ownersOf, type Feature } from './feature.ts';
import { makeFeatures, type Services } from './features.ts';
import { drawnToday } from './first-view/index.ts';
import type { Deps } from './ground.ts';
import { whoAsks, type Caller } from './http/caller.ts';
import { health } from './http/health.ts';
import { atMost } from './http/limit.ts';
import { mountLive } from './http/live.ts';
import { mounter, type Mount } from './http/mount.ts';
import { notFound, notWritable, problemHandler, REQUEST_ID } from './http/problem.ts';
import { Replies } from './http/replies.ts';
import { sameSite, securityHeaders } from './http/security.ts';
import { serveWeb } from './http/web.ts';
import { ownSights } from './items/index.ts';
import { admission, seeingAs } from './people/access.ts';
import { schedulesOf } from './people/see-as.ts';

export type { Services } from './features.ts';

/** Way in which the database stands. */
export interface Storage {
  /** Tells that it is where it was opened */
  isThere(): boolean;
  /** All of it was sound when it was last looked through */
  readonly isSound: boolean;
  /** Tells that something can be written just now */
  canWrite(): boolean;
}

export interface AppDeps extends Omit<Deps, 'isDemo'> {
  storage: Storage;
  /** Replication of the database; null where there is none */
  replica: ReplicaState | null;
  /** Longest waits for what a busy machine does slowly; as usual without it */
  patience?: { drawing: number };
  /** Adds routes of its own before the rest, for the demo world */
  demo?: (mount: Mount, services: Services) => void;
}

/** Time nobody may have looked for links to check, in milliseconds. */
const STUCK = 60_000;

/** Mounts all that the server answers. */
export function createApp(deps: AppDeps): { app: Express; services: Services; features: readonly Feature[] } {
  const { config, db, wallClock, security, metrics, storage, replica, log, demo } = deps;
  const { ground, features, services } = makeFeatures({ ...deps, isDemo: Boolean(demo) });
  const { people, sights } = ground;
  const costly = features.flatMap((f) => f.costly ?? []).map(({ path }) => path);
  const guessable = features.flatMap((f) => f.guessable ?? []).map(({ path }) => path);

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
  app.post(guessable, atMost(config.SIGN_INS_PER_MINUTE));
  app.post(costly, atMost(config.CHECKS_PER_MINUTE));
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
  const versions = { of: ground.versions.of, ...ownSights(ground, services.items) };
  const admit = admission(people, ownersOf(features), sights);
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
  for (const feature of features) feature.mount?.(mount);
  mountLive(mount, {
    live: ground.live,
    streams: ground.streams,
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
  for (const feature of features) feature.pages?.(app);
  // Made when it is first asked for: that takes a third of a second, which no start is to wait for.
  let contract: object | undefined;
  app.get('/api/openapi.json', (_req, res) => void res.json((contract ??= openApi(RELEASE))));
  app.get('/api/health', (_req, res) => void res.json({ ok: true }));
  app.use('/api', () => {
    throw notFound('address in the API');
  });
  if (config.WEB) {
    const { calendars, items, plans } = services;
    const patience = deps.patience?.drawing;
    app.use(
      drawnToday(config.WEB, {
        ...{ ground, calendars, items, plans, authenticate, replies, versions },
        ...(patience === undefined ? {} : { patience }),
      }),
    );
    app.use(serveWeb(config.WEB));
  }
  app.use(problemHandler(log, security));
  return { app, services, features };
}
