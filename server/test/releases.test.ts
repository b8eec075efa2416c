import { createHash } from 'node:crypto';
import { cpSync, existsSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { RELEASE } from '@zephyrfield/core/lib/release';
import Database from 'better-sqlite3';
import { restore } from '../src/backup/installation';
import { openDatabase } from '../src/db/open';
import { everyView, withoutMoment } from './every-view';
import { FOLDER, Installation } from './harness';

const root = resolve(__dirname, '../..');
const releases = join(__dirname, 'releases');
const pages = join(root, 'app/test/releases');
const migrations = resolve(__dirname, '../migrations');

interface Kept {
  now: string;
  password: string;
  people: { email: string; views: Record<string, unknown> }[];
}

/** Brings an installation back as a release has kept it, with nothing to be fetched. @returns its folder */
async function installationOf(release: string, known = migrations): Promise<string> {
  const data = join(mkdtempSync(join(FOLDER, 'zephyrfield-release-')), 'data');
  await restore(join(releases, release, 'installation.zip'), data, { migrations: known, now: Date.now() });
  const db = new Database(join(data, 'zephyrfield.sqlite'));
  db.exec('UPDATE source SET next_check_at = NULL');
  db.close();
  return data;
}

/** Copies the migrations, with one more. @returns their folder */
function withOneMore(data: string, sql: string): string {
  const folder = join(data, '../migrations');
  cpSync(migrations, folder, { recursive: true });
  const journalFile = join(folder, 'meta/_journal.json');
  const journal = JSON.parse(readFileSync(journalFile, 'utf8')) as {
    entries: { idx: number; when: number }[];
  };
  const last = journal.entries.at(-1)!;
  const entry = { ...last, idx: last.idx + 1, when: last.when + 1, tag: '9999_one_more' };
  writeFileSync(journalFile, JSON.stringify({ ...journal, entries: [...journal.entries, entry] }));
  writeFileSync(join(folder, '9999_one_more.sql'), sql);
  return folder;
}

/** The digest of each table's rows, but for what notes migrations: compared where nothing may have changed. */
function contents(file: string): Record<string, string> {
  const db = new Database(file, { readonly: true });
  try {
    const tables = db
      .prepare<[], string>(
        "SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT IN ('__drizzle_migrations', 'sqlite_sequence')",
      )
      .pluck()
      .all();
    const rows = (name: string) => JSON.stringify(db.prepare(`SELECT * FROM "${name}" ORDER BY 1, 2`).all());
    return Object.fromEntries(
      tables.map((name) => [name, createHash('sha256').update(rows(name)).digest('hex')]),
    );
  } finally {
    db.close();
  }
}
const triggersOf = (file: string) => {
  const db = new Database(file, { readonly: true });
  const found = db
    .prepare("SELECT name FROM sqlite_master WHERE type = 'trigger' ORDER BY name")
    .pluck()
    .all();
  db.close();
  return found;
};
const TRIGGERS = readdirSync(join(migrations, 'triggers')).map((name) => name.slice(0, -4));
/** A table made anew and put in place of the former one, as migrations do it that change a column. */
const REBUILT = [
  'CREATE TABLE `__new_learner` AS SELECT * FROM `learner`;',
  'DROP TABLE `learner`;',
  'ALTER TABLE `__new_learner` RENAME TO `learner`;',
  'CREATE UNIQUE INDEX `learner_id` ON `learner` (`id`);',
].join('\n--> statement-breakpoint\n');

/** Since 1.0.0, what has nothing to hand in is to settle as well: that number and what is made of it are others now. */
const COUNTED_OTHERWISE = ['unsettled', 'score', 'reasons'];
const asCountedNow = (path: string, view: unknown): unknown =>
  path.startsWith('learners-table')
    ? JSON.parse(
        JSON.stringify(view, (key, each: unknown) => (COUNTED_OTHERWISE.includes(key) ? undefined : each)),
      )
    : view;

test.each(readdirSync(releases))(
  'an installation of %s shows what it showed then, and takes what its pages have kept',
  async (release) => {
    const kept = JSON.parse(
      gunzipSync(readFileSync(join(releases, release, 'views.json.gz'))).toString(),
    ) as Kept;
    const data = await installationOf(release);
    const w = await Installation.over(data, Date.parse(kept.now));
    try {
      expect(kept.people.length).toBeGreaterThan(2);
      for (const { email, views } of kept.people) {
        const agent = w.caller();
        await agent.post('/api/auth/sign-in/email').send({ email, password: kept.password }).expect(200);
        const shown = await everyView((path) => agent.get(path));
        for (const [path, then] of Object.entries(views))
          expect([path, shown[path]]).toMatchObject([path, asCountedNow(path, withoutMoment(then))]);
      }
      // And what a page of that release has kept on a device is taken, from Juno.
      const outbox = JSON.parse(
        (JSON.parse(readFileSync(join(pages, release, 'device.json'), 'utf8')) as Record<string, string>)[
          'zephyrfield-outbox'
        ]!,
      ) as [{ writes: object[] }, { change: object }];
      const juno = w.caller();
      await juno
        .post('/api/auth/sign-in/email')
        .send({ email: kept.people[0]!.email, password: kept.password })
        .expect(200);
      const [{ id: calendarId }] = (await juno.get('/api/learners/juno/calendars').expect(200)).body as [
        { id: string },
      ];
      const writes = outbox[0].writes.map((write) => ({ ...write, calendarId }));
      await juno.post('/api/learners/juno/own').send({ writes }).expect(200);
      const [work] = (
        await juno
          .get('/api/learners/juno/occurrences?from=2026-10-07T00:00:00Z&to=2026-10-12T00:00:00Z')
          .expect(200)
      ).body as [{ itemId: string; recurrenceId: string; version: number }];
      const { itemId, recurrenceId, version } = work;
      await juno
        .patch(`/api/items/${itemId}/layer`)
        .send({ ...outbox[1].change, recurrenceId, version })
        .expect(200);
    } finally {
      await w.stop();
    }
  },
);

describe('an older installation', () => {
  const [oldest] = readdirSync(releases);
  let data: string;
  let file: string;
  beforeEach(async () => {
    data = await installationOf(oldest!);
    file = join(data, 'zephyrfield.sqlite');
    // What today's own migrations change is told by the views above: here it is one more than those.
    openDatabase(file, migrations).$client.close();
    for (const name of readdirSync(data)) if (name.startsWith('before-')) rmSync(join(data, name));
  });
  afterEach(() => rmSync(join(data, '..'), { recursive: true, force: true }));

  test('is copied, and brought up to date with all that refers to what is made anew', () => {
    const before = contents(file);
    const said: string[] = [];
    const folder = withOneMore(data, REBUILT);
    openDatabase(file, folder, (message) => said.push(message)).$client.close();
    expect(contents(file)).toEqual(before);
    expect(triggersOf(file)).toEqual(TRIGGERS);
    expect(said).toEqual(['the database is brought up to date', 'a migration was applied']);
    const copy = join(data, 'before-9999_one_more.sqlite');
    expect(contents(copy)).toEqual(before);
    // The one before does not open it any more, and says why.
    expect(() => openDatabase(file, migrations)).toThrow(/newer version of Zephyrfield/);
    openDatabase(file, folder).$client.close();
  });

  test.each([
    [
      'does not work',
      'ALTER TABLE `learner` ADD `nickname` text;\n--> statement-breakpoint\nDROP TABLE `no_such`;',
    ],
    ['leaves what refers to nothing', 'DELETE FROM `learner`;'],
  ])('stays as it was where a migration %s', (_, sql) => {
    const before = contents(file);
    const folder = withOneMore(data, sql);
    expect(() => openDatabase(file, folder)).toThrow(/is as it was, and a copy of it lies at/);
    expect(contents(file)).toEqual(before);
    openDatabase(file, migrations).$client.close();
  });

  test('is not touched where there is no copy of it', () => {
    const before = contents(file);
    const folder = withOneMore(data, REBUILT);
    // Something else stands where the copy would.
    cpSync(migrations, join(data, 'before-9999_one_more.sqlite'), { recursive: true });
    expect(() => openDatabase(file, folder)).toThrow(/No copy of/);
    expect(contents(file)).toEqual(before);
  });
});

test('no migration was rewritten: each is as it was recorded', () => {
  const journal = JSON.parse(readFileSync(join(migrations, 'meta/_journal.json'), 'utf8')) as {
    entries: { tag: string }[];
  };
  const recorded = JSON.parse(readFileSync(join(migrations, 'digests.json'), 'utf8')) as Record<
    string,
    string
  >;
  const digest = (tag: string) =>
    createHash('sha256')
      .update(readFileSync(join(migrations, `${tag}.sql`)))
      .digest('hex');
  expect(Object.fromEntries(journal.entries.map(({ tag }) => [tag, digest(tag)]))).toEqual(recorded);
});

test('the packages, the changelog and what is kept of a release say the same version', () => {
  const packages = ['.', 'core', 'server', 'app', 'stand-ins', 'demo'].map(
    (folder) =>
      (JSON.parse(readFileSync(join(root, folder, 'package.json'), 'utf8')) as { version: string }).version,
  );
  expect(new Set(packages)).toEqual(new Set([RELEASE]));
  const [newest] = /## \[?\d+\.\d+\.\d+/.exec(readFileSync(join(root, 'CHANGELOG.md'), 'utf8'))!;
  expect(newest).toContain(RELEASE);
  expect(existsSync(join(releases, RELEASE, 'installation.zip'))).toBe(true);
});
