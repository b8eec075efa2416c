// All that could stop a server, at once, while others use it as usual: what those wait for. Part of `npm run
// bench`.
import { Buffer } from 'node:buffer';
import { fork, spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer, request } from 'node:http';
import { connect } from 'node:net';
import { constants, setPriority, tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { writeArchive } from '../server/src/backup/archive.ts';
import { archive } from '../server/test/archive.ts';
import { BRIEF as IS_BRIEF, howMany } from './src/judge.ts';

const SECONDS = Number(process.env.SECONDS ?? howMany(25, 3));
const BUDGET = 500;
/** What the server may take at the most, in MB. */
const MEMORY_BUDGET = 1_000;
const root = fileURLToPath(new URL('..', import.meta.url));
const PASSWORD = 'a good long password';
const FLAG = { colour: 'deep', flag: { shape: 'pennon', pattern: 'bar', letters: 'ON' } };
const BRIEF_PART = 'x'.repeat(4_000);
const BRIEF = Object.fromEntries(
  ['aim', 'steps', 'time', 'help', 'adjustments', 'good', 'ask', 'questions'].map((part) => [
    part,
    BRIEF_PART,
  ]),
);

const event = (uid, title, ...lines) =>
  ['BEGIN:VEVENT', `UID:${uid}`, `SUMMARY:${title}`, ...lines, 'END:VEVENT'].join('\r\n');
const calendar = (...events) =>
  ['BEGIN:VCALENDAR', 'VERSION:2.0', ...events, 'END:VCALENDAR', ''].join('\r\n');
const FEEDS = {
  '/usual.ics': calendar(
    ...Array.from({ length: 200 }, (_, i) =>
      event(`u${i}`, `Lab log ${i}`, `DTSTART;VALUE=DATE:2026${String(1 + (i % 12)).padStart(2, '0')}10`),
    ),
  ),
  '/alike.ics': calendar(
    ...Array.from({ length: 1000 }, (_, i) =>
      event(`l${i}`, `Lab log ${i}`, `DTSTART;VALUE=DATE:2026${String(1 + (i % 12)).padStart(2, '0')}10`),
    ),
  ),
  '/markup.ics': calendar(
    event('m', 'Markup', 'DTSTART;VALUE=DATE:20261006', `DESCRIPTION:${'<p'.repeat(100_000)}`),
  ),
};
const HEAVY = calendar(
  ...Array.from({ length: 400 }, (_, i) =>
    event(`h${i}`, 'Heavy', 'DTSTART:19700101T000000Z', 'RRULE:FREQ=SECONDLY;BYDAY=MO;COUNT=999999'),
  ),
);
const WILD = `FREQ=YEARLY;BYWEEKNO=${Array.from({ length: 53 }, (_, i) => i + 1).join(',')};BYDAY=MO,TU,WE,TH,FR,SA,SU;COUNT=999999`;

/** Asks as somebody, by their cookie. */
const asking =
  (base, cookie) =>
  async (method, path, body, type = 'application/json') => {
    const isFile = type !== 'application/json';
    const headers = { cookie, ...(method === 'GET' ? {} : { 'content-type': type }) };
    const reply = await fetch(`${base}${path}`, {
      method,
      headers,
      ...(body === undefined ? {} : { body: isFile ? body : JSON.stringify(body) }),
    });
    const text = await reply.text();
    return {
      status: reply.status,
      body: text.startsWith('{') || text.startsWith('[') ? JSON.parse(text) : null,
    };
  };

/** Everything hostile at once, in a process of its own, until a moment. */
async function attack({ base, inbox, attackers }) {
  const { markup, alike, files, own, reader, daily, brackets, swelling, mover } = attackers;
  const ask = ({ cookie }) => asking(base, cookie);
  let until = 0;
  const going = () => Date.now() < until;
  const counts = {};
  const count = (what, status) => ((counts[what] ??= {})[status] = (counts[what][status] ?? 0) + 1);
  const again = async (what, work) => {
    while (going())
      count(
        what,
        await work().then(
          (r) => r.status,
          () => 'cut',
        ),
      );
  };
  const wild = {
    writes: Array.from({ length: 50 }, () => ({
      id: null,
      calendarId: own.home,
      version: 0,
      item: {
        kind: 'assignment',
        handIn: 'paper',
        title: 'Wild',
        place: '',
        details: '',
        when: { kind: 'date', date: '0100-01-01' },
        end: null,
        repeat: { rule: WILD, except: [] },
        changes: [],
      },
    })),
  };
  const bomb = archive('[Content_Types].xml', 1_000 * 2 ** 20);
  /** A schedule's archive of one part, whatever stands in it. */
  const archiveOf = async (bytes) => {
    const folder = mkdtempSync(join(tmpdir(), 'zephyrfield-hostile-'));
    const file = join(folder, 'a.zip');
    const head = { format: 'zephyrfield-schedule', version: 1, made: 0 };
    await writeArchive(file, head, [{ name: 'schedule.json', bytes }]);
    const zip = readFileSync(file);
    rmSync(folder, { recursive: true });
    return zip;
  };
  const nested = await archiveOf(Buffer.alloc(90 * 2 ** 20, '['));
  const zeros = await archiveOf(Buffer.alloc(400 * 2 ** 20));
  const every = {
    writes: Array.from({ length: 8 }, (_, n) => ({
      ...wild.writes[0],
      calendarId: daily.home,
      item: {
        ...wild.writes[0].item,
        title: `Daily ${n}`,
        when: { kind: 'date', date: '2026-09-01' },
        repeat: { rule: 'FREQ=DAILY', except: [] },
      },
    })),
  };
  /** Forty connections to the inbox that say something, and nothing. */
  const nothing = () =>
    new Promise((done) => {
      const socket = connect(inbox, '127.0.0.1').on('error', () => {});
      const saying = setInterval(() => socket.write('NOOP\r\n'), 50);
      const over = setTimeout(() => socket.destroy(), Math.max(0, until - Date.now()));
      socket.resume().once('close', () => {
        clearInterval(saying);
        clearTimeout(over);
        done({ status: 'ended' });
      });
    });
  const restored = ({ cookie }, zip) =>
    ask({ cookie })('POST', '/api/archives/restored', zip, 'application/octet-stream');
  const marks = Buffer.from('\ufeff'.repeat(3 * 2 ** 20));

  /** A body of 300 MB to a door anybody may knock at, as fast as it is taken. */
  const flood = () =>
    new Promise((done, fail) => {
      const asking = request(
        `${base}/api/auth/sign-in/email`,
        { method: 'POST', headers: { 'content-type': 'application/json', 'content-length': 300 * 2 ** 20 } },
        (res) => {
          res.resume();
          asking.destroy();
          done({ status: res.statusCode });
        },
      );
      asking.on('error', fail);
      const piece = Buffer.alloc(2 ** 20, 'x');
      const push = () => {
        while (!asking.destroyed && asking.write(piece));
        asking.once('drain', push);
      };
      push();
    });

  // Making all of it takes its time: what is measured begins when it is there.
  process.send('ready');
  until = await new Promise((begin) => process.once('message', begin));
  const hostile = [
    again('descriptions of 200 KB', () => ask(markup)('GET', `/api/items/${markup.item}`)),
    again('one brief on a thousand', () =>
      ask(alike)('PUT', `/api/items/${alike.item}/brief`, { brief: BRIEF, alike: true }),
    ),
    again('archives that grow', () =>
      ask(files)('POST', `/api/items/${files.item}/files?name=a.docx`, bomb, 'application/octet-stream'),
    ),
    again('byte-order marks', () =>
      ask(files)('POST', `/api/items/${files.item}/files?name=a.txt`, marks, 'application/octet-stream'),
    ),
    again('fifty wild repeats', () => ask(own)('POST', `/api/learners/${own.learner}/own`, wild)),
    again('files that take long', () =>
      ask(reader)(
        'POST',
        `/api/learners/${reader.learner}/files?name=a.ics&zone=Europe/Dublin`,
        Buffer.from(HEAVY),
        'text/calendar',
      ),
    ),
    again('archives of brackets', () => restored(brackets, nested)),
    again('archives that swell', () => restored(swelling, zeros)),
    again('daily items', () => ask(daily)('POST', `/api/learners/${daily.learner}/own`, every)),
    again('three years at once', () =>
      ask(daily)(
        'GET',
        `/api/learners/${daily.learner}/occurrences?from=2026-09-01T00:00:00Z&to=2029-11-01T00:00:00Z`,
      ),
    ),
    ...Array.from({ length: 20 }, () =>
      again('changes of address', () =>
        ask(mover)('PUT', '/api/account/email', { email: 'mover2@skerrow.example', password: PASSWORD }),
      ),
    ),
    ...Array.from({ length: 40 }, () => again('an inbox kept busy', nothing)),
    again('pages to be drawn', () => ask(own)('GET', '/today')),
    again('bodies of 300 MB', flood),
    again('wrong passwords', () =>
      fetch(`${base}/api/auth/sign-in/email`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ email: 'usual0@skerrow.example', password: 'not the password' }),
      }),
    ),
  ];

  await Promise.all(hostile);
  for (const [what, statuses] of Object.entries(counts))
    console.log(
      `  ${what}: ${Object.entries(statuses)
        .map(([s, n]) => `${n} × ${s}`)
        .join(', ')}`,
    );
  process.exit(0);
}

/** Finds a port that nobody listens at. */
function freePort() {
  return new Promise((done) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address();
      probe.close(() => done(port));
    });
  });
}

/** Sets a server up, has it attacked, and asks beside that as people do. */
async function measure() {
  const feeds = createServer((req, res) =>
    res
      .writeHead(200, { 'content-type': 'text/calendar' })
      .end(FEEDS[new URL(req.url, 'http://x').pathname] ?? ''),
  );
  await new Promise((done) => feeds.listen(0, '127.0.0.1', done));
  const feedHost = `localhost:${feeds.address().port}`;

  const data = mkdtempSync(join(tmpdir(), 'zephyrfield-hostile-'));
  const env = {
    ...process.env,
    ZEPHYRFIELD_PORT: '0',
    ZEPHYRFIELD_DATA: data,
    ZEPHYRFIELD_OPEN_SIGN_UP: '1',
    ZEPHYRFIELD_ALLOW_HOSTS: feedHost,
    ZEPHYRFIELD_WEB: join(root, 'app/dist'),
    ZEPHYRFIELD_INBOX_PORT: String(await freePort()),
  };
  const server = spawn(
    process.execPath,
    [
      ...(process.env.PROFILE ? ['--cpu-prof', `--cpu-prof-dir=${process.env.PROFILE}`] : []),
      join(root, 'server/dist/main.js'),
    ],
    {
      env,
      stdio: ['ignore', 'pipe', 'inherit'],
    },
  );
  let word = '';
  const base = await new Promise((ready) => {
    let said = '';
    server.stdout.on('data', (chunk) => {
      said += chunk;
      word = /set-up word[^:]*: (\S+)/.exec(said)?.[1] ?? word;
      const at = /ready at (\S+)\n/.exec(said)?.[1];
      if (at) ready(at);
    });
  });

  /** Somebody with an account, a schedule, a calendar of their own, and a followed link. */
  async function somebody(name, feed) {
    const json = { 'content-type': 'application/json' };
    const made = await fetch(`${base}/api/auth/sign-up/email`, {
      method: 'POST',
      headers: json,
      body: JSON.stringify({ name, email: `${name}@skerrow.example`, password: PASSWORD, setUpWord: word }),
    });
    if (!made.ok) throw new Error(`${name} could not be made: ${made.status}`);
    const cookie = made.headers
      .getSetCookie()
      .map((c) => c.split(';')[0])
      .join('; ');
    const ask = asking(base, cookie);
    const learner = (await ask('POST', '/api/learners', { name, zone: 'Europe/Dublin' })).body.id;
    const home = (
      await ask('POST', `/api/learners/${learner}/calendars`, {
        name: 'Home',
        kind: 'home',
        zone: 'Europe/Dublin',
        ...FLAG,
      })
    ).body.id;
    const followed = await ask('POST', `/api/learners/${learner}/sources`, {
      address: `http://${feedHost}/${feed}`,
      zone: 'Europe/Dublin',
      name: feed,
      kind: 'course',
      ...FLAG,
    });
    if (followed.status !== 200)
      throw new Error(`${name} could not follow ${feed}: ${JSON.stringify(followed.body)}`);
    const found = (
      await ask(
        'GET',
        `/api/learners/${learner}/occurrences?from=2026-01-01T00:00:00Z&to=2026-12-31T00:00:00Z`,
      )
    ).body;
    return { cookie, learner, home, item: found[0]?.itemId };
  }

  const usual = [];
  for (let i = 0; i < 5; i++) usual.push(await somebody(`usual${i}`, 'usual.ics'));
  const attackers = {};
  for (const name of ['markup', 'alike', 'files', 'own', 'reader', 'daily', 'brackets', 'swelling', 'mover'])
    attackers[name] = await somebody(name, FEEDS[`/${name}.ics`] ? `${name}.ics` : 'usual.ics');

  const attacking = fork(fileURLToPath(import.meta.url), ['attack']);
  const attacked = new Promise((done) => attacking.once('exit', (code, signal) => done({ code, signal })));
  attacking.send({ base, inbox: Number(env.ZEPHYRFIELD_INBOX_PORT), attackers });
  await new Promise((done) => attacking.once('message', done));
  const until = Date.now() + SECONDS * 1000;
  attacking.send(until);
  const waits = [];
  let failed = 0;
  const asUsual = async ({ cookie, learner }, n) => {
    const ask = asking(base, cookie);
    const paths = [
      '/api/session',
      `/api/learners/${learner}/occurrences?from=2026-09-01T00:00:00Z&to=2026-12-31T00:00:00Z`,
      `/api/learners/${learner}/changes`,
      '/api/notices',
      '/today',
    ];
    // Each asks for something else than the others at a time, as people do.
    for (let i = 0; Date.now() < until; i++) {
      const began = performance.now();
      const { status } = await ask('GET', paths[(i + n) % paths.length]);
      waits.push(performance.now() - began);
      if (status !== 200) failed++;
      await new Promise((done) => setTimeout(done, 200));
    }
  };
  await Promise.all(usual.map(asUsual));
  const ended = await attacked;
  if (ended.code !== 0) {
    console.log('the attack itself ended early', ended);
    failed++;
  }
  waits.sort((a, b) => a - b);
  const at = (share) => Math.round(waits[Math.floor(waits.length * share)] ?? NaN);
  console.log(
    `others beside all that is hostile at once: ${waits.length} requests, ${failed} failed, p50 ${at(0.5)} ms, p99 ${at(0.99)} ms, longest ${Math.round(waits.at(-1))} ms; budget p99 ${BUDGET} ms`,
  );
  const most = Math.round(
    Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))[1]) / 1024,
  );
  console.log(`the server’s memory at the most: ${most} MB of ${MEMORY_BUDGET}`);
  server.kill('SIGTERM');
  await new Promise((done) => server.once('exit', done));
  feeds.closeAllConnections();
  feeds.close();
  rmSync(data, { recursive: true, force: true });
  if (!IS_BRIEF && (failed || at(0.99) > BUDGET || most > MEMORY_BUDGET)) process.exitCode = 1;
}

if (process.argv[2] === 'attack') {
  // It stands for machines elsewhere, whose work would take nothing from this one.
  setPriority(constants.priority.PRIORITY_LOW);
  process.once('message', (message) => void attack(message));
} else await measure();
