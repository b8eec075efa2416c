import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join, resolve } from 'node:path';
import type { Express } from 'express';
import { createApp, type AppDeps, type Services } from './app.ts';
import { FileFolder } from './briefs/folder.ts';
import { systemClock, type Clock } from './clock.ts';
import type { Config } from './config.ts';
import { openDatabase, type Db } from './db/open.ts';
import { placeOf } from './http/problem.ts';
import { keyFor } from './key.ts';
import { makeMetrics, serveMetrics } from './metrics.ts';
import { SESSION_DAYS } from './people/auth.ts';
import { securityLog } from './security-log.ts';
import { smtpTransport } from './notify/transport.ts';
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
  log?: (message: string) => void;
}

export interface Running {
  address: string;
  /** Where metrics are given; null where they are not */
  metricsPort: number | null;
  app: Express;
  services: Services;
  close(): Promise<void>;
}

/** Three threads on two processors: two that are kept busy leave one that begins at once. */
const THREADS = 3;
const THREAD_MEGABYTES = 512;
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
    log = console.error,
  } = options;
  const data = resolve(config.DATA);
  const db = openDatabase(join(data, 'zephyrfield.sqlite'), migrations);
  const secrets = keyFor(db, join(data, 'key'));
  const pool = workPool({
    script: workerScript,
    threads: THREADS,
    memoryMb: THREAD_MEGABYTES,
    now: wallClock.now,
  });
  const security = securityLog(join(data, 'security.log'), wallClock.now);
  // Until it listens, where it is going to.
  let address = `http://localhost:${config.PORT}`;
  const mail = config.SMTP_URL ? smtpTransport(config.SMTP_URL, config.MAIL_FROM, config.SMTP_TLS) : null;
  const folder = new FileFolder(join(data, 'files'));
  const metrics = makeMetrics();
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
    address: () => address,
    log,
  };
  const { app, services } = createApp({ ...deps, ...(demo ? { demo } : {}) });
  services.removal.removeUnfinished();
  await prepare?.(services, db);

  const hourly = () => {
    services.files.tidy();
    services.people.endSessionsBefore(
      new Date(wallClock.now()),
      new Date(wallClock.now() - SESSION_DAYS.most * DAY),
    );
  };
  const daily = () => {
    services.briefs.tidy();
    // What repeats without end comes into the stored horizon day by day.
    return services.own.extend();
  };
  const server = await new Promise<Server>((done, fail) => {
    const listening = app.listen(config.PORT, config.HOST, (error?: Error) =>
      error ? fail(error) : done(listening),
    );
  });
  // Who sends its request too slowly holds a connection for half a minute at most.
  server.headersTimeout = 20_000;
  server.requestTimeout = 120_000;
  const at = server.address();
  const port = typeof at === 'object' && at ? at.port : config.PORT;
  address = `http://${config.HOST === '127.0.0.1' ? 'localhost' : config.HOST}:${port}`;
  hourly();
  // Nobody waits for it: what stands is right, and only what comes in two years is added.
  let tidying = daily();
  const timers = [
    setInterval(hourly, HOUR).unref(),
    setInterval(() => void (tidying = daily()), DAY).unref(),
  ];
  metrics.watch({
    checksRunning: services.schedule.running,
    checksOverdue: () => services.gathered.countDue(clock.now()),
    workWaiting: pool.waiting,
    noticesWaiting: services.deliveries.countWaiting,
    databaseFile: join(data, 'zephyrfield.sqlite'),
  });
  const metricsServer =
    config.METRICS_PORT === undefined ? null : await serveMetrics(metrics, config.METRICS_PORT);
  services.schedule.start();
  services.engine.start();
  return {
    address,
    metricsPort: metricsServer && (metricsServer.address() as AddressInfo).port,
    app,
    services,
    async close() {
      timers.forEach(clearInterval);
      await services.schedule.stop();
      await services.engine.stop();
      mail?.close();
      metricsServer?.close();
      server.closeAllConnections();
      await new Promise((done) => server.close(done));
      await pool.close();
      await tidying.catch((error: unknown) => log('tidying was cut off', { fault: placeOf(error) }));
      security.close();
      db.$client.close();
    },
  };
}
