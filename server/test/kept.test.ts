import type { AddressInfo } from 'node:net';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { inflateRawSync } from 'node:zlib';
import type { Questions, SourceView } from '@zephyrfield/core/api/schemas';
import type { CrewView } from '@zephyrfield/core/api/crew';
import { SEE_AS_HEADER } from '@zephyrfield/core/api/paths';
import { routes } from '@zephyrfield/core/api/routes';
import type { NoticeView } from '@zephyrfield/core/api/notify';
import { CHANNELS, DEFAULT_NOTICE_SETTINGS, NOTICE_KINDS } from '@zephyrfield/core/notify/settings';
import { DEFAULT_SHARE } from '@zephyrfield/core/out/share';
import { createPostbox } from '@zephyrfield/stand-ins/postbox';
import type { Router } from 'express';
import { ESSAY, FLAG, FOLDER, FeedServer, Installation, event, type Agent } from './harness';
import { WAYS_OUT, waysOutTable, type WayOut } from '../src/people/ways-out';
import { ZONE, addDesk, ask, family, ok, routeOf, samples, type Family, type RouteName } from './family';

// Every way out of a calendar × everybody it is kept from. One family plants a word in every field of everything; its
// calendars are kept from four others in the crew, in every standing. None of the ways gives any of them the word,
// whatever was told before it was kept and whatever happens afterwards. A new route, or a new kind of thing that is
// told, fails here until it has its row.

const WORD = 'Cormorant';
/** The address an invitation went to is no calendar's. */
const LEAK = /Cormorant(?!@)/;
const HOUR = 3_600_000;

/** Renderers that give out all they are given; the real ones are tried in the browser. */
const TODAY_AS_GIVEN = "(...all) => ({ html: JSON.stringify(all), css: '', replies: [] })";

/** The ways out that were tried. */
const tried = new Set<WayOut>();
const trying = (...ways: WayOut[]) => ways.forEach((way) => tried.add(way));

const postbox = createPostbox();
let w: Installation;
let feed: FeedServer;
let web: string;
let owner: Family;
let SAMPLES: ReturnType<typeof samples>;

/** Those it is kept from: another keeper, the learner themself, and two who may do less. */
const KEPT_FROM = ['keeper', 'learner', 'edit', 'look'] as const;
type Who = (typeof KEPT_FROM)[number];
const people = {} as Record<Who, { agent: Agent; personId: string; email: string }>;
let memberIds: Record<string, string>;
let links: { all: string; allId: string; namedId: string };
/** Number of mails before it was kept. */
let mailsBefore: number;

const NAMES = (Object.keys(routes) as (keyof typeof routes)[]).filter(
  (name): name is RouteName => !name.startsWith('demo'),
);
/** Routes that read and change nothing. */
const READING = NAMES.filter(
  (name) =>
    (routeOf(name).method === 'GET' && name !== 'live') || name === 'lookAtShare' || name === 'takeNotices',
);
/** Reading routes that say nothing of what is in a calendar. */
const SILENT = new Set<RouteName>([
  // All calendars of the family are kept from somebody.
  'lookAtShare',
  ...(['session', 'keptBriefs', 'noticeSettings', 'account'] as const),
  ...(['learnersTable', 'splits', 'offers', 'openTimes', 'openSlots', 'replies', 'notePeople'] as const),
  ...([
    'publications',
    'briefFileBytes',
    'noteFileBytes',
    'takeNotices',
    'undated',
    'accountArchive',
  ] as const),
]);

interface Told {
  notices: NoticeView[];
  unseen: number;
  notes: number;
}

const everything = Object.fromEntries(NOTICE_KINDS.map((kind) => [kind, CHANNELS]));

async function member(who: Who, access: 'keep' | 'edit' | 'look'): Promise<void> {
  const email = `${who}@skerrow.example`;
  const agent = await w.account(`The ${who}`, email);
  w.confirm(email);
  const personId = w.services.people.byEmail(email)!.id;
  w.services.people.join({ personId, learnerId: owner.ids.learner, access });
  if (who === 'learner') w.services.crews.setOwn(owner.ids.learner, personId);
  await agent
    .put('/api/notice-settings')
    .send({
      ...DEFAULT_NOTICE_SETTINGS,
      all: everything,
      quiet: null,
      sheets: { morning: 8 * 60, evening: 17 * 60, week: null },
    })
    .expect(200);
  people[who] = { agent, personId, email };
}

const link = async (name: string, calendars: string[] | null) =>
  (await ok(
    owner.agent
      .post(`/api/learners/${owner.ids.learner}/shares`)
      .send({ name, rules: { ...DEFAULT_SHARE, calendars }, page: true, until: null }),
  )) as { share: { id: string }; secret: string };

/** Adds something that is asked about, has no date, or has its clock running. */
async function plant(): Promise<void> {
  const { agent, ids } = owner;
  const item = (title: string, date: string | null) => ({
    ...{ id: null, calendarId: ids.calendar, version: 0 },
    item: { ...ESSAY, title, when: date && { kind: 'date', date } },
  });
  const writes = [item(`${WORD} some day`, null), item(`Course: ${WORD} log 3`, '2026-10-16')];
  await agent.post(`/api/learners/${ids.learner}/own`).send({ writes }).expect(200);
  await agent.patch(`/api/items/${ids.otherItem}/layer`).send({ version: 0, timer: true }).expect(200);
}

/** Things happen that people are told of: notes, questions, hand-ins, dates that move, a day that goes by. */
async function live(n: number): Promise<void> {
  const { agent, ids } = owner;
  const told = { learnerIds: [ids.learner], item: ids.item, text: `${WORD} note ${n}` };
  await agent
    .post('/api/notes')
    .send({ ...told, key: `7b0f0e0a-4c8e-4b7c-9a3b-0d6f5f0c1a2${n}` })
    .expect(200);
  await agent.put(`/api/items/${ids.otherItem}/question`).send({ asks: true });
  await agent.post(`/api/items/${ids.otherItem}/reply-reminders`).send({});
  const { version } = (
    (await ok(agent.get(`/api/items/${ids.gathered}`))) as { occurrence: { version: number } }
  ).occurrence;
  await agent
    .patch(`/api/items/${ids.gathered}/layer`)
    .send({ version, handedIn: { way: 'online', note: `${WORD} handed in ${n}` }, finished: true })
    .expect(200);
  feed.calendar(
    ...[1, 2, 3, 4, 5].map((k) =>
      event(
        `${WORD}-${k}`,
        `${WORD} log ${k}`,
        `DTSTART;VALUE=DATE:202610${12 + k + n}`,
        `DESCRIPTION:${WORD} words`,
        `LOCATION:${WORD} place`,
        'CATEGORIES:Assignment',
      ),
    ),
  );
  await agent.post(`/api/sources/${ids.source}/reading`).send({ confirm: true }).expect(200);
  await w.services.engine.run();
  // Reminders, past due work and sheets of the days that follow.
  for (let hours = 0; hours < 30; hours += 3) {
    w.now += 3 * HOUR;
    await w.services.engine.run();
  }
}

beforeAll(async () => {
  const listening = postbox.smtp.listen(0, '127.0.0.1');
  await new Promise((done) => listening.once('listening', done));
  feed = await FeedServer.start();
  web = mkdtempSync(join(FOLDER, 'zephyrfield-web-'));
  mkdirSync(join(web, '.server-render'));
  writeFileSync(
    join(web, 'index.html'),
    '<!doctype html><html lang="en"><head></head><body><div id="root"><!--first view--><!--/first view--></div></body></html>',
  );
  for (const [file, names] of [
    ['today', ['drawToday']],
    ['pages', ['drawSharedPage', 'drawPapers']],
  ] as const)
    writeFileSync(
      join(web, `.server-render/${file}.cjs`),
      names
        .map((name) => `exports.${name} = ${name === 'drawToday' ? TODAY_AS_GIVEN : 'JSON.stringify'};`)
        .join(''),
    );
  w = await Installation.start(feed.host, {
    ...{ ZEPHYRFIELD_OPEN_SIGN_UP: '1', ZEPHYRFIELD_WEB: web },
    ZEPHYRFIELD_SMTP_URL: `smtp://127.0.0.1:${(listening.address() as AddressInfo).port}`,
  });
  addDesk(w);
  SAMPLES = samples({ w, feed });
  owner = await family({ w, feed }, 'Sable', WORD);
  for (const who of KEPT_FROM)
    await member(who, who === 'keeper' ? 'keep' : who === 'edit' ? 'edit' : 'look');
  const { members } = (await ok(owner.agent.get(`/api/learners/${owner.ids.learner}/crew`))) as CrewView;
  memberIds = Object.fromEntries(members.map((m) => [m.name, m.id]));
  const all = await link('Everything', null);
  links = { all: all.secret, allId: all.share.id, namedId: owner.ids.share };
  await live(0);
  // Before it is kept they hear of all of it.
  for (const who of KEPT_FROM) {
    const { notices } = (await ok(people[who].agent.get('/api/notices'))) as Told;
    expect({ who, heard: notices.filter((n) => LEAK.test(n.title + n.line)).length > 5 }).toEqual({
      ...{ who, heard: true },
    });
  }
  for (const [at, { id }] of w.services.calendars.ofLearner(owner.ids.learner).entries())
    await owner.agent
      .put(`/api/calendars/${id}/audience`)
      .send({ audience: { members: [], others: at % 2 ? 'busy' : 'nothing' } })
      .expect(200);
  mailsBefore = postbox.mails.length;
  await live(1);
  await plant();
});
afterAll(async () => {
  await w.stop();
  await feed.stop();
  rmSync(web, { recursive: true });
  await new Promise<void>((done) => postbox.smtp.close(() => done()));
});

/** All files of a ZIP archive, one after the other. */
function unpacked(bytes: Buffer): string {
  let text = '';
  for (
    let at = bytes.indexOf('PK\x01\x02', 0, 'latin1');
    at >= 0;
    at = bytes.indexOf('PK\x01\x02', at + 4, 'latin1')
  ) {
    const [size, name] = [bytes.readUInt32LE(at + 20), bytes.readUInt16LE(at + 28)];
    const start = bytes.readUInt32LE(at + 42);
    const data = start + 30 + bytes.readUInt16LE(start + 26) + bytes.readUInt16LE(start + 28);
    const packed = bytes.subarray(data, data + size);
    text += bytes.subarray(at + 46, at + 46 + name).toString();
    text += (bytes.readUInt16LE(at + 10) === 8 ? inflateRawSync(packed) : packed).toString('latin1');
  }
  return text;
}

async function archive(agent: Agent, as?: string): Promise<Buffer> {
  const asking = agent.get(`/api/learners/${owner.ids.learner}/archive`).buffer(true);
  if (as !== undefined) void asking.set(SEE_AS_HEADER, as);
  const { body } = await asking.parse((res, done) => {
    const parts: Buffer[] = [];
    res.on('data', (part: Buffer) => parts.push(part));
    res.on('end', () => done(null, Buffer.concat(parts)));
  });
  return body as Buffer;
}

/** Gives the reply of a reading route as text, whatever its form. */
async function said(agent: Agent, name: RouteName, as?: string): Promise<string> {
  const sample = SAMPLES[name](owner.ids);
  if (name === 'daySheet') sample.query!['day'] = '2026-10-15';
  if (name === 'lookAtShare') sample.body = { ...DEFAULT_SHARE, calendars: null };
  if (name === 'calendarFile' || name === 'table') delete sample.query!['calendars'];
  if (name === 'archiveSchedule') return `${name} 200: ${unpacked(await archive(agent, as))}`;
  const { status, text } = await ask({ w, feed }, agent, name, sample, as);
  return `${name} ${status}: ${text}`;
}

describe('reading routes', () => {
  test('tell whoever sees the calendar of it, so that each row can fail', async () => {
    const silent: string[] = [];
    for (const name of READING) {
      const words = await said(owner.agent, name);
      expect(words).toMatch(/^\w+ 200: /);
      if (!LEAK.test(words)) silent.push(name);
    }
    expect(silent.filter((name) => !SILENT.has(name as RouteName))).toEqual([]);
  });

  test.each(KEPT_FROM)('tell %s nothing of it', async (who) => {
    trying('reading routes', 'sheets', 'notes', 'questions', 'archives and files', 'the history of access');
    for (const name of READING) expect(await said(people[who].agent, name)).not.toMatch(LEAK);
  });

  test.each(['keeper', 'learner'] as const)('tell %s nothing of it through another’s eyes', async (who) => {
    trying('another’s eyes');
    for (const eyes of ['Sable', 'The edit', 'The look'])
      for (const name of READING)
        expect(await said(people[who].agent, name, memberIds[eyes])).not.toMatch(LEAK);
  });

  test('tell whoever sees it nothing of it through the eyes of who does not', async () => {
    const notOwn = READING.filter(
      (name) => !['notices', 'takeNotices', 'noteThreads', 'account'].includes(name),
    );
    for (const name of notOwn) {
      if (!routeOf(name).access && !routeOf(name).seenAs) continue;
      expect(await said(owner.agent, name, memberIds['The edit'])).not.toMatch(LEAK);
    }
  });
});

describe('what is told', () => {
  test.each(KEPT_FROM)(
    'to %s stands nowhere any more, counted or not, and nothing new comes',
    async (who) => {
      trying('notices');
      const { agent, personId } = people[who];
      const { notices, unseen, notes } = (await ok(agent.get('/api/notices'))) as Told;
      expect(notices.filter((n) => LEAK.test(JSON.stringify(n)))).toEqual([]);
      expect({ unseen, notes }).toEqual({ unseen: notices.filter((n) => !n.seen).length, notes: 0 });
      const rows = w.db((db) => db.prepare('SELECT * FROM delivery WHERE person_id = ?').all(personId));
      expect(rows.filter((row) => LEAK.test(JSON.stringify(row)))).toEqual([]);
    },
  );

  test('by mail has no word of it', () => {
    trying('mail');
    const addresses = KEPT_FROM.map((who) => people[who].email);
    const sent = postbox.mails.slice(mailsBefore).filter((mail) => addresses.includes(mail.to));
    const before = postbox.mails.slice(0, mailsBefore).filter((mail) => addresses.includes(mail.to));
    expect(before.some((mail) => LEAK.test(mail.text))).toBe(true);
    expect(sent.length).toBeGreaterThan(0);
    for (const mail of sent) expect(`${mail.subject}\n${mail.text}\n${mail.html}`).not.toMatch(LEAK);
  });

  test('by an event stream is only that something has changed', async () => {
    trying('event streams');
    const { agent } = people['edit'];
    const jar = (agent as unknown as { jar: { getCookies(at: object): { toValueString(): string }[] } }).jar;
    const cookies = jar.getCookies({ domain: 'localhost', path: '/', secure: false, script: false });
    const abort = new AbortController();
    const reply = await fetch(`${w.address}/api/learners/${owner.ids.learner}/live`, {
      headers: { cookie: cookies.map((c) => c.toValueString()).join('; ') },
      signal: abort.signal,
    });
    const reader = reply.body!.getReader();
    await reader.read();
    await owner.agent
      .post(`/api/learners/${owner.ids.learner}/own`)
      .send({
        writes: [
          { id: null, calendarId: owner.ids.calendar, item: { ...ESSAY, title: `${WORD} new` }, version: 0 },
        ],
      })
      .expect(200);
    let heard = '';
    while (!heard.includes('event: changed')) heard += Buffer.from((await reader.read()).value!).toString();
    abort.abort();
    // A link may have been checked meanwhile, which says no more either.
    expect(heard.replaceAll('event: checked\ndata: {}\n\n', '')).toBe('event: changed\ndata: {}\n\n');
  });
});

describe('links', () => {
  const fetched = async (secret: string) => [
    (await w.caller().get(`/out/${secret}.ics`).expect(200)).text,
    (await w.caller().get(`/open/${secret}`).expect(200)).text,
  ];

  test('for all calendars give none that is kept from somebody, whoever made them, in any form', async () => {
    trying('links for all calendars');
    for (const text of await fetched(links.all)) expect(text).not.toMatch(LEAK);
    const { agent } = people['keeper'];
    const { secret } = (await ok(
      agent
        .post(`/api/learners/${owner.ids.learner}/shares`)
        .send({ name: 'All', rules: DEFAULT_SHARE, page: true, until: null }),
    )) as { secret: string };
    for (const text of await fetched(secret)) expect(text).not.toMatch(LEAK);
  });

  test('that name it go on, since whoever made them sees it', async () => {
    trying('links that name calendars');
    const { secret } = await link('Named', [owner.ids.calendar]);
    const [calendar] = await fetched(secret);
    expect(calendar).toMatch(LEAK);
  });

  test('of somebody else can be paused and deleted, and not changed or given another address', async () => {
    trying('links of others');
    const { agent } = people['keeper'];
    const at = `/api/shares/${links.namedId}`;
    for (const change of [
      { rules: DEFAULT_SHARE },
      { name: 'Mine' },
      { paused: false },
      { until: '2030-01-01' },
    ]) {
      const reply = await agent.patch(at).send(change);
      expect({ change, status: reply.status }).toEqual({ change, status: 403 });
    }
    expect((await agent.post(`${at}/address`).send({})).status).toBe(403);
    const { body } = await agent.patch(at).send({ paused: true }).expect(200);
    expect(body).toMatchObject({ name: 'Private link', own: false, paused: true, rules: { calendars: [] } });
    await agent.delete(at).expect(200);
  });
});

test('of a link that is split, one part kept: nothing is asked about that part, nor is it offered', async () => {
  const { agent, ids } = owner;
  const due = (uid: string, title: string, date: string) => event(uid, title, `DTSTART:${date}T225900Z`);
  feed.calendar(due('n1', 'Letter [Norwegian]', '20261019'), due('s1', `${WORD} mix [Sound]`, '20261020'));
  const address = `http://${feed.host}/split.ics`;
  const sections = ['Norwegian', 'Sound'].map((name) => ({ section: name, name }));
  const { source } = (await ok(
    agent.post(`/api/learners/${ids.learner}/sources`).send({
      ...{ address, zone: ZONE, name: 'All', kind: 'course', ...FLAG },
      split: { rule: { by: 'endTag' }, sections },
    }),
  )) as { source: SourceView };
  const sound = w.services.calendars.ofLearner(ids.learner).find((c) => c.name === 'Sound')!;
  const letter = w.db((db) => db.prepare("SELECT id FROM item WHERE uid = 'n1'").pluck().get()) as string;
  await agent.patch(`/api/items/${letter}/layer`).send({ version: 0, estimate: 45 }).expect(200);
  await agent
    .put(`/api/calendars/${sound.id}/audience`)
    .send({ audience: { members: [], others: 'nothing' } })
    .expect(200);
  // Renewed with other identifiers, so that somebody has to say which is which.
  feed.calendar(
    due('n2', 'Letter home [Norwegian]', '20261026'),
    due('s2', `${WORD} mix two [Sound]`, '20261027'),
  );
  await agent.post(`/api/sources/${source.id}/reading`).send({ confirm: true }).expect(200);
  const asked = async (who: Agent) =>
    (await ok(who.get(`/api/learners/${ids.learner}/questions`))) as Questions;
  expect(JSON.stringify((await asked(agent)).unmatched)).toMatch(LEAK);
  const { unmatched } = await asked(people.edit.agent);
  expect(unmatched.map((each) => each.itemId)).toEqual([letter]);
  expect(unmatched[0]!.offered.map((each) => each.title)).toEqual(['Letter home']);
});

test('the page drawn on the server has no word of it', async () => {
  trying('the page drawn first');
  expect((await owner.agent.get('/today').expect(200)).text).toMatch(LEAK);
  for (const who of KEPT_FROM)
    expect((await people[who].agent.get('/today').expect(200)).text).not.toMatch(LEAK);
});

test('nobody it is kept from offers it to others, or asks them about it', async () => {
  trying('calendars for others');
  for (const who of KEPT_FROM)
    for (const name of ['publish', 'carryForward', 'askToCome', 'writeNote', 'keepOutline'] as const) {
      const { status } = await ask({ w, feed }, people[who].agent, name, SAMPLES[name](owner.ids));
      expect({ who, name, isRefused: status === 403 || status === 404 }).toEqual({
        who,
        name,
        isRefused: true,
      });
    }
});

test('each way out is one of these: a route of the contract, or one of the few beside it', () => {
  const mounted: string[] = [];
  const visit = (router: Router) => {
    for (const layer of router.stack) {
      const { route, handle } = layer as unknown as {
        route?: { path: string | string[]; methods: Record<string, boolean> };
        handle: Router;
      };
      if (route) mounted.push(...[route.path].flat().filter(() => route.methods['get']));
      else if (handle?.stack) visit(handle);
    }
  };
  visit(w.app.router);
  const ofContract = new Set(Object.values(routes).map((route) => route.path as string));
  const triedAbove = ['/out/:secret.ics', '/open/:secret', '/', '/today'];
  // The web export, as it was built.
  const files = ['/{*any}'];
  const tellNothing = ['/api/mail/stop/:token', '/api/openapi.json', '/api/health', '/healthz', '/readyz'];
  expect(mounted.filter((path) => !ofContract.has(path)).sort()).toEqual(
    [...triedAbove, ...files, ...tellNothing].sort(),
  );
});

test('each of the ways out that the code names was tried, and the docs have them as they are', () => {
  expect([...tried].sort()).toEqual(Object.keys(WAYS_OUT).sort());
  expect(readFileSync(join(__dirname, '../../docs/security.md'), 'utf8')).toContain(waysOutTable());
});
