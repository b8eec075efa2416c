import { chmodSync, closeSync, existsSync, mkdirSync, openSync } from 'node:fs';
import { dirname } from 'node:path';
import Database from 'better-sqlite3';
import { drizzle, type BetterSQLite3Database } from 'drizzle-orm/better-sqlite3';
import { migrate } from 'drizzle-orm/better-sqlite3/migrator';
import { readMigrationFiles } from 'drizzle-orm/migrator';
import { CannotStart } from '../data-folder.ts';
import { codeOf } from '../fault.ts';
import * as schema from './schema.ts';

/** Whether migrations were run on a database that are none of ours. */
function isForeign(client: Database.Database, migrations: string): boolean {
  const isNew = !client.prepare("SELECT 1 FROM sqlite_master WHERE name = '__drizzle_migrations'").get();
  if (isNew) return false;
  const ours = new Set(readMigrationFiles({ migrationsFolder: migrations }).map((m) => m.hash));
  const run = client.prepare<[], string>('SELECT hash FROM __drizzle_migrations').pluck().all();
  return run.some((hash) => !ours.has(hash));
}

export type Db = BetterSQLite3Database<typeof schema> & { $client: Database.Database };

/** Whether a file is a database that this version cannot use. */
export function isForeignDatabase(file: string, migrations: string): boolean {
  if (!existsSync(file)) return false;
  const client = new Database(file, { readonly: true });
  try {
    return isForeign(client, migrations);
  } finally {
    client.close();
  }
}

/** How large the write-ahead log stays once it has been brought in, in bytes. */
const LARGEST_LOG = 16 * 2 ** 20;
/** So long somebody who writes waits for another one, in milliseconds: nothing else goes on meanwhile. */
const BUSY_WAIT = 250;

/**
 * Opens the database and brings it up to date. Write-ahead log with full sync: what a person was told is
 * saved survives a crash of the process and of the machine.
 * @throws CannotStart where it is damaged, or of another version
 */
export function openDatabase(file: string, migrations: string): Db {
  mkdirSync(dirname(file), { recursive: true, mode: 0o700 });
  // Only its owner may read it; what SQLite lays beside it (-wal, -shm) gets the same rights.
  closeSync(openSync(file, 'a', 0o600));
  chmodSync(file, 0o600);
  const client = new Database(file);
  try {
    client.pragma('journal_mode = WAL');
    client.pragma('synchronous = FULL');
    client.pragma('foreign_keys = ON');
    // After a long reader (a look through all of it, a copy) the log beside the database shrinks again.
    client.pragma(`journal_size_limit = ${LARGEST_LOG}`);
    client.pragma(`busy_timeout = ${BUSY_WAIT}`);
    if (faultIn(client, 'quick_check') !== null) throw damaged(file);
    const db = drizzle(client, { schema });
    if (isForeign(client, migrations))
      throw new CannotStart(
        `${file} was made by another version (one before the first release, or a later one). Use that version, or move the file away and begin anew.`,
      );
    migrate(db, { migrationsFolder: migrations });
    return db as Db;
  } catch (error) {
    client.close();
    throw isDamage(error) ? damaged(file) : error;
  }
}

/** Reads a database by a connection of its own, beside whoever writes: for work in another thread. */
export function readDatabase<T>(file: string, read: (db: Db) => T): T {
  const client = new Database(file, { readonly: true, fileMustExist: true });
  try {
    client.pragma(`busy_timeout = ${BUSY_WAIT}`);
    // What is read in several steps is of one moment.
    return client.transaction(() => read(drizzle(client, { schema }) as Db))();
  } finally {
    client.close();
  }
}

const isDamage = (error: unknown) => /^SQLITE_(CORRUPT|NOTADB)/.test(codeOf(error));
const damaged = (file: string) =>
  new CannotStart(`${file} is damaged. Bring it back from a backup; until then nothing is read or written.`);

/** What SQLite finds wrong in a database; null for nothing. */
export function faultIn(client: Database.Database, check: 'quick_check' | 'integrity_check'): string | null {
  const found = String(client.pragma(`${check}(1)`, { simple: true }));
  return found === 'ok' ? null : found;
}

/**
 * Whether all of a database is sound: each page and each index, read by a connection of its own.
 * @throws where it cannot be looked through, which says nothing of it
 */
export function isSound({ file }: { file: string }): boolean {
  const client = new Database(file, { readonly: true, fileMustExist: true });
  try {
    return faultIn(client, 'integrity_check') === null;
  } catch (error) {
    if (isDamage(error)) return false;
    throw error;
  } finally {
    client.close();
  }
}
