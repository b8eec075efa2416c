import { gunzipSync } from 'node:zlib';
import type { CrewView } from '@zephyrfield/core/api/crew';
import type { ShareView } from '@zephyrfield/core/api/share';
import type { CalendarView, Session } from '@zephyrfield/core/api/schemas';
import { readFeed } from '@zephyrfield/core/ical/reading';
import { DEFAULT_SHARE, type ShareRules } from '@zephyrfield/core/out/share';
import { UTC } from '@zephyrfield/core/time/zone';
import { ESSAY, FLAG, FeedServer, Installation, event, type Agent } from './harness';

// What goes out: by links that need no account, and as files.

const ZONE = 'Europe/Dublin';
let w: Installation;
let feed: FeedServer;
let maren: Agent;
let learnerId: string;
let path: string;

beforeAll(async () => {
  feed = await FeedServer.start();
  feed.calendar(
    event(
      'log',
      'Shed log 6',
      'DTSTART:20261008T150000Z',
      'CATEGORIES:Assignment',
      'DESCRIPTION:Clamps',
      'X-SLIP:port',
    ),
    event(
      'lesson',
      'Shed',
      'DTSTART;TZID=Europe/Dublin:20261007T090000',
      'DTEND;TZID=Europe/Dublin:20261007T103000',
      'CATEGORIES:Lesson',
      'RRULE:FREQ=WEEKLY;COUNT=8',
    ),
  );
  w = await Installation.start(feed.host, { ZEPHYRFIELD_OPEN_SIGN_UP: '1' });
  maren = await w.account('Maren Lindqvist', 'maren@skerrow.example');
});
afterAll(async () => {
  await w.stop();
  await feed.stop();
});
beforeEach(async () => {
  learnerId = (
    (await maren.post('/api/learners').send({ name: 'Juno', zone: ZONE }).expect(200)).body as { id: string }
  ).id;
  path = `/api/learners/${learnerId}`;
  await maren
    .post(`${path}/sources`)
    .send({
      address: `http://${feed.host}/boat.ics`,
      zone: ZONE,
      name: 'Boatbuilding',
      kind: 'course',
      ...FLAG,
    })
    .expect(200);
});

const input = (rules: Partial<ShareRules> = {}, more: object = {}) => ({
  name: 'For the fridge',
  rules: { ...DEFAULT_SHARE, ...rules },
  page: false,
  until: null,
  ...more,
});
const share = async (rules: Partial<ShareRules> = {}, more: object = {}, agent = maren) =>
  (await agent.post(`${path}/shares`).send(input(rules, more)).expect(200)).body as {
    share: ShareView;
    secret: string;
  };
const fetched = (secret: string) => w.caller().get(`/out/${secret}.ics`);
const titles = (text: string) =>
  readFeed(Buffer.from(text), { fallbackZone: UTC })
    .items.map((i) => i.title)
    .sort();
const homeOf = async () =>
  (
    (
      await maren
        .post(`${path}/calendars`)
        .send({ name: 'Home', kind: 'home', zone: ZONE, ...FLAG })
        .expect(200)
    ).body as CalendarView
  ).id;
const write = (calendarId: string, title: string) =>
  maren
    .post(`${path}/own`)
    .send({ writes: [{ id: null, calendarId, item: { ...ESSAY, title }, version: 0 }] })
    .expect(200);

test('a link goes out without an account, says nothing new in a few bytes, and follows what changes', async () => {
  const { secret, share: made } = await share({ workAs: 'todo' });
  expect(secret).toMatch(/^[\w-]{32}$/);
  const first = await fetched(secret)
    .expect(200)
    .expect('Content-Type', /text\/calendar/);
  expect(titles(first.text)).toEqual(['Shed', 'Shed log 6']);
  expect(first.text).toContain('X-SLIP:port');
  expect(first.headers['x-robots-tag']).toContain('noindex');
  const again = await fetched(secret).set('If-None-Match', first.headers['etag']!).expect(304);
  expect(again.text).toBe('');
  const packed = await fetched(secret)
    .set('Accept-Encoding', 'gzip')
    .buffer(true)
    .parse((res, done) => {
      const parts: Buffer[] = [];
      res.on('data', (part: Buffer) => parts.push(part));
      res.on('end', () => done(null, Buffer.concat(parts)));
    });
  const bytes = packed.body as Buffer;
  expect((bytes[0] === 0x1f ? gunzipSync(bytes) : bytes).toString()).toBe(first.text);

  await write(await homeOf(), 'Varnish the tiller');
  const after = await fetched(secret).set('If-None-Match', first.headers['etag']!).expect(200);
  expect(titles(after.text)).toContain('Varnish the tiller');
  const [listed] = (await maren.get(`${path}/shares`).expect(200)).body as ShareView[];
  expect(listed).toMatchObject({ id: made.id, fetched: 4, stands: true, by: 'Maren Lindqvist' });
});

test('it says as much as was chosen, and changes without another address', async () => {
  const home = await homeOf();
  await write(home, 'Varnish the tiller');
  const { secret, share: made } = await share({ calendars: [home] });
  expect(titles((await fetched(secret)).text)).toEqual(['Varnish the tiller']);
  const change = (body: object) => maren.patch(`/api/shares/${made.id}`).send(body).expect(200);
  await change(input({ detail: 'busy' }));
  const busy = (await fetched(secret)).text;
  expect(titles(busy)).toEqual(Array.from({ length: 8 }, () => 'Busy'));
  expect(busy).not.toMatch(/Shed|Varnish|log/);
  await change({ paused: true });
  await fetched(secret).expect(503);
  await change({ paused: false, until: '2026-10-05' });
  await fetched(secret).expect(410);
});

test('taken back, it is gone at once; a new address ends the one before; a guess finds nothing', async () => {
  const { secret, share: made } = await share();
  const { secret: next } = (await maren.post(`/api/shares/${made.id}/address`).send({}).expect(200)).body as {
    secret: string;
  };
  await fetched(secret).expect(404);
  const under = fetched(next);
  await Promise.all([
    under.then((r) => r.status),
    maren.delete(`/api/shares/${made.id}`).send({}).expect(200),
  ]);
  await fetched(next).expect(404);
  await fetched('A'.repeat(32)).expect(404);
  await fetched('%00..%2f').expect(404);
});

test('what is kept from whoever made it never goes out, and nothing once they may not share any more', async () => {
  const home = await homeOf();
  await write(home, 'Varnish the tiller');
  const invite = async (access: string) =>
    (
      (
        await maren
          .post('/api/invitations')
          .send({ learnerIds: [learnerId], way: 'code', access, days: 7, uses: 1 })
          .expect(200)
      ).body as { secret: string }
    ).secret;
  const aunt = await w.account('Wren', `wren-${learnerId.slice(-6)}@skerrow.example`);
  await aunt
    .post('/api/invitation/accepted')
    .send({ secret: await invite('keep') })
    .expect(200);
  await maren
    .put(`/api/calendars/${home}/audience`)
    .send({ audience: { members: [], others: 'busy' } })
    .expect(200);
  const { secret } = await share({}, { name: 'Aunt' }, aunt);
  expect(titles((await fetched(secret)).text)).not.toContain('Varnish the tiller');
  const file = await aunt.get(`${path}/calendar-file`).expect(200);
  expect(file.text).not.toContain('Varnish');

  const { person } = (await aunt.get('/api/session')).body as Session;
  const { members } = (await maren.get(`${path}/crew`)).body as {
    members: { id: string; personId: string }[];
  };
  const member = members.find((m) => m.personId === person!.id)!;
  await maren.patch(`/api/members/${member.id}`).send({ access: 'edit' }).expect(200);
  await fetched(secret).expect(404);
  await aunt.post(`${path}/shares`).send(input()).expect(403);
  expect((await aunt.get(`${path}/shares`).expect(200)).body).toEqual([]);
  // It ended with the right to make it, and does not come back with that right.
  expect((await maren.get(`${path}/shares`)).body).toEqual([]);
  const { history } = (await maren.get(`${path}/crew`)).body as CrewView;
  expect(history.map((h) => [h.kind, h.about])).toContainEqual(['outNoMore', 'Aunt']);
});

test('whoever lets it go out sees first what others will see', async () => {
  const look = (
    await maren
      .post(`${path}/shares/look`)
      .send({ ...DEFAULT_SHARE, kinds: ['due'] })
      .expect(200)
  ).body;
  expect(look).toEqual({
    count: 1,
    next: [{ title: 'Shed log 6', when: expect.stringContaining('8 October') as string, place: '' }],
  });
});

test('files: a calendar between two days, and tables that no spreadsheet takes for a formula', async () => {
  const home = await homeOf();
  await write(home, '=cmd|calc "now"');
  const span = (
    await maren.get(`${path}/calendar-file`).query({ from: '2026-10-08', to: '2026-10-21' }).expect(200)
  ).text;
  expect(titles(span)).toEqual(['Shed', 'Shed', 'Shed log 6']);
  expect(span.slice(span.indexOf('BEGIN:VEVENT'))).not.toContain('RRULE');
  const items = await maren
    .get(`${path}/table`)
    .query({ of: 'items', calendars: home, columns: 'title,state' })
    .expect(200);
  expect(items.headers['content-disposition']).toContain('items.csv');
  expect(items.text).toBe('\ufeffTitle,State\r\n"\'=cmd|calc ""now""",open\r\n');
  const records = await maren.get(`${path}/table`).query({ of: 'records' }).expect(200);
  expect(records.text).toContain('When,What,How');
});

test('five thousand items go out whole, and others are answered meanwhile', async () => {
  feed.calendar(
    ...Array.from({ length: 5_000 }, (_, n) =>
      event(
        `n${n}`,
        `Item ${n} "quoted", \\n and more`,
        `DTSTART:202611${String(1 + (n % 28)).padStart(2, '0')}T150000Z`,
      ),
    ),
  );
  await maren
    .post(`${path}/sources`)
    .send({ address: `http://${feed.host}/many.ics`, zone: ZONE, name: 'Many', kind: 'course', ...FLAG })
    .expect(200);
  const { secret } = await share({ workAs: 'todo' });
  const [out] = await Promise.all([fetched(secret).expect(200), maren.get('/api/session').expect(200)]);
  expect(out.text.match(/BEGIN:V(EVENT|TODO)/g)!.length).toBeGreaterThanOrEqual(5_000);
});
