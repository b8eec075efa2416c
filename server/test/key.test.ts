import { copyFileSync, existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import type { OccurrenceView, SourceView } from '@zephyrfield/core/api/schemas';
import { openDatabase } from '../src/db/open';
import { rotateKey } from '../src/key';
import { FLAG, FeedServer, Installation, PASSWORD, event } from './harness';

const migrations = resolve(__dirname, '../migrations');
let feed: FeedServer;
let w: Installation;

beforeEach(async () => {
  feed = await FeedServer.start();
  w = await Installation.start(feed.host);
});
afterEach(async () => {
  await w.stop();
  await feed.stop();
});

async function world() {
  const { agent, learnerId } = await w.person();
  feed.calendar(event('t1', 'Tides', 'DTSTART;VALUE=DATE:20261006'));
  const follow = () =>
    agent.post(`/api/learners/${learnerId}/sources`).send({
      address: `http://${feed.host}/tides.ics?key=verysecret`,
      zone: 'Europe/Dublin',
      name: 'Tides',
      kind: 'course',
      ...FLAG,
    });
  const { source } = (await follow().expect(200)).body as { source: SourceView };
  /** Everything that needs the key goes on: the link is read, and known to be followed already. */
  const goesOn = async () => {
    await agent
      .post('/api/auth/sign-in/email')
      .send({ email: 'juno@skerrow.example', password: PASSWORD })
      .expect(200);
    feed.calendar(event('t1', 'Tides, again', 'DTSTART;VALUE=DATE:20261006'));
    const { body } = await agent.post(`/api/sources/${source.id}/reading`).expect(200);
    expect(body).toMatchObject({ source: { trouble: null } });
    const [o] = (
      await agent
        .get(`/api/learners/${learnerId}/occurrences`)
        .query({ from: '2026-10-01T00:00:00Z', to: '2026-11-01T00:00:00Z' })
        .expect(200)
    ).body as OccurrenceView[];
    expect(o!.title).toBe('Tides, again');
    await follow().expect(409);
  };
  return { agent, goesOn };
}
const keyFile = () => join(w.data, 'key');
const withDatabase = async <T>(work: (db: ReturnType<typeof openDatabase>) => Promise<T>): Promise<T> => {
  const db = openDatabase(join(w.data, 'zephyrfield.sqlite'), migrations);
  try {
    return await work(db);
  } finally {
    db.$client.close();
  }
};

test('a new key seals every link and second step anew; sessions end, and all goes on', async () => {
  const { agent, goesOn } = await world();
  const { body } = await agent.post('/api/account/second-step').send({ password: PASSWORD }).expect(200);
  const [code] = (body as { codes: string[] }).codes;
  const asked = () =>
    w.db(
      (db) =>
        db.prepare('UPDATE "user" SET two_factor_enabled = 1').run() &&
        db.prepare('UPDATE two_factor SET verified = 1').run(),
    );
  const before = readFileSync(keyFile(), 'utf8');
  await w.down();
  expect(await withDatabase((db) => rotateKey(db, keyFile()))).toBe(1);
  expect(readFileSync(keyFile(), 'utf8')).not.toBe(before);
  expect(existsSync(`${keyFile()}.next`)).toBe(false);
  await w.up();
  await agent.get('/api/notices').expect(401);
  asked();
  await agent
    .post('/api/auth/sign-in/email')
    .send({ email: 'juno@skerrow.example', password: PASSWORD })
    .expect(200);
  await agent.post('/api/auth/second-step').send({ code }).expect(200);
  w.db((db) => db.prepare('UPDATE "user" SET two_factor_enabled = 0').run());
  await goesOn();
});

test('cut off after the links were sealed, the next start takes the new key; cut off before, it keeps the old one', async () => {
  const { goesOn } = await world();
  await w.down();
  copyFileSync(keyFile(), join(w.data, 'old'));
  await withDatabase((db) => rotateKey(db, keyFile()));
  // As it lies between the last two steps: sealed with the new key, whose file does not have its name yet.
  renameSync(keyFile(), `${keyFile()}.next`);
  copyFileSync(join(w.data, 'old'), keyFile());
  await w.up();
  await goesOn();

  await w.down();
  const now = readFileSync(keyFile(), 'utf8');
  writeFileSync(`${keyFile()}.next`, `${'5'.repeat(64)}\n`);
  await w.up();
  expect(readFileSync(keyFile(), 'utf8')).toBe(now);
  expect(existsSync(`${keyFile()}.next`)).toBe(false);
  await goesOn();
});
