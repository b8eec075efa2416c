import {
  cpSync,
  existsSync,
  mkdtempSync,
  readFileSync,
  renameSync,
  rmSync,
  truncateSync,
  writeFileSync,
} from 'node:fs';
import { createServer, type AddressInfo, type Socket } from 'node:net';
import { join } from 'node:path';
import type { SourceView } from '@zephyrfield/core/api/schemas';
import Database from 'better-sqlite3';
import {
  DEFAULT_NOTICE_SETTINGS,
  NOTICE_KINDS,
  type ChannelsByKind,
} from '@zephyrfield/core/notify/settings';
import { SMTPServer } from 'smtp-server';
import request from 'supertest';
import { createPostbox } from '@zephyrfield/stand-ins/postbox';
import { noteRestored } from '../src/backup/restored';
import { FileFolder } from '../src/files/folder';
import { clockGuard } from '../src/clock-guard';
import { CannotStart, lockFolder } from '../src/data-folder';
import { inWords } from '../src/log';
import { problemHandler } from '../src/http/problem';
import { troubleOf } from '../src/mail/transport';
import { ESSAY, FLAG, FOLDER, FeedServer, Installation, PASSWORD, START, event, eventually } from './harness';

let feed: FeedServer;
let w: Installation;
beforeAll(async () => {
  feed = await FeedServer.start();
});
afterAll(() => feed.stop());
beforeEach(async () => {
  w = await Installation.start(feed.host);
});
afterEach(async () => {
  await w.stop().catch(() => {});
  rmSync(w.data, { recursive: true, force: true });
});

/** Somebody with a link, so that there is something to lose. */
async function world() {
  const { agent, learnerId } = await w.person();
  feed.calendar(event('t1', 'Tides', 'DTSTART;VALUE=DATE:20261006'));
  const { body } = await agent
    .post(`/api/learners/${learnerId}/sources`)
    .send({
      address: `http://${feed.host}/tides.ics?key=verysecret`,
      zone: 'Europe/Dublin',
      name: 'Tides',
      kind: 'course',
      ...FLAG,
    })
    .expect(200);
  return { agent, learnerId, sourceId: (body as { source: SourceView }).source.id };
}
const everyKindBy = (...channels: ChannelsByKind['sheet']) =>
  Object.fromEntries(NOTICE_KINDS.map((n) => [n, channels])) as unknown as ChannelsByKind;
const database = () => join(w.data, 'zephyrfield.sqlite');
const up = (env: Record<string, string> = {}) => w.up(env);
const refuses = async (why: RegExp, env: Record<string, string> = {}) => {
  await expect(up(env)).rejects.toThrow(why);
  await expect(up(env)).rejects.toThrow(CannotStart);
};

describe('a start', () => {
  test('on a folder that another server has is refused, and the lock ends with that server', async () => {
    expect(() => lockFolder(w.data)).toThrow(/another Zephyrfield is running/);
    await w.down();
    lockFolder(w.data)();
    await up();
  });

  test('without the key is refused, so is one with another key, and all goes on once it is back', async () => {
    await world();
    await w.down();
    const key = join(w.data, 'key');
    const kept = readFileSync(key, 'utf8');
    rmSync(key);
    await refuses(/the key file .* is missing/);
    expect(existsSync(key)).toBe(false);
    writeFileSync(key, `${'5'.repeat(64)}\n`);
    await refuses(/another key than the database was sealed with/);
    writeFileSync(key, kept);
    await up();
  });

  test('with a new key, where the operator says so, tells each link whose address is lost, and takes it anew', async () => {
    const { sourceId, learnerId } = await world();
    await w.down();
    rmSync(join(w.data, 'key'));
    await up({ ZEPHYRFIELD_NEW_KEY: '1' });
    const agent = w.caller();
    await agent
      .post('/api/auth/sign-in/email')
      .send({ email: 'juno@skerrow.example', password: PASSWORD })
      .expect(200);
    const { body } = await agent.post(`/api/sources/${sourceId}/reading`).send({}).expect(200);
    expect(body).toMatchObject({ source: { trouble: { code: 'sealed' } } });
    // Followed anew it would stand twice: it is known by what is in it.
    const twin = await agent.post(`/api/learners/${learnerId}/sources`).send({
      address: `http://${feed.host}/tides.ics?key=verysecret`,
      zone: 'Europe/Dublin',
      name: 'Tides',
      kind: 'course',
      ...FLAG,
    });
    expect(twin.status).toBe(409);
    expect(twin.text).toContain('Enter the link there');
    const again = await agent
      .put(`/api/sources/${sourceId}/address`)
      .send({ address: `http://${feed.host}/tides.ics?key=verysecret` })
      .expect(200);
    expect(again.body).toMatchObject({ added: 0, gone: 0, source: { trouble: null } });
    // From then on the new key is the key.
    await w.restart();
  });

  test.each([
    ['is gone', () => rmSync(database()), /is missing, but there was one/],
    ['is empty', () => truncateSync(database()), /is empty, but there was one/],
    ['is one byte long', () => writeFileSync(database(), 'x'), /is empty, but there was one/],
    ['is something else', () => writeFileSync(database(), 'x'.repeat(8192)), /is damaged/],
    [
      'has lost pages',
      () => {
        const bytes = readFileSync(database());
        bytes.fill(0, 3 * 4096, 20 * 4096);
        writeFileSync(database(), bytes);
      },
      /is damaged/,
    ],
  ])('on a database that %s is refused, and nothing is lost by it', async (_, harm, why) => {
    await world();
    writeFileSync(join(w.data, 'files', 'a'.repeat(64)), 'a file of a brief');
    await w.down();
    const kept = readFileSync(database());
    for (const left of ['-wal', '-shm']) rmSync(database() + left, { force: true });
    harm();
    await refuses(why);
    expect(readFileSync(join(w.data, 'files', 'a'.repeat(64)), 'utf8')).toBe('a file of a brief');
    writeFileSync(database(), kept);
    await up();
  });
});

test('a database that has lost what was saved last does not start; on the operator’s word it does', async () => {
  await w.down();
  const before = readFileSync(database());
  await up();
  await world();
  // At the stop all of it is brought into the database: with the log beside it lost, it would be this one.
  await w.down();
  const now = readFileSync(database());
  writeFileSync(database(), before);
  await refuses(/has lost what was saved last/);
  writeFileSync(database(), now);
  await up();
  await w.down();
  writeFileSync(database(), before);
  rmSync(join(w.data, 'written'));
  await up();
});

test('files are moved to a bin on no word of an empty database, and lie there for a week', () => {
  const path = mkdtempSync(join(FOLDER, 'zephyrfield-files-'));
  const folder = new FileFolder(path);
  writeFileSync(join(path, 'one'), '1');
  writeFileSync(join(path, 'two'), '2');
  folder.tidy(new Set(), START);
  expect(existsSync(join(path, 'one'))).toBe(true);
  folder.tidy(new Set(['two']), START);
  expect([existsSync(join(path, 'one')), existsSync(join(path, '.bin', 'one'))]).toEqual([false, true]);
  // It turns out to be needed: it is back in its place.
  folder.tidy(new Set(['one', 'two']), START + 86_400_000);
  expect(existsSync(join(path, 'one'))).toBe(true);
  folder.tidy(new Set(['two']), START);
  folder.tidy(new Set(['two']), START + 8 * 86_400_000);
  expect(existsSync(join(path, '.bin', 'one'))).toBe(false);
  rmSync(path, { recursive: true });
});

test('a database that was taken away while it is open: writing is refused, reading goes on, and health says so', async () => {
  const { agent, learnerId } = await world();
  const moved = `${database()}.away`;
  renameSync(database(), moved);
  const { body } = await agent.patch(`/api/learners/${learnerId}`).send({ name: 'Juna' }).expect(503);
  expect(body).toMatchObject({ type: 'urn:zephyrfield:not-saved' });
  await agent.get(`/api/learners/${learnerId}/calendars`).expect(200);
  expect((await request(w.address).get('/readyz').expect(503)).body).toMatchObject({ storage: false });
  renameSync(moved, database());
});

test('a database that is locked refuses writes within a moment, and reading goes on', async () => {
  const { agent, learnerId } = await world();
  const add = (status: number) =>
    agent
      .post(`/api/learners/${learnerId}/calendars`)
      .send({ name: 'Home', kind: 'home', zone: 'Europe/Dublin', ...FLAG })
      .expect(status);
  const other = new Database(database());
  other.exec('BEGIN IMMEDIATE');
  const { body, headers } = await add(503);
  expect(body).toMatchObject({ type: 'urn:zephyrfield:busy' });
  expect(headers['retry-after']).toBe('5');
  await agent.get(`/api/learners/${learnerId}/calendars`).expect(200);
  const storage = async () =>
    ((await request(w.address).get('/readyz')).body as { storage: boolean }).storage;
  // What was written a moment ago counts for a few seconds.
  await eventually(async () => ((await storage()) ? undefined : true));
  other.exec('ROLLBACK');
  other.close();
  await eventually(async () => ((await storage()) ? true : undefined));
  await add(200);
});

/** Somebody who is told of two meetings in the app and by mail. */
async function withMeetings(port: number) {
  await w.restart({ ZEPHYRFIELD_SMTP_URL: `smtp://127.0.0.1:${port}` });
  const { agent, learnerId } = await w.person();
  w.confirm();
  const made = await agent
    .post(`/api/learners/${learnerId}/calendars`)
    .send({ name: 'Home', kind: 'home', zone: 'Europe/Dublin', ...FLAG })
    .expect(200);
  await agent
    .put('/api/notice-settings')
    .send({ ...DEFAULT_NOTICE_SETTINGS, quiet: null, all: everyKindBy('app', 'mail') })
    .expect(200);
  // On two days, so that the first one's mail does not take the second along.
  const at = (hour: number) => `2026-10-0${hour === 10 ? 7 : 8}T${hour}:00:00Z`;
  const writes = [10, 15].map((hour) => ({
    id: null,
    calendarId: (made.body as { id: string }).id,
    version: 0,
    item: {
      ...ESSAY,
      kind: 'meeting',
      title: `Meeting ${hour}`,
      when: { kind: 'instant', at: at(hour), zone: 'UTC' },
    },
  }));
  await agent.post(`/api/learners/${learnerId}/own`).send({ writes }).expect(200);
  const told = async () =>
    ((await agent.get('/api/notices').expect(200)).body as { notices: { title: string }[] }).notices.map(
      (n) => n.title,
    );
  /** Goes to just before a meeting; what is due is not waited for. */
  const before = (hour: number) => {
    w.now = Date.parse(at(hour)) - 60_000;
    return w.services.engine.run();
  };
  return { told, before };
}

test('a mail server that hangs holds up neither what is told in the app nor the stop', async () => {
  const sockets: Socket[] = [];
  const silent = createServer((socket) => void sockets.push(socket.on('error', () => {})));
  await new Promise<void>((done) => silent.listen(0, '127.0.0.1', done));
  const { told, before } = await withMeetings((silent.address() as AddressInfo).port);
  const heard = async (hour: number) => {
    void before(hour);
    await eventually(async () => ((await told()).includes(`Meeting ${hour}`) ? true : undefined));
  };
  await heard(10);
  // A letter hangs by now.
  await heard(15);
  await w.down();
  sockets.forEach((socket) => socket.destroy());
  silent.close();
  await up();
});

test('after an older backup was brought back nothing is mailed twice: what was due before stands in the app', async () => {
  const postbox = createPostbox();
  const listening = postbox.smtp.listen(0, '127.0.0.1');
  await new Promise((done) => listening.once('listening', done));
  const { port } = listening.address() as AddressInfo;
  const { told, before } = await withMeetings(port);
  const mailed = (title: string) => postbox.mails.filter((m) => m.text.includes(title)).length;
  const env = { ZEPHYRFIELD_SMTP_URL: `smtp://127.0.0.1:${port}` };
  await w.down();
  const backup = mkdtempSync(join(FOLDER, 'zephyrfield-kept-'));
  cpSync(w.data, backup, { recursive: true });
  await up(env);
  await before(10);
  expect(mailed('Meeting 10')).toBe(1);
  await w.down();
  rmSync(w.data, { recursive: true });
  cpSync(backup, w.data, { recursive: true });
  noteRestored(w.data, w.now);
  await up(env);
  await w.services.engine.run();
  expect(mailed('Meeting 10')).toBe(1);
  expect(await told()).toContain('Meeting 10');
  await before(15);
  expect(mailed('Meeting 15')).toBe(1);
  rmSync(backup, { recursive: true });
  await new Promise<void>((done) => postbox.smtp.close(() => done()));
});

test('a mail that was taken while that could not be noted is noted later, and not sent again', async () => {
  const other = new Database(database());
  let arrived = 0;
  const smtp = new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS'],
    onData(stream, _session, done) {
      const chunks: Buffer[] = [];
      stream
        .on('data', (chunk: Buffer) => chunks.push(chunk))
        .on('end', () => {
          // The one that confirms an address is none of what is told.
          if (Buffer.concat(chunks).includes('Meeting 10')) {
            arrived++;
            // From here on nothing can be written.
            if (!other.inTransaction) other.exec('BEGIN IMMEDIATE');
          }
          done();
        });
    },
  });
  const listening = smtp.listen(0, '127.0.0.1');
  await new Promise((done) => listening.once('listening', done));
  const { before } = await withMeetings((listening.address() as AddressInfo).port);
  await before(10);
  expect(arrived).toBe(1);
  await before(10);
  expect(arrived).toBe(1);
  other.exec('ROLLBACK');
  await before(10);
  expect(arrived).toBe(1);
  expect(
    w.db((db) => db.prepare('SELECT count(*) FROM letter WHERE next_try_at IS NOT NULL').pluck().get()),
  ).toBe(0);
  other.close();
  await new Promise<void>((done) => smtp.close(() => done()));
});

test('whoever’s session is due to be prolonged goes on reading while nothing can be written', async () => {
  const { agent, learnerId } = await world();
  w.wall = () => Date.now() + 2 * 86_400_000;
  const other = new Database(database());
  other.exec('BEGIN IMMEDIATE');
  await agent.get(`/api/learners/${learnerId}/calendars`).expect(200);
  other.exec('ROLLBACK');
  other.close();
  await agent.get(`/api/learners/${learnerId}/calendars`).expect(200);
});

test.each([
  ['SQLITE_FULL', 507, 'disk-full'],
  ['ENOSPC', 507, 'disk-full'],
  ['SQLITE_READONLY', 503, 'not-saved'],
  ['SQLITE_IOERR_WRITE', 503, 'not-saved'],
  ['EROFS', 503, 'not-saved'],
  ['SQLITE_BUSY_SNAPSHOT', 503, 'busy'],
  ['SOMETHING_ELSE', 500, 'fault'],
])('%s is told to people in words, and to the log by its code', (code, status, type) => {
  const logged: string[] = [];
  const handle = problemHandler((message, fields = {}) => logged.push(inWords(message, fields)), {
    note: () => {},
  } as never);
  const sent: { status?: number; type?: string } = {};
  const res = {
    locals: {},
    headersSent: false,
    getHeader: () => 'r1',
    set: () => res,
    status: (n: number) => ((sent.status = n), res),
    type: () => res,
    json: (body: { type: string }) => void (sent.type = body.type),
    send: (body: string) => void (sent.type = (JSON.parse(body) as { type: string }).type),
  };
  handle(
    Object.assign(new Error('/home/juno/secret'), { code }),
    { method: 'POST' } as never,
    res as never,
    () => {},
  );
  expect(sent).toEqual({ status, type: `urn:zephyrfield:${type}` });
  expect(logged.join()).toContain('r1');
  expect(logged.join()).not.toContain('secret');
});

test('a refusal counts as the recipient’s only where it is of that recipient', () => {
  const said = (command: string, responseCode: number, response = `${responseCode} no`) =>
    troubleOf({ command, responseCode, response }).isRecipients;
  expect(said('RCPT TO', 550)).toBe(true);
  expect(said('RCPT TO', 553)).toBe(true);
  for (const [command, code, response] of [
    ['CONN', 554],
    ['AUTH PLAIN', 535],
    ['MAIL FROM', 550],
    ['MAIL FROM', 530],
    ['DATA', 552],
    ['RCPT TO', 552],
    ['RCPT TO', 452],
    ['RCPT TO', 550, '550 5.7.1 relaying denied'],
  ] as const)
    expect([command, code, said(command, code, response)]).toEqual([command, code, false]);
  expect(troubleOf(new Error('socket closed'))).toMatchObject({ isRecipients: false, responseCode: 0 });
});

describe('a clock', () => {
  test('that is set back by more than a minute is noticed once; one that runs, or jumps ahead, is not', () => {
    let [now, steady] = [START, 0];
    const heard: number[] = [];
    const guard = clockGuard(
      () => now,
      () => steady,
      (_, by) => heard.push(by),
    );
    const after = (wall: number, real: number) => {
      now += wall;
      steady += real;
      guard.look();
    };
    after(5_000, 5_000);
    after(-20_000, 5_000);
    after(3 * 86_400_000, 5_000);
    expect(heard).toEqual([]);
    after(-3 * 86_400_000, 5_000);
    after(5_000, 5_000);
    expect(heard).toEqual([3 * 86_400_000 + 5_000]);
    guard.stop();
  });

  test('that was three days ahead and is right again: what was planned then is planned anew', async () => {
    const { agent, learnerId, sourceId } = await world();
    const due = () =>
      w.db((db) =>
        db.prepare('SELECT next_check_at FROM source WHERE id = ?').pluck().get(sourceId),
      ) as number;
    w.now = START + 3 * 86_400_000;
    await agent.post(`/api/sources/${sourceId}/reading`).send({}).expect(200);
    await w.services.engine.run();
    expect(due()).toBeGreaterThan(w.now);
    w.now = START;
    w.services.setBack(w.now);
    await w.services.engine.run();
    expect(due()).toBeLessThanOrEqual(START + 3_600_000);
    const told = w.db((db) =>
      db.prepare('SELECT max(done_to) FROM notify_clock WHERE learner_id = ?').pluck().get(learnerId),
    );
    expect(told).toBeLessThanOrEqual(START);
  });
});
