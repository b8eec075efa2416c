import { chmodSync, closeSync, existsSync, mkdirSync, openSync } from 'node:fs';
import { dirname } from 'node:path';
import Database from 'better-sqlite3';
import { drizzle, type BetterSQLite3Database } from 'drizzle-orm/better-sqlite3';
import { migrate } from 'drizzle-orm/better-sqlite3/migrator';
import { readMigrationFiles } from 'drizzle-orm/migrator';
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

/**
 * Opens the database and brings it up to date. Write-ahead log with full sync: what a person was told is
 * saved survives a crash of the process and of the machine.
 */
export function openDatabase(file: string, migrations: string): Db {
  mkdirSync(dirname(file), { recursive: true, mode: 0o700 });
  // Only its owner may read it; what SQLite lays beside it (-wal, -shm) gets the same rights.
  closeSync(openSync(file, 'a', 0o600));
  chmodSync(file, 0o600);
  const client = new Database(file);
  client.pragma('journal_mode = WAL');
  client.pragma('synchronous = FULL');
  client.pragma('foreign_keys = ON');
  client.pragma('busy_timeout = 5000');
  const db = drizzle(client, { schema });
  if (isForeign(client, migrations)) {
    client.close();
    throw new Error(
      `${file} was made by another version (one before the first release, or a later one). Use that version, or move the file away and begin anew.`,
    );
  }
  migrate(db, { migrationsFolder: migrations });
  return db as Db;
}
