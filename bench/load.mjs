// Many people at once, over the demo: what one asks for again and again with fifty connections, and two hundred people
// with open pages, each asking for something once a second, while one of them changes something each second.
import { mkdtempSync, rmSync } from 'node:fs';
import { Agent, request } from 'node:http';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import autocannon from 'autocannon';
import Database from 'better-sqlite3';
import { root } from '../scripts/lib/setup.mjs';
import { cookieOf, putter, startServer } from './lib.mjs';
import { howMany, judge } from './src/judge.ts';

const PEOPLE = Number(process.env.BENCH_PEOPLE ?? howMany(200, 30));
const SECONDS = Number(process.env.BENCH_SECONDS ?? howMany(20, 2));
/** The support teacher’s table: so many learners, asked for so often, right after a change of one of them, each so long apart. */
const TABLE = { learners: 40, times: howMany(120, 8), apart: 250 };
/** So long after they have come, nothing is at hand yet of what each of them asks for. In milliseconds. */
const ARRIVING = howMany(5_000, 500);
const PASSWORD = 'skerrow-harbour-demo';

/** Ports that are free: the demo's campus has to know its own beforehand. */
const freePort = () =>
  new Promise((done) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address();
      probe.close(() => done(String(port)));
    });
  });

const data = mkdtempSync(join(tmpdir(), 'zephyrfield-bench-'));
const server = await startServer('demo.js', {
  ZEPHYRFIELD_DATA: data,
  ZEPHYRFIELD_WEB: join(root, 'app/dist'),
  ZEPHYRFIELD_PORT: '0',
  ZEPHYRFIELD_CAMPUS_PORT: await freePort(),
  ZEPHYRFIELD_POST_PORT: await freePort(),
  // They all come from one address, and one of them asks as often as fifty do.
  ZEPHYRFIELD_REQUESTS_PER_MINUTE: '100000000',
  ZEPHYRFIELD_SIGN_INS_PER_MINUTE: '100000',
});
const { address, post } = server;
const get = async (path, cookie) => (await fetch(address + path, { headers: { cookie } })).json();

// All have the password of the demo’s people, as it is hashed: hashing two hundred would be most of the time of this.
const db = new Database(join(data, 'zephyrfield.sqlite'));
const put = putter(db);
const { id: first } = db.prepare("SELECT id FROM user WHERE email = 'juno@skerrow.example'").get();
const { password } = db.prepare('SELECT password FROM account WHERE user_id = ?').get(first);
// Three people to a family: the demo's fullest schedule, as often as there are families.
const { id: fullest } = db
  .prepare('SELECT learner_id AS id FROM occurrence GROUP BY learner_id ORDER BY count(*) DESC LIMIT 1')
  .get();
const learners = Array.from({ length: Math.ceil(PEOPLE / 3) }, (_, n) => ({ id: `${fullest}-${n}` }));
const OWN = new Set(['id', 'learner_id', 'calendar_id', 'source_id', 'item_id', 'same_as', 'address_digest']);
const copy = (table, of, n) => {
  const columns = db.pragma(`table_info(${table})`).map(({ name }) => name);
  const from = columns.map((name) => (OWN.has(name) ? `"${name}" || '-${n}'` : `"${name}"`));
  const names = columns.map((name) => `"${name}"`).join(', ');
  db.prepare(`INSERT INTO ${table} (${names}) SELECT ${from.join(', ')} FROM ${table} WHERE ${of} = ?`).run(
    fullest,
  );
};
db.pragma('foreign_keys = OFF');
db.transaction(() => {
  for (let n = 0; n < learners.length; n++) {
    copy('learner', 'id', n);
    for (const table of ['calendar', 'source', 'item', 'occurrence']) copy(table, 'learner_id', n);
  }
  // No check of a link goes on beside.
  db.exec('UPDATE source SET next_check_at = NULL');
}).immediate();
db.transaction(() => {
  const now = Date.now();
  for (let n = 0; n < PEOPLE; n++) {
    const id = `load${n}`;
    const at = { created_at: now, updated_at: now };
    put('user', { id, name: id, email: `${id}@skerrow.example`, email_verified: 1, ...at });
    put('account', { id, account_id: id, provider_id: 'credential', user_id: id, password, ...at });
    put('crew', {
      id,
      joined_at: now,
      person_id: id,
      learner_id: learners[n % learners.length].id,
      access: 'edit',
      position: 0,
    });
  }
  // The last of them looks after many besides, and is none of those that are measured for themselves.
  const own = learners[(PEOPLE - 1) % learners.length];
  const others = learners.filter((learner) => learner !== own).slice(0, TABLE.learners - 1);
  others.forEach(({ id: learnerId }, n) =>
    put('crew', {
      id: `table${n}`,
      joined_at: now,
      person_id: `load${PEOPLE - 1}`,
      learner_id: learnerId,
      access: 'edit',
      position: n + 1,
    }),
  );
})();
db.close();
const people = [];
for (let n = 0; n < PEOPLE; n++) {
  const cookie = cookieOf(
    await post('/api/auth/sign-in/email', { email: `load${n}@skerrow.example`, password: PASSWORD }),
  );
  people.push({ cookie, learnerId: learners[n % learners.length].id });
}

const now = Date.parse((await get('/api/session', people[0].cookie)).now);
const on = (days) => new Date(now + days * 86_400_000).toISOString().slice(0, 19) + 'Z';
const paths = (learnerId) => ({
  session: '/api/session',
  month: `/api/learners/${learnerId}/occurrences?from=${on(-10)}&to=${on(25)}`,
  days: `/api/learners/${learnerId}/occurrences?from=${on(-155)}&to=${on(365)}`,
  today: '/today',
  changes: `/api/learners/${learnerId}/changes`,
  notices: '/api/notices',
});
const cookieFor = ({ cookie, learnerId }) =>
  `${cookie}; zephyrfield-look=${encodeURIComponent(JSON.stringify({ learnerId, hidden: [] }))}`;

const rows = [];
for (const [name, wanted] of Object.entries({ session: 1_500, month: 600, days: 250, today: 150 })) {
  const { requests, latency, non2xx } = await autocannon({
    url: address + paths(people[0].learnerId)[name],
    connections: 50,
    duration: howMany(8, 1),
    headers: { cookie: cookieFor(people[0]), 'accept-encoding': 'gzip' },
  });
  rows.push([
    `${name}, 50 connections`,
    `${Math.round(requests.average)}/s`,
    `≥ ${wanted}/s`,
    `p99 ${latency.p99} ms, ${non2xx} failed`,
  ]);
}

// All learners somebody looks after, one of whom has changed each time.
const teacher = people.at(-1);
const tables = [];
let looked = 0;
for (let n = 0; n < TABLE.times; n++) {
  const began = performance.now();
  looked = (await get('/api/learners-table', teacher.cookie)).rows.length;
  tables.push(performance.now() - began);
  await new Promise((done) => setTimeout(done, TABLE.apart));
  await fetch(
    `${address}/api/learners/${learners[n % Math.min(TABLE.learners - 1, learners.length)].id}/term`,
    {
      method: 'PUT',
      headers: { 'content-type': 'application/json', cookie: teacher.cookie },
      body: JSON.stringify({ term: null, version: null }),
    },
  );
}
const ordered = [...tables.slice(1)].sort((a, b) => a - b);
rows.push([
  `table of ${looked} learners, one of them changed`,
  `p95 ${Math.round(ordered[Math.floor(ordered.length * 0.95)])} ms`,
  '≤ 50 ms',
  `first ${Math.round(tables[0])} ms`,
]);

// Two hundred with open pages.
const agent = new Agent({ keepAlive: true, maxSockets: 2 * PEOPLE });
const took = [];
let failed = 0;
const ask = (path, cookie) =>
  new Promise((done) => {
    const began = performance.now();
    const asking = request(
      address + path,
      { agent, headers: { cookie, 'accept-encoding': 'gzip' } },
      (reply) => {
        reply.resume();
        reply.on('end', () => {
          took.push({ began, ms: performance.now() - began });
          if (reply.statusCode !== 200) failed += 1;
          done();
        });
      },
    );
    asking.on('error', () => ((failed += 1), done()));
    asking.end();
  });
/** When each change was made, by its number, and how long it took until each page heard of it */
let changedAt = 0;
const heard = [];
const streams = people.map(
  ({ cookie, learnerId }, n) =>
    new Promise((open) => {
      const stream = request(
        `${address}/api/learners/${learnerId}/live?page=load${n}`,
        { headers: { cookie } },
        (reply) => {
          reply.on('data', (chunk) => {
            if (changedAt && /event: changed/.test(String(chunk)) && learnerId === people[0].learnerId)
              heard.push(performance.now() - changedAt);
          });
          open(stream);
        },
      );
      stream.end();
    }),
);
const opened = await Promise.all(streams);
const until = performance.now() + SECONDS * 1_000;
const pause = (ms) => new Promise((done) => setTimeout(done, Math.max(0, ms)));
const everybody = people.map(async (person, n) => {
  const all = Object.values(paths(person.learnerId)).filter((_, i) => i !== 1);
  let next = performance.now() + Math.random() * 1_000;
  for (let k = n; performance.now() < until; k++) {
    await pause(next - performance.now());
    await ask(all[k % all.length], cookieFor(person));
    next += 1_000;
  }
});
const [work] = (await get(paths(people[0].learnerId).month, people[0].cookie)).filter((o) => o.due);
let version = work.version;
const changing = (async () => {
  for (let finished = true; performance.now() < until - 1_500; finished = !finished) {
    changedAt = performance.now();
    const reply = await fetch(`${address}/api/items/${work.itemId}/layer`, {
      method: 'PATCH',
      headers: { 'content-type': 'application/json', cookie: people[0].cookie },
      body: JSON.stringify({ recurrenceId: work.recurrenceId, version, finished }),
    });
    version = (await reply.json()).version;
    await pause(1_000);
  }
})();
await Promise.all([...everybody, changing]);
for (const stream of opened) stream.destroy();
agent.destroy();
const beginning = Math.min(...took.map((t) => t.began)) + ARRIVING;
const msOf = (isLater) => took.filter((t) => t.began >= beginning === isLater).map((t) => t.ms);
const at = (list, share) => [...list].sort((a, b) => a - b)[Math.floor(list.length * share)] ?? NaN;
const [arriving, there] = [msOf(false), msOf(true)];
rows.push([
  `${PEOPLE} people who have all come within one second`,
  `${Math.round(arriving.length / (ARRIVING / 1_000))}/s`,
  'none failed',
  `p50 ${at(arriving, 0.5).toFixed(0)} ms, p99 ${at(arriving, 0.99).toFixed(0)} ms`,
]);
rows.push([
  `${PEOPLE} people, a request a second each, from then on`,
  `${Math.round(there.length / (SECONDS - ARRIVING / 1_000))}/s`,
  `p99 ≤ 150 ms, none failed`,
  `p50 ${at(there, 0.5).toFixed(0)} ms, p99 ${at(there, 0.99).toFixed(0)} ms, ${failed} failed`,
]);
rows.push([
  'a change among them, until an open page hears of it',
  `${heard.length} heard`,
  '≤ 1,000 ms',
  `p50 ${at(heard, 0.5).toFixed(0)} ms, longest ${at(heard, 0.9999).toFixed(0)} ms`,
]);
console.log('\nMany people at once');
for (const [what, measured, wanted, more] of rows)
  console.log(`  ${what.padEnd(54)} ${measured.padEnd(10)} wanted ${wanted.padEnd(26)} ${more}`);
judge([
  { what: `${PEOPLE} people, p99`, measured: at(there, 0.99), budget: 150, unit: 'ms' },
  { what: 'requests that failed', measured: failed, budget: 0.5, unit: '' },
  { what: 'a change, until all have heard of it', measured: at(heard, 0.9999), budget: 1_000, unit: 'ms' },
]);
await server.stop();
rmSync(data, { recursive: true, force: true });
