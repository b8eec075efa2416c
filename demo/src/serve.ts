import { mkdirSync, rmSync } from 'node:fs';
import type { Server } from 'node:http';
import type { Express } from 'express';
import { join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { createCampus } from '@zephyrfield/stand-ins/campus';
import { createPostbox } from '@zephyrfield/stand-ins/postbox';
import { isForeignDatabase } from '@zephyrfield/server/db/open';
import { readConfig } from '@zephyrfield/server/config';
import { startServer } from '@zephyrfield/server/server';
import { DemoClock } from './clock.ts';
import { campusFeeds } from './feeds/index.ts';
import { mountDemo } from './routes.ts';
import { seed } from './seed.ts';
import { DEMO_PASSWORD } from './people.ts';
import { DEMO_START } from './term.ts';

/** Starts the campus and the server over one data folder, filling it at the first start. */
async function main(): Promise<void> {
  const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));
  const data = resolve(process.env['ZEPHYRFIELD_DATA'] ?? '.demo');
  const campusPort = Number(process.env['ZEPHYRFIELD_CAMPUS_PORT'] ?? 8322);
  const migrations = here('../../server/migrations');
  if (isForeignDatabase(join(data, 'zephyrfield.sqlite'), migrations)) {
    console.log('What the demo kept is of another version: it begins anew.');
    rmSync(data, { recursive: true });
  }
  mkdirSync(data, { recursive: true, mode: 0o700 });
  const campus = `http://localhost:${campusPort}`;
  const clock = new DemoClock(DEMO_START, join(data, 'clock'));
  const { app, state } = createCampus({ feeds: campusFeeds(campus), stateFile: join(data, 'campus.json') });
  const stop = await listen(app, campusPort);
  // Mail goes to a stand-in of its own: its page stands beside the campus, its SMTP port is whichever is
  // free.
  let inboxPort: () => number | null = () => null;
  const postPort = Number(process.env['ZEPHYRFIELD_POST_PORT'] ?? campusPort + 1);
  const { app: postPages, smtp } = createPostbox(join(data, 'post.jsonl'), () => inboxPort());
  const stopPost = await listen(postPages, postPort);
  const smtpPort = await new Promise<number>((done, fail) => {
    smtp.once('error', fail);
    const mailing = smtp.listen(0, '127.0.0.1', () => {
      const at = mailing.address();
      done(typeof at === 'object' && at ? at.port : 0);
    });
  });

  const config = readConfig({
    ZEPHYRFIELD_SMTP_URL: `smtp://127.0.0.1:${smtpPort}`,
    ...process.env,
    ZEPHYRFIELD_DATA: data,
    ZEPHYRFIELD_ALLOW_HOSTS: `localhost:${campusPort}`,
    ZEPHYRFIELD_OPEN_SIGN_UP: '1',
    ZEPHYRFIELD_INBOX_PORT: '0',
    ZEPHYRFIELD_INBOX_DOMAIN: 'notes.skerrow.example',
  });
  const server = await startServer({
    config,
    clock,
    migrations,
    workerScript: here('./worker.js'),
    demo: (mount, services) => mountDemo(mount, services, clock, `http://localhost:${postPort}`),
    prepare: async (services, db) => {
      if (services.people.count() === 0) await seed({ services, db, campus: state, origin: campus, clock });
    },
  });
  inboxPort = () => server.inboxPort;
  clock.save();
  const saving = setInterval(() => clock.save(), 5_000);

  console.log(
    `\n  Zephyrfield's demo is ready:  ${server.address}\n  The campus, with the teacher's desk:  ${campus}/desk\n  The postbox, where mail arrives:  http://localhost:${postPort}\n  It is ${new Date(clock.now()).toLocaleString('en-IE', { timeZone: 'Europe/Dublin', dateStyle: 'full', timeStyle: 'short' })} in Skerrow. Where a password is asked for, everybody's is ${DEMO_PASSWORD}. Ctrl+C stops it; nothing is lost.\n`,
  );
  for (const signal of ['SIGINT', 'SIGTERM'] as const) {
    process.once(signal, () => {
      clearInterval(saving);
      clock.save();
      void Promise.all([
        server.close(),
        stop(),
        stopPost(),
        new Promise<void>((done) => smtp.close(done)),
      ]).then(() => process.exit(0));
    });
  }
}

function listen(app: Express, port: number): Promise<() => Promise<void>> {
  return new Promise((done, fail) => {
    const server: Server = app.listen(port, '127.0.0.1', (error?: Error) => {
      if (error) return fail(error);
      // A page that comes back after a while finds its connection open.
      server.keepAliveTimeout = 75_000;
      done(() => new Promise((closed) => (server.closeAllConnections(), server.close(() => closed()))));
    });
  });
}

main().catch((error: unknown) => {
  const busy = error instanceof Error && 'code' in error && error.code === 'EADDRINUSE';
  console.error(
    busy
      ? 'The demo cannot start: its port is in use. Set PORT to another one, or stop what is running there.'
      : error,
  );
  process.exit(1);
});
