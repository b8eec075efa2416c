// Ten thousand people with twenty reminders each in one minute: how fast they are queued and handed to the
// mail stand-in, and what that does to who is asking for something meanwhile. The server is a process of its
// own, as it runs.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { createPostbox } from '@zephyrfield/stand-ins/postbox';
import { cookieOf, putter, startServer } from './lib.mjs';
import { howMany, judge } from './src/judge.ts';

const PEOPLE = Number(process.env.BENCH_PEOPLE ?? howMany(10_000, 20));
const EACH = 20;
const ASK_EVERY = 25;
const LEAD = 15 * 60_000;
/** Time until the first is due, in milliseconds, and over how long all are spread, in seconds. */
const [UNTIL, SPREAD] = [howMany(30_000, 4_000), howMany(60, 5)];

const postbox = createPostbox();
const listening = postbox.smtp.listen(0, '127.0.0.1');
await new Promise((done) => listening.once('listening', done));
const data = mkdtempSync(join(tmpdir(), 'zephyrfield-bench-'));
const env = {
  ZEPHYRFIELD_DATA: data,
  ZEPHYRFIELD_PORT: '0',
  ZEPHYRFIELD_OPEN_SIGN_UP: '1',
  // One person asks all the while, more often than anybody would.
  ZEPHYRFIELD_REQUESTS_PER_MINUTE: '6000',
  ZEPHYRFIELD_SMTP_URL: `smtp://127.0.0.1:${listening.address().port}`,
};

const up = () =>
  startServer('main.js', env, process.env.BENCH_PROF ? ['--cpu-prof', '--cpu-prof-dir=/tmp/prof'] : []);

// Somebody who looks at their month meanwhile, and a database with everybody in it.
let server = await up();
const looker = { name: 'Looker', email: 'looker@skerrow.example', password: 'a good long password' };
let cookie = cookieOf(
  await server.post('/api/auth/sign-up/email', { ...looker, setUpWord: server.setUpWord }),
);
const learner = await (
  await server.post('/api/learners', { name: 'Looker', zone: 'Europe/Dublin' }, cookie)
).json();
await server.stop();

const begin = Date.now() + LEAD + UNTIL;
const db = new Database(join(data, 'zephyrfield.sqlite'));
db.pragma('synchronous = OFF');
const noticeSettings = JSON.stringify({
  all: {
    dueSoon: ['app', 'mail'],
    newWork: [],
    moved: [],
    calledOff: [],
    pastDue: [],
    handedIn: [],
    sheet: [],
  },
  learners: {},
  quiet: null,
  sheets: { morning: null, evening: null, week: null },
  muted: { items: [], calendars: [] },
});
const rowsOf = (n) => {
  const id = `p${n}`;
  const now = Date.now();
  return [
    [
      'user',
      { id, name: id, email: `${id}@skerrow.example`, email_verified: 1, created_at: now, updated_at: now },
    ],
    ['learner', { id, name: id, zone: 'Europe/Dublin', created_at: now }],
    ['crew', { id: `crew ${id}`, person_id: id, learner_id: id, access: 'edit', position: 0, joined_at: 0 }],
    ['notice_settings', { person_id: id, value: noticeSettings }],
    [
      'calendar',
      {
        id,
        learner_id: id,
        name: 'Home',
        kind: 'home',
        category: '',
        colour: 'rust',
        flag: '{"shape":"square","pattern":"plain","letters":"X"}',
        zone: 'Europe/Dublin',
        position: 1,
        alarms: 'ignore',
        created_at: now,
      },
    ],
    [
      'source',
      {
        id,
        learner_id: id,
        calendar_id: id,
        kind: 'handMade',
        address_sealed: '',
        address_masked: '',
        address_digest: id,
        horizon_to: 9e14,
        created_at: now,
      },
    ],
    ...Array.from({ length: EACH }, (_, i) => {
      const at = begin + Math.floor((i / EACH) * SPREAD) * 1000;
      const when = JSON.stringify({
        kind: 'instant',
        at: new Date(at).toISOString().slice(0, 19) + 'Z',
        zone: 'Europe/Dublin',
      });
      return [
        [
          'item',
          {
            id: `${id}-${i}`,
            learner_id: id,
            calendar_id: id,
            source_id: id,
            uid: `${id}-${i}`,
            digest: 0,
            must_reparse: 1,
            kind: 'meeting',
            hand_in: 'nothing',
            title: `Thing ${i}`,
            content: '{}',
            version: 1,
            created_at: now,
            updated_at: now,
          },
        ],
        [
          'occurrence',
          {
            item_id: `${id}-${i}`,
            recurrence_id: '',
            learner_id: id,
            calendar_id: id,
            title: `Thing ${i}`,
            place: '',
            status: 'confirmed',
            kind: 'meeting',
            hand_in: 'nothing',
            start: when,
            from_ms: at,
            to_ms: at + 1,
            duplicate: 0,
            own: 1,
          },
        ],
      ];
    }).flat(),
  ];
};
const put = putter(db);
db.transaction(() => {
  for (let n = 0; n < PEOPLE; n++) for (const [table, row] of rowsOf(n)) put(table, row);
})();
db.close();

server = await up();
cookie = cookieOf(await server.post('/api/auth/sign-in/email', looker));
await new Promise((done) => setTimeout(done, Math.max(0, begin - LEAD - Date.now())));
const began = Date.now();
const took = [];
let asking = true;
const ask = async () => {
  while (asking) {
    const at = performance.now();
    const reply = await fetch(
      `${server.address}/api/learners/${learner.id}/occurrences?from=2026-10-01T00:00:00Z&to=2026-11-01T00:00:00Z`,
      { headers: { cookie } },
    );
    await reply.arrayBuffer();
    if (!reply.ok) throw new Error(`the API answered ${reply.status}`);
    took.push(performance.now() - at);
    await new Promise((done) => setTimeout(done, ASK_EVERY));
  }
};
const asked = ask();
const reader = new Database(join(data, 'zephyrfield.sqlite'), { readonly: true });
const sent = reader.prepare(`SELECT count(*) FROM delivery WHERE state = 'sent'`).pluck();
const wanted = PEOPLE * EACH * 2;
let queuedAt = 0;
const queued = reader.prepare('SELECT count(*) FROM delivery').pluck();
for (;;) {
  await new Promise((done) => setTimeout(done, 1000));
  if (!queuedAt && queued.get() >= wanted) queuedAt = Date.now();
  if (sent.get() >= wanted) break;
  if (Date.now() - began > 15 * 60_000)
    throw new Error(`after a quarter of an hour ${sent.get()} of ${wanted} were sent`);
}
const seconds = (Date.now() - began) / 1000;
asking = false;
await asked;
const sorted = took.sort((a, b) => a - b);
const p99 = sorted[Math.floor(sorted.length * 0.99)];
const twice = postbox.mails.filter((m) => m.times > 1).length;
console.log(`\n${PEOPLE} people, ${EACH} reminders each within ${SPREAD} s`);
console.log(
  `all queued after ${((queuedAt - began) / 1000).toFixed(0)} s, all handed over after ${seconds.toFixed(0)} s: ${Math.round((PEOPLE * EACH) / seconds)} reminders a second, in ${postbox.mails.length} mails (${Math.round(postbox.mails.length / seconds)} a second); handed over twice: ${twice}`,
);
judge([
  { what: `API meanwhile, p99 of ${took.length}`, measured: p99, budget: 150, unit: 'ms' },
  { what: 'reminders handed over twice', measured: twice, budget: 0.5, unit: 'mails' },
]);
reader.close();
await server.stop();
await new Promise((done) => postbox.smtp.close(done));
rmSync(data, { recursive: true, force: true });
