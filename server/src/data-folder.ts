import { chmodSync, existsSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { codeOf } from './fault.ts';

/** Reason that keeps a server from starting, in words for who runs it. */
export class CannotStart extends Error {}

/**
 * Keeps a data folder for one server. The lock is the operating system's, on a file that SQLite opens: it ends with
 * the process, however that ends.
 * @returns what lets go of it
 * @throws CannotStart where another server has it, or nothing can be written there
 */
export function lockFolder(data: string): () => void {
  const file = join(data, 'lock');
  const held = new Database(file, { timeout: 0 });
  try {
    chmodSync(file, 0o600);
    held.pragma('locking_mode = EXCLUSIVE');
    held.exec('BEGIN EXCLUSIVE');
  } catch (error) {
    held.close();
    const code = codeOf(error);
    if (!code.startsWith('SQLITE_BUSY'))
      throw new CannotStart(
        `nothing can be written into ${data} (${code}). Make room there, or let it be written to.`,
      );
    throw new CannotStart(
      `another Zephyrfield is running on ${data}. Stop it first; two on one folder would tell everybody everything twice.`,
    );
  }
  return () => void held.close();
}

const sizeOf = (file: string) => statSync(file, { throwIfNoEntry: false })?.size ?? 0;
/** Size of the head of a database, in bytes: what is smaller holds nothing (SQLite’s file format, 1.3). */
const SMALLEST = 100;
const isFilled = (folder: string) =>
  existsSync(folder) && readdirSync(folder).some((name) => !name.startsWith('.'));

/**
 * Refuses to begin anew where there was an installation: a lost database is to be brought back, and not to be
 * taken for a new one.
 * @throws CannotStart
 */
export function refuseToBeginAnew(data: string): void {
  const file = join(data, 'zephyrfield.sqlite');
  if (sizeOf(file) >= SMALLEST) return;
  const left = [
    ...(existsSync(join(data, 'key')) ? ['key'] : []),
    ...(isFilled(join(data, 'files')) ? ['files'] : []),
  ];
  if (!left.length) return;
  throw new CannotStart(
    `the database ${file} is ${existsSync(file) ? 'empty' : 'missing'}, but there was one: its ${left.join(' and ')} lie beside it. Bring the database back from a backup. To begin anew, move the whole folder away.`,
  );
}

/**
 * Whether a folder and its database are still where they were opened: a database that was taken away goes on
 * being written to, where nobody will find it.
 */
export function watchPlace(file: string): () => boolean {
  const opened = statSync(file).ino;
  let seen = { at: -Infinity, is: true };
  return () => {
    const now = performance.now();
    if (now - seen.at > 200)
      seen = { at: now, is: statSync(file, { throwIfNoEntry: false })?.ino === opened };
    return seen.is;
  };
}
