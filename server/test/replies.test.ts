import request from 'supertest';
import type { OccurrenceView } from '@zephyrfield/core/api/schemas';
import { ESSAY, FLAG, Installation } from './harness';

let w: Installation;
let agent: ReturnType<typeof request.agent>;
let learnerId: string;
let calendarId: string;

beforeAll(async () => {
  w = await Installation.start('', { ZEPHYRFIELD_OPEN_SIGN_UP: '1' });
  ({ agent, learnerId } = await w.person());
  const { body } = await agent
    .post(`/api/learners/${learnerId}/calendars`)
    .send({ name: 'Home', kind: 'home', zone: 'Europe/Dublin', ...FLAG })
    .expect(200);
  calendarId = (body as { id: string }).id;
});
afterAll(() => w.stop());

const SPAN = { from: '2026-10-01T00:00:00Z', to: '2026-11-01T00:00:00Z' };
const days = async () =>
  (await agent.get(`/api/learners/${learnerId}/occurrences`).query(SPAN).expect(200))
    .body as OccurrenceView[];
const write = (title: string) =>
  agent
    .post(`/api/learners/${learnerId}/own`)
    .send({
      writes: [
        {
          id: null,
          calendarId,
          version: 0,
          item: { ...ESSAY, title, when: { kind: 'date', date: '2026-10-08' } },
        },
      ],
    })
    .expect(200);

test('a reply that stands is never an old one: whatever is written shows in the next', async () => {
  expect(await days()).toEqual([]);
  await write('Keel plan');
  const [plan] = await days();
  expect(plan!.title).toBe('Keel plan');
  await agent.patch(`/api/items/${plan!.itemId}/layer`).send({ version: 0, finished: true }).expect(200);
  expect((await days())[0]!.finished).toBe(true);
  await agent.patch(`/api/items/${plan!.itemId}/person-layer`).send({ version: 0, hidden: true }).expect(200);
  expect((await days())[0]!.hidden).toBe(true);
  await agent.patch(`/api/calendars/${calendarId}`).send({ name: 'Workshop' }).expect(200);
  const calendars = (await agent.get(`/api/learners/${learnerId}/calendars`).expect(200)).body as object[];
  expect(calendars).toMatchObject([{ name: 'Workshop' }]);
});

test('it is each person’s own, and is packed for who can unpack it', async () => {
  for (let i = 0; i < 12; i++) await write(`Sheet ${i}`);
  const ask = (accepts: string) =>
    agent
      .get(`/api/learners/${learnerId}/occurrences`)
      .query(SPAN)
      .set('Accept-Encoding', accepts)
      .expect(200);
  const [packed, plain] = [await ask('gzip'), await ask('identity')];
  expect([packed.headers['content-encoding'], plain.headers['content-encoding']]).toEqual([
    'gzip',
    undefined,
  ]);
  expect(packed.body).toEqual(plain.body);
  expect((await ask('gzip;q=0')).headers['content-encoding']).toBeUndefined();
  expect(plain.headers['cache-control']).toBe('no-store');
  const stranger = await w.account('Wren', 'wren@skerrow.example');
  await stranger.get(`/api/learners/${learnerId}/occurrences`).query(SPAN).expect(404);
});

describe('a session', () => {
  test('that has ended is refused at once, though it was known', async () => {
    const person = await w.account('Merle', 'merle@skerrow.example');
    const cookie = (await person.get('/api/session').expect(200)).request.cookies;
    const known = () => request(w.address).get('/api/notices').set('Cookie', cookie);
    await known().expect(200);
    await known().expect(200);
    await person.post('/api/auth/sign-out').send({}).expect(200);
    await known().expect(401);
  });

  test('is not reached by a cookie that was sent beside it', async () => {
    const person = await w.account('Tern', 'tern@skerrow.example');
    const cookie = (await person.get('/api/session').expect(200)).request.cookies as string;
    const forged = 'zephyrfield.session_token=forged.c2ln';
    for (const both of [`${forged}; ${cookie}`, `${cookie}; ${forged}`]) {
      await request(w.address).get('/api/notices').set('Cookie', both);
      await request(w.address).get('/api/notices').set('Cookie', forged).expect(401);
    }
    // The last letter of a signature has two bits that say nothing: it has to be changed in the others.
    const changed = cookie.replace(/.(?=%3D|=*$)/, (c) => (c === 'A' ? 'Q' : 'A'));
    await request(w.address).get('/api/notices').set('Cookie', cookie).expect(200);
    await request(w.address).get('/api/notices').set('Cookie', changed).expect(401);
  });
});
