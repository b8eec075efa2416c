import { chmodSync, closeSync, existsSync, mkdirSync, openSync } from 'node:fs';
import { dirname } from 'node:path';
import Database from 'better-sqlite3';
import { drizzle, type BetterSQLite3Database } from 'drizzle-orm/better-sqlite3';
import { CannotStart } from '../data-folder.ts';
import { migrate, standingOf, type Say } from './migrate.ts';
import * as schema from './schema.ts';
import { faultIn, isDamage } from './sound.ts';

export type Db = BetterSQLite3Database<typeof schema> & { $client: Database.Database };

/** Tells whether a file is a database that this version cannot use. */
export function isForeignDatabase(file: string, migrations: string): boolean {
  if (!existsSync(file)) return false;
  const client = new Database(file, { readonly: true });
  try {
    return ['newer', 'foreign'].includes(standingOf(client, migrations).kind);
  } finally {
    client.close();
  }
}

/** How large the write-ahead log stays once it has been brought in, in bytes. */
const LARGEST_LOG = 16 * 2 ** 20;
/** Time somebody who writes waits for another one, in milliseconds: nothing else goes on meanwhile. */
const BUSY_WAIT = 250;

/**
 * Opens the database and brings it up to date. Write-ahead log with full sync: what a person was told is
 * saved survives a crash of the process and of the machine.
 * @param migrations their folder
 * @throws CannotStart where it is damaged, of another version, or cannot be brought up to date
 */
export function openDatabase(file: string, migrations: string, say: Say = () => {}): Db {
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
    migrate(client, file, migrations, say);
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

const damaged = (file: string) =>
  new CannotStart(`${file} is damaged. Bring it back from a backup; until then nothing is read or written.`);
