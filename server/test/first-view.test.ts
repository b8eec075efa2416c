import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { join } from 'node:path';
import type { DeviceLook } from '@zephyrfield/core/api/look';
import request from 'supertest';
import { ATTEMPTS } from '../src/people/attempts';
import { FLAG, FOLDER, Installation } from './harness';

// What draws is the built app's (the browser tests look at it); here a small one tells what it was given.
const DRAWER = `exports.drawToday = ({ session, learnerId, calendars, occurrences, look }) => {
  if (calendars.some((c) => c.name === 'Broken')) throw new Error('Juno’s secret');
  const told = [session.person.name, session.learners.find((l) => l.id === learnerId).name, calendars.map((c) => c.name), occurrences.map((o) => o.title), look.hidden, session.now.slice(0, 16)];
  return { html: '<main>$& ' + JSON.stringify(told) + '</main>', css: '.r-1{color:red}', replies: [['/api/told', told], ['/api/rude', '</script><b>$&'], ['/api/session', session]] };
};`;
const PAGE =
  '<!doctype html><html lang="en"><head></head><body><div id="root"><!--first view--><i>coming</i><!--/first view--></div></body></html>';
const CSS_DIGEST = `'sha256-${createHash('sha256').update('.r-1{color:red}').digest('base64')}'`;

let web: string;
let w: Installation;
let agent: ReturnType<typeof request.agent>;
let learnerId: string;
beforeAll(async () => {
  web = mkdtempSync(join(FOLDER, 'zephyrfield-web-'));
  mkdirSync(join(web, '.server-render'));
  writeFileSync(join(web, 'index.html'), PAGE);
  writeFileSync(join(web, '.server-render/today.cjs'), DRAWER);
  w = await Installation.start('', { ZEPHYRFIELD_WEB: web });
  ({ agent, learnerId } = await w.person());
});
// So many pages as these are drawn for nobody in so short a time.
beforeEach(() => w.services.limits.forget('draw', w.services.people.byEmail('juno@skerrow.example')!.id));
afterAll(async () => {
  await w.stop();
  rmSync(web, { recursive: true });
});

const calendar = async (of: string, name: string) =>
  (
    (
      await agent
        .post(`/api/learners/${of}/calendars`)
        .send({ name, kind: 'course', zone: 'Europe/Dublin', ...FLAG })
        .expect(200)
    ).body as { id: string }
  ).id;
const saying = (look: DeviceLook | string) =>
  `zephyrfield-look=${encodeURIComponent(typeof look === 'string' ? look : JSON.stringify(look))}`;
const ask = (path = '/today', look?: DeviceLook | string) =>
  agent
    .get(path)
    .set('Cookie', look === undefined ? '' : saying(look))
    .expect(200);
const told = (html: string) => JSON.parse(/<main>\$& (.*)<\/main>/.exec(html)?.[1] ?? 'null') as unknown;

test('Today stands in the page, as this person sees it on this device; its rules are the only thing inline it may have', async () => {
  const id = await calendar(learnerId, 'Tides');
  const due = { kind: 'instant', at: '2026-10-06T22:59:00Z', zone: 'Europe/Dublin' };
  const item = {
    kind: 'assignment',
    handIn: 'online',
    title: 'Tables',
    place: '',
    details: '',
    when: due,
    end: null,
    repeat: null,
    changes: [],
  };
  await agent
    .post(`/api/learners/${learnerId}/own`)
    .send({ writes: [{ id: null, calendarId: id, item, version: 0 }] })
    .expect(200);
  const reply = await ask('/today', { learnerId, hidden: ['x'] });
  expect(told(reply.text)).toEqual(['Juno', 'Juno', ['Tides'], ['Tables'], ['x'], '2026-10-06T15:10']);
  expect(reply.text).toContain('<html data-server-rendered lang="en">');
  expect(reply.text).toContain('<div id="root"><main>');
  // What it was drawn from goes with it, and nothing in it ends the element it stands in.
  const [, block] = /<script type="application\/json" id="replies">(.*?)<\/script>/.exec(reply.text)!;
  expect(JSON.parse(block!)).toEqual([
    ['/api/told', told(reply.text)],
    ['/api/rude', '</script><b>$&'],
    ['/api/session', expect.objectContaining({ person: expect.objectContaining({ name: 'Juno' }) })],
  ]);
  expect(reply.text).not.toContain('coming');
  expect(reply.text).toContain('<head><style id="react-native-stylesheet">.r-1{color:red}</style>');
  expect(reply.headers['content-security-policy']).toContain(`style-src 'self' ${CSS_DIGEST}`);
  expect(reply.headers['cache-control']).toBe('no-store');
  expect((await ask('/')).text).toContain('data-server-rendered');
});

test('the learner last chosen is drawn; one who is not the person’s is not', async () => {
  const other = await w.learner(agent, 'Tobias');
  expect(told((await ask('/today', { learnerId: other, hidden: [] })).text)).toMatchObject({ 1: 'Tobias' });
  expect(told((await ask('/today', { learnerId: 'somebody-else', hidden: [] })).text)).toMatchObject({
    1: 'Juno',
  });
});

test('what a device says is taken for what it may be; what is nothing of the kind, for nothing', async () => {
  for (const rubbish of [
    '{',
    '[]',
    '{"hidden":1}',
    `{"learnerId":null,"hidden":${JSON.stringify(Array(41).fill('x'))}}`,
  ])
    expect(told((await ask('/today', rubbish)).text)).toMatchObject({ 4: [] });
});

test('a theme that was chosen is there from the start', async () => {
  const { body } = await agent.get('/api/session').expect(200);
  const { settings } = body as { settings: object };
  await agent
    .put('/api/settings')
    .send({ ...settings, theme: 'dark' })
    .expect(200);
  expect((await ask()).text).toContain('<html data-server-rendered data-theme="dark" lang="en">');
  await agent.put('/api/settings').send(settings).expect(200);
  expect((await ask()).text).toContain('<html data-server-rendered lang="en">');
});

test('what was drawn stands until the schedule or the minute is another, and tells the time as it is', async () => {
  const told1 = told((await ask()).text);
  w.now += 1_000;
  const { text } = await ask();
  expect(told(text)).toEqual(told1);
  const replies = JSON.parse(/id="replies">(.*)<\/script>/.exec(text)![1]!) as [string, { now?: string }][];
  expect(replies.find(([path]) => path === '/api/session')![1].now).toBe(new Date(w.now).toISOString());
  await calendar(learnerId, 'Winds');
  expect(told((await ask()).text)).not.toEqual(told1);
  const told2 = told((await ask()).text);
  w.now += 60_000;
  expect(told((await ask()).text)).not.toEqual(told2);
});

describe('the page as it is for everybody', () => {
  const plain = (reply: { text: string; headers: Record<string, string> }) => {
    expect(reply.text).toBe(PAGE);
    expect(reply.headers['cache-control']).toBe('no-cache');
    expect(reply.headers['content-security-policy']).not.toContain(CSS_DIGEST);
  };

  test('for who is not signed in, for other places, and where too much is hidden to know of it', async () => {
    plain(await request(w.address).get('/today').expect(200));
    plain(await ask('/calendar'));
    plain(await ask('/today', { learnerId, hidden: null }));
  });

  test('where drawing fails; what is said of it holds nothing of anybody', async () => {
    const broken = await w.learner(agent, 'Tobias');
    await calendar(broken, 'Broken');
    plain(await ask('/today', { learnerId: broken, hidden: [] }));
    expect(w.logged.at(-1)).toMatch(/^Today could not be drawn \(fault Error at /);
    expect(w.logged.join()).not.toContain('secret');
  });

  test('for who asks for it all the time: drawing takes as long as many answers', async () => {
    const own = await Installation.start('', { ZEPHYRFIELD_WEB: web });
    const { agent: busy } = await own.person('Wren', 'wren@skerrow.example');
    const isDrawn: boolean[] = [];
    const draw = async (hidden: string[]) => {
      const { text } = await busy
        .get('/today')
        .set('Cookie', saying({ learnerId: null, hidden }))
        .expect(200);
      return text.includes('data-server-rendered');
    };
    for (let i = 0; i <= ATTEMPTS.draw.points; i++) isDrawn.push(await draw([`c${i}`]));
    expect(isDrawn.filter(Boolean)).toHaveLength(ATTEMPTS.draw.points);
    expect(isDrawn.at(-1)).toBe(false);
    // What has been drawn already stands for the rest of its minute.
    expect(await draw(['c0'])).toBe(true);
    await own.stop();
  });

  test('for who has no schedule yet', async () => {
    const alone = await Installation.start('', { ZEPHYRFIELD_WEB: web });
    const fresh = await alone.account('Wren', 'wren@skerrow.example');
    plain(await fresh.get('/today').expect(200));
    await alone.stop();
  });
});

test('the drawer itself is not given away', async () => {
  expect((await request(w.address).get('/.server-render/today.cjs')).status).toBe(404);
});
