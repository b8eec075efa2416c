import { RELEASE } from '@zephyrfield/core/lib/release';
import { mkdirSync, readFileSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join, resolve } from 'node:path';
import type { Express } from 'express';
import { IS_SOUND } from './backup/jobs.ts';
import { litestream, replicate } from './backup/replica.ts';
import { restoredAt } from './backup/restored.ts';
import { createApp, type AppDeps, type Services } from './app.ts';
import { FileFolder } from './files/folder.ts';
import { systemClock, type Clock } from './clock.ts';
import { clockGuard } from './clock-guard.ts';
import type { Config } from './config.ts';
import { lockFolder, refuseToBeginAnew, watchPlace } from './data-folder.ts';
import { openDatabase, type Db } from './db/open.ts';
import { letGoBefore } from './db/set-back.ts';
import { makePulse, type Pulse } from './db/pulse.ts';
import { codeOf } from './fault.ts';
import { placeOf } from './http/problem.ts';
import { keyFor } from './key.ts';
import { inWords, type Log } from './log.ts';
import { makeMetrics, serveMetrics } from './metrics.ts';
import type { Secrets } from './secrets.ts';
import { securityLog } from './security-log.ts';
import { inbox } from './notes/inbox.ts';
import { smtpTransport } from './mail/transport.ts';
import { workPool } from './work/pool.ts';

export interface StartOptions {
  config: Config;
  clock: Clock;
  /** The time sessions are counted in; the machine's without it */
  wallClock?: Clock;
  migrations: string;
  workerScript: string;
  demo?: AppDeps['demo'];
  /** Done before anybody can ask for anything */
  prepare?: (services: Services, db: Db) => Promise<void>;
  log?: Log;
  /**
   * Longest waits for what a busy machine does slowly, as usual without it: for the drawing of a page, in milliseconds, and
   * for a thread, as a multiple of its time
   */
  patience?: { drawing: number; thread: number };
}

export interface Running {
  address: string;
  /** Place where metrics are given; null where they are not */
  metricsPort: number | null;
  /** Place where answers to notes are taken in by mail; null where they are not */
  inboxPort: number | null;
  app: Express;
  services: Services;
  close(): Promise<void>;
}

/** Three threads on two processors: two that are kept busy leave one that begins at once. */
const THREADS = 3;
const THREAD_MEGABYTES = 512;
/** Time between two counts of what was saved, in milliseconds. */
const PULSE = 1_000;
const HOUR = 3_600_000;
const DAY = 24 * HOUR;

/** Opens the database, reads the key, and listens. */
export async function startServer(options: StartOptions): Promise<Running> {
  const {
    config,
    clock,
    wallClock = systemClock,
    migrations,
    workerScript,
    demo,
    prepare,
    patience,
    log = (message, fields = {}) => console.error(inWords(message, fields)),
  } = options;
  log(`Zephyrfield ${RELEASE}`);
  const data = resolve(config.DATA);
  const databaseFile = join(data, 'zephyrfield.sqlite');
  mkdirSync(data, { recursive: true, mode: 0o700 });
  const unlock = lockFolder(data);
  let db: Db;
  let secrets: Secrets;
  let pulse: Pulse;
  try {
    refuseToBeginAnew(data);
    db = openDatabase(databaseFile, migrations, log);
    secrets = keyFor(db, join(data, 'key'), config.NEW_KEY);
    pulse = makePulse(db, data);
    letGoBefore(db, restoredAt(data));
    if (config.NEW_KEY)
      log('ZEPHYRFIELD_NEW_KEY is set: any key is taken. Take it away again after this start.');
  } catch (error) {
    unlock();
    throw error;
  }
  const pool = workPool({
    script: workerScript,
    threads: THREADS,
    memoryMb: THREAD_MEGABYTES,
    now: wallClock.now,
    ...(patience ? { patience: patience.thread } : {}),
  });
  const security = securityLog(join(data, 'security.log'), wallClock.now);
  // Until it listens, where it is going to.
  let address = `http://localhost:${config.PORT}`;
  const mail = config.SMTP_URL ? smtpTransport(config.SMTP_URL, config.MAIL_FROM, config.SMTP_TLS) : null;
  const folder = new FileFolder(join(data, 'files'));
  const metrics = makeMetrics();
  const storage = { isThere: watchPlace(databaseFile), isSound: true, canWrite: pulse.beats };
  const replica = config.REPLICA_URL
    ? replicate(litestream(resolve(workerScript)), databaseFile, config.REPLICA_URL, log)
    : null;
  const deps = {
    config,
    db,
    clock,
    wallClock,
    secrets,
    pool,
    security,
    folder,
    mail: mail?.send ?? null,
    metrics,
    storage,
    restoredAt: restoredAt(data),
    replica,
    address: () => address,
    log,
    ...(patience ? { patience } : {}),
  };
  // Nothing of it must end the server: a full disk is made room on, and then it goes on.
  let isClosing = false;
  const undisturbed = async (what: string, work: () => unknown): Promise<void> => {
    try {
      await work();
    } catch (error) {
      // At the stop, what is under way is cut off; it is done anew after the next start.
      if (!isClosing) log(`${what} failed`, { fault: placeOf(error), code: codeOf(error) });
    }
  };
  const { app, services, features } = createApp({ ...deps, ...(demo ? { demo } : {}) });
  for (const { prepare } of features) await undisturbed('tidying', () => prepare?.());
  await prepare?.(services, db);

  const hourly = async () => {
    for (const work of features.flatMap((f) => f.hourly ?? [])) await undisturbed('tidying', work);
  };
  const daily = async () => {
    for (const [what, work] of features.flatMap((f) => f.daily ?? [])) await undisturbed(what, work);
    await undisturbed('looking through the database', async () => {
      // For itself: it may take minutes, and nothing else that the server does is to wait for it.
      storage.isSound = await pool.run(IS_SOUND, { file: databaseFile }, 'the database');
      if (!storage.isSound) log('the database is damaged: bring it back from a backup');
    });
  };
  const server = await new Promise<Server>((done, fail) => {
    const listening = app.listen(config.PORT, config.HOST, (error?: Error) =>
      error ? fail(error) : done(listening),
    );
  });
  // Who sends its request too slowly holds a connection for half a minute at most.
  // Longer than a proxy or a page keeps a connection that is not used: else one sends just as the other closes it.
  server.keepAliveTimeout = 75_000;
  server.headersTimeout = 20_000;
  server.requestTimeout = 120_000;
  const at = server.address();
  const port = typeof at === 'object' && at ? at.port : config.PORT;
  address = `http://${config.HOST === '127.0.0.1' ? 'localhost' : config.HOST}:${port}`;
  if (config.OPEN_SIGN_UP && !config.SMTP_URL)
    log('anybody may make an account, and no mail goes out: signing up tells whether an address has one');
  void hourly();
  // Nobody waits for it: what stands is right, and only what comes in two years is added.
  let tidying = daily();
  const timers = [
    setInterval(() => void undisturbed('counting what was saved', pulse.beat), PULSE).unref(),
    setInterval(() => void hourly(), HOUR).unref(),
    setInterval(() => void (tidying = daily()), DAY).unref(),
  ];
  metrics.watch({
    checksRunning: services.schedule.running,
    checksOverdue: () => services.gathered.countDue(clock.now()),
    workWaiting: pool.waiting,
    noticesWaiting: services.deliveries.countWaiting,
    mailStoppedSeconds: () => {
      const since = services.post.troubleSince();
      return since === null ? 0 : (clock.now() - since) / 1_000;
    },
    databaseFile,
    replica,
  });
  const metricsServer =
    config.METRICS_PORT === undefined ? null : await serveMetrics(metrics, config.METRICS_PORT);
  const guard = clockGuard(
    Date.now,
    () => performance.now(),
    (now, by) => {
      log('the clock was set back; what was planned is worked out anew', { seconds: Math.round(by / 1_000) });
      void undisturbed('working out anew what was planned', () => services.setBack(now));
    },
  );
  const taking =
    config.INBOX_PORT === undefined
      ? null
      : inbox({
          notes: services.notes,
          attempts: services.limits,
          pool,
          addressOf: (personId) => {
            const person = services.people.person(personId);
            return person?.confirmed ? person.email : null;
          },
          domain: config.INBOX_DOMAIN,
          port: config.INBOX_PORT,
          host: config.INBOX_HOST,
          tls: inboxTls(config),
          security,
          log,
        });
  const inboxPort = taking && (await taking.start());
  for (const feature of features) feature.start?.();
  return {
    address,
    metricsPort: metricsServer && (metricsServer.address() as AddressInfo).port,
    inboxPort,
    app,
    services,
    async close() {
      isClosing = true;
      timers.forEach(clearInterval);
      guard.stop();
      for (const feature of features) await feature.stop?.();
      await taking?.stop();
      mail?.close();
      metricsServer?.close();
      server.closeAllConnections();
      await new Promise((done) => server.close(done));
      await pool.close();
      await tidying;
      for (const { close } of features) await undisturbed('writing what was in memory', () => close?.());
      security.close();
      // What was written last is sent before the database is closed.
      await undisturbed('counting what was saved', pulse.beat);
      await replica?.stop();
      db.$client.close();
      unlock();
    },
  };
}

/** Reads the key and certificate by which answers by mail come in encrypted. @throws an error where one of them is missing */
function inboxTls({ INBOX_TLS_KEY, INBOX_TLS_CERT }: Config): { key: Buffer; cert: Buffer } | undefined {
  if (INBOX_TLS_KEY === undefined && INBOX_TLS_CERT === undefined) return undefined;
  if (INBOX_TLS_KEY === undefined || INBOX_TLS_CERT === undefined)
    throw new Error('Set both ZEPHYRFIELD_INBOX_TLS_KEY and ZEPHYRFIELD_INBOX_TLS_CERT, or neither.');
  return { key: readFileSync(INBOX_TLS_KEY), cert: readFileSync(INBOX_TLS_CERT) };
}
