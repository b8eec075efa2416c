import { createHash } from 'node:crypto';
import { createWriteStream, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { CrewView } from '@zephyrfield/core/api/crew';
import type { NoticeSettings } from '@zephyrfield/core/notify/settings';
import type { ArchiveLook } from '@zephyrfield/core/api/archive';
import type {
  CalendarView,
  ItemView,
  OccurrenceView,
  OwnWritten,
  Session,
  SourceView,
} from '@zephyrfield/core/api/schemas';
import { ZipFile } from 'yazl';
import { openArchive, writeArchive } from '../src/backup/archive';
import { SCHEDULE_HEAD } from '../src/backup/pack';
import { ESSAY, FLAG, FOLDER, FeedServer, Installation, PNG, RUN_UP, event, type Agent } from './harness';

// One schedule as an archive, and back.

const ZONE = 'Europe/Dublin';
const BRIEF = {
  aim: 'See the tide turn',
  steps: '- look\n- write',
  time: '',
  help: '',
  adjustments: '',
  good: '',
  ask: '',
  questions: '',
};
let w: Installation;
let feed: FeedServer;
let maren: Agent;
let work: string;
let learnerId: string;
let essay: string;
let log: OccurrenceView;
let zip: Buffer;

const at = (id: string) => `/api/learners/${id}`;
const occurrencesOf = async (id: string, agent = maren) =>
  (
    await agent
      .get(`${at(id)}/occurrences`)
      .query({ from: '2026-09-01T00:00:00Z', to: '2027-03-01T00:00:00Z' })
      .expect(200)
  ).body as OccurrenceView[];
const archiveOf = async (id: string, agent = maren) =>
  (
    await agent
      .get(`${at(id)}/archive`)
      .buffer(true)
      .parse(binary)
      .expect(200)
  ).body as Buffer;
const binary: Parameters<ReturnType<Agent['get']>['parse']>[0] = (res, done) => {
  const parts: Buffer[] = [];
  res.on('data', (part: Buffer) => parts.push(part));
  res.on('end', () => done(null, Buffer.concat(parts)));
};
const send = (agent: Agent, to: 'look' | 'restored', bytes: Buffer, query: object = {}) =>
  agent.post(`/api/archives/${to}`).query(query).set('content-type', 'application/octet-stream').send(bytes);
/** What of a date is the same however it is called. */
const plain = ({
  title,
  start,
  end,
  due,
  kind,
  handIn,
  finished,
  handedIn,
  aim,
  estimate,
  hidden,
}: OccurrenceView) => ({ title, start, end, due, kind, handIn, finished, handedIn, aim, estimate, hidden });
const inOrder = (all: OccurrenceView[]) =>
  all.map(plain).sort((a, b) => (JSON.stringify(a) < JSON.stringify(b) ? -1 : 1));
const learnersOf = async (agent: Agent) => ((await agent.get('/api/session')).body as Session).learners;

beforeAll(async () => {
  work = mkdtempSync(join(FOLDER, 'zephyrfield-archive-'));
  feed = await FeedServer.start();
  feed.calendar(
    event(
      'log',
      'Shed log 6 [Boat]',
      'DTSTART:20261008T150000Z',
      'CATEGORIES:Assignment',
      'X-SLIP:port',
      'DESCRIPTION:Clamps\\, and cramps',
    ),
    event('quiz-o', 'Tide quiz opens', 'DTSTART:20261012T080000Z'),
    event('quiz-c', 'Tide quiz closes', 'DTSTART:20261016T220000Z'),
    event(
      'lesson',
      'Shed [Boat]',
      'DTSTART;TZID=Europe/Dublin:20260907T090000',
      'DTEND;TZID=Europe/Dublin:20260907T103000',
      'CATEGORIES:Lesson',
      'RRULE:FREQ=WEEKLY;COUNT=20',
      'EXDATE;TZID=Europe/Dublin:20260914T090000',
    ),
    event(
      'lesson',
      'Shed (pool) [Boat]',
      'RECURRENCE-ID;TZID=Europe/Dublin:20261005T090000',
      'DTSTART;TZID=Europe/Dublin:20261006T110000',
    ),
  );
  w = await Installation.start(feed.host, { ZEPHYRFIELD_OPEN_SIGN_UP: '1' });
  maren = await w.account('Maren Lindqvist', 'maren@skerrow.example');
  learnerId = (
    (await maren.post('/api/learners').send({ name: 'Juno', zone: ZONE }).expect(200)).body as { id: string }
  ).id;
  const path = at(learnerId);
  const source = {
    address: `http://${feed.host}/boat.ics`,
    zone: ZONE,
    name: 'Boatbuilding',
    kind: 'course',
    ...FLAG,
  };
  await maren.post(`${path}/sources`).send(source).expect(200);
  const { id: home } = (
    await maren
      .post(`${path}/calendars`)
      .send({ name: 'Home', kind: 'home', zone: ZONE, ...FLAG })
      .expect(200)
  ).body as CalendarView;
  const rowing = {
    ...ESSAY,
    kind: 'meeting' as const,
    title: 'Rowing',
    when: { kind: 'floating', local: '2026-10-06T17:00:00' },
    end: { kind: 'floating', local: '2026-10-06T18:00:00' },
    repeat: { rule: 'FREQ=WEEKLY;COUNT=5', except: [] },
  };
  const { written } = (
    await maren
      .post(`${path}/own`)
      .send({
        writes: [
          { id: null, calendarId: home, item: { ...ESSAY, title: 'Harbour essay' }, version: 0 },
          { id: null, calendarId: home, item: rowing, version: 0 },
        ],
      })
      .expect(200)
  ).body as { written: OwnWritten[] };
  essay = written[0]!.id;
  log = (await occurrencesOf(learnerId)).find((o) => o.title.startsWith('Shed log'))!;
  await maren
    .patch(`/api/items/${log.itemId}/layer`)
    .send({
      version: 0,
      recurrenceId: log.recurrenceId,
      finished: true,
      handedIn: { way: 'paper', note: 'In the tray' },
    })
    .expect(200);
  await maren
    .patch(`/api/items/${essay}/layer`)
    .send({ version: 0, estimate: 90, aim: { kind: 'date', date: '2026-10-09' } })
    .expect(200);
  await maren
    .patch(`/api/items/${essay}/person-layer`)
    .send({ version: 0, note: 'Ask about the map' })
    .expect(200);
  await maren.put(`/api/items/${log.itemId}/brief`).send({ brief: BRIEF }).expect(200);
  await maren
    .post(`/api/items/${essay}/files`)
    .query({ name: 'map.png' })
    .set('content-type', 'image/png')
    .send(PNG)
    .expect(200);
  await maren
    .post(`${path}/plan/run-ups`)
    .send({ writes: [{ itemId: essay, version: 0, runUp: RUN_UP }] })
    .expect(200);
  zip = await archiveOf(learnerId);
});
afterAll(async () => {
  await w.stop();
  await feed.stop();
  rmSync(work, { recursive: true, force: true });
});

test('brought back as a schedule of its own, all of it is there: dates, layers, records, briefs, files, run-ups', async () => {
  const { id } = (await send(maren, 'restored', zip).expect(200)).body as { id: string };
  const [before, after] = [await occurrencesOf(learnerId), await occurrencesOf(id)];
  expect(inOrder(after)).toEqual(inOrder(before));
  const item = async (title: string) => {
    const { itemId, recurrenceId } = after.find((o) => o.title.startsWith(title))!;
    return (await maren.get(`/api/items/${itemId}`).query({ recurrenceId }).expect(200)).body as ItemView;
  };
  const kept = await item('Shed log');
  expect(kept.brief.shared?.aim).toBe('See the tide turn');
  expect(JSON.stringify(kept)).toContain('In the tray (told by Maren Lindqvist)');
  const written = await item('Harbour essay');
  expect(written.brief.files.map((f) => f.name)).toEqual(['map.png']);
  expect(JSON.stringify(written)).toContain('Ask about the map');
  const { runUps } = (await maren.get(`${at(id)}/plan`).expect(200)).body as { runUps: unknown[] };
  expect(runUps).toHaveLength(1);
  // Its link was sealed here, opens here, and brings nothing new.
  const [source] = (await maren.get(`${at(id)}/sources`).expect(200)).body as SourceView[];
  const read = await maren.post(`/api/sources/${source!.id}/reading`).send({}).expect(200);
  expect(read.body).toMatchObject({ added: 0, changed: 0, gone: 0, source: { trouble: null } });
  expect(readdirSync(join(w.data, 'files')).filter((name) => name.startsWith('.archive'))).toEqual([]);
});

test('an archive holds the schedule in open formats, and nothing that others have for themselves', async () => {
  const file = join(work, 'a.zip');
  writeFileSync(file, zip);
  const open = await openArchive(file, SCHEDULE_HEAD, { whole: 1e9, entry: 1e8, entries: 100 });
  const names = Object.keys(open.manifest.entries);
  expect(names).toEqual(expect.arrayContaining(['schedule.json', 'feeds/0.ics', 'schedule.ics']));
  expect((await open.read('feeds/0.ics')).toString()).toContain('X-SLIP:port');
  expect((await open.read('schedule.json')).toString()).not.toContain(feed.host + '/boat');
  open.close();
  const digest = createHash('sha256').update(PNG).digest('hex');
  expect(names).toContain(`files/${digest}`);
});

test('elsewhere it is all there but its links’ addresses, which are asked for', async () => {
  const other = await Installation.start(feed.host, { ZEPHYRFIELD_OPEN_SIGN_UP: '1' });
  try {
    const wren = await other.account('Wren', 'wren@skerrow.example');
    const look = (await send(wren, 'look', zip).expect(200)).body as ArchiveLook;
    expect(look).toMatchObject({
      name: 'Juno',
      calendars: ['Boatbuilding', 'Home'],
      sources: 1,
      items: 2,
      finished: 1,
      briefs: 1,
      files: 1,
      runUps: 1,
    });
    expect(look.sealedLinks).toHaveLength(1);
    const { id } = (await send(wren, 'restored', zip).expect(200)).body as { id: string };
    expect(inOrder(await occurrencesOf(id, wren))).toEqual(inOrder(await occurrencesOf(learnerId)));
    const [source] = (await wren.get(`${at(id)}/sources`).expect(200)).body as SourceView[];
    const read = (await wren.post(`/api/sources/${source!.id}/reading`).send({}).expect(200)).body as {
      source: SourceView;
    };
    expect(read.source.trouble?.code).toBe('sealed');
  } finally {
    await other.stop();
  }
});

test('in the place of another, the crew goes over to it, and the other is kept under its own name', async () => {
  const invite = (
    await maren
      .post('/api/invitations')
      .send({ learnerIds: [learnerId], way: 'code', access: 'edit', days: 7, uses: 1 })
      .expect(200)
  ).body as { secret: string };
  const anselm = await w.account('Anselm', 'anselm@skerrow.example');
  await anselm.post('/api/invitation/accepted').send({ secret: invite.secret }).expect(200);
  await send(anselm, 'restored', zip, { inPlaceOf: learnerId }).expect(403);
  await anselm
    .patch(`/api/items/${essay}/person-layer`)
    .send({ version: 0, note: 'Bring the chart' })
    .expect(200);
  // A calendar that is for Maren alone stays so; one that is kept from her would be lost to him.
  const own = (await maren.get(`${at(learnerId)}/calendars`).expect(200)).body as CalendarView[];
  const boat = own.find((c) => c.name === 'Boatbuilding')!;
  const audience = (agent: Agent, of: unknown) =>
    agent.put(`/api/calendars/${boat.id}/audience`).send({ audience: of }).expect(200);
  await audience(maren, { members: [], others: 'nothing' });
  const kept = await archiveOf(learnerId);
  await audience(maren, null);
  // What he is told of it goes over as well.
  const told = (await anselm.get('/api/notice-settings').expect(200)).body as {
    noticeSettings: NoticeSettings;
  };
  const { all } = told.noticeSettings;
  const quiet = {
    ...told.noticeSettings,
    learners: { [learnerId]: all },
    muted: { items: [essay], calendars: [] },
  };
  await anselm.put('/api/notice-settings').send(quiet).expect(200);
  const { id: deskId } = (
    await anselm
      .post(`${at(learnerId)}/calendars`)
      .send({ name: 'Desk', kind: 'own', zone: ZONE, ...FLAG })
      .expect(200)
  ).body as CalendarView;
  const desk = (of: unknown) =>
    anselm.put(`/api/calendars/${deskId}/audience`).send({ audience: of }).expect(200);
  await desk({ members: [], others: 'nothing' });
  await send(maren, 'restored', kept, { inPlaceOf: learnerId }).expect(409);
  await desk(null);
  await maren.patch(`/api/items/${essay}/layer`).send({ version: 1, finished: true }).expect(200);
  const look = (await send(maren, 'look', zip, { compareWith: learnerId }).expect(200)).body as ArchiveLook;
  expect(look.compared).toEqual({ onlyInArchive: 0, onlyNow: 0, titles: [] });

  const { id } = (await send(maren, 'restored', kept, { inPlaceOf: learnerId }).expect(200)).body as {
    id: string;
  };
  const his = await occurrencesOf(id, anselm);
  expect(his.some((o) => o.title.startsWith('Shed'))).toBe(false);
  const { itemId } = his.find((o) => o.title === 'Harbour essay')!;
  expect(JSON.stringify((await anselm.get(`/api/items/${itemId}`)).body)).toContain('Bring the chart');
  const tells = (await anselm.get('/api/notice-settings').expect(200)).body as {
    noticeSettings: NoticeSettings;
  };
  expect(Object.keys(tells.noticeSettings.learners)).toContain(id);
  expect(tells.noticeSettings.muted.items).toContain(itemId);
  expect((await learnersOf(anselm)).map((l) => [l.id, l.access])).toEqual([[id, 'edit']]);
  const mine = await learnersOf(maren);
  expect(mine.find((l) => l.id === id)?.name).toBe('Juno');
  expect(mine.find((l) => l.id === learnerId)?.name).toBe('Juno (before 2026-10-06)');
  expect((await occurrencesOf(id)).find((o) => o.title === 'Harbour essay')?.finished).toBe(false);
  expect((await occurrencesOf(learnerId)).find((o) => o.title === 'Harbour essay')?.finished).toBe(true);
});

test('a link goes on only for who keeps a schedule that follows it: an archive is no way around being let go', async () => {
  const invite = (
    await maren
      .post('/api/invitations')
      .send({ learnerIds: [learnerId], way: 'code', access: 'keep', days: 7, uses: 1 })
      .expect(200)
  ).body as { secret: string };
  const wren = await w.account('Wren', 'wren-two@skerrow.example');
  await wren.post('/api/invitation/accepted').send({ secret: invite.secret }).expect(200);
  const his = await archiveOf(learnerId, wren);
  expect(((await send(wren, 'look', his).expect(200)).body as ArchiveLook).sealedLinks).toEqual([]);
  const { members } = (await wren.get(`${at(learnerId)}/crew`)).body as CrewView;
  const me = ((await wren.get('/api/session')).body as Session).person!.id;
  await maren
    .delete(`/api/members/${members.find((m) => m.personId === me)!.id}`)
    .send({})
    .expect(200);
  expect(((await send(wren, 'look', his).expect(200)).body as ArchiveLook).sealedLinks).toHaveLength(1);
  const { id } = (await send(wren, 'restored', his).expect(200)).body as { id: string };
  const [source] = (await wren.get(`${at(id)}/sources`).expect(200)).body as SourceView[];
  const read = (await wren.post(`/api/sources/${source!.id}/reading`).send({}).expect(200)).body as {
    source: SourceView;
  };
  expect(read.source.trouble?.code).toBe('sealed');
});

test('what is no archive, half of one, or names what it does not have is refused, and nothing is made', async () => {
  const before = (await learnersOf(maren)).length;
  const refused = async (bytes: Buffer, words: string) => {
    const { body } = await send(maren, 'restored', bytes).expect(422);
    expect(JSON.stringify(body)).toContain(words);
    expect((await learnersOf(maren)).length).toBe(before);
  };
  await refused(Buffer.from('no archive'), 'no archive');
  await refused(zip.subarray(0, zip.length - 2_000), 'not whole');
  const file = join(work, 'b.zip');
  writeFileSync(file, zip);
  const open = await openArchive(file, SCHEDULE_HEAD, { whole: 1e9, entry: 1e8, entries: 100 });
  const parts = new Map<string, Buffer>();
  for (const name of Object.keys(open.manifest.entries)) parts.set(name, await open.read(name));
  open.close();
  const again = async (change: (schedule: Record<string, never[]>) => void) => {
    const schedule = JSON.parse(parts.get('schedule.json')!.toString()) as Record<string, never[]>;
    change(schedule);
    const made = new Map(parts).set('schedule.json', Buffer.from(JSON.stringify(schedule)));
    const out = new ZipFile();
    const entries: Record<string, object> = {};
    for (const [name, bytes] of made) {
      out.addBuffer(bytes, name);
      entries[name] = { size: bytes.length, sha256: createHash('sha256').update(bytes).digest('hex') };
    }
    out.addBuffer(
      Buffer.from(JSON.stringify({ ...SCHEDULE_HEAD, made: '2026-10-06T15:10:00Z', entries })),
      'manifest.json',
    );
    out.end();
    await pipeline(out.outputStream, createWriteStream(join(work, 'c.zip')));
    return readFileSync(join(work, 'c.zip'));
  };
  await refused(
    await again((s) => (s['own'] = [{ ref: 'x', calendar: 'nowhere', item: ESSAY }] as never[])),
    'calendar that it does not have',
  );
  await refused(await again((s) => (s['layers'] = [{ of: { own: 'nobody' } }] as never[])), 'not right');
  await refused(await again((s) => (s['calendars'] = [] as never[])), 'calendar that it does not have');
  parts.set('feeds/0.ics', Buffer.from('<html>no feed</html>'));
  await refused(await again(() => {}), 'What one of its sources brought cannot be read');
  // One at a time for each person; others are answered meanwhile.
  const both = await Promise.all([send(maren, 'restored', zip), send(maren, 'restored', zip)]);
  expect(both.map((r) => r.status).sort()).toEqual([200, 422]);
  const one = (both.find((r) => r.status === 200)!.body as { id: string }).id;
  expect(await occurrencesOf(one)).toHaveLength((await occurrencesOf(learnerId)).length);
});

test('a crash in the middle of it leaves nothing that anybody sees, and nothing after the next start', async () => {
  const before = (await learnersOf(maren)).length;
  const rows = () => w.db((db) => db.prepare('SELECT count(*) FROM learner').pluck().get() as number);
  const there = rows();
  // What stands while it goes on: a schedule that nobody is in, under a mark.
  w.db((db) => {
    db.prepare(
      "INSERT INTO learner (id, name, zone, created_at) VALUES ('half', 'Half', 'Europe/Dublin', 0)",
    ).run();
    db.prepare("INSERT INTO installation (name, value) VALUES ('restoring half', '')").run();
  });
  expect((await learnersOf(maren)).length).toBe(before);
  await w.restart();
  expect(rows()).toBe(there);
});

test('what is small and swells to brackets without end is refused before it is parsed', async () => {
  const file = join(work, 'brackets.zip');
  for (const text of [Buffer.alloc(40 * 2 ** 20, '['), Buffer.from(`{"own":[${'0,'.repeat(3_000_000)}0]}`)]) {
    const head = { ...SCHEDULE_HEAD, made: 0 };
    await writeArchive(file, head, [{ name: 'schedule.json', bytes: text }]);
    const bytes = readFileSync(file);
    expect(bytes.length).toBeLessThan(2 ** 20);
    const { body } = await send(maren, 'restored', bytes).expect(422);
    expect(JSON.stringify(body)).toContain('What it says cannot be read');
  }
  // A schedule of nothing but small things is too large as well.
  await writeArchive(file, { ...SCHEDULE_HEAD, made: 0 }, [
    { name: 'schedule.json', bytes: Buffer.alloc(50 * 2 ** 20, ' ') },
  ]);
  await send(maren, 'restored', readFileSync(file)).expect(422);
});
