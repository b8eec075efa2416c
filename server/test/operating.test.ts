import { RELEASE } from '@zephyrfield/core/lib/release';
import request from 'supertest';
import { FLAG, FeedServer, Installation, START, event } from './harness';

let feed: FeedServer;
let w: Installation;
beforeAll(async () => {
  feed = await FeedServer.start();
  w = await Installation.start(feed.host, { ZEPHYRFIELD_METRICS_PORT: '0' });
});
afterAll(async () => {
  await w.stop();
  await feed.stop();
});

const metrics = async () =>
  (await request(`http://127.0.0.1:${w.metricsPort}`).get('/metrics').expect(200)).text;

test('it says that it lives and is ready, and names each request', async () => {
  await request(w.address).get('/healthz').expect(200, { ok: true, version: RELEASE });
  const { body } = await request(w.address).get('/readyz').expect(200);
  expect(body).toEqual({
    ready: true,
    database: true,
    migrations: true,
    storage: true,
    schedule: true,
    mail: true,
  });
  const ids = [];
  for (let i = 0; i < 2; i++)
    ids.push((await request(w.address).get('/api/health')).headers['x-request-id'] as string);
  expect(new Set(ids).size).toBe(2);
});

test('what an operator watches is counted, on a port of its own, and names nobody', async () => {
  const { agent } = await w.person();
  const learnerId = await w.learner(agent);
  feed.calendar(event('k', 'Keel plan', 'DTSTART:20261012T150000Z'));
  await agent
    .post(`/api/learners/${learnerId}/sources`)
    .send({
      address: `http://${feed.host}/secret-3f9a0c.ics?key=4f`,
      zone: 'Europe/Dublin',
      name: 'Boats',
      kind: 'course',
      ...FLAG,
    })
    .expect(200);
  w.now = START + 2 * 3_600_000;
  expect(await metrics()).toMatch(/^zephyrfield_checks_overdue 1$/m);
  await w.services.schedule.turn();
  const text = await metrics();
  expect(text).toMatch(/^zephyrfield_checks_total\{outcome="nothing new"\} 1$/m);
  expect(text).toMatch(/^zephyrfield_checks_overdue 0$/m);
  expect(text).toMatch(
    /^zephyrfield_request_seconds_count\{route="POST \/api\/learners\/:learnerId\/sources",status="200"\} 1$/m,
  );
  expect(text).toMatch(/^zephyrfield_database_bytes [1-9]/m);
  expect(text).toMatch(/^nodejs_eventloop_lag_p99_seconds /m);
  for (const secret of [learnerId, 'Juno', 'Boats', '3f9a0c', 'skerrow']) expect(text).not.toContain(secret);
  await request(w.address).get('/metrics').expect(404);
});

test('where something of it does not work, it says what', async () => {
  const own = await Installation.start();
  own.db((db) => db.exec('DELETE FROM __drizzle_migrations'));
  const { body } = await request(own.address).get('/readyz').expect(503);
  expect(body).toMatchObject({ ready: false, database: true, migrations: false });
  await request(own.address).get('/healthz').expect(200);
  await own.stop();
});
