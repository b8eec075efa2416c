import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import Database from 'better-sqlite3';
import { isForeignDatabase, openDatabase } from '../src/db/open';

const migrations = resolve(__dirname, '../migrations');

test('a database of another version is told apart, and not touched', () => {
  const folder = mkdtempSync(join(tmpdir(), 'zephyrfield-open-'));
  try {
    const file = join(folder, 'a.sqlite');
    expect(isForeignDatabase(file, migrations)).toBe(false);
    openDatabase(file, migrations).$client.close();
    expect(isForeignDatabase(file, migrations)).toBe(false);
    // Opened again, nothing is run twice.
    openDatabase(file, migrations).$client.close();

    const other = new Database(file);
    other
      .prepare('INSERT INTO __drizzle_migrations (hash, created_at) VALUES (?, ?)')
      .run('of another version', 1);
    other.close();
    expect(isForeignDatabase(file, migrations)).toBe(true);
    expect(() => openDatabase(file, migrations)).toThrow(/newer version/);
  } finally {
    rmSync(folder, { recursive: true });
  }
});
