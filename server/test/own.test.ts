import type { ItemView, OccurrenceView, OwnWritten } from '@zephyrfield/core/api/schemas';
import { splitAt, type OwnItem } from '@zephyrfield/core/item/own';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import type request from 'supertest';
import { Installation } from './harness';

let w: Installation;
let agent: ReturnType<typeof request.agent>;
let learnerId: string;
let calendarId: string;
const at = (text: string) => ({ kind: 'instant' as const, at: text, zone: 'Europe/Dublin' });
const cello: OwnItem = {
  kind: 'lesson',
  handIn: 'nothing',
  title: 'Cello',
  place: 'Hall',
  details: '',
  when: at('2026-10-12T15:00:00Z'),
  end: at('2026-10-12T15:45:00Z'),
  repeat: null,
  changes: [],
};
const essay: OwnItem = {
  ...cello,
  kind: 'assignment',
  handIn: 'paper',
  title: 'Essay',
  when: { kind: 'date', date: '2026-10-16' },
  end: null,
};
const flag = { colour: 'rust', flag: { shape: 'square', pattern: 'plain', letters: 'HM' } };

beforeAll(async () => {
  w = await Installation.start();
  ({ agent } = await w.person());
});
afterAll(() => w.stop());
beforeEach(async () => {
  learnerId = await w.learner(agent);
  calendarId = (
    (
      await agent
        .post(`/api/learners/${learnerId}/calendars`)
        .send({ name: 'Home', kind: 'home', zone: 'Europe/Dublin', ...flag })
        .expect(200)
    ).body as { id: string }
  ).id;
});

const write = async (writes: object[], status = 200) =>
  (await agent.post(`/api/learners/${learnerId}/own`).send({ writes }).expect(status)).body as {
    written: OwnWritten[];
  } & { fields?: { path: string }[] };
const add = async (item: OwnItem) => (await write([{ id: null, calendarId, item, version: 0 }])).written[0]!;
const seen = async () =>
  (
    await agent
      .get(`/api/learners/${learnerId}/occurrences`)
      .query({ from: '2026-09-01T00:00:00Z', to: '2027-02-01T00:00:00Z' })
      .expect(200)
  ).body as OccurrenceView[];
const dates = async () => (await seen()).map((o) => o.recurrenceId || o.start).sort();
const item = async (id: string, recurrenceId = '') =>
  (await agent.get(`/api/items/${id}`).query({ recurrenceId }).expect(200)).body as ItemView;
const mark = (id: string, body: object, status = 200) =>
  agent
    .patch(`/api/items/${id}/layer`)
    .send({ recurrenceId: '', version: 0, ...body })
    .expect(status);

const note = (id: string, body: object) =>
  agent
    .patch(`/api/items/${id}/person-layer`)
    .send({ recurrenceId: '', version: 0, ...body })
    .expect(200);

test('an own item is written, shown, changed, taken away and put back', async () => {
  const { id, version, before } = await add(cello);
  expect(before.item).toBeNull();
  expect(await seen()).toMatchObject([
    { itemId: id, title: 'Cello', own: true, kind: 'lesson', calendarId, start: cello.when, end: cello.end },
  ]);
  expect((await item(id)).own).toEqual({ item: cello, version });
  const changed = (await write([{ id, calendarId, item: { ...cello, title: 'Cello, duet' }, version }]))
    .written[0]!;
  expect(changed.before.item).toEqual(cello);
  const gone = (await write([{ id, calendarId, item: null, version: changed.version }])).written[0]!;
  expect(await seen()).toEqual([]);
  await write([{ id, version: gone.version, ...gone.before }]);
  expect(await seen()).toMatchObject([{ title: 'Cello, duet' }]);
});

test('a calendar and a schedule sent twice, since the answer was lost, are one each', async () => {
  const key = '3f0b1d0c-5f0e-4a53-9d0e-8f5f0f6b1a2d';
  for (const [path, body] of [
    [
      `/api/learners/${learnerId}/calendars`,
      { name: 'Music', kind: 'own', zone: 'Europe/Dublin', ...flag, key },
    ],
    ['/api/learners', { name: 'Tobias', zone: 'Europe/Dublin', key }],
  ] as const) {
    const made = await agent.post(path).send(body).expect(200);
    expect((await agent.post(path).send(body).expect(200)).body).toEqual(made.body);
  }
  const calendars = await agent.get(`/api/learners/${learnerId}/calendars`).expect(200);
  expect((calendars.body as { name: string }[]).filter((c) => c.name === 'Music')).toHaveLength(1);
});

test('the same new item sent twice, since its answer was lost, is one; another’s key is no way in', async () => {
  const key = '3f0b1d0c-5f0e-4a53-9d0e-8f5f0f6b1a2c';
  const once = { id: null, key, calendarId, item: essay, version: 0 };
  const [first] = (await write([once])).written;
  expect((await write([once])).written[0]).toMatchObject({ id: first!.id, version: first!.version });
  expect(await seen()).toHaveLength(1);
  // Sent again with something else, it says that, and is one still.
  await write([{ ...once, item: { ...essay, title: 'Essay, second draft' } }]);
  expect((await seen()).map((o) => o.title)).toEqual(['Essay, second draft']);
  // The same key in another schedule makes another item.
  const elsewhere = await w.learner(agent);
  const made = await agent
    .post(`/api/learners/${elsewhere}/calendars`)
    .send({ name: 'Home', kind: 'home', zone: 'Europe/Dublin', ...flag })
    .expect(200);
  const other = await agent
    .post(`/api/learners/${elsewhere}/own`)
    .send({ writes: [{ ...once, calendarId: (made.body as { id: string }).id }] })
    .expect(200);
  expect((other.body as { written: OwnWritten[] }).written[0]!.id).not.toBe(first!.id);
  expect(await seen()).toHaveLength(1);
});

test('the later of two is told, and nothing of the other is lost; several are written all or none', async () => {
  const { id, version } = await add(cello);
  await write([{ id, calendarId, item: { ...cello, title: 'By Maren' }, version }]);
  await write(
    [
      { id: null, calendarId, item: essay, version: 0 },
      { id, calendarId, item: { ...cello, title: 'By Juno' }, version },
    ],
    409,
  );
  expect((await seen()).map((o) => o.title)).toEqual(['By Maren']);
});

test.each([
  ['an end before its beginning', { ...cello, end: at('2026-10-12T14:00:00Z') }, 'writes.0.item.end'],
  ['a title of 10,000 characters', { ...cello, title: 'x'.repeat(10_000) }, 'writes.0.item.title'],
  [
    '31 November',
    { ...essay, when: { kind: 'date' as const, date: '2026-11-31' } },
    'writes.0.item.when.date',
  ],
  [
    'a repeat that never comes about',
    {
      ...essay,
      repeat: { rule: 'FREQ=DAILY;UNTIL=20261016', except: [{ kind: 'date' as const, date: '2026-10-16' }] },
    },
    'repeat',
  ],
])('%s is refused at its field, and nothing is written', async (_what, bad, path) => {
  const { fields } = await write([{ id: null, calendarId, item: bad, version: 0 }], 422);
  expect(fields?.map((f) => f.path)).toContain(path);
  expect(await seen()).toEqual([]);
});

test('an unknown calendar, another learner’s calendar and a gathered item are refused', async () => {
  await write([{ id: null, calendarId: 'nowhere', item: cello, version: 0 }], 404);
  await agent
    .post('/api/learners/nobody/own')
    .send({ writes: [{ id: null, calendarId, item: cello, version: 0 }] })
    .expect(404);
  await write([{ id: 'nothing', calendarId, item: cello, version: 0 }], 404);
});

test('parted in two, ticks and notes on later dates go along', async () => {
  const weekly = {
    ...essay,
    when: { kind: 'date' as const, date: '2026-10-05' },
    repeat: { rule: 'FREQ=WEEKLY;COUNT=6', except: [] },
  };
  const { id, version } = await add(weekly);
  await mark(id, { recurrenceId: '2026-10-12', finished: true });
  await note(id, { recurrenceId: '2026-10-26', note: 'ask for the tide book' });
  const zones = (name: string) => ianaZone(name) ?? UTC;
  const { before, after } = splitAt(weekly, { kind: 'date', date: '2026-10-19' }, UTC, zones);
  const { written } = await write([
    { id, calendarId, item: before, version },
    { id: null, calendarId, item: { ...after, title: 'Essay, second half' }, version: 0, from: id },
  ]);
  expect(await dates()).toEqual([
    '2026-10-05',
    '2026-10-12',
    '2026-10-19',
    '2026-10-26',
    '2026-11-02',
    '2026-11-09',
  ]);
  const later = written[1]!.id;
  expect((await item(later, '2026-10-26')).note).toBe('ask for the tide book');
  expect((await seen()).filter((o) => o.finished).map((o) => [o.itemId, o.recurrenceId])).toEqual([
    [id, '2026-10-12'],
  ]);
});

test('work without a date stands by itself, can be ticked off, and gets a date later with its marks', async () => {
  const { id, version } = await add({ ...essay, when: null });
  const undated = async () =>
    (await agent.get(`/api/learners/${learnerId}/undated`).expect(200)).body as OccurrenceView[];
  expect(await undated()).toMatchObject([{ itemId: id, undated: true, due: null, own: true }]);
  await mark(id, { estimate: 45 });
  expect((await item(id)).occurrence).toMatchObject({ undated: true, estimate: 45 });
  await write([{ id, calendarId, item: essay, version }]);
  expect(await undated()).toEqual([]);
  // What lies beyond the stored horizon has a date all the same.
  await add({ ...essay, title: 'Long ago', when: { kind: 'date', date: '2024-01-08' } });
  expect(await undated()).toEqual([]);
  expect(await seen()).toMatchObject([{ estimate: 45, due: { kind: 'date', date: '2026-10-16' } }]);
});

test('marks: each is changed by itself, the record tells how it was handed in, the clock adds up', async () => {
  const { id } = await add(essay);
  await mark(id, { finished: true });
  await mark(id, { version: 1, handedIn: { way: 'paper', note: 'on her desk', at: '2026-10-06T07:50:00Z' } });
  await mark(id, { version: 2, aim: { kind: 'date', date: '2026-10-14' } });
  await mark(id, { version: 3, timer: true });
  w.now += 25 * 60_000;
  await mark(id, { version: 4, timer: false });
  await mark(id, { version: 4, estimate: 5 }, 409);
  const view = await item(id);
  expect(view.occurrence).toMatchObject({
    finished: true,
    handedIn: 'paper',
    aim: { kind: 'date', date: '2026-10-14' },
    version: 5,
  });
  expect(view).toMatchObject({ spent: 25, timerSince: null, note: '' });
  expect(view.records.map((r) => [r.kind, r.way, r.note])).toEqual(
    expect.arrayContaining([
      ['handedIn', 'paper', 'on her desk'],
      ['finished', null, ''],
    ]),
  );
  await mark(id, { version: 5, finished: false });
  expect((await item(id)).occurrence).toMatchObject({
    finished: false,
    handedIn: null,
    aim: { kind: 'date', date: '2026-10-14' },
  });
});

test('dates come into sight as time goes on; a calendar with own items is not thrown away', async () => {
  await add({ ...essay, repeat: { rule: 'FREQ=MONTHLY', except: [] } });
  w.now += 400 * 86_400_000;
  await w.services.own.extend();
  const later = (
    await agent
      .get(`/api/learners/${learnerId}/occurrences`)
      .query({ from: '2029-08-01T00:00:00Z', to: '2029-09-30T00:00:00Z' })
      .expect(200)
  ).body as OccurrenceView[];
  expect(later.length).toBeGreaterThan(0);
  expect((await agent.get(`/api/learners/${learnerId}/calendars`).expect(200)).body).toMatchObject([
    { id: calendarId, handMade: true },
  ]);
  expect((await agent.delete(`/api/calendars/${calendarId}`).expect(409)).body).toMatchObject({
    title: 'There is one item of your own in this calendar.',
  });
});

test('thousands of dates at once stand by the answer, and are worked out later where they were cut short', async () => {
  const daily = { ...cello, repeat: { rule: 'FREQ=DAILY', except: [] } };
  const { written } = await write(
    Array.from({ length: 8 }, (_, n) => ({
      id: null,
      calendarId,
      item: { ...daily, title: `Practice ${n}` },
      version: 0,
    })),
  );
  const counts = () =>
    w.db((db) =>
      written.map(({ id }) =>
        db.prepare('SELECT count(*) FROM occurrence WHERE item_id = ?').pluck().get(id),
      ),
    );
  const all = counts();
  expect(Math.min(...(all as number[]))).toBeGreaterThan(700);
  // As after a crash between the items and the rest of their dates.
  w.db((db) => {
    db.prepare('DELETE FROM occurrence WHERE item_id = ? AND from_ms > ?').run(
      written[3]!.id,
      w.now + 30 * 86_400_000,
    );
    db.prepare("UPDATE source SET horizon_to = 0 WHERE calendar_id = ? AND kind = 'handMade'").run(
      calendarId,
    );
  });
  expect(counts()).not.toEqual(all);
  await w.services.own.extend();
  expect(counts()).toEqual(all);
});
