import { chmodSync, closeSync, mkdirSync, openSync } from 'node:fs';
import { dirname } from 'node:path';
import Database from 'better-sqlite3';
import { drizzle, type BetterSQLite3Database } from 'drizzle-orm/better-sqlite3';
import { migrate } from 'drizzle-orm/better-sqlite3/migrator';
import * as schema from './schema.ts';

export type Db = BetterSQLite3Database<typeof schema> & { $client: Database.Database };

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
  migrate(db, { migrationsFolder: migrations });
  return db as Db;
}
