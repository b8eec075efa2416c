import { versionOf } from '@zephyrfield/core/lib/version';
import { existsSync, readdirSync, renameSync, rmSync, truncateSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { BriefFile, BriefPlace, KeptBrief } from '@zephyrfield/core/api/own';
import type { ItemView, OwnWritten } from '@zephyrfield/core/api/schemas';
import type { OwnItem } from '@zephyrfield/core/item/own';
import type request from 'supertest';
import { FLAG, Installation, ESSAY, PNG } from './harness';

let w: Installation;
let agent: ReturnType<typeof request.agent>;
let learnerId: string;
let calendarId: string;
const essay: OwnItem = { ...ESSAY, title: 'Essay 1' };
const weekly = { ...essay, repeat: { rule: 'FREQ=WEEKLY;COUNT=3', except: [] } };
const brief = {
  aim: 'See the **tide** turn',
  steps: '- read\n- draw',
  time: '',
  help: '',
  adjustments: '',
  good: '',
  ask: '',
  questions: '',
};
/** A picture of one point. */

beforeAll(async () => {
  w = await Installation.start();
  ({ agent } = await w.person());
});
afterAll(() => w.stop());
beforeEach(async () => {
  learnerId = await w.learner(agent);
  const made = await agent
    .post(`/api/learners/${learnerId}/calendars`)
    .send({ name: 'Home', kind: 'home', zone: 'Europe/Dublin', ...FLAG })
    .expect(200);
  calendarId = (made.body as { id: string }).id;
});

const write = async (writes: object[]) =>
  (
    (await agent.post(`/api/learners/${learnerId}/own`).send({ writes }).expect(200)).body as {
      written: OwnWritten[];
    }
  ).written;
const add = async (item: OwnItem) => (await write([{ id: null, calendarId, item, version: 0 }]))[0]!;
const briefOf = async (id: string, recurrenceId = '') =>
  ((await agent.get(`/api/items/${id}`).query({ recurrenceId }).expect(200)).body as ItemView).brief;
const put = async (id: string, body: object) =>
  ((await agent.put(`/api/items/${id}/brief`).send(body).expect(200)).body as { before: BriefPlace[] })
    .before;
const send = (id: string, name: string, bytes: Buffer, recurrenceId = '') =>
  agent
    .post(`/api/items/${id}/files`)
    .query({ name, recurrenceId })
    .set('content-type', 'application/octet-stream')
    .send(bytes);
const sent = async (...of: Parameters<typeof send>) => (await send(...of).expect(200)).body as BriefFile;

test('a brief for all dates and one for a single date; empty again, it is gone; what stood there puts it back', async () => {
  const { id } = await add(weekly);
  expect(await put(id, { brief })).toEqual([{ itemId: id, recurrenceId: '', textId: null }]);
  await put(id, { recurrenceId: '2026-10-12', brief: { ...brief, aim: 'Only this week' } });
  expect(await briefOf(id, '2026-10-12')).toMatchObject({
    shared: { aim: 'See the **tide** turn' },
    ofDate: { aim: 'Only this week' },
  });
  const before = await put(id, { recurrenceId: '2026-10-12', brief: null });
  expect((await briefOf(id, '2026-10-12')).ofDate).toBeNull();
  await agent.post(`/api/learners/${learnerId}/briefs`).send({ writes: before }).expect(200);
  expect((await briefOf(id, '2026-10-12')).ofDate).toMatchObject({ aim: 'Only this week' });
});

test('one brief for all that are alike, undone as a whole', async () => {
  const ids: string[] = [];
  for (const title of ['Essay 1', 'Essay 2', 'Sketchbook 1', 'Essay 3'])
    ids.push((await add({ ...essay, title })).id);
  await put(ids[1]!, { brief: { ...brief, aim: 'Its own' } });
  const before = await put(ids[0]!, { brief, alike: true });
  const aims = async () => Promise.all(ids.map(async (id) => (await briefOf(id)).shared?.aim));
  expect(await aims()).toEqual([brief.aim, brief.aim, undefined, brief.aim]);
  await agent.post(`/api/learners/${learnerId}/briefs`).send({ writes: before }).expect(200);
  expect(await aims()).toEqual([undefined, 'Its own', undefined, undefined]);
  const other = await w.learner(agent);
  await agent.post(`/api/learners/${other}/briefs`).send({ writes: before }).expect(404);
});

test('briefs are kept under a name, replaced by that name, and belong to the person', async () => {
  const keep = (name: string, aim: string) =>
    agent.post('/api/briefs').send({ name, brief: { ...brief, aim } });
  await keep('Lab log', 'first').expect(200);
  await keep('Lab log', 'second').expect(200);
  const kept = (await agent.get('/api/briefs').expect(200)).body as KeptBrief[];
  expect(kept.map((k) => [k.name, k.brief.aim])).toEqual([['Lab log', 'second']]);
  await keep('  ', 'x').expect(422);
  await agent.delete(`/api/briefs/${kept[0]!.id}`).expect(200);
  await agent.delete(`/api/briefs/${kept[0]!.id}`).expect(404);
});

test('pictures and files go along: kept by content, served so that nothing runs, put back for a day and then gone', async () => {
  const { id } = await add(weekly);
  const picture = await sent(id, 'tide table.PNG', PNG);
  expect(picture).toMatchObject({
    name: 'tide table.PNG',
    type: 'image/png',
    size: PNG.length,
    picture: true,
    ofDate: false,
  });
  const notes = await sent(id, 'notes.txt', Buffer.from('Bring a pencil, and the næver'), '2026-10-12');
  expect((await briefOf(id, '2026-10-12')).files.map((f) => f.name)).toEqual(['tide table.PNG', 'notes.txt']);
  expect((await briefOf(id, '2026-10-05')).files.map((f) => f.name)).toEqual(['tide table.PNG']);

  const got = await agent
    .get(`/api/brief-files/${picture.id}/bytes`)
    .expect(200)
    .expect('content-type', 'image/png')
    .expect('cache-control', 'private, no-store');
  expect(got.headers).toMatchObject({
    'content-security-policy': "default-src 'none'; sandbox",
    'x-content-type-options': 'nosniff',
  });
  expect(got.body).toEqual(PNG);
  const text = await agent.get(`/api/brief-files/${notes.id}/bytes`).expect(200);
  expect(text.headers['content-disposition']).toBe('attachment; filename=notes.txt');

  // The same bytes once more lie there once; parted in two, both services have them.
  const again = await add({ ...essay, title: 'Another' });
  await sent(again.id, 'same.png', PNG);
  const folder = join(w.data, 'files');
  const lying = () => readdirSync(folder).filter((name) => !name.startsWith('.'));
  expect(lying()).toHaveLength(2);
  const remove = (fileId: string, removed: boolean) =>
    agent.patch(`/api/brief-files/${fileId}`).send({ removed }).expect(200);
  await remove(picture.id, true);
  expect((await briefOf(id, '2026-10-05')).files).toEqual([]);
  await remove(picture.id, false);
  expect((await briefOf(id, '2026-10-05')).files).toHaveLength(1);
  await remove(notes.id, true);
  w.now += 23 * 3_600_000;
  w.services.briefs.tidy();
  await remove(notes.id, false);
  await remove(notes.id, true);
  w.now += 25 * 3_600_000;
  w.services.briefs.tidy();
  expect(lying()).toHaveLength(1);
  // It lies in the bin for a week, should the database have been wrong.
  expect(readdirSync(join(folder, '.bin'))).toHaveLength(1);
  w.now += 8 * 86_400_000;
  w.services.briefs.tidy();
  expect(readdirSync(join(folder, '.bin'))).toEqual([]);
  await agent.get(`/api/brief-files/${notes.id}/bytes`).expect(404);
});

test('bytes that are no longer those that were added are not served, and who adds them again puts them right', async () => {
  const { id } = await add(weekly);
  const picture = await sent(id, 'tide.png', PNG);
  const folder = join(w.data, 'files');
  const [digest] = readdirSync(folder).filter((name) => !name.startsWith('.'));
  const bytes = () => agent.get(`/api/brief-files/${picture.id}/bytes`);
  writeFileSync(join(folder, digest!), 'something else');
  expect((await bytes().expect(410)).body).toMatchObject({ type: 'urn:zephyrfield:file-damaged' });
  await sent(id, 'tide again.png', PNG);
  expect((await bytes().expect(200)).body).toEqual(PNG);
  // Each is looked at once a day.
  w.now += 25 * 3_600_000;
  truncateSync(join(folder, digest!), 10);
  await bytes().expect(410);
  rmSync(join(folder, digest!));
  expect((await bytes().expect(410)).body).toMatchObject({ type: 'urn:zephyrfield:file-missing' });
  // The folder itself is gone: that is told, and nothing is made in its place.
  renameSync(folder, `${folder}.away`);
  expect((await send(id, 'tide.png', PNG).expect(507)).body).toMatchObject({
    type: 'urn:zephyrfield:no-folder',
  });
  renameSync(`${folder}.away`, folder);
  await sent(id, 'tide.png', PNG);
  await bytes().expect(200);
});

test.each([
  [
    'a page that says it is a picture',
    'tide.png',
    Buffer.from('<html><script>alert(1)</script></html>'),
    415,
    'tide.png says it is png, and is txt.',
  ],
  [
    'a drawing that can carry scripts',
    'tide.svg',
    Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>'),
    415,
    'tide.svg is of a kind that cannot be kept here.',
  ],
  ['a picture that says it is a document', 'tide.pdf', PNG, 415, 'tide.pdf says it is pdf, and is png.'],
  [
    'a program',
    'tide.exe',
    Buffer.from([0x4d, 0x5a, 0x90, 0, 3, 0, 0, 0]),
    415,
    'tide.exe is of a kind that cannot be kept here.',
  ],
  ['nothing at all', 'tide.txt', Buffer.alloc(0), 415, 'tide.txt is empty.'],
  ['eleven megabytes', 'tide.txt', Buffer.alloc(11 * 2 ** 20, 97), 413, 'tide.txt is larger than 10 MB.'],
])('%s is refused with a word, and nothing stays', async (_what, name, bytes, status, title) => {
  const { id } = await add(essay);
  expect((await send(id, name, bytes).expect(status)).body).toMatchObject({ title });
  expect((await briefOf(id)).files).toEqual([]);
});

test('strangers see no file and add none; twelve are the most', async () => {
  const { id } = await add(essay);
  const { id: fileId } = await sent(id, 'a.png', PNG);
  const strangers = await Installation.start();
  await (await strangers.person()).agent.get(`/api/brief-files/${fileId}/bytes`).expect(404);
  await strangers.stop();
  for (let i = 1; i < 12; i++) await sent(id, `${i}.png`, PNG);
  expect((await send(id, '13.png', PNG).expect(422)).body).toMatchObject({
    title: 'A brief carries at most 12 files.',
  });
});

test('what a crash left behind is cleared away at the next start, what is referred to is not', async () => {
  const { id } = await add(essay);
  const { id: fileId } = await sent(id, 'a.png', PNG);
  const folder = join(w.data, 'files');
  writeFileSync(join(folder, '.7-half'), 'half of it');
  writeFileSync(join(folder, 'f'.repeat(64)), 'nobody’s');
  await w.restart();
  expect(existsSync(join(folder, '.7-half'))).toBe(false);
  expect(existsSync(join(folder, 'f'.repeat(64)))).toBe(false);
  await agent.get(`/api/brief-files/${fileId}/bytes`).expect(200);
});

test('parted in two, the shared brief and its files go with both', async () => {
  const { id, version } = await add(weekly);
  await put(id, { brief });
  await sent(id, 'a.png', PNG);
  const [, later] = await write([
    { id, calendarId, item: { ...weekly, repeat: { rule: 'FREQ=WEEKLY;COUNT=1', except: [] } }, version },
    {
      id: null,
      calendarId,
      item: {
        ...weekly,
        when: { kind: 'date', date: '2026-10-12' },
        repeat: { rule: 'FREQ=WEEKLY;COUNT=2', except: [] },
      },
      version: 0,
      from: id,
    },
  ]);
  expect(await briefOf(later!.id, '2026-10-12')).toMatchObject({
    shared: { aim: brief.aim },
    files: [{ name: 'a.png' }],
  });
});

test('written by two at once: the later one is told, and what the first wrote stands; so does an undo that comes too late', async () => {
  const { id } = await add(essay);
  await put(id, { brief, version: null });
  const theirs = { ...brief, aim: 'Theirs' };
  const mine = { ...brief, aim: 'Mine' };
  const before = await put(id, { brief: theirs, version: versionOf(brief) });
  await agent
    .put(`/api/items/${id}/brief`)
    .send({ brief: mine, version: versionOf(brief) })
    .expect(409);
  expect((await briefOf(id)).shared).toEqual(theirs);
  await put(id, { brief: mine, version: versionOf(theirs) });
  await agent
    .post(`/api/learners/${learnerId}/briefs`)
    .send({ writes: before, version: versionOf(theirs) })
    .expect(409);
  expect((await briefOf(id)).shared).toEqual(mine);
});

test('a long brief for many that are alike can be taken back: what it is written over goes along once', async () => {
  const full = Object.fromEntries(Object.keys(brief).map((part) => [part, 'x'.repeat(3900)])) as typeof brief;
  const ids: string[] = [];
  for (let i = 1; i <= 12; i++) ids.push((await add({ ...essay, title: `Essay ${i}` })).id);
  const before = await put(ids[0]!, { brief: full, alike: true, version: null });
  expect(before).toHaveLength(12);
  await agent
    .post(`/api/learners/${learnerId}/briefs`)
    .send({ writes: before, version: versionOf(full) })
    .expect(200);
  expect((await briefOf(ids[5]!)).shared).toBeNull();
});

test('a photo of what was handed in stays with its record and is none of the brief’s files', async () => {
  const { id } = await add(weekly);
  const photo = (recurrenceId: string, name: string, bytes: Buffer) =>
    agent
      .post(`/api/items/${id}/record-photos`)
      .query({ name, recurrenceId })
      .set('content-type', 'application/octet-stream')
      .send(bytes);
  const kept = (await photo('2026-10-12', 'page.png', PNG).expect(200)).body as BriefFile;
  const view = async (recurrenceId: string) =>
    (await agent.get(`/api/items/${id}`).query({ recurrenceId }).expect(200)).body as ItemView;
  expect(await view('2026-10-12')).toMatchObject({ photos: [{ id: kept.id }], brief: { files: [] } });
  expect((await view('2026-10-05')).photos).toEqual([]);
  await agent.get(`/api/brief-files/${kept.id}/bytes`).expect(200);
  expect((await photo('2026-10-12', 'page.txt', Buffer.from('in words')).expect(415)).body).toMatchObject({
    title: 'page.txt is no picture.',
  });
  // Whoever may change the one has not thereby to do with the other.
  const file = await sent(id, 'a.png', PNG);
  await agent.patch(`/api/record-photos/${file.id}`).send({ removed: true }).expect(404);
  await agent.patch(`/api/brief-files/${kept.id}`).send({ removed: true }).expect(404);
  await agent.patch(`/api/record-photos/${kept.id}`).send({ removed: true }).expect(200);
  expect((await view('2026-10-12')).photos).toEqual([]);
});
