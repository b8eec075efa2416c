import type { OfferView, Publication } from '@zephyrfield/core/api/publish';
import type { ItemView, OccurrenceView, OwnWritten, SourceView } from '@zephyrfield/core/api/schemas';
import type { NoticeView } from '@zephyrfield/core/api/notify';
import type { OwnItem } from '@zephyrfield/core/item/own';
import { ESSAY, FLAG, Installation, PNG, type Agent } from './harness';

// A calendar that a teacher keeps for others: offered, taken in, followed, taken back.

const ZONE = 'Europe/Dublin';
const STUDY: OwnItem = {
  ...ESSAY,
  title: 'Study Hour: chart table',
  handIn: 'online',
  when: { kind: 'instant', at: '2026-10-12T15:00:00Z', zone: ZONE },
};
const HOUR: OwnItem = {
  ...ESSAY,
  kind: 'meeting',
  handIn: 'nothing',
  title: 'Study Hour',
  place: 'Sail loft',
  when: { kind: 'instant', at: '2026-10-05T15:00:00Z', zone: ZONE },
  end: { kind: 'instant', at: '2026-10-05T16:00:00Z', zone: ZONE },
  repeat: { rule: 'FREQ=WEEKLY;BYDAY=MO,WE;COUNT=10', except: [] },
};

let w: Installation;
let teacher: Agent;
let family: Agent;
let own: string;
let juno: string;
let calendar: string;

const reply = async <T>(asking: ReturnType<Agent['get']>) => (await asking.expect(200)).body as T;
const write = async (item: OwnItem | null, of: Partial<{ id: string; version: number }> = {}) =>
  (
    await reply<{ written: OwnWritten[] }>(
      teacher
        .post(`/api/learners/${own}/own`)
        .send({ writes: [{ id: of.id ?? null, calendarId: calendar, item, version: of.version ?? 0 }] }),
    )
  ).written[0]!;
const offerTo = (learnerIds: string[]) =>
  reply<Publication>(teacher.put(`/api/calendars/${calendar}/offers`).send({ learnerIds }));
const shown = async (learnerId = juno) =>
  reply<OccurrenceView[]>(
    family
      .get(`/api/learners/${learnerId}/occurrences`)
      .query({ from: '2026-10-01T00:00:00Z', to: '2026-12-31T00:00:00Z' }),
  );
const takeIn = async (reminders = true) => {
  const [offer] = await reply<OfferView[]>(family.get(`/api/learners/${juno}/offers`));
  return reply<{ calendarId: string }>(
    family.post(`/api/offers/${offer!.id}/answer`).send({ take: true, reminders }),
  );
};

beforeEach(async () => {
  w = await Installation.start('', { ZEPHYRFIELD_OPEN_SIGN_UP: '1' });
  teacher = await w.account('Anselm', 'anselm@skerrow.example');
  family = await w.account('Maren', 'maren@skerrow.example');
  const begin = async (agent: Agent, name: string, isSelf = false) =>
    (await reply<{ id: string }>(agent.post('/api/learners').send({ name, zone: ZONE, isSelf }))).id;
  own = await begin(teacher, 'Anselm', true);
  juno = await begin(family, 'Juno');
  w.services.people.join({
    personId: w.services.people.byEmail('anselm@skerrow.example')!.id,
    learnerId: juno,
    access: 'look',
  });
  calendar = (
    await reply<{ id: string }>(
      teacher
        .post(`/api/learners/${own}/calendars`)
        .send({ name: 'Study Hour', kind: 'group', zone: ZONE, ...FLAG }),
    )
  ).id;
});
afterEach(() => w.stop());

test('it is asked for once, taken in by one press, and follows its author from then on', async () => {
  const item = await write(STUDY);
  await write(HOUR);
  expect((await offerTo([juno])).to).toEqual([{ learnerId: juno, name: 'Juno', state: 'open' }]);
  const [offer] = await reply<OfferView[]>(family.get(`/api/learners/${juno}/offers`));
  expect(offer).toMatchObject({ by: 'Anselm', name: 'Study Hour', count: 2 });
  expect(offer!.next.map((n) => n.title)).toContain('Study Hour: chart table');
  const told = await reply<{ notices: NoticeView[] }>(family.get('/api/notices'));
  expect(told.notices[0]).toMatchObject({ title: 'Anselm offers a calendar', leads: '/gather' });
  await takeIn();
  expect(await reply(family.get(`/api/learners/${juno}/offers`))).toEqual([]);
  const before = await shown();
  expect(before.filter((o) => o.title === 'Study Hour')).toHaveLength(10);
  const chart = before.find((o) => o.title === STUDY.title)!;
  expect(chart).toMatchObject({ kind: 'assignment', handIn: 'online', own: false });

  // A layer of their own stays where it is while the date moves, and the move is told like a feed's.
  await family
    .patch(`/api/items/${chart.itemId}/layer`)
    .send({ version: 0, recurrenceId: chart.recurrenceId, aim: { kind: 'date', date: '2026-10-10' } })
    .expect(200);
  const moved = { ...STUDY, when: { kind: 'instant' as const, at: '2026-10-14T15:00:00Z', zone: ZONE } };
  await write(moved, { id: item.id, version: item.version });
  await w.services.spread.settled();
  const after = (await shown()).find((o) => o.title === STUDY.title)!;
  expect(after).toMatchObject({ due: { at: '2026-10-14T15:00:00Z' }, aim: { date: '2026-10-10' } });
  const changes = await reply<{ kind: string; title: string }[]>(family.get(`/api/learners/${juno}/changes`));
  expect(changes[0]).toMatchObject({ kind: 'moved', title: STUDY.title });
  await w.services.engine.run();
  const told2 = await reply<{ notices: NoticeView[] }>(family.get('/api/notices'));
  expect(told2.notices[0]).toMatchObject({ kind: 'moved', title: STUDY.title });
  // Who moved it is not told of it.
  const authors = await reply<{ notices: NoticeView[] }>(teacher.get('/api/notices'));
  expect(authors.notices.filter((n) => n.kind === 'moved')).toEqual([]);
});

test('who follows it cannot change it, sees its briefs and files, and may leave', async () => {
  const item = await write(STUDY);
  const brief = {
    aim: 'Plot a course',
    steps: '',
    time: '',
    help: '',
    adjustments: '',
    good: '',
    ask: '',
    questions: '',
  };
  await teacher.put(`/api/items/${item.id}/brief`).send({ brief }).expect(200);
  await teacher
    .post(`/api/items/${item.id}/files`)
    .query({ name: 'chart.png' })
    .set('content-type', 'image/png')
    .send(PNG)
    .expect(200);
  await offerTo([juno]);
  await takeIn();
  const [o] = await shown();
  const path = `/api/items/${o!.itemId}`;
  const view = await reply<ItemView>(family.get(path));
  expect(view).toMatchObject({ own: null, origin: { kind: 'published', address: 'Anselm' } });
  expect(view.brief.shared).toMatchObject({ aim: 'Plot a course' });
  await family.get(`/api/brief-files/${view.brief.files[0]!.id}/bytes`).expect(200);
  const refused = [
    family.put(`${path}/brief`).send({ brief: { ...brief, aim: 'Mine' } }),
    family.patch(`${path}/understanding`).send({ kind: 'test' }),
    family.patch(`/api/brief-files/${view.brief.files[0]!.id}`).send({ removed: true }),
    family.post(`${path}/files`).query({ name: 'a.png' }).set('content-type', 'image/png').send(PNG),
  ];
  for (const asking of refused)
    expect((await asking.expect(403)).body).toMatchObject({ type: 'urn:zephyrfield:published' });
  await family
    .post(`/api/learners/${juno}/own`)
    .send({ writes: [{ id: o!.itemId, calendarId: o!.calendarId, item: ESSAY, version: 0 }] })
    .expect(404);
  // A photo of what was handed in is theirs.
  await family
    .post(`${path}/record-photos`)
    .query({ name: 'a.png' })
    .set('content-type', 'image/png')
    .send(PNG)
    .expect(200);
  // The brief changes with its author, and goes with it.
  await teacher.put(`/api/items/${item.id}/brief`).send({ brief: null }).expect(200);
  await w.services.spread.settled();
  expect((await reply<ItemView>(family.get(path))).brief.shared).toBeNull();
  expect((await reply<ItemView>(family.get(path))).photos).toHaveLength(1);

  const [source] = await reply<SourceView[]>(family.get(`/api/learners/${juno}/sources`));
  expect(source).toMatchObject({ kind: 'published', address: 'Anselm', entries: 1 });
  await family.delete(`/api/sources/${source!.id}`).expect(200);
  const [publication] = await reply<Publication[]>(teacher.get(`/api/learners/${own}/publications`));
  expect(publication!.to[0]).toMatchObject({ state: 'declined' });
});

test('taken back, what was ticked off in it stays; taken in again, it is where it was', async () => {
  await write(STUDY);
  await write({ ...STUDY, title: 'Tide table' });
  await offerTo([juno]);
  await takeIn();
  const chart = (await shown()).find((o) => o.title === STUDY.title)!;
  await family.patch(`/api/items/${chart.itemId}/layer`).send({ version: 0, finished: true }).expect(200);
  expect((await offerTo([])).to).toEqual([]);
  const kept = await shown();
  expect(kept.map((o) => [o.title, o.finished])).toEqual([[STUDY.title, true]]);
  await offerTo([juno]);
  await takeIn();
  const again = await shown();
  expect(again).toHaveLength(2);
  expect(again.find((o) => o.title === STUDY.title)).toMatchObject({ itemId: chart.itemId, finished: true });
});

test('reminders that its author suggests come along, and each decides', async () => {
  const item = await write(STUDY);
  await teacher
    .patch(`/api/items/${item.id}/layer`)
    .send({
      version: 0,
      reminders: [
        { kind: 'ahead', minutes: 120 },
        { kind: 'day', days: 2, minute: 1080 },
      ],
    })
    .expect(200);
  await offerTo([juno]);
  const { calendarId } = await takeIn();
  const moments = async () => {
    const [o] = await shown();
    const { reminders } = await reply<ItemView>(family.get(`/api/items/${o!.itemId}`));
    return reminders.moments.filter((m) => m.of === 'due').map((m) => m.at);
  };
  expect(await moments()).toEqual(['2026-10-10T17:00:00.000Z', '2026-10-12T13:00:00.000Z']);
  await family.patch(`/api/calendars/${calendarId}`).send({ alarms: 'ignore' }).expect(200);
  expect(await moments()).toEqual(['2026-10-11T17:00:00.000Z', '2026-10-12T12:00:00.000Z']);
});

test('its author is told how many have looked, and never who; what they opened themselves does not count', async () => {
  const item = await write(STUDY);
  const looked = async () => (await reply<ItemView>(teacher.get(`/api/items/${item.id}`))).looked;
  expect(await looked()).toBeNull();
  await offerTo([juno]);
  await takeIn();
  const [o] = await shown();
  await teacher.post(`/api/items/${o!.itemId}/opened`).send({}).expect(200);
  expect(await looked()).toEqual({ of: 1, opened: 0 });
  await family.post(`/api/items/${o!.itemId}/opened`).send({}).expect(200);
  expect(await looked()).toEqual({ of: 1, opened: 1 });
});

test('only who may share a schedule offers its calendars, only those of their own, only to whom they see', async () => {
  const stranger = await w.account('Wren', 'wren@skerrow.example');
  await stranger.put(`/api/calendars/${calendar}/offers`).send({ learnerIds: [] }).expect(404);
  await family
    .put(`/api/calendars/${calendar}/offers`)
    .send({ learnerIds: [juno] })
    .expect(404);
  const { id: wren } = await reply<{ id: string }>(
    stranger.post('/api/learners').send({ name: 'Wren', zone: ZONE }),
  );
  await teacher
    .put(`/api/calendars/${calendar}/offers`)
    .send({ learnerIds: [wren] })
    .expect(404);
  await offerTo([juno]);
  const [offer] = await reply<OfferView[]>(family.get(`/api/learners/${juno}/offers`));
  // Who may only look at a schedule does not answer for it.
  await teacher.post(`/api/offers/${offer!.id}/answer`).send({ take: true }).expect(403);
  await stranger.post(`/api/offers/${offer!.id}/answer`).send({ take: true }).expect(404);
});

test('what a stop has cut off is brought to its followers at the next start', async () => {
  const item = await write(STUDY);
  await offerTo([juno]);
  await takeIn();
  w.db((db) => {
    db.prepare(
      `UPDATE item SET title = 'Renamed', content = replace(content, 'Study Hour: chart table', 'Renamed'),
        version = version + 1 WHERE id = ?`,
    ).run(item.id);
    db.prepare('UPDATE occurrence SET title = ? WHERE item_id = ?').run('Renamed', item.id);
  });
  await w.services.spread.all();
  expect((await shown()).map((o) => o.title)).toEqual(['Renamed']);
});

test('items are carried to another term with their briefs, once however often it is sent', async () => {
  const item = await write(HOUR);
  const brief = {
    aim: 'All',
    steps: '',
    time: '',
    help: '',
    adjustments: '',
    good: '',
    ask: '',
    questions: '',
  };
  await teacher.put(`/api/items/${item.id}/brief`).send({ brief }).expect(200);
  const recurrenceId = '2026-10-07T15:00:00Z';
  await teacher
    .put(`/api/items/${item.id}/brief`)
    .send({ brief: { ...brief, aim: 'Knots' }, recurrenceId })
    .expect(200);
  const next = { ...HOUR, when: { kind: 'instant', at: '2027-01-11T15:00:00Z', zone: ZONE } };
  const end = { kind: 'instant', at: '2027-01-11T16:00:00Z', zone: ZONE };
  const is = '2027-01-13T15:00:00Z';
  const body = {
    calendar: {
      name: 'Study Hour, spring',
      kind: 'group',
      zone: ZONE,
      ...FLAG,
      key: '6f2f0e0a-4c8e-4b7c-9a3b-0d6f5f0c1a2b',
    },
    items: [{ from: item.id, item: { ...next, end }, dates: [{ was: recurrenceId, is }] }],
  };
  const carried = await reply<{ id: string }>(teacher.post(`/api/calendars/${calendar}/carried`).send(body));
  const twice = await reply<{ id: string }>(teacher.post(`/api/calendars/${calendar}/carried`).send(body));
  expect(twice.id).toBe(carried.id);
  const list = await reply<{ id: string; item: OwnItem; brief: boolean }[]>(
    teacher.get(`/api/calendars/${carried.id}/own`),
  );
  expect(list).toMatchObject([{ item: { title: 'Study Hour' }, brief: true }]);
  const view = await reply<ItemView>(teacher.get(`/api/items/${list[0]!.id}`).query({ recurrenceId: is }));
  expect(view.brief).toMatchObject({ shared: { aim: 'All' }, ofDate: { aim: 'Knots' } });
});
