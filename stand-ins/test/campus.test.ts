import { mkdtempSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createCampus, type CampusFeed } from '../src/campus/index';

const FEED: CampusFeed = {
  path: 'navigation',
  name: 'Navigation',
  entries: [
    {
      uid: 'a',
      component: 'event',
      title: 'Tide table exercise',
      start: { kind: 'utc', at: '2026-10-06T22:59:00Z' },
      end: { kind: 'utc', at: '2026-10-06T22:59:00Z' },
    },
    {
      uid: 'b',
      component: 'todo',
      title: 'Keel plan, “long”',
      due: { kind: 'zoned', local: '2026-10-12T16:00:00', tzid: 'Europe/Dublin' },
      alarms: ['-P1D'],
      categories: ['Project', 'Boat'],
    },
  ],
};
const file = join(mkdtempSync(join(tmpdir(), 'campus-')), 'state.json');
let server: Server;
let base: string;

beforeAll(async () => {
  const { app } = createCampus({ feeds: [FEED], stateFile: file });
  await new Promise<void>((done) => (server = app.listen(0, '127.0.0.1', () => done())));
  base = `http://localhost:${(server.address() as AddressInfo).port}`;
});
afterAll(() => new Promise((done) => server.close(done)));

const get = (headers: Record<string, string> = {}) => fetch(`${base}/feeds/navigation.ics`, { headers });
const desk = (action: string, form: Record<string, string>) =>
  fetch(`${base}/desk/navigation/${action}`, {
    method: 'POST',
    body: new URLSearchParams(form),
    redirect: 'manual',
  });

test('serves iCalendar with validators, and says when nothing has changed', async () => {
  const first = await get();
  const text = await first.text();
  expect(first.headers.get('content-type')).toContain('text/calendar');
  expect(text).toContain('DTSTART:20261006T225900Z');
  expect(text).toContain('DUE;TZID=Europe/Dublin:20261012T160000');
  expect(text).toContain('TRIGGER:-P1D');
  expect((await get({ 'if-none-match': first.headers.get('etag')! })).status).toBe(304);
  expect((await get({ 'if-modified-since': first.headers.get('last-modified')! })).status).toBe(304);
});

test('the desk moves a date, adds, calls off and removes; validators notice, a restart keeps it', async () => {
  const before = (await get()).headers;
  await desk('move', { index: '1', title: 'Keel plan', date: '2026-10-15', time: '12:30' });
  await desk('add', { title: 'Extra sheet', date: '2026-10-20' });
  await desk('call-off', { index: '0' });
  const text = await (await get({ 'if-none-match': before.get('etag')! })).text();
  expect(text).toContain('DUE;TZID=Europe/Dublin:20261015T123000');
  expect(text).toContain('SUMMARY:Extra sheet');
  expect(text).toContain('STATUS:CANCELLED');
  await desk('remove', { index: '0' });
  const again = createCampus({ feeds: [FEED], stateFile: file }).state.find('navigation')!.feed;
  expect(again.entries.map((e) => e.title)).toEqual(['Keel plan', 'Extra sheet']);
});

test.each([
  ['missing', 404, ''],
  ['unauthorised', 401, ''],
  ['gone', 410, ''],
  ['busy', 429, ''],
  ['fault', 500, ''],
  ['signIn', 200, '<form>'],
  ['empty', 200, 'END:VCALENDAR'],
])('the mode %s answers %i', async (mode, status, holds) => {
  await desk('mode', { mode });
  const reply = await get();
  expect(reply.status).toBe(status);
  const text = await reply.text();
  expect(text).toContain(holds);
  expect(text).not.toContain('Keel plan');
  await desk('mode', { mode: 'normal' });
});

test('what is typed at the desk is shown as text', async () => {
  await desk('add', { title: '<script>alert(1)</script>', date: '2026-10-20' });
  expect(await (await fetch(`${base}/desk`)).text()).not.toContain('<script>');
});
