import { spawnSync } from 'node:child_process';
import {
  closeSync,
  cpSync,
  createWriteStream,
  existsSync,
  mkdtempSync,
  openSync,
  readFileSync,
  readdirSync,
  rmSync,
  statSync,
  truncateSync,
  writeFileSync,
  utimesSync,
  writeSync,
} from 'node:fs';
import { join, resolve } from 'node:path';
import { ZipFile } from 'yazl';
import { pipeline } from 'node:stream/promises';
import Database from 'better-sqlite3';
import { FLAG, FOLDER, FeedServer, PNG, event, eventually } from './harness';
import { replicaState } from '../src/backup/replica-state';
import { Process } from './process';

// A whole installation as one file, and back; and what was replicated, as of a moment.

const EMAIL = 'juno@skerrow.example';
const PASSWORD = 'a good long password';
let feed: FeedServer;
let work: string;
beforeAll(async () => {
  feed = await FeedServer.start();
  feed.calendar(event('log', 'Shed log 6', 'DTSTART:20271008T150000Z'));
});
afterAll(() => feed.stop());
beforeEach(() => {
  work = mkdtempSync(join(FOLDER, 'zephyrfield-backup-'));
});
afterEach(() => {
  Process.endAll();
  rmSync(work, { recursive: true, force: true });
});

/** Runs a command as an operator does; gives what it says, also where it fails. */
function command(
  name: string,
  args: string[],
  data: string,
  env: Record<string, string> = {},
): { code: number; said: string; warned: string } {
  const { status, stdout, stderr } = spawnSync(
    process.execPath,
    [resolve(__dirname, `../dist/${name}.js`), ...args],
    { env: { ...process.env, ZEPHYRFIELD_DATA: data, ...env }, encoding: 'utf8' },
  );
  return { code: status ?? -1, said: status === 0 ? stdout : stderr, warned: stderr };
}

/** Waits until no program runs any more that was started with such a folder. */
async function ended(word: string, folder: string): Promise<void> {
  const isRunning = () =>
    readdirSync('/proc').some((pid) => {
      if (!/^\d+$/.test(pid)) return false;
      try {
        const line = readFileSync(`/proc/${pid}/cmdline`, 'utf8');
        return line.includes(word) && line.includes(folder);
      } catch {
        return false;
      }
    });
  await eventually(() => (isRunning() ? undefined : true));
}

async function family(server: Process) {
  const agent = server.caller();
  await agent
    .post('/api/auth/sign-up/email')
    .send({ name: 'Juno', email: EMAIL, password: PASSWORD, setUpWord: server.setUpWord })
    .expect(200);
  const { body } = await agent
    .post('/api/learners')
    .send({ name: 'Juno', zone: 'Europe/Dublin' })
    .expect(200);
  const learnerId = (body as { id: string }).id;
  const path = `/api/learners/${learnerId}`;
  const source = {
    address: `http://${feed.host}/boat.ics`,
    zone: 'Europe/Dublin',
    name: 'Boat',
    kind: 'course',
    ...FLAG,
  };
  const followed = await agent.post(`${path}/sources`).send(source).expect(200);
  const sourceId = (followed.body as { source: { id: string } }).source.id;
  const occurrences = await agent
    .get(`${path}/occurrences`)
    .query({ from: '2027-10-01T00:00:00Z', to: '2027-11-01T00:00:00Z' })
    .expect(200);
  const itemId = (occurrences.body as { itemId: string }[])[0]!.itemId;
  await agent
    .post(`/api/items/${itemId}/files`)
    .query({ name: 'plan.png' })
    .set('content-type', 'image/png')
    .send(PNG)
    .expect(200);
  return { agent, sourceId, itemId, path };
}

/** Signs in at an installation that was brought back, and looks whether its link opens and its file is there. */
async function lookAround(server: Process, { sourceId, itemId }: { sourceId: string; itemId: string }) {
  const agent = server.caller();
  await agent.post('/api/auth/sign-in/email').send({ email: EMAIL, password: PASSWORD }).expect(200);
  const read = await agent.post(`/api/sources/${sourceId}/reading`).send({}).expect(200);
  expect(read.body).toMatchObject({ source: { trouble: null } });
  const { body } = await agent.get(`/api/items/${itemId}`).expect(200);
  return body as { brief: { files: { id: string }[] } };
}

test('a backup of what is running is brought back elsewhere: sign-in, links and files', async () => {
  const data = join(work, 'data');
  const server = new Process(data, { ZEPHYRFIELD_ALLOW_HOSTS: feed.host });
  await server.up();
  const to = join(work, 'backup.zip');
  const made = await family(server).then((all) => {
    const backup = command('backup', [to], data);
    expect(backup).toMatchObject({
      code: 0,
      said: expect.stringContaining('1 account, 1 schedule and 1 file') as string,
    });
    return all;
  });
  // While a server runs there, nothing takes its place.
  expect(command('restore', [to], data)).toMatchObject({
    code: 1,
    said: expect.stringContaining('Nothing was changed') as string,
  });
  await server.kill();
  expect(readdirSync(work).sort()).toEqual(['backup.zip', 'data']);

  const other = join(work, 'other');
  expect(command('restore', [to], other).code).toBe(0);
  const back = new Process(other, { ZEPHYRFIELD_ALLOW_HOSTS: feed.host });
  await back.up();
  const { brief } = await lookAround(back, made);
  expect(brief.files).toHaveLength(1);
  await back.kill();
  // Once more over what is there: that is kept beside it.
  expect(command('restore', [to], other).said).toContain('1 account');
  expect(readdirSync(work).filter((name) => name.startsWith('other.before-'))).toHaveLength(1);

  // Sealed with a passphrase, it opens by that alone.
  const sealed = join(work, 'sealed.zip');
  const PASSPHRASE = { ZEPHYRFIELD_BACKUP_PASSPHRASE: 'lantern over the quiet water' };
  expect(command('backup', [sealed], other, PASSPHRASE).code).toBe(0);
  expect(readFileSync(sealed).subarray(0, 2).toString()).not.toBe('PK');
  const third = join(work, 'third');
  expect(command('restore', [sealed], third).said).toContain('It is sealed');
  const wrong = { ZEPHYRFIELD_BACKUP_PASSPHRASE: 'another passphrase' };
  expect(command('restore', [sealed], third, wrong).said).toContain('The passphrase is not the one');
  expect(command('restore', [sealed], third, PASSPHRASE).said).toContain('1 account');
  expect(readdirSync(work).filter((name) => /opened|part/.test(name))).toEqual([]);
});

test('what is damaged, half, later, or leads elsewhere is refused, and nothing is changed', async () => {
  const data = join(work, 'data');
  const server = new Process(data, { ZEPHYRFIELD_ALLOW_HOSTS: feed.host });
  await server.up();
  await family(server);
  await server.kill();
  const to = join(work, 'backup.zip');
  expect(command('backup', [to], data).code).toBe(0);
  const refused = (from: string, words: string) => {
    const before = readFileSync(join(data, 'zephyrfield.sqlite'));
    expect(command('restore', [from], data)).toMatchObject({
      code: 1,
      said: expect.stringContaining(words) as string,
    });
    expect(readFileSync(join(data, 'zephyrfield.sqlite')).equals(before)).toBe(true);
    expect(readdirSync(work).some((name) => name.includes('restoring'))).toBe(false);
  };
  const half = join(work, 'half.zip');
  cpSync(to, half);
  truncateSync(half, 20_000);
  refused(half, 'not whole');
  const flipped = join(work, 'flipped.zip');
  cpSync(to, flipped);
  const handle = openSync(flipped, 'r+');
  writeSync(handle, Buffer.alloc(64, 7), 0, 64, Math.floor(statSync(to).size / 3));
  closeSync(handle);
  refused(flipped, 'amaged');
  writeFileSync(join(work, 'text.zip'), 'no archive');
  refused(join(work, 'text.zip'), 'no archive');

  const zipOf = async (name: string, entries: Record<string, Buffer | string>) => {
    const zip = new ZipFile();
    for (const [entry, bytes] of Object.entries(entries)) zip.addBuffer(Buffer.from(bytes as string), entry);
    zip.end();
    await pipeline(zip.outputStream, createWriteStream(join(work, name)));
    return join(work, name);
  };
  const manifest = (more: object) =>
    JSON.stringify({
      format: 'zephyrfield-installation',
      version: 1,
      made: '2026-10-06T15:10:00Z',
      entries: {},
      ...more,
    });
  refused(await zipOf('later.zip', { 'manifest.json': manifest({ version: 2 }) }), 'later version');
  refused(await zipOf('empty.zip', { 'manifest.json': manifest({}) }), 'missing');
  const bomb = { 'zephyrfield.sqlite': { size: 10, sha256: 'x' }, key: { size: 1, sha256: 'x' } };
  refused(
    await zipOf('bomb.zip', {
      'zephyrfield.sqlite': Buffer.alloc(50_000_000),
      key: 'k',
      'manifest.json': manifest({ entries: bomb }),
    }),
    'larger than it says',
  );
  // A name that leads out of its folder is refused by who writes as well: it is put in by hand.
  const path = await zipOf('path.zip', { 'aa/aa': 'x', 'manifest.json': manifest({}) });
  writeFileSync(
    path,
    Buffer.from(readFileSync(path).toString('latin1').replaceAll('aa/aa', '../aa'), 'latin1'),
  );
  refused(path, 'leads out of its folder');
});

test('replicated while it is written to, killed, and brought back elsewhere: nothing acknowledged is lost', async () => {
  const data = join(work, 'data');
  const replica = `file://${join(work, 'replica')}`;
  const server = new Process(data, { ZEPHYRFIELD_ALLOW_HOSTS: feed.host, ZEPHYRFIELD_REPLICA_URL: replica });
  await server.up();
  const made = await family(server);
  const kept: { title: string }[] = [];
  const { body } = await made.agent
    .post(`${made.path}/calendars`)
    .send({ name: 'Home', kind: 'home', zone: 'Europe/Dublin', ...FLAG })
    .expect(200);
  const calendarId = (body as { id: string }).id;
  const write = async (n: number) => {
    const item = {
      kind: 'assignment',
      handIn: 'nothing',
      title: `Item ${n}`,
      place: '',
      details: '',
      when: null,
      end: null,
      repeat: null,
      changes: [],
    };
    await made.agent
      .post(`${made.path}/own`)
      .send({ writes: [{ id: null, calendarId, item, version: 0 }] })
      .expect(200);
    kept.push({ title: item.title });
  };
  const from = ['--replica', replica, '--key', join(data, 'key')];
  const titlesIn = (folder: string) => {
    const db = new Database(join(folder, 'zephyrfield.sqlite'), { readonly: true });
    const titles = new Set(db.prepare('SELECT title FROM item').pluck().all());
    db.close();
    return titles;
  };
  let tries = 0;
  /** Tells whether the replica holds an item by now. The time that takes is the machine's. */
  const holds = (title: string) => {
    const folder = join(work, `try-${tries++}`);
    return command('restore', from, folder).code === 0 && titlesIn(folder).has(title) ? true : undefined;
  };
  for (let n = 0; n < 20; n++) await write(n);
  await eventually(() => holds('Item 19'));
  const moment = Date.now();
  for (let n = 20; n < 40; n++) await write(n);
  await eventually(() => holds('Item 39'));
  // And some more, in whose middle it is killed.
  for (let n = 40; n < 50; n++) await write(n);
  await server.kill();
  await ended('replicate', work);

  const other = join(work, 'other');
  expect(command('restore', from, other)).toMatchObject({
    code: 0,
    said: expect.stringContaining('1 account') as string,
  });
  const titles = titlesIn(other);
  expect(kept.slice(0, 40).filter(({ title }) => !titles.has(title))).toEqual([]);
  const back = new Process(other, { ZEPHYRFIELD_ALLOW_HOSTS: feed.host });
  await back.up();
  await lookAround(back, made);
  await back.kill();

  // And as of a moment: what came after it is not there.
  const then = join(work, 'then');
  expect(command('restore', [...from, '--at', new Date(moment).toISOString()], then).code).toBe(0);
  const early = titlesIn(then);
  expect(kept.slice(0, 20).filter(({ title }) => !early.has(title))).toEqual([]);
  expect(kept.slice(20).filter(({ title }) => early.has(title))).toEqual([]);

  const none = command('restore', [...from, '--at', '2020-01-01T00:00:00Z'], join(work, 'none'));
  expect(none).toMatchObject({ code: 1, said: expect.stringContaining('Nothing could be read') as string });
  expect(existsSync(join(work, 'none'))).toBe(false);
});

test('files that were damaged on the disk are left out of a backup and told; a restore says as of when it is', async () => {
  const data = join(work, 'data');
  const server = new Process(data, { ZEPHYRFIELD_ALLOW_HOSTS: feed.host });
  await server.up();
  await family(server);
  await server.kill();
  const [digest] = readdirSync(join(data, 'files')).filter((name) => !name.startsWith('.'));
  writeFileSync(join(data, 'files', digest!), 'something else');
  const to = join(work, 'backup.zip');
  const backup = command('backup', [to], data);
  expect(backup).toMatchObject({ code: 0, said: expect.stringContaining('and 0 files') as string });
  expect(backup.warned).toContain('1 file of briefs and notes are damaged on the disk, and were left out.');
  const restored = command('restore', [to], join(work, 'elsewhere'));
  expect(restored.warned).toMatch(/The last change in it is of \d{4}-\d\d-\d\dT/);
  expect(restored.warned).toContain('1 file of briefs and notes are missing or damaged in it.');
});

test('a backup that cannot be made says why, in words, and leaves nothing', async () => {
  const data = join(work, 'data');
  const server = new Process(data);
  await server.up();
  await server.kill();
  const to = join(work, 'nowhere', 'backup.zip');
  expect(command('backup', [to], data)).toMatchObject({
    code: 1,
    said: expect.stringMatching(/^No backup was made\. The folder it goes to.* \(ENOENT\)\n$/) as string,
  });
  const file = join(data, 'zephyrfield.sqlite');
  rmSync(`${file}-wal`, { force: true });
  writeFileSync(file, 'x'.repeat(8192));
  const { code, said } = command('backup', [join(work, 'b.zip')], data);
  expect([code, said.split('\n').length]).toEqual([1, 2]);
  expect(said).toMatch(/damaged/);
  expect(readdirSync(work).sort()).toEqual(['data']);
});

describe('replicating', () => {
  test('is told by what the program says: that it fails and why, once, that it goes on, and how far it is behind', () => {
    const told: string[] = [];
    const file = join(work, 'db.sqlite');
    writeFileSync(file, 'x');
    let now = Date.now() + 5_000;
    const state = replicaState(file, () => now, {
      failed: (code) => told.push(code),
      goesOn: () => told.push('goes on'),
    });
    expect([state.lagSeconds(), state.isWell(), state.lastSuccess()]).toEqual([0, true, null]);
    const at = '2026/12/02 00:16:02';
    state.says(`${at} INFO wal segment written db=/x replica=s3 position=1 sz=1`);
    const first = now;
    expect(state.lastSuccess()).toBe(first);
    now += 7_000;
    for (let n = 0; n < 3; n++)
      state.says(`${at} ERROR monitor error db=/x replica=s3 error="secret: no space left on device"`);
    expect([told, state.isWell(), state.lagSeconds()]).toEqual([['ENOSPC'], false, 7]);
    state.says(`${at} INFO snapshot written db=/x replica=s3 sz=1`);
    expect([told.at(-1), state.isWell(), state.lagSeconds()]).toEqual(['goes on', true, 0]);
    // A store that is dead says nothing: what was written since does not get there.
    utimesSync(file, (now + 1_000) / 1_000, (now + 1_000) / 1_000);
    now += 61_000;
    expect([state.isWell(), state.lagSeconds()]).toEqual([false, 61]);
  });

  test('to a place that cannot be written is told by the log, the metrics and readyz; an empty one is not restored', async () => {
    const data = join(work, 'data');
    writeFileSync(join(work, 'no-folder'), '');
    const to = `file://${join(work, 'no-folder', 'replica')}`;
    const server = new Process(data, { ZEPHYRFIELD_REPLICA_URL: to });
    await server.up();
    const { body } = await eventually(async () => {
      const reply = await server.caller().get('/readyz');
      return (reply.body as { replica?: boolean }).replica === false ? reply : undefined;
    });
    // People are served all the same.
    expect(body).toMatchObject({ ready: true, storage: true, replica: false });
    const restored = command(
      'restore',
      ['--replica', to, '--key', join(data, 'key')],
      join(work, 'elsewhere'),
    );
    expect(restored).toMatchObject({
      code: 1,
      said: expect.stringMatching(/^Nothing was changed/) as string,
    });
    expect(existsSync(join(work, 'elsewhere'))).toBe(false);
  });
});
