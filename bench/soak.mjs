// `npm run soak [minutes]`: thirty people with open pages, links that change, ticks and new items, for twelve minutes (or a
// day). Memory, open files, the log beside the database and the 99th of a hundred answers, at the beginning, in the middle
// and at the end: nothing may grow beyond noise.
import { mkdtempSync, readFileSync, readdirSync, rmSync, statSync } from 'node:fs';
import { createServer } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { cookieOf, putter, startServer } from './lib.mjs';

const MINUTES = Number(process.argv[2] ?? 12);
const PEOPLE = 30;
const MEGABYTE = 2 ** 20;
const pause = (ms) => new Promise((done) => setTimeout(done, ms));

// A campus whose feeds move a date with every asking.
let asked = 0;
const stamp = (days) =>
  new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 10).replaceAll('-', '');
const feed = (n) =>
  [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    ...Array.from({ length: 60 }, (_, i) =>
      [
        'BEGIN:VEVENT',
        `UID:${n}-${i}@campus.example`,
        `SUMMARY:Sheet ${i}`,
        `DTSTART:${stamp(2 + ((i * 2 + (i === 0 ? asked : 0)) % 200))}T150000Z`,
        'END:VEVENT',
      ].join('\r\n'),
    ),
    'END:VCALENDAR',
    '',
  ].join('\r\n');
const campus = createServer((req, res) => {
  asked += 1;
  res.writeHead(200, { 'content-type': 'text/calendar' }).end(feed(req.url));
});
await new Promise((done) => campus.listen(0, '127.0.0.1', done));
campus.unref();
const host = `localhost:${campus.address().port}`;

const data = mkdtempSync(join(tmpdir(), 'zephyrfield-soak-'));
const server = await startServer('main.js', {
  ZEPHYRFIELD_DATA: data,
  ZEPHYRFIELD_PORT: '0',
  ZEPHYRFIELD_ALLOW_HOSTS: host,
  ZEPHYRFIELD_OPEN_SIGN_UP: '1',
  ZEPHYRFIELD_REQUESTS_PER_MINUTE: '100000000',
  ZEPHYRFIELD_CHECKS_PER_MINUTE: '100000000',
  ZEPHYRFIELD_SIGN_INS_PER_MINUTE: '100000',
});
const { address, pid, post } = server;

/** Everybody's answers: when, and how long each took */
const took = [];
let failed = 0;
async function ask(path, cookie, method = 'GET', body = undefined) {
  const began = performance.now();
  const reply = await fetch(address + path, {
    method,
    headers: { cookie, origin: address, ...(method === 'GET' ? {} : { 'content-type': 'application/json' }) },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  }).catch(() => null);
  const said = await reply?.json().catch(() => null);
  took.push({ at: Date.now(), ms: performance.now() - began });
  // Somebody else may have been faster: that is an answer.
  if (!reply || (!reply.ok && reply.status !== 409)) failed += 1;
  return reply?.ok ? said : null;
}

const flag = { colour: 'rust', flag: { shape: 'square', pattern: 'plain', letters: 'SK' } };
// One with a password, and the others made like them: so many accounts are not made from one address.
const PASSWORD = 'a good long password';
await post('/api/auth/sign-up/email', {
  name: 'Soak',
  email: 'soak@skerrow.example',
  password: PASSWORD,
  setUpWord: server.setUpWord,
});
const db = new Database(join(data, 'zephyrfield.sqlite'));
const put = putter(db);
const password = db.prepare('SELECT password FROM account').pluck().get();
db.transaction(() => {
  const now = Date.now();
  const at = { created_at: now, updated_at: now };
  for (let n = 0; n < PEOPLE; n++) {
    const id = `soak${n}`;
    put('user', { id, name: id, email: `${id}@skerrow.example`, email_verified: 1, ...at });
    put('account', { id, account_id: id, provider_id: 'credential', user_id: id, password, ...at });
    put('learner', { id, name: id, zone: 'Europe/Dublin', created_at: now });
    put('crew', {
      id: `${id} in ${id}`,
      person_id: id,
      learner_id: id,
      access: 'edit',
      position: 0,
      joined_at: now,
    });
  }
})();
db.close();
const people = [];
for (let n = 0; n < PEOPLE; n++) {
  const id = `soak${n}`;
  const cookie = cookieOf(
    await post('/api/auth/sign-in/email', { email: `${id}@skerrow.example`, password: PASSWORD }),
  );
  const { source } = await ask(`/api/learners/${id}/sources`, cookie, 'POST', {
    address: `http://${host}/${n}.ics?key=${n}`,
    zone: 'Europe/Dublin',
    name: 'Course',
    kind: 'course',
    ...flag,
  });
  const stop = new AbortController();
  const stream = await fetch(`${address}/api/learners/${id}/live`, {
    headers: { cookie },
    signal: stop.signal,
  });
  void stream.text().catch(() => {});
  people.push({ cookie, id, sourceId: source.id, stop });
}

const until = Date.now() + MINUTES * 60_000;
const began = Date.now();
const live = async ({ cookie, id, sourceId }) => {
  for (let turn = 0; Date.now() < until; turn++) {
    const day = (n) => new Date(Date.now() + n * 86_400_000).toISOString();
    const list = await ask(`/api/learners/${id}/occurrences?from=${day(-1)}&to=${day(90)}`, cookie);
    const one = list?.[Math.floor(Math.random() * list.length)];
    if (one)
      await ask(`/api/items/${one.itemId}/layer`, cookie, 'PATCH', {
        recurrenceId: one.recurrenceId,
        version: one.version,
        finished: !one.finished,
      });
    if (turn % 10 === 0) await ask(`/api/sources/${sourceId}/reading`, cookie, 'POST', {});
    if (turn % 5 === 0) await ask(`/api/learners/${id}/changes`, cookie);
    await ask('/api/session', cookie);
    await pause(500 + Math.random() * 1_500);
  }
};

const samples = [];
const watching = setInterval(() => {
  const status = readFileSync(`/proc/${pid}/status`, 'utf8');
  samples.push({
    at: Date.now(),
    memory: Number(/VmRSS:\s+(\d+)/.exec(status)[1]) / 1024,
    files: readdirSync(`/proc/${pid}/fd`).length,
    log: (statSync(join(data, 'zephyrfield.sqlite-wal'), { throwIfNoEntry: false })?.size ?? 0) / MEGABYTE,
  });
}, 2_000);
await Promise.all(people.map(live));
clearInterval(watching);
people.forEach(({ stop }) => stop.abort());

const sorted = (list) => [...list].sort((a, b) => a - b);
const middle = (list) => sorted(list)[Math.floor(list.length / 2)] ?? NaN;
const third = (list, n) => {
  const length = (until - began) / 3;
  return list.filter(({ at }) => at >= began + n * length && at < began + (n + 1) * length);
};
const of = (n) => {
  const [here, answers] = [third(samples, n), sorted(third(took, n).map(({ ms }) => ms))];
  return {
    memory: middle(here.map((s) => s.memory)),
    files: middle(here.map((s) => s.files)),
    log: Math.max(...here.map((s) => s.log)),
    p99: answers[Math.floor(answers.length * 0.99)] ?? NaN,
  };
};
const thirds = [0, 1, 2].map(of);
console.log(`\n${PEOPLE} people for ${MINUTES} minutes: ${took.length} answers, ${failed} failed`);
for (const [name, unit] of [
  ['memory', 'MB'],
  ['files', 'open'],
  ['log', 'MB at the most'],
  ['p99', 'ms'],
])
  console.log(`  ${name.padEnd(8)} ${thirds.map((t) => t[name].toFixed(0).padStart(6)).join(' →')} ${unit}`);
const [first, second, last] = thirds;
const faults = [
  failed && `${failed} answers failed`,
  last.memory > second.memory * 1.2 + 20 && 'memory grows',
  last.files > second.files + 20 && 'open files grow',
  last.log > 64 && 'the log beside the database grows',
  last.p99 > first.p99 * 2 + 50 && 'answers take longer and longer',
].filter(Boolean);
for (const fault of faults) console.log(`  FAILED: ${fault}`);
await server.stop();
rmSync(data, { recursive: true, force: true });
process.exit(faults.length ? 1 : 0);
