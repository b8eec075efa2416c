import type { AddressInfo } from 'node:net';
import type { LearnerSheet, NoticeView, NoticeSettingsView } from '@zephyrfield/core/api/notify';
import type { ChangeView, ItemView, OwnWritten } from '@zephyrfield/core/api/schemas';
import type { OwnItem } from '@zephyrfield/core/item/own';
import {
  DEFAULT_NOTICE_SETTINGS,
  NOTICE_KINDS,
  type ChannelsByKind,
  type NoticeSettings,
} from '@zephyrfield/core/notify/settings';
import { ianaZone } from '@zephyrfield/core/time/zone';
import { viewerOf } from '@zephyrfield/core/words/when';
import { createPostbox } from '@zephyrfield/stand-ins/postbox';
import type request from 'supertest';
import { mailedAt } from '../src/notify/mail-times';
import { backOff } from '../src/notify/post';
import type { Notification } from '../src/notify/sitting-reminders';
import { FLAG, FeedServer, Installation, START, event, ESSAY } from './harness';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
const pause = () => new Promise<void>((done) => setImmediate(done));
const postbox = createPostbox();
let w: Installation;
let feed: FeedServer;
let agent: ReturnType<typeof request.agent>;
let learnerId: string;
let calendarId: string;
const every = (...channels: ChannelsByKind['sheet']) =>
  Object.fromEntries(NOTICE_KINDS.map((n) => [n, channels])) as unknown as ChannelsByKind;
const LOUD: NoticeSettings = {
  ...DEFAULT_NOTICE_SETTINGS,
  all: every('app', 'mail'),
  quiet: null,
  sheets: { morning: null, evening: null, week: null },
};
const at = (text: string) => ({ kind: 'instant' as const, at: text, zone: 'Europe/Dublin' });
const essay: OwnItem = { ...ESSAY, title: 'Keel plan', when: at('2026-10-08T15:00:00Z') };
const lesson: OwnItem = {
  ...essay,
  kind: 'meeting',
  handIn: 'nothing',
  title: 'Cello',
  place: 'Hall',
  when: at('2026-10-08T15:00:00Z'),
  end: at('2026-10-08T15:45:00Z'),
};
let smtpUrl = '';
let people = 0;

beforeAll(async () => {
  const listening = postbox.smtp.listen(0, '127.0.0.1');
  await new Promise((done) => listening.once('listening', done));
  smtpUrl = `smtp://127.0.0.1:${(listening.address() as AddressInfo).port}`;
  feed = await FeedServer.start();
  w = await Installation.start(feed.host, {
    ZEPHYRFIELD_SMTP_URL: smtpUrl,
    ZEPHYRFIELD_OPEN_SIGN_UP: '1',
  });
});
afterAll(async () => {
  await w.stop();
  await feed.stop();
});
/** Everybody begins anew, so that nobody hears of another test. */
beforeEach(async () => {
  w.now = START;
  postbox.mails.length = 0;
  const email = `juno${people++}@skerrow.example`;
  ({ agent, learnerId } = await w.person('Juno', email));
  w.confirm(email);
  const made = await agent
    .post(`/api/learners/${learnerId}/calendars`)
    .send({ name: 'Home', kind: 'home', zone: 'Europe/Dublin', ...FLAG })
    .expect(200);
  calendarId = (made.body as { id: string }).id;
  await tell(LOUD);
  await w.services.engine.run();
});

const tell = async (noticeSettings: NoticeSettings, status = 200) =>
  (await agent.put('/api/notice-settings').send(noticeSettings).expect(status)).body as NoticeSettingsView & {
    fields?: { message: string }[];
  };
const write = async (writes: object[]) =>
  (
    (await agent.post(`/api/learners/${learnerId}/own`).send({ writes }).expect(200)).body as {
      written: OwnWritten[];
    }
  ).written[0]!;
const add = (item: OwnItem) => write([{ id: null, calendarId, item, version: 0 }]);
const mark = (id: string, body: object, status = 200) =>
  agent
    .patch(`/api/items/${id}/layer`)
    .send({ recurrenceId: '', version: 0, ...body })
    .expect(status);
/** Lets the time go by, looking at what is due every quarter of an hour, or every so many minutes. */
async function until(text: string, pace = 15, isBusy = false): Promise<void> {
  const to = Date.parse(text);
  while (w.now < to) {
    // On a busy machine a turn and its letters are still under way when the next moment comes.
    const turns = isBusy ? [1, 2, 3].map(() => w.services.engine.run()) : [];
    if (isBusy) await pause();
    w.now = Math.min(to, w.now + pace * 60_000);
    await Promise.all([...turns, w.services.engine.run()]);
  }
}
/** The machine sleeps till then. */
async function sleepUntil(text: string): Promise<void> {
  w.now = Date.parse(text);
  await w.services.engine.run();
}
const notices = async () =>
  ((await agent.get('/api/notices').expect(200)).body as { notices: NoticeView[] }).notices;
const told = async () => (await notices()).map((n) => `${n.title}: ${n.line}`).reverse();
/** The mail that confirms an address is none of what is told. */
const mails = () => postbox.mails.filter((m) => m.subject !== 'Confirm your mail address');
const mailed = () => mails().map((m) => m.subject);

test('the evening before and three hours ahead: in the app and by mail, each once, over restarts', async () => {
  await add(essay);
  await until('2026-10-07T18:00:00Z');
  expect(await told()).toEqual(['Keel plan: Due Thu 8 Oct 16:00 · hand in on paper']);
  await w.restart({ ZEPHYRFIELD_SMTP_URL: smtpUrl, ZEPHYRFIELD_OPEN_SIGN_UP: '1' });
  await until('2026-10-09T00:00:00Z');
  expect(await told()).toHaveLength(2);
  expect(mailed()).toEqual(
    ['Tomorrow', 'Today'].map((day) => `Keel plan: ${day}, due Thu 8 Oct 16:00 · hand in on paper`),
  );
  const [mail] = mails();
  expect(mail).toMatchObject({
    from: 'zephyrfield@localhost',
    text: expect.stringContaining('/calendar?item='),
    html: expect.stringContaining('Keel plan'),
  });
  expect(mail!.headers['list-unsubscribe']).toMatch(/^<http:\/\/localhost:\d+\/api\/mail\/stop\/.+>$/);
  expect(mail!.headers['list-unsubscribe-post']).toBe('List-Unsubscribe=One-Click');
});

test('moving an item moves its reminders; what was told of the old date is not told again; finishing silences', async () => {
  const { id, version } = await add(essay);
  await until('2026-10-07T18:00:00Z');
  const moved = await write([
    { id, calendarId, item: { ...essay, when: at('2026-10-12T15:00:00Z') }, version },
  ]);
  await until('2026-10-09T00:00:00Z');
  expect(await told()).toHaveLength(1);
  await until('2026-10-11T18:00:00Z');
  expect(await told()).toEqual([
    'Keel plan: Due Thu 8 Oct 16:00 · hand in on paper',
    'Keel plan: Due Mon 12 Oct 16:00 · hand in on paper',
  ]);
  await mark(id, { finished: true });
  await until('2026-10-13T00:00:00Z');
  expect(await told()).toHaveLength(2);
  expect(moved.version).toBe(2);
});

test('rules of its own, of its calendar and of the schedule; the sheet says when one is told', async () => {
  const { id } = await add(essay);
  const moments = async () =>
    ((await agent.get(`/api/items/${id}`).expect(200)).body as ItemView).reminders.moments.map((m) => m.at);
  expect(await moments()).toEqual(['2026-10-07T17:00:00.000Z', '2026-10-08T12:00:00.000Z']);
  await agent
    .put(`/api/learners/${learnerId}/reminders`)
    .send({ reminders: { work: [{ kind: 'ahead', minutes: 60 }] }, version: null })
    .expect(200);
  expect(await moments()).toEqual(['2026-10-08T14:00:00.000Z']);
  await agent
    .patch(`/api/calendars/${calendarId}`)
    .send({ reminders: { work: [{ kind: 'ahead', minutes: 120 }] } })
    .expect(200);
  expect(await moments()).toEqual(['2026-10-08T13:00:00.000Z']);
  await mark(id, {
    reminders: [
      { kind: 'moment', local: '2026-10-06T20:00:00' },
      { kind: 'ahead', minutes: 5 },
    ],
  });
  expect(await moments()).toEqual(['2026-10-06T19:00:00.000Z', '2026-10-08T14:55:00.000Z']);
  await until('2026-10-06T19:15:00Z');
  expect(await told()).toHaveLength(1);
  const late = await mark(
    id,
    { version: 1, reminders: [{ kind: 'moment', local: '2026-10-09T20:00:00' }] },
    422,
  );
  expect(late.body).toMatchObject({
    title: 'A reminder comes after what it is for.',
    fields: [{ path: 'reminders.0' }],
  });
});

test('quiet hours hold back what is sent and then fold it; the app has it at once', async () => {
  await tell({ ...LOUD, quiet: { from: 17 * 60, to: 7 * 60 } });
  for (const n of [1, 2, 3, 4])
    await add({ ...essay, title: `Sheet ${n}`, when: { kind: 'date', date: '2026-10-08' } });
  await until('2026-10-07T20:00:00Z');
  expect(await told()).toHaveLength(4);
  expect(mailed()).toEqual([]);
  await until('2026-10-08T06:15:00Z');
  expect(mailed()).toEqual(['4 things to know: Sheet 1, Sheet 2, Sheet 3, Sheet 4']);
  expect(mails()[0]!.text).toMatch(/Sheet 1[\s\S]*Sheet 4/);
});

test('after an outage: what is over is dropped, many late ones are one, what is of use comes at once', async () => {
  await add({ ...lesson, when: at('2026-10-07T09:00:00Z'), end: at('2026-10-07T09:30:00Z') });
  for (const n of [1, 2, 3, 4, 5])
    await add({ ...essay, title: `Sheet ${n}`, when: at(`2026-10-08T2${n % 3}:00:00Z`) });
  await sleepUntil('2026-10-08T10:00:00Z');
  expect(await told()).toEqual(['5 reminders came late: Sheet 3, Sheet 1, Sheet 4, Sheet 2, Sheet 5']);
  await until('2026-10-08T20:00:00Z');
  expect((await told()).filter((t) => t.startsWith('Sheet'))).toHaveLength(5);
});

test('a clock that was put back and forth makes nothing due twice', async () => {
  await add(lesson);
  await until('2026-10-08T15:00:00Z');
  w.now -= 3 * DAY;
  await w.services.engine.run();
  await until('2026-10-09T00:00:00Z');
  expect(await told()).toEqual(['Cello: Thu 8 Oct, 16:00 – 16:45 · Hall']);
});

test('what readings change is told, much of a kind as one, and a first reading is no news', async () => {
  const sheets = (n: number, day: string) =>
    Array.from({ length: n }, (_, i) =>
      event(`s${i}`, `Sheet ${i}`, `DTSTART;VALUE=DATE:202610${day}`, 'CATEGORIES:Assignment'),
    );
  feed.calendar(...sheets(3, '20'));
  const followed = await agent
    .post(`/api/learners/${learnerId}/sources`)
    .send({
      address: `http://${feed.host}/${people}.ics`,
      zone: 'Europe/Dublin',
      name: 'Sheets',
      kind: 'course',
      ...FLAG,
    })
    .expect(200);
  const { id } = (followed.body as { source: { id: string } }).source;
  const read = () => agent.post(`/api/sources/${id}/reading`).send({}).expect(200);
  await w.services.engine.run();
  expect(await told()).toEqual([]);
  feed.calendar(
    ...sheets(2, '20'),
    event('s2', 'Sheet 2', 'DTSTART;VALUE=DATE:20261023', 'CATEGORIES:Assignment'),
  );
  w.now += HOUR;
  await read();
  await w.services.engine.run();
  await w.services.engine.run();
  expect(await told()).toEqual(['Sheet 2: Moved: Tue 20 Oct → Fri 23 Oct']);
  feed.calendar(...sheets(9, '20'));
  w.now += HOUR;
  await read();
  await w.services.engine.run();
  expect((await told()).slice(1).sort()).toEqual(
    ['Sheet 2: Moved: Fri 23 Oct → Tue 20 Oct', 'Sheets: 6 new: Sheet 3, Sheet 4, Sheet 5 and 3 more'].sort(),
  );
  // Seen among the changes, it is seen in the news; all news seen, no change is new.
  const changes = async () =>
    (await agent.get(`/api/learners/${learnerId}/changes`).expect(200)).body as ChangeView[];
  const upTo = (await changes()).reduce((least, { id }) => Math.min(least, id), Infinity);
  await agent.post(`/api/learners/${learnerId}/changes/seen`).send({ upTo }).expect(200);
  expect((await notices()).map((n) => n.seen).sort()).toEqual([false, false, true]);
  await agent
    .post('/api/news/seen')
    .send({ upTo: new Date(w.now).toISOString() })
    .expect(200);
  expect([...(await notices()), ...(await changes())].filter((each) => !each.seen)).toEqual([]);
  // Muted, it is silent.
  const [{ calendarId: muted }] = (await notices()) as unknown as [{ calendarId: string }];
  await tell({ ...LOUD, muted: { items: [], calendars: [muted] } });
  const [{ itemId }] = (await notices()).filter((n) => n.itemId) as unknown as [{ itemId: string }];
  expect(((await agent.get(`/api/items/${itemId}`).expect(200)).body as ItemView).reminders.moments).toEqual(
    [],
  );
  feed.calendar(...sheets(9, '21'));
  await read();
  await w.services.engine.run();
  expect(await told()).toHaveLength(3);
});

test('a feed’s alarms count where its calendar says so, and its own rules where it does not', async () => {
  feed.calendar(
    event(
      't1',
      'Regatta briefing',
      'DTSTART:20261009T150000Z',
      'DTEND:20261009T160000Z',
      'BEGIN:VALARM\r\nACTION:DISPLAY\r\nTRIGGER:-PT40M\r\nEND:VALARM',
    ),
  );
  const followed = await agent
    .post(`/api/learners/${learnerId}/sources`)
    .send({
      address: `http://${feed.host}/a${people}.ics`,
      zone: 'Europe/Dublin',
      name: 'Regatta',
      kind: 'group',
      ...FLAG,
    })
    .expect(200);
  const { calendar, source } = followed.body as { calendar: { id: string }; source: { id: string } };
  const list = (
    await agent
      .get(`/api/learners/${learnerId}/occurrences`)
      .query({ from: '2026-10-01T00:00:00Z', to: '2026-11-01T00:00:00Z' })
      .expect(200)
  ).body as { itemId: string }[];
  const reminders = async () =>
    ((await agent.get(`/api/items/${list[0]!.itemId}`).expect(200)).body as ItemView).reminders;
  expect(await reminders()).toMatchObject({ alarms: 0, moments: [{ at: '2026-10-09T14:45:00.000Z' }] });
  await agent.patch(`/api/calendars/${calendar.id}`).send({ alarms: 'use' }).expect(200);
  expect(await reminders()).toMatchObject({ alarms: 1, moments: [{ at: '2026-10-09T14:20:00.000Z' }] });
  await until('2026-10-09T15:00:00Z');
  expect(await told()).toEqual(['Regatta briefing: Fri 9 Oct, 16:00 – 17:00']);
  await agent.delete(`/api/sources/${source.id}`).expect(200);
});

test('others in the crew hear how it was handed in, whoever tells it; the teller does not', async () => {
  const email = `maren${people++}@skerrow.example`;
  const maren = await w.person('Maren', email);
  w.services.people.join({ personId: w.services.people.byEmail(email)!.id, learnerId, access: 'tick' });
  await maren.agent.put('/api/notice-settings').send(LOUD).expect(200);
  await w.services.engine.run();
  const { id } = await add(essay);
  await mark(id, { finished: true });
  await mark(id, { version: 1, handedIn: { way: 'paper', note: '' } });
  await w.services.engine.run();
  const hers = (await maren.agent.get('/api/notices').expect(200)).body as { notices: NoticeView[] };
  expect(hers.notices.map((n) => [n.kind, n.title, n.line])).toEqual([
    ['handedIn', 'Keel plan', 'Juno says it was handed in on paper'],
  ]);
  expect(await told()).toEqual([]);
  // Of one learner she wants to hear otherwise.
  await maren.agent
    .put('/api/notice-settings')
    .send({ ...LOUD, learners: { [learnerId]: every() } })
    .expect(200);
  await mark(id, { version: 2, handedIn: { way: 'online', note: '' } });
  await w.services.engine.run();
  expect(
    ((await maren.agent.get('/api/notices').expect(200)).body as { notices: NoticeView[] }).notices,
  ).toHaveLength(1);
});

test('four hand-ins of one afternoon are one mail', async () => {
  const email = `maren${people++}@skerrow.example`;
  const maren = await w.person('Maren', email);
  w.services.people.join({ personId: w.services.people.byEmail(email)!.id, learnerId, access: 'tick' });
  w.confirm(email);
  const silent = Object.fromEntries(Object.keys(every()).map((kind) => [kind, []]));
  const only = { ...silent, handedIn: ['app', 'mail'] };
  await maren.agent
    .put('/api/notice-settings')
    .send({ ...LOUD, all: only })
    .expect(200);
  const titles = ['Keel plan', 'Shed log', 'Chart', 'Tide table'];
  for (const [i, title] of titles.entries()) {
    await until(`2026-10-07T1${2 + i}:10:00Z`);
    const { id } = await add({ ...essay, title });
    await mark(id, { finished: true });
    await mark(id, { version: 1, handedIn: { way: 'online', note: '' } });
    await w.services.engine.run();
  }
  await until('2026-10-07T18:00:00Z');
  const hers = mails().filter((m) => m.to === email);
  expect(hers).toHaveLength(1);
  for (const title of titles) expect(hers[0]!.text).toContain(title);
});

test('a day at the end of all days, and alarms by the hundred from weeks before, do no harm', async () => {
  for (const day of ['0001-01-01', '9999-12-31'])
    await agent.get('/api/day-sheets').query({ edition: 'week', day }).expect(200);
  await agent.get('/api/day-sheets').query({ edition: 'week', day: '2026-13-45' }).expect(422);
  const alarms = Array.from(
    { length: 300 },
    (_, i) => `BEGIN:VALARM\r\nACTION:DISPLAY\r\nTRIGGER:-P${20 + (i % 3)}DT${i % 24}H\r\nEND:VALARM`,
  );
  feed.calendar(event('t1', 'Regatta', 'DTSTART:20261030T150000Z', 'DTEND:20261030T160000Z', ...alarms));
  const followed = await agent
    .post(`/api/learners/${learnerId}/sources`)
    .send({
      address: `http://${feed.host}/m${people}.ics`,
      zone: 'Europe/Dublin',
      name: 'Regatta',
      kind: 'group',
      ...FLAG,
    })
    .expect(200);
  const { calendar, source } = followed.body as { calendar: { id: string }; source: { id: string } };
  await agent.patch(`/api/calendars/${calendar.id}`).send({ alarms: 'use' }).expect(200);
  await until('2026-10-12T00:00:00Z');
  const count = (await told()).length;
  expect(count).toBeGreaterThan(0);
  expect(count).toBeLessThanOrEqual(8);
  await agent.delete(`/api/sources/${source.id}`).expect(200);
});

test('put off, it comes again at that moment, in the app and by mail; finished meanwhile, it does not', async () => {
  const first = await add(essay);
  const second = await add({ ...essay, title: 'Glaze' });
  await until('2026-10-07T18:00:00Z');
  for (const { id, title } of await notices())
    await agent
      .post(`/api/notices/${id}/snooze`)
      .send({ until: title === 'Glaze' ? '2026-10-07T20:00:00Z' : '2026-10-07T19:00:00.000Z' })
      .expect(200);
  expect((await notices()).map((n) => [n.title, n.seen, n.snoozedUntil])).toEqual(
    expect.arrayContaining([['Keel plan', true, '2026-10-07T19:00:00.000Z']]),
  );
  await mark(second.id, { finished: true });
  await until('2026-10-07T21:00:00Z');
  expect((await told()).map((t) => t.split(':')[0])).toEqual(
    expect.arrayContaining(['Keel plan', 'Keel plan', 'Glaze']),
  );
  expect(await told()).toHaveLength(3);
  // The first two came at the same hour, and so in one mail.
  expect(mailed().map((s) => s.split(':')[0])).toEqual(['2 things to know', 'Keel plan']);
  const [{ id }] = (await notices()) as [NoticeView];
  expect(
    (await agent.post(`/api/notices/${id}/snooze`).send({ until: '2026-10-07T08:00:00Z' }).expect(422)).body,
  ).toMatchObject({ title: 'That moment has passed.' });
  expect(first.id).toBeTruthy();
});

test('seen is seen; the browser’s are given to one window, once', async () => {
  await tell({ ...LOUD, all: every('app', 'browser') });
  await add(lesson);
  await until('2026-10-08T14:45:00Z');
  const list = (await agent.get('/api/notices').expect(200)).body as {
    notices: NoticeView[];
    unseen: number;
  };
  expect(list.unseen).toBe(1);
  await agent
    .post('/api/notices/seen')
    .send({ ids: list.notices.map((n) => n.id) })
    .expect(200);
  expect(((await agent.get('/api/notices').expect(200)).body as { unseen: number }).unseen).toBe(0);
  const take = async () => (await agent.post('/api/notices/taken').expect(200)).body as NoticeView[];
  const [a, b] = await Promise.all([take(), take()]);
  expect([...a, ...b].map((n) => n.title)).toEqual(['Cello']);
  expect(await take()).toEqual([]);
});

test('sheets: the evening’s at its hour, the week’s on Sunday, once; the mail says what the page says', async () => {
  await add(essay);
  await add(lesson);
  await tell({
    ...LOUD,
    all: { ...every(), sheet: ['app', 'mail'] },
    sheets: { morning: null, evening: 18 * 60, week: 17 * 60 },
  });
  await until('2026-10-07T17:15:00Z');
  expect(await told()).toEqual([
    expect.stringMatching(/^Tonight, Tuesday 6 October: /),
    expect.stringMatching(/^Tonight, Wednesday 7 October: 1 to do tonight: /),
  ]);
  const read = (
    await agent.get('/api/day-sheets').query({ edition: 'evening', day: '2026-10-07' }).expect(200)
  ).body as LearnerSheet[];
  expect(read[0]!.sheet.sections.map((s) => s.heading)).toEqual([
    'To do tonight',
    'Tomorrow, Thursday 8 October: where to be',
  ]);
  expect(mails().at(-1)!.subject).toMatch(/^1 to do tonight: /);
  expect(mails().at(-1)!.text).toContain(read[0]!.text.trim());
  await until('2026-10-11T17:15:00Z');
  expect((await told()).filter((t) => t.startsWith('The week of'))).toEqual([
    expect.stringContaining('The week of 12 – 18 October'),
  ]);
  // On a Sunday that one says what the evening's would, which does not come as well.
  expect((await told()).some((t) => t.startsWith('Tonight, Sunday'))).toBe(false);
});

const PACES = [
  [5, ''],
  [15, ''],
  [50, ''],
  [50, ', each turn beside another'],
] as const;
test.each(PACES)(
  'a week with two learners, looked at every %i minutes%s, is at most two mails a day',
  async (pace, beside) => {
    const isBusy = beside !== '';
    const email = `maren${people++}@skerrow.example`;
    const maren = await w.person('Maren', email);
    w.services.people.join({ personId: w.services.people.byEmail(email)!.id, learnerId, access: 'tick' });
    const mine = () => mails().filter((m) => m.to === `juno${people - 2}@skerrow.example`);
    const other = (
      await agent.post('/api/learners').send({ name: 'Tobias', zone: 'Europe/Dublin' }).expect(200)
    ).body as { id: string };
    const home = await agent
      .post(`/api/learners/${other.id}/calendars`)
      .send({ name: 'Errands', kind: 'home', zone: 'Europe/Dublin', ...FLAG })
      .expect(200);
    await tell({ ...LOUD, sheets: { morning: null, evening: 18 * 60, week: 17 * 60 } });
    const titles: string[] = [];
    const handedIn: string[] = [];
    for (let day = 7; day < 14; day++)
      for (const [who, hour] of [
        [learnerId, '14'],
        [other.id, '14'],
        [learnerId, '22'],
      ] as const) {
        const title = `Sheet ${day} ${hour} ${who === other.id ? 'Tobias' : 'Juno'}`;
        titles.push(title);
        const when = at(`2026-10-${String(day).padStart(2, '0')}T${hour}:00:00Z`);
        const own = {
          id: null,
          calendarId: who === other.id ? (home.body as { id: string }).id : calendarId,
        };
        await agent
          .post(`/api/learners/${who}/own`)
          .send({ writes: [{ ...own, version: 0, item: { ...essay, title, when } }] })
          .expect(200);
      }
    await until('2026-10-06T23:00:00Z', pace, isBusy);
    for (let day = 7; day < 14; day++) {
      const before = mine().length;
      for (const hour of ['09', '14', '16']) {
        await until(`2026-10-${String(day).padStart(2, '0')}T${hour}:20:00Z`, pace, isBusy);
        const { id } = await add({
          ...essay,
          title: `Told ${day} ${hour}`,
          when: at('2026-11-20T10:00:00Z'),
        });
        const tell = (body: object) =>
          maren.agent.patch(`/api/items/${id}/layer`).send({ recurrenceId: '', ...body });
        await tell({ version: 0, finished: true }).expect(200);
        await tell({ version: 1, handedIn: { way: 'online', note: '' } }).expect(200);
        handedIn.push(`Told ${day} ${hour}`);
      }
      await until(`2026-10-${String(day).padStart(2, '0')}T23:00:00Z`, pace, isBusy);
      const ofDay = mine()
        .slice(before)
        .map((m) => m.subject);
      expect({ ofDay, few: ofDay.length <= 2 }).toEqual({ ofDay, few: true });
    }
    // What was handed in after the sheet goes at noon.
    await until('2026-10-14T12:00:00Z', pace, isBusy);
    const text = mine()
      .map((m) => m.text)
      .join('\n');
    for (const title of [...titles, ...handedIn]) expect(text).toContain(title);
  },
);

test('without a sheet, single reminders are two mails a day: the second takes along what comes after it', async () => {
  await tell({ ...LOUD, all: { ...every('mail'), moved: ['app', 'mail'] } });
  const hours = ['08', '11', '14', '17', '20'];
  for (const hour of hours)
    for (const day of ['08', '09'])
      await add({
        ...lesson,
        title: `Lesson ${day} ${hour}`,
        when: at(`2026-10-${day}T${hour}:30:00Z`),
        end: at(`2026-10-${day}T${hour}:50:00Z`),
      });
  const mine = () => mails().filter((m) => m.to === `juno${people - 1}@skerrow.example`);
  await until('2026-10-07T23:00:00Z');
  for (const day of ['08', '09']) {
    const before = mine().length;
    await until(`2026-10-${day}T22:59:00Z`);
    const ofDay = mine().slice(before);
    expect(ofDay.length).toBeLessThanOrEqual(2);
    for (const hour of hours) expect(ofDay.map((m) => m.text).join('')).toContain(`Lesson ${day} ${hour}`);
  }
});

test('news goes with the next morning once a day has had its two mails, unless it is of today or tomorrow', () => {
  const now = Date.parse('2026-10-07T15:00:00Z');
  const end = Date.parse('2026-10-07T23:00:00Z');
  const viewer = viewerOf(ianaZone('Europe/Dublin')!, { hours: 24, nightUntil: 0 });
  const who = { personId: '', noticeSettings: { ...LOUD, all: every('mail'), quiet: null }, viewer };
  const news = { kind: 'moved', at: now, useBy: now + 2 * DAY, concerns: now + 9 * DAY } as Notification;
  const goes = (told: Notification, mails: number) => mailedAt(now, told, who, { end, mails });
  expect(goes(news, 1)).toBe(now);
  expect(goes(news, 2)).toBe(end + 7 * HOUR);
  expect(goes({ ...news, concerns: now + 20 * HOUR }, 2)).toBe(now);
  expect(goes({ ...news, kind: 'pastDue' }, 2)).toBe(end + 7 * HOUR);
  expect(goes({ ...news, kind: 'dueSoon', anchor: now + HOUR }, 2)).toBe(now);
});

test('an address that does not exist: given up at once, said in words, and taken up again when asked for', async () => {
  const { address } = (await tell(LOUD)).mail;
  postbox.refused.add(address);
  await add(lesson);
  await until('2026-10-08T15:00:00Z');
  const view = async () => (await agent.get('/api/notice-settings').expect(200)).body as NoticeSettingsView;
  expect((await view()).mail).toMatchObject({
    ready: true,
    waiting: 0,
    trouble: { title: 'Mail to your address came back.' },
  });
  expect(w.logged.join()).not.toContain(address);
  postbox.refused.delete(address);
  await agent.post('/api/notice-settings/mail').expect(200);
  await w.services.engine.run();
  expect(mailed()).toEqual([expect.stringContaining('Test mail')]);
  expect((await view()).mail.trouble).toBeNull();
});

test('a mail server that refuses everybody is at fault itself, and not those it refuses', async () => {
  const email = `maren${people++}@skerrow.example`;
  const maren = await w.person('Maren', email);
  w.services.people.join({ personId: w.services.people.byEmail(email)!.id, learnerId, access: 'tick' });
  w.confirm(email);
  await maren.agent.put('/api/notice-settings').send(LOUD).expect(200);
  const { address } = (await tell(LOUD)).mail;
  const both = [address, email];
  both.forEach((each) => postbox.refused.add(each));
  await add(lesson);
  await until('2026-10-08T15:00:00Z');
  const trouble = async (of: typeof agent) =>
    ((await of.get('/api/notice-settings').expect(200)).body as NoticeSettingsView).mail.trouble?.title;
  expect([await trouble(agent), await trouble(maren.agent)]).toEqual([
    'Mail is not going out at present.',
    'Mail is not going out at present.',
  ]);
  both.forEach((each) => postbox.refused.delete(each));
  await add({ ...essay, title: 'Oars', when: at('2026-10-09T17:00:00Z') });
  await until('2026-10-09T17:00:00Z');
  expect(new Set(mails().map((m) => m.to))).toEqual(new Set(both));
  expect([await trouble(agent), await trouble(maren.agent)]).toEqual([undefined, undefined]);
});

test('back-off doubles up to an hour, give or take a fifth', () => {
  expect([1, 2, 3, 9].map((n) => backOff(n, 0.5) / 60_000)).toEqual([1, 2, 4, 60]);
  expect(backOff(1, 0)).toBe(48_000);
});

test('one press in a mail ends all mail of that person; a made-up token ends nobody’s', async () => {
  await add(lesson);
  await until('2026-10-08T15:00:00Z');
  const link = /<(.+)>/.exec(mails()[0]!.headers['list-unsubscribe']!)![1]!;
  const press = (url: string) =>
    fetch(url, {
      method: 'POST',
      body: 'List-Unsubscribe=One-Click',
      headers: { 'content-type': 'application/x-www-form-urlencoded' },
    });
  const channels = async () =>
    ((await agent.get('/api/notice-settings').expect(200)).body as NoticeSettingsView).noticeSettings.all
      .dueSoon;
  await press(link.slice(0, -4) + 'ffff');
  expect(await channels()).toEqual(['app', 'mail']);
  expect((await press(link)).status).toBe(200);
  expect(await channels()).toEqual(['app']);
});

test('quiet hours without an end are refused in words; without a mail server nobody waits for mail', async () => {
  expect((await tell({ ...LOUD, quiet: { from: 600, to: 600 } }, 422)).fields![0]!.message).toContain(
    'never end',
  );
  const bare = await Installation.start();
  const { agent: other } = await bare.person();
  expect(
    ((await other.put('/api/notice-settings').send(LOUD).expect(200)).body as NoticeSettingsView).mail,
  ).toMatchObject({ ready: false, waiting: 0 });
  expect((await other.post('/api/notice-settings/mail').expect(409)).body).toMatchObject({
    title: 'No mail server is set up here.',
  });
  await bare.stop();
});

// The last one: the mail server of all of them goes away.
test('a mail server that is away loses nothing: it is tried again, later each time, and said', async () => {
  const port = Number(new URL(smtpUrl).port);
  await add(lesson);
  await new Promise<void>((done) => postbox.smtp.close(done));
  await until('2026-10-08T15:00:00Z');
  expect(
    ((await agent.get('/api/notice-settings').expect(200)).body as NoticeSettingsView).mail,
  ).toMatchObject({ waiting: 1, trouble: { title: 'Mail is not going out at present.' } });
  expect(await told()).toHaveLength(1);
  const back = createPostbox();
  const listening = back.smtp.listen(port, '127.0.0.1');
  await new Promise((done) => listening.once('listening', done));
  await until('2026-10-08T17:00:00Z');
  expect(back.mails.map((m) => [m.subject.split(':')[0], m.times])).toEqual([['Cello', 1]]);
  await new Promise<void>((done) => back.smtp.close(done));
});

test('what a mail server would take too late to be of use is not sent any more', async () => {
  await add({ ...lesson, when: at('2026-10-08T15:00:00Z'), end: at('2026-10-08T15:10:00Z') });
  await until('2026-10-08T16:00:00Z');
  const back = createPostbox();
  const listening = back.smtp.listen(Number(new URL(smtpUrl).port), '127.0.0.1');
  await new Promise((done) => listening.once('listening', done));
  await until('2026-10-08T18:00:00Z');
  expect(back.mails).toEqual([]);
  expect(
    ((await agent.get('/api/notice-settings').expect(200)).body as NoticeSettingsView).mail.waiting,
  ).toBe(0);
  expect(await told()).toHaveLength(1);
  await new Promise<void>((done) => back.smtp.close(done));
});
