import { randomUUID } from 'node:crypto';
import type { OpenSlotView, OpenTimesView, RepliesView, Taken } from '@zephyrfield/core/api/open-times';
import type { NoticeView } from '@zephyrfield/core/api/notify';
import type { OccurrenceView } from '@zephyrfield/core/api/schemas';
import type { OwnItem } from '@zephyrfield/core/item/own';
import { ESSAY, FLAG, Installation, type Agent } from './harness';

// Short meetings that a teacher offers, and "will you come?".

const ZONE = 'Europe/Dublin';
let w: Installation;
let teacher: Agent;
let family: Agent;
let other: Agent;
let own: string;
let juno: string;
let wren: string;

const reply = async <T>(asking: ReturnType<Agent['get']>) => (await asking.expect(200)).body as T;
const idOf = (name: string) => w.services.people.byEmail(`${name}@skerrow.example`)!.id;
const THURSDAY = {
  ...{ title: 'A talk', place: 'Sail loft', firstDay: '2026-10-08', lastDay: '2026-10-08', weekdays: [4] },
  ...{ from: 930, to: 1020, length: 15, pause: 0, places: 1, each: 1, namesShown: false, until: 60 },
};
const offer = (more: object = {}) =>
  reply<OpenTimesView>(
    teacher
      .post('/api/open-times')
      .send({ ...THURSDAY, learnerIds: [juno, wren], key: randomUUID(), ...more }),
  );
const slots = (agent = family, learnerId = juno) =>
  reply<OpenSlotView[]>(agent.get(`/api/learners/${learnerId}/open-times`));
const take = (id: string, agent = family, learnerId = juno, word = '') =>
  reply<Taken>(agent.post(`/api/open-slots/${id}/taken`).send({ learner: learnerId, word }));
const giveBack = (id: string, agent: Agent, body: object = {}) =>
  reply<Taken>(agent.post(`/api/bookings/${id}/given-back`).send(body));
const shown = (agent: Agent, learnerId: string) =>
  reply<OccurrenceView[]>(
    agent
      .get(`/api/learners/${learnerId}/occurrences`)
      .query({ from: '2026-10-01T00:00:00Z', to: '2026-12-31T00:00:00Z' }),
  );
const lines = async (agent: Agent) =>
  (await reply<{ notices: NoticeView[] }>(agent.get('/api/notices'))).notices.map((n) => n.line);

beforeEach(async () => {
  w = await Installation.start('', { ZEPHYRFIELD_OPEN_SIGN_UP: '1' });
  const account = (name: string) => w.account(name, `${name.toLowerCase()}@skerrow.example`);
  teacher = await account('Anselm');
  family = await account('Maren');
  other = await account('Paolo');
  const begin = async (agent: Agent, name: string, isSelf = false) =>
    (await reply<{ id: string }>(agent.post('/api/learners').send({ name, zone: ZONE, isSelf }))).id;
  own = await begin(teacher, 'Anselm', true);
  juno = await begin(family, 'Juno');
  wren = await begin(other, 'Wren');
  for (const learnerId of [juno, wren])
    w.services.people.join({ personId: idOf('anselm'), learnerId, access: 'look' });
});
afterEach(() => w.stop());

test('one that is taken stands in both calendars, both are told, and it can be given back', async () => {
  const offered = await offer();
  expect(offered.slots).toHaveLength(6);
  expect(await lines(family)).toEqual(['A talk. Take one of 6.']);
  const [first] = await slots();
  expect(first).toMatchObject({ by: 'Anselm', left: 1, booking: null, clashes: false });
  expect(await take(first!.id, family, juno, 'She comes alone.')).toEqual({ taken: true, nearest: [] });
  expect((await shown(family, juno)).map((o) => [o.title, o.own])).toEqual([['A talk with Anselm', false]]);
  expect((await shown(teacher, own)).map((o) => o.title)).toEqual(['A talk: Juno']);
  expect((await lines(teacher))[0]).toMatch(
    /^Maren has taken a time: A talk, Thu 8 Oct 15:30\. She comes alone\.$/,
  );
  // Who else it is offered to sees that it is gone, and not by whom.
  expect((await slots(other, wren)).map((s) => s.id)).not.toContain(first!.id);
  const [times] = await reply<OpenTimesView[]>(teacher.get('/api/open-times'));
  expect(times!.slots[0]!.taken).toMatchObject([{ learner: 'Juno', by: 'Maren', word: 'She comes alone.' }]);
  const mine = (await slots()).find((s) => s.booking)!;
  expect(await giveBack(mine.booking!, family, { word: 'We are away.' })).toMatchObject({ taken: true });
  expect(await shown(family, juno)).toEqual([]);
  expect(await shown(teacher, own)).toEqual([]);
  expect((await lines(teacher))[0]).toContain('We are away.');
  expect((await slots(other, wren)).map((s) => s.id)).toContain(first!.id);
});

test('it is moved by either side, all of it or nothing', async () => {
  await offer();
  const [first, second, third] = await slots();
  await take(first!.id, family, juno, 'She comes alone.');
  await take(second!.id, other, wren);
  const booking = async () => (await slots()).find((s) => s.booking)!;
  const full = await giveBack((await booking()).booking!, family, { to: second!.id });
  expect(full.taken).toBe(false);
  expect(full.nearest[0]!.id).toBe(third!.id);
  expect((await booking()).id).toBe(first!.id);
  await giveBack((await booking()).booking!, teacher, { to: third!.id, word: 'The loft is taken.' });
  expect((await booking()).id).toBe(third!.id);
  const { notices } = await reply<{ notices: NoticeView[] }>(family.get('/api/notices'));
  expect(notices[0]).toMatchObject({
    title: 'Juno: a time was moved',
    line: 'Anselm moved a time: A talk, Thu 8 Oct 15:30, to Thu 8 Oct 16:00. The loft is taken.',
  });
  // It is the family’s as before, with the word that they left.
  const [times] = await reply<OpenTimesView[]>(teacher.get('/api/open-times'));
  expect(times!.slots[2]!.taken).toMatchObject([{ learner: 'Juno', by: 'Maren', word: 'She comes alone.' }]);
  expect((await shown(teacher, own)).map((o) => o.title).sort()).toEqual(['A talk: Juno', 'A talk: Wren']);
  // Somebody else’s is nobody’s to give back.
  await other
    .post(`/api/bookings/${(await booking()).booking}/given-back`)
    .send({})
    .expect(404);
});

test('two who take the last place at once: one gets it, the other is shown the nearest, two hundred times', async () => {
  const { slots: all } = await offer({ to: 930 + 15 * 6, each: 60 });
  for (let round = 0; round < 200; round++) {
    const slot = all[round % all.length]!;
    const [a, b] = await Promise.all([take(slot.id), take(slot.id, other, wren)]);
    expect([a.taken, b.taken].filter(Boolean)).toHaveLength(1);
    const late = a.taken ? b : a;
    expect(late.nearest.length).toBeGreaterThan(0);
    const [agent, learnerId] = a.taken ? [family, juno] : [other, wren];
    await giveBack((await slots(agent, learnerId)).find((s) => s.booking)!.booking!, agent);
  }
  expect(await shown(teacher, own)).toEqual([]);
});

test('breaks and what the teacher has are left out; what clashes with the learner’s is said', async () => {
  const busy: OwnItem = {
    ...ESSAY,
    ...{ kind: 'meeting', handIn: 'nothing', title: 'Choir' },
    when: { kind: 'instant', at: '2026-10-08T14:45:00Z', zone: ZONE },
    end: { kind: 'instant', at: '2026-10-08T15:15:00Z', zone: ZONE },
  };
  const put = async (agent: Agent, learnerId: string) => {
    const { id } = await reply<{ id: string }>(
      agent
        .post(`/api/learners/${learnerId}/calendars`)
        .send({ name: 'Home', kind: 'home', zone: ZONE, ...FLAG }),
    );
    const writes = [{ id: null, calendarId: id, item: busy, version: 0 }];
    await agent.post(`/api/learners/${learnerId}/own`).send({ writes }).expect(200);
  };
  await put(family, juno);
  await offer({ lastDay: '2026-10-29', daysOff: [{ from: '2026-10-26', to: '2026-10-30' }] });
  const offered = await slots();
  expect(offered).toHaveLength(3 * 6);
  expect(offered.slice(0, 4).map((s) => s.clashes)).toEqual([false, true, true, false]);
  // What comes over a time later withholds it, in all views and from who still sees it, and gives it back once gone.
  const [, second, third] = await slots();
  await put(teacher, own);
  expect((await slots()).map((s) => s.id)).not.toContain(second!.id);
  expect(await slots()).toHaveLength(3 * 6 - 2);
  const late = await take(second!.id, other, wren);
  expect(late.taken).toBe(false);
  expect(late.nearest.map((s) => s.id)).not.toContain(third!.id);
  const [times] = await reply<OpenTimesView[]>(teacher.get('/api/open-times'));
  expect(times!.slots.map((s) => s.withheld).slice(0, 4)).toEqual([false, true, true, false]);
  const [choir] = await shown(teacher, own);
  await teacher
    .post(`/api/learners/${own}/own`)
    .send({ writes: [{ id: choir!.itemId, calendarId: choir!.calendarId, item: null, version: 1 }] })
    .expect(200);
  expect(await slots()).toHaveLength(3 * 6);
  expect((await take(second!.id, other, wren)).taken).toBe(true);
  await put(teacher, own);
  const { slots: fewer } = await offer({ title: 'Another talk' });
  expect(fewer).toHaveLength(4);
});

test('bounds: how many each may take, until when, for whom, and while it is offered', async () => {
  const { id } = await offer();
  const [first, second] = await slots();
  await take(first!.id);
  await family.post(`/api/open-slots/${second!.id}/taken`).send({ learner: juno }).expect(409);
  // Nobody takes one for a schedule they may only look at, or that it is not for.
  await teacher.post(`/api/open-slots/${second!.id}/taken`).send({ learner: wren }).expect(403);
  const { id: idris } = await reply<{ id: string }>(
    family.post('/api/learners').send({ name: 'Idris', zone: ZONE }),
  );
  await family.post(`/api/open-slots/${second!.id}/taken`).send({ learner: idris }).expect(404);
  w.now = Date.parse(first!.start) - 30 * 60_000;
  await other.post(`/api/open-slots/${second!.id}/taken`).send({ learner: wren }).expect(409);
  const { booking } = (await slots()).find((s) => s.booking)!;
  await family.post(`/api/bookings/${booking}/given-back`).send({}).expect(409);
  // Whoever offers it may still.
  expect(await giveBack(booking!, teacher)).toMatchObject({ taken: true });
  w.now = Date.parse('2026-10-07T10:00:00Z');
  await take(first!.id);
  await teacher.post(`/api/open-times/${id}/ended`).send({}).expect(200);
  // What is taken stays, and whoever offered it may still move it; nobody else may.
  const kept = (await slots()).find((s) => s.booking)!;
  await family.post(`/api/bookings/${kept.booking}/given-back`).send({ to: second!.id }).expect(409);
  await giveBack(kept.booking!, teacher, { to: second!.id });
  const moved = (await slots()).find((s) => s.booking)!;
  expect(moved.id).toBe(second!.id);
  await giveBack(moved.booking!, teacher);
  expect(await slots()).toEqual([]);
  await family.post(`/api/open-slots/${second!.id}/taken`).send({ learner: juno }).expect(409);
  await family.post(`/api/open-times/${id}/ended`).send({}).expect(404);
  // What is over is not listed, and counts no longer.
  w.now = Date.parse('2026-10-09T10:00:00Z');
  expect(await reply(teacher.get('/api/open-times'))).toEqual([]);
  await teacher
    .post('/api/open-times')
    .send({ ...THURSDAY, weekdays: [2], learnerIds: [juno], key: randomUUID() })
    .expect(422);
});

describe('will you come?', () => {
  const EVENING: OwnItem = {
    ...ESSAY,
    ...{ kind: 'meeting', handIn: 'nothing', title: 'Showcase' },
    when: { kind: 'instant', at: '2026-10-20T18:00:00Z', zone: ZONE },
    end: { kind: 'instant', at: '2026-10-20T20:00:00Z', zone: ZONE },
  };

  test('whoever follows it answers; who asks sees counts, words and who has not, and reminds once', async () => {
    const { id: calendarId } = await reply<{ id: string }>(
      teacher
        .post(`/api/learners/${own}/calendars`)
        .send({ name: 'Study Hour', kind: 'group', zone: ZONE, ...FLAG }),
    );
    const { written } = await reply<{ written: { id: string }[] }>(
      teacher
        .post(`/api/learners/${own}/own`)
        .send({ writes: [{ id: null, calendarId, item: EVENING, version: 0 }] }),
    );
    const id = written[0]!.id;
    await teacher
      .put(`/api/calendars/${calendarId}/offers`)
      .send({ learnerIds: [juno, wren] })
      .expect(200);
    for (const [agent, learnerId] of [
      [family, juno],
      [other, wren],
    ] as const) {
      const [one] = await reply<{ id: string }[]>(agent.get(`/api/learners/${learnerId}/offers`));
      await agent.post(`/api/offers/${one!.id}/answer`).send({ take: true }).expect(200);
    }
    await teacher.put(`/api/items/${id}/question`).send({ asks: true }).expect(200);
    const [copy] = await shown(family, juno);
    const ofFamily = () => reply<RepliesView>(family.get(`/api/items/${copy!.itemId}/replies`));
    expect(await ofFamily()).toMatchObject({ asked: true, own: null, open: [] });
    await family
      .put(`/api/items/${copy!.itemId}/reply`)
      .send({ answer: 'perhaps', word: 'If the tide allows.' })
      .expect(200);
    expect(await ofFamily()).toMatchObject({ own: 'perhaps', said: [] });
    const view = await reply<RepliesView>(teacher.get(`/api/items/${id}/replies`));
    expect(view).toMatchObject({
      counts: { yes: 0, no: 0, perhaps: 1 },
      said: [{ name: 'Juno', answer: 'perhaps', word: 'If the tide allows.' }],
      open: ['Wren'],
    });
    expect((await lines(teacher))[0]).toContain('If the tide allows.');
    // Whoever has answered for any date of it has answered.
    await family
      .put(`/api/items/${copy!.itemId}/reply`)
      .send({ answer: 'yes', recurrenceId: '2026-10-27T18:00:00Z' })
      .expect(200);
    expect(await reply(teacher.post(`/api/items/${id}/reply-reminders`).send({}))).toEqual({ reminded: 1 });
    expect((await lines(other))[0]).toContain('Please answer: will you come?');
    await teacher.post(`/api/items/${id}/reply-reminders`).send({}).expect(409);
    // Only an event of one’s own asks, and only what asks is answered.
    await family.put(`/api/items/${copy!.itemId}/question`).send({ asks: true }).expect(422);
    await teacher.put(`/api/items/${id}/question`).send({ asks: false }).expect(200);
    await other
      .put(`/api/items/${(await shown(other, wren))[0]!.itemId}/reply`)
      .send({ answer: 'yes' })
      .expect(404);
  });
});
