import type { Server } from 'node:http';
import { join, resolve } from 'node:path';
import { createApp, type AppDeps, type AppParts } from './app.ts';
import { FileFolder } from './briefs/folder.ts';
import type { Clock } from './clock.ts';
import type { Config } from './config.ts';
import { openDatabase, type Db } from './db/open.ts';
import { workerReader } from './gather/reader.ts';
import { Secrets } from './secrets.ts';
import { smtpTransport } from './telling/transport.ts';

export interface StartOptions {
  config: Config;
  clock: Clock;
  migrations: string;
  readerScript: string;
  demo?: AppDeps['demo'];
  /** Done before anybody can ask for anything */
  prepare?: (parts: AppParts, db: Db) => Promise<void>;
  log?: (message: string) => void;
}

export interface Running {
  address: string;
  parts: AppParts;
  close(): Promise<void>;
}

const READING_SECONDS = 20;
const READING_MEGABYTES = 512;

/** Opens the database, reads the key, and listens. */
export async function startServer({ config, clock, migrations, readerScript, demo, prepare, log = console.error }: StartOptions): Promise<Running> {
  const data = resolve(config.DATA);
  const db = openDatabase(join(data, 'zephyrfield.sqlite'), migrations);
  const secrets = Secrets.fromFile(join(data, 'key'));
  const reader = workerReader({ script: readerScript, timeoutMs: READING_SECONDS * 1000, memoryMb: READING_MEGABYTES });
  // Until it listens, where it is going to.
  let address = `http://localhost:${config.PORT}`;
  const mail = config.SMTP_URL ? smtpTransport(config.SMTP_URL, config.MAIL_FROM) : null;
  const { app, parts } = createApp({
    config,
    db,
    clock,
    secrets,
    reader,
    folder: new FileFolder(join(data, 'files')),
    mail: mail?.send ?? null,
    address: () => address,
    log,
    ...(demo ? { demo } : {}),
  });
  await prepare?.(parts, db);
  // What repeats without end comes into the stored horizon day by day.
  const tidy = () => {
    parts.own.extend();
    parts.briefs.tidy();
  };
  tidy();
  const daily = setInterval(tidy, 86_400_000).unref();
  const server = await new Promise<Server>((done, fail) => {
    const listening = app.listen(config.PORT, config.HOST, (error?: Error) => (error ? fail(error) : done(listening)));
  });
  const at = server.address();
  const port = typeof at === 'object' && at ? at.port : config.PORT;
  address = `http://${config.HOST === '127.0.0.1' ? 'localhost' : config.HOST}:${port}`;
  parts.schedule.start();
  parts.engine.start();
  return {
    address,
    parts,
    async close() {
      clearInterval(daily);
      await parts.schedule.stop();
      await parts.engine.stop();
      mail?.close();
      server.closeAllConnections();
      await new Promise((done) => server.close(done));
      await reader.close();
      db.$client.close();
    },
  };
}
