import type { LearnersDays, LearnersTable } from '@zephyrfield/core/api/table';
import type { OwnItem } from '@zephyrfield/core/item/own';
import { ESSAY, FLAG, Installation, type Agent } from './harness';

// All learners a support teacher looks after, in one table.

const ZONE = 'Europe/Dublin';
let w: Installation;
let teacher: Agent;
let teacherId: string;
const learners: string[] = [];

const reply = async <T>(asking: ReturnType<Agent['get']>) => (await asking.expect(200)).body as T;
const table = async (query: object = {}) => {
  const found = await reply<LearnersTable>(teacher.get('/api/learners-table').query(query));
  // Who came at the same moment stands in no order.
  const rows = [...found.rows].sort((a, b) => learners.indexOf(a.learnerId) - learners.indexOf(b.learnerId));
  return { ...found, rows };
};
const work = (title: string, day: string, more: Partial<OwnItem> = {}): OwnItem => ({
  ...ESSAY,
  handIn: 'online',
  title,
  when: { kind: 'instant', at: `${day}T17:00:00Z`, zone: ZONE },
  ...more,
});
async function give(learnerId: string, name: string, items: OwnItem[]): Promise<string[]> {
  const { id } = await reply<{ id: string }>(
    teacher.post(`/api/learners/${learnerId}/calendars`).send({ name, kind: 'course', zone: ZONE, ...FLAG }),
  );
  const writes = items.map((item) => ({ id: null, calendarId: id, item, version: 0 }));
  const { written } = await reply<{ written: { id: string }[] }>(
    teacher.post(`/api/learners/${learnerId}/own`).send({ writes }),
  );
  return written.map((each) => each.id);
}

beforeAll(async () => {
  w = await Installation.start('', { ZEPHYRFIELD_OPEN_SIGN_UP: '1' });
  teacher = await w.account('Anselm', 'anselm@skerrow.example');
  teacherId = w.services.people.byEmail('anselm@skerrow.example')!.id;
  await reply(teacher.post('/api/learners').send({ name: 'Anselm', zone: ZONE, isSelf: true }));
  for (const name of ['Emeka', 'Wren', 'Solveig']) learners.push(await w.learner(teacher, name));
});
afterAll(() => w.stop());

test('each learner has a row, one’s own schedule has none; help first is told in words', async () => {
  const [emeka, wren] = learners as [string, string];
  await give(emeka, 'Rope and Rigging', [work('Splice 4', '2026-10-02'), work('Splice 5', '2026-10-09')]);
  await give(wren, 'Weather Lab', [work('Cloud log 6', '2026-10-08')]);
  const { rows, weeks } = await table();
  expect(weeks).toHaveLength(5);
  expect(rows.map((r) => r.name)).toEqual(['Emeka', 'Wren', 'Solveig']);
  expect(rows[0]).toMatchObject({
    pastDue: 1,
    // Nobody but the teacher could have opened it.
    notOpened: 0,
    reasons: ['1 past due'],
    next: { title: 'Splice 5', calendar: 'Rope and Rigging' },
  });
  expect(rows[2]).toMatchObject({ weeks: [0, 0, 0, 0, 0], score: 0, next: null });
  // Only what is in courses of that name.
  const rope = await table({ course: 'rope', weeks: '10' });
  expect(rope.weeks).toHaveLength(10);
  expect(rope.rows.map((r) => r.dueSoon)).toEqual([1, 0, 0]);
  await teacher.get('/api/learners-table').query({ weeks: '400' }).expect(422);
});

test('it shows what has changed since, also that somebody has opened something', async () => {
  const [, wren] = learners as [string, string];
  const family = await w.account('Wren', 'wren@skerrow.example');
  const personId = w.services.people.byEmail('wren@skerrow.example')!.id;
  w.services.people.join({ personId, learnerId: wren, access: 'edit' });
  const [id] = await give(wren, 'Harbour History', [work('Source card', '2026-10-07')]);
  const row = async () => (await table()).rows.find((r) => r.learnerId === wren)!;
  const before = (await row()).notOpened;
  expect(before).toBe(2);
  // What the teacher opens says nothing of the family.
  await teacher.post(`/api/items/${id}/opened`).send({}).expect(200);
  expect((await row()).notOpened).toBe(before);
  await family.post(`/api/items/${id}/opened`).send({}).expect(200);
  expect((await row()).notOpened).toBe(before - 1);
  await family.patch(`/api/items/${id}/layer`).send({ version: 0, finished: true }).expect(200);
  expect((await row()).next?.title).toBe('Cloud log 6');
});

test('a day says who has what, and how much it asks for', async () => {
  const days = await reply<LearnersDays>(
    teacher
      .get('/api/learners-table/days')
      .query({ learnerIds: learners.join(','), from: '2026-10-08', count: '3' }),
  );
  expect(days.map((d) => d.day)).toEqual(['2026-10-08', '2026-10-09', '2026-10-10']);
  const titles = days.map((d) => d.learners.map((l) => l.items.map((i) => i.title)));
  expect(titles).toEqual([
    [[], ['Cloud log 6'], []],
    [['Splice 5'], [], []],
    [[], [], []],
  ]);
  expect(days[0]!.learners[1]!.minutes).toBe(45);
  const stranger = await w.account('Idris', 'idris@skerrow.example');
  await stranger
    .get('/api/learners-table/days')
    .query({ learnerIds: learners[0], from: '2026-10-08', count: '3' })
    .expect(404);
});

test('groups are one’s own, and lose who is gone', async () => {
  const groups = [{ name: 'Tuesday group', learnerIds: [learners[0]!, learners[1]!] }];
  await teacher.put('/api/groups').send({ groups }).expect(200);
  expect((await table()).groups).toEqual(groups);
  w.services.crews.remove(w.services.crews.memberOf(teacherId, learners[1]!)!.id, teacherId, learners[1]!);
  expect((await table()).groups).toEqual([{ name: 'Tuesday group', learnerIds: [learners[0]] }]);
  await teacher
    .put('/api/groups')
    .send({ groups: [{ name: ' ', learnerIds: [] }] })
    .expect(422);
});

test('a calendar kept from the teacher counts for nothing in it', async () => {
  const [, , solveig] = learners as [string, string, string];
  await give(solveig, 'Just mine', [work('Secret', '2026-10-01')]);
  expect((await table()).rows.at(-1)).toMatchObject({ pastDue: 1 });
  const [calendar] = w.services.calendars.ofLearner(solveig);
  w.services.crews.setAudience(calendar!.id, { persons: [], others: 'busy' });
  w.services.changed(solveig);
  expect((await table()).rows.at(-1)).toMatchObject({ pastDue: 0, next: null });
});
