import { DEFAULT_PLAN } from '@zephyrfield/core/plan/evenings';
import type { NoticeView } from '@zephyrfield/core/api/notify';
import type { OwnWritten } from '@zephyrfield/core/api/schemas';
import { ESSAY, FLAG, Installation, RUN_UP, type Agent } from './harness';

let w: Installation;
let juno: Agent;
let path: string;
let item: string;
let other: string;
let calendarId: string;

beforeAll(async () => {
  w = await Installation.start(undefined, { ZEPHYRFIELD_OPEN_SIGN_UP: '1' });
  juno = await w.account('Juno', 'juno@skerrow.example');
  const learner = await juno.post('/api/learners').send({ name: 'Juno', zone: 'Europe/Dublin' });
  path = `/api/learners/${learner.body.id}`;
  const calendar = await juno
    .post(`${path}/calendars`)
    .send({ name: 'Norwegian', kind: 'course', zone: 'Europe/Dublin', ...FLAG });
  calendarId = calendar.body.id;
  const write = async (title: string) => {
    const own = { id: null, calendarId: calendar.body.id, item: { ...ESSAY, title }, version: 0 };
    const { body } = await juno
      .post(`${path}/own`)
      .send({ writes: [own] })
      .expect(200);
    return (body as { written: OwnWritten[] }).written[0]!.id;
  };
  item = await write('A letter from the lighthouse');
  other = await write('Keel plan');
});
afterAll(() => w.stop());

const write = (itemId: string, version: number, runUp: object | null) => ({ itemId, version, runUp });
const take = (...writes: object[]) => juno.post(`${path}/plan/run-ups`).send({ writes });
const plan = async () => (await juno.get(`${path}/plan`).expect(200)).body;

test('when there is time begins as most have it, and is changed on the version it was read at', async () => {
  expect(await plan()).toMatchObject({ settings: DEFAULT_PLAN, version: 0, runUps: [] });
  const settings = { ...DEFAULT_PLAN, mostADay: 90, days: { '2026-10-09': [] } };
  const put = (version: number) => juno.put(`${path}/plan/settings`).send({ settings, version });
  await put(0).expect(200);
  await put(0).expect(409);
  expect(await plan()).toMatchObject({ settings, version: 1 });
});

test.each([
  [{ week: DEFAULT_PLAN.week.slice(1) }, 'settings.week'],
  [{ days: { '2026-10-09': [{ from: 1200, to: 1100 }] } }, 'settings.days.2026-10-09.0.to'],
  [{ shortest: 60, longest: 30 }, 'settings.longest'],
  [
    {
      days: {
        '2026-10-09': [
          { from: 1000, to: 1100 },
          { from: 1050, to: 1200 },
        ],
      },
    },
    'settings.days.2026-10-09',
  ],
])('times that cannot be are refused at their field', async (change, field) => {
  const { body } = await juno
    .put(`${path}/plan/settings`)
    .send({ settings: { ...DEFAULT_PLAN, ...change }, version: 1 })
    .expect(422);
  expect(body.fields[0].path).toBe(field);
});

test('a plan is taken whole or not at all, and can be taken back', async () => {
  const { body } = await take(write(item, 0, RUN_UP), write(other, 0, RUN_UP)).expect(200);
  expect(body.runUps).toMatchObject([
    { itemId: item, version: 1, runUp: RUN_UP },
    { itemId: other, version: 1 },
  ]);
  // Two windows plan anew at once: the second is told, and nothing of it is taken.
  const shorter = { ...RUN_UP, minutes: 45 };
  await take(write(item, 1, shorter)).expect(200);
  await take(write(other, 1, shorter), write(item, 1, shorter)).expect(409);
  const { runUps } = await plan();
  expect(runUps).toHaveLength(2);
  expect(runUps).toEqual(
    expect.arrayContaining([
      expect.objectContaining({ itemId: item, version: 2, runUp: shorter }),
      expect.objectContaining({ itemId: other, version: 1, runUp: RUN_UP }),
    ]),
  );
  const gone = await take(write(other, 1, null)).expect(200);
  expect(gone.body.before).toMatchObject([{ itemId: other, version: 1, runUp: RUN_UP }]);
  expect((await plan()).runUps).toHaveLength(1);
});

test('of a date that an item does not have there is no run-up', async () => {
  const wrong = { ...write(item, 0, RUN_UP), recurrenceId: '20300101' };
  await take(wrong).expect(404);
});

test('a sitting is told as kept, with its minutes, or as missed', async () => {
  const tell = (body: object) => juno.patch(`/api/items/${item}/sitting`).send(body);
  const { body } = await tell({ sitting: 'first', state: 'done', took: 40, version: 2 }).expect(200);
  expect(body.runUp.sittings).toMatchObject([{ state: 'done', took: 40 }, { state: 'planned' }]);
  await tell({ sitting: 'second', state: 'missed', took: null, version: 2 }).expect(409);
  await tell({ sitting: 'third', state: 'missed', took: null, version: 3 }).expect(404);
});

test('a sitting is told of ten minutes before, where it then lies; what was done is told of no more', async () => {
  const told = async () => {
    const { body } = await juno.get('/api/notices').expect(200);
    const all = (body as { notices: NoticeView[] }).notices.map((n) => `${n.title}: ${n.line}`);
    return all.filter((words) => words.startsWith('Sound diary: Sitting'));
  };
  const on = (key: string, day: string, from: number) => ({ ...RUN_UP.sittings[0]!, key, day, from });
  const runUp = (...sittings: object[]) => ({ ...RUN_UP, sittings });
  /** Lets the time go by, looking at what is due every quarter of an hour. */
  const until = async (text: string) => {
    const to = Date.parse(text);
    while (w.now < to) {
      w.now = Math.min(to, w.now + 15 * 60_000);
      await w.services.engine.run();
    }
  };
  // It is due before the other one is told of.
  const essay = { ...ESSAY, title: 'Sound diary', when: { kind: 'date', date: '2026-11-20' } };
  const own = { id: null, calendarId, item: essay, version: 0 };
  const written = await juno
    .post(`${path}/own`)
    .send({ writes: [own] })
    .expect(200);
  const diary = (written.body as { written: OwnWritten[] }).written[0]!.id;
  await until('2026-11-02T12:00:00Z');
  await take(write(diary, 0, runUp(on('a', '2026-11-03', 1020), on('b', '2026-11-04', 1020)))).expect(200);
  await until('2026-11-03T16:45:00Z');
  expect(await told()).toEqual([]);
  await take(write(diary, 1, runUp(on('a', '2026-11-03', 1080), on('b', '2026-11-04', 1020)))).expect(200);
  await until('2026-11-03T17:30:00Z');
  expect(await told()).toEqual([]);
  await until('2026-11-03T19:00:00Z');
  expect(await told()).toEqual(['Sound diary: Sitting 1 of 2, 30 min']);
  const done = { sitting: 'b', state: 'done', took: 20, version: 2 };
  await juno.patch(`/api/items/${diary}/sitting`).send(done).expect(200);
  await until('2026-11-04T18:00:00Z');
  expect(await told()).toHaveLength(1);
});
