import { chmodSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { dirname, join } from 'node:path';
import type Database from 'better-sqlite3';
import { readMigrationFiles, type MigrationMeta } from 'drizzle-orm/migrator';
import { CannotStart } from '../data-folder.ts';
import { isSound } from './sound.ts';

/** Says what is done to a database, in words and fields for the log. */
export type Say = (message: string, fields?: Readonly<Record<string, string | number>>) => void;

/** The table in which drizzle’s own migrator notes what was applied, since installations have it. */
const APPLIED = '__drizzle_migrations';

/** State of a database towards the migrations that are known here. */
export type Standing =
  | { kind: 'new' | 'older'; pending: Migration[] }
  | { kind: 'current' }
  /** It has more than are known here */
  | { kind: 'newer' }
  /** Migrations were applied to it that are none of ours */
  | { kind: 'foreign' };
type Migration = MigrationMeta & { name: string };

function known(folder: string): Migration[] {
  const journal = JSON.parse(readFileSync(join(folder, 'meta/_journal.json'), 'utf8')) as {
    entries: { tag: string }[];
  };
  return readMigrationFiles({ migrationsFolder: folder }).map((migration, i) => ({
    ...migration,
    name: journal.entries[i]!.tag,
  }));
}

/** Compares what was applied to a database with what is known here. @param folder of the migrations */
export function standingOf(client: Database.Database, folder: string): Standing {
  const all = known(folder);
  const isNew = !client.prepare('SELECT 1 FROM sqlite_master WHERE name = ?').get(APPLIED);
  if (isNew) return { kind: 'new', pending: all };
  const applied = client.prepare<[], string>(`SELECT hash FROM ${APPLIED} ORDER BY id`).pluck().all();
  if (applied.some((hash, i) => i < all.length && hash !== all[i]!.hash)) return { kind: 'foreign' };
  if (applied.length > all.length) return { kind: 'newer' };
  const pending = all.slice(applied.length);
  return pending.length ? { kind: 'older', pending } : { kind: 'current' };
}

/**
 * Brings a database up to date, in one transaction: all migrations it has not had, then the triggers, which are written
 * by hand and stand in files of their own. An older database is copied first, and the copy looked through.
 * @param file where it lies; the copy lies beside it
 * @param folder of the migrations
 * @throws CannotStart where it is of another version, or cannot be brought up to date; then it is as it was
 */
export function migrate(client: Database.Database, file: string, folder: string, say: Say): void {
  const standing = standingOf(client, folder);
  if (standing.kind === 'newer')
    throw new CannotStart(
      `${file} was written by a newer version of Zephyrfield. Start that version, or bring back a backup from before the update.`,
    );
  if (standing.kind === 'foreign')
    throw new CannotStart(
      `${file} was made by a version from before the first release. Move the file away and begin anew.`,
    );
  if (standing.kind === 'current') {
    client.transaction(() => putTriggers(client, folder)).immediate();
    return;
  }
  const { pending } = standing;
  const copy = standing.kind === 'older' ? copyBefore(client, file, pending[0]!.name) : null;
  if (copy) say('the database is brought up to date', { migrations: pending.length, copy });
  // Tables are made anew and put in place of others: what refers to them must not go along. All is compared below.
  client.pragma('foreign_keys = OFF');
  try {
    client
      .transaction(() => {
        client.exec(
          `CREATE TABLE IF NOT EXISTS ${APPLIED} (id INTEGER PRIMARY KEY AUTOINCREMENT, hash text NOT NULL, created_at numeric)`,
        );
        const note = client.prepare(`INSERT INTO ${APPLIED} (hash, created_at) VALUES (?, ?)`);
        for (const { name, sql, hash, folderMillis } of pending) {
          for (const statement of sql) client.exec(statement);
          note.run(hash, folderMillis);
          if (copy) say('a migration was applied', { migration: name });
        }
        putTriggers(client, folder);
        if ((client.pragma('foreign_key_check') as unknown[]).length)
          throw new Error('what refers to something would refer to nothing');
      })
      .immediate();
  } catch (error) {
    throw new CannotStart(
      `The database could not be brought up to date (${wordsOf(error)}). ${file} is as it was` +
        `${copy ? `, and a copy of it lies at ${copy}` : ''}. Start the version before this one again.`,
    );
  } finally {
    client.pragma('foreign_keys = ON');
  }
}

const wordsOf = (error: unknown) => (error instanceof Error ? error.message : 'unknown');

/** Copies a database before it is changed, and looks the copy through. @returns where it lies @throws CannotStart */
function copyBefore(client: Database.Database, file: string, name: string): string {
  const copy = join(dirname(file), `before-${name}.sqlite`);
  try {
    // One from a try before this: the database is as it was then.
    rmSync(copy, { force: true });
    client.prepare('VACUUM INTO ?').run(copy);
    chmodSync(copy, 0o600);
    if (!isSound({ file: copy })) throw new Error('the copy is damaged');
  } catch (error) {
    throw new CannotStart(
      `No copy of ${file} could be made (${wordsOf(error)}). It has to be brought up to date, and is not touched ` +
        'without a copy. Make room, or bring it back from a backup.',
    );
  }
  return copy;
}

/** Has the database have the triggers that stand in the folder, each in a file of its own, and no others of ours. */
function putTriggers(client: Database.Database, folder: string): void {
  const place = join(folder, 'triggers');
  const wanted = new Map(
    readdirSync(place)
      .filter((name) => name.endsWith('.sql'))
      .sort()
      .map((name) => [name.slice(0, -4), readFileSync(join(place, name), 'utf8').trim().replace(/;$/, '')]),
  );
  const there = new Map(
    client
      .prepare<[], { name: string; sql: string }>(
        "SELECT name, sql FROM sqlite_master WHERE type = 'trigger'",
      )
      .all()
      .map(({ name, sql }) => [name, sql]),
  );
  for (const [name, sql] of there) if (wanted.get(name) !== sql) client.exec(`DROP TRIGGER "${name}"`);
  for (const [name, sql] of wanted) if (there.get(name) !== sql) client.exec(sql);
}
