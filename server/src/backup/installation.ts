import { execFile } from 'node:child_process';
import {
  copyFileSync,
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  renameSync,
  rmSync,
} from 'node:fs';
import { readFile } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { promisify } from 'node:util';
import Database from 'better-sqlite3';
import { CannotStart, lockFolder } from '../data-folder.ts';
import { isForeignDatabase } from '../db/open.ts';
import { digestOfFile } from '../files/folder.ts';
import { faultIn } from '../db/sound.ts';
import { BadArchive, openArchive, writeArchive, type Part } from './archive.ts';
import { noteRestored } from './restored.ts';
import { isSealed, openSealed, sealFile } from './sealed.ts';

// A whole installation: its database, its key, and the files of its briefs.

const DATABASE = 'zephyrfield.sqlite';
const KEY = 'key';
const FILES = 'files';
const HEAD = { format: 'zephyrfield-installation', version: 1 } as const;
/** Bounds of what is unpacked: far beyond any installation, and so that a small file cannot fill a disk. */
const LIMITS = { whole: 200 * 2 ** 30, entry: 16 * 2 ** 20, entries: 1_000_000 } as const;

/** Content of a backup, for who made it. */
export interface BackupReport {
  schedules: number;
  people: number;
  files: number;
  /** Files that briefs and notes name and that are not on the disk */
  missing: number;
  /** Files whose bytes are not those that were added; they are left out */
  damaged: number;
}

/** Report of a restore, for who did it. */
export interface RestoreReport extends Pick<BackupReport, 'schedules' | 'people' | 'files' | 'missing'> {
  /** Instant of the last change that it holds, in milliseconds; null where it holds none */
  asOf: number | null;
}

/**
 * Backs an installation up into one file, while it is used: SQLite copies the database page by page as of one moment
 * (its online backup), the key and the files that this copy names go along. What was written is read again and compared.
 * @param passphrase what it is sealed with; without it, whoever has the file can read everything
 * @throws CannotStart where there is none, or it is damaged
 */
export async function backUp(
  data: string,
  to: string,
  now: number,
  passphrase?: string,
): Promise<BackupReport> {
  const file = join(data, DATABASE);
  if (!existsSync(file) || !existsSync(join(data, KEY)))
    throw new CannotStart(`There is no installation in ${data}. Say where it is with ZEPHYRFIELD_DATA.`);
  // Beside the archive, where there is room for it.
  const work = mkdtempSync(join(dirname(to), '.zephyrfield-backup-'));
  let isBegun = false;
  try {
    const copy = join(work, DATABASE);
    const source = new Database(file, { readonly: true, fileMustExist: true });
    await source.backup(copy).finally(() => source.close());
    const { digests, ...counts } = lookThrough(copy);
    const place = (digest: string) =>
      [join(data, FILES, digest), join(data, FILES, '.bin', digest)].find((path) => existsSync(path));
    const there = digests.filter((digest) => place(digest));
    const found: string[] = [];
    for (const digest of there) if ((await digestOfFile(place(digest)!)) === digest) found.push(digest);
    const plain = passphrase === undefined ? to : join(work, 'plain.zip');
    isBegun = true;
    await writeArchive(plain, { ...HEAD, made: now }, [
      { name: DATABASE, file: copy },
      { name: KEY, bytes: await readFile(join(data, KEY)) },
      ...found.map((digest): Part => ({ name: `${FILES}/${digest}`, file: place(digest)! })),
    ]);
    const archive = await openArchive(plain, HEAD, LIMITS);
    await archive.check().finally(() => archive.close());
    if (passphrase !== undefined) {
      await sealFile(plain, to, passphrase);
      // What was written is read again here as well: every frame is checked as it is opened.
      await openSealed(to, join(work, 'opened.zip'), passphrase);
    }
    const [missing, damaged] = [digests.length - there.length, there.length - found.length];
    return { ...counts, files: found.length, missing, damaged };
  } catch (error) {
    // What was not read again and found sound is no backup.
    if (isBegun) rmSync(to, { force: true });
    throw error;
  } finally {
    rmSync(work, { recursive: true, force: true });
  }
}

/** Looks through a copy of a database. @throws CannotStart where it is damaged */
function lookThrough(file: string): {
  schedules: number;
  people: number;
  digests: string[];
  asOf: number | null;
} {
  const db = new Database(file, { readonly: true });
  try {
    const fault = faultIn(db, 'integrity_check');
    if (fault !== null) throw new CannotStart(`The database is damaged (${fault}).`);
    const count = (table: string) => db.prepare(`SELECT count(*) FROM ${table}`).pluck().get() as number;
    return {
      schedules: count('learner'),
      people: count('"user"'),
      asOf: db
        .prepare<[], number | null>(
          `SELECT max(at) FROM (SELECT max(updated_at) AS at FROM item UNION SELECT max(updated_at) FROM layer
            UNION SELECT max(at) FROM note)`,
        )
        .pluck()
        .get() as number | null,
      digests: db
        .prepare<[], string>('SELECT digest FROM brief_file UNION SELECT digest FROM note_file')
        .pluck()
        .all(),
    };
  } finally {
    db.close();
  }
}

/**
 * Brings an installation back from a backup, into a folder on which no server runs. What was there is kept beside it.
 * Until all of it is unpacked, compared and looked through, nothing is changed.
 * @returns where what was there before lies; null where there was nothing
 * @throws BadArchive, or CannotStart where a server runs there
 */
export async function restore(
  from: string,
  data: string,
  { migrations, now, passphrase }: { migrations: string; now: number; passphrase?: string | undefined },
): Promise<{ report: RestoreReport; before: string | null }> {
  const plain = `${data}.opened-${process.pid}.zip`;
  const archive = await openArchive(await opened(from, plain, passphrase), HEAD, LIMITS).catch(
    (error: unknown) => {
      rmSync(plain, { force: true });
      throw error;
    },
  );
  const part = `${data}.restoring-${process.pid}`;
  rmSync(part, { recursive: true, force: true });
  mkdirSync(join(part, FILES), { recursive: true, mode: 0o700 });
  try {
    const names = Object.keys(archive.manifest.entries);
    for (const needed of [DATABASE, KEY])
      if (!names.includes(needed)) throw new BadArchive(`${needed} is missing in it.`);
    for (const name of names) {
      const known = name === DATABASE || name === KEY || /^files\/[0-9a-f]{64}$/.test(name);
      if (!known) throw new BadArchive('It holds a file that belongs to no installation.');
      await archive.copy(name, join(part, name));
    }
    const { digests, ...counts } = usable(join(part, DATABASE), migrations);
    const files = await soundIn(join(part, FILES), digests);
    noteRestored(part, now);
    const before = exchange(part, data, now);
    return { report: { ...counts, files, missing: digests.length - files }, before };
  } catch (error) {
    rmSync(part, { recursive: true, force: true });
    throw error;
  } finally {
    archive.close();
    rmSync(plain, { force: true });
  }
}

/** Counts the files of a folder that hold the bytes they are named by. */
async function soundIn(folder: string, digests: readonly string[]): Promise<number> {
  let sound = 0;
  for (const digest of digests) if ((await digestOfFile(join(folder, digest))) === digest) sound++;
  return sound;
}

/** Opens a backup where it is sealed. @returns where it lies as an archive @throws BadArchive */
async function opened(from: string, plain: string, passphrase: string | undefined): Promise<string> {
  const sealed = await isSealed(from).catch(() => {
    throw new BadArchive(`${from} cannot be read.`);
  });
  if (!sealed) return from;
  if (passphrase === undefined)
    throw new BadArchive('It is sealed. Set its passphrase with ZEPHYRFIELD_BACKUP_PASSPHRASE.');
  await openSealed(from, plain, passphrase).catch((error: unknown) => {
    rmSync(plain, { force: true });
    throw error;
  });
  return plain;
}

/** @throws BadArchive where a database is damaged, or of a later version */
function usable(file: string, migrations: string) {
  try {
    if (isForeignDatabase(file, migrations))
      throw new BadArchive('Its database was made by another version of Zephyrfield. Use that one.');
    return lookThrough(file);
  } catch (error) {
    if (error instanceof BadArchive) throw error;
    throw new BadArchive('Its database is damaged.');
  }
}

/** Puts a folder in the place of another, which is kept beside it. @returns where that is */
export function exchange(part: string, data: string, now: number): string | null {
  const isThere = existsSync(data) && readdirSync(data).length > 0;
  if (!isThere) {
    rmSync(data, { recursive: true, force: true });
    renameSync(part, data);
    return null;
  }
  const unlock = lockFolder(data);
  const stamp = new Date(now).toISOString().replace(/[:.]/g, '-').slice(0, 19);
  const before = join(dirname(data), `${basename(data)}.before-${stamp}`);
  try {
    renameSync(data, before);
    renameSync(part, data);
  } finally {
    unlock();
  }
  return before;
}

export interface FromReplica {
  migrations: string;
  now: number;
  /** Litestream’s program */
  program: string;
  /** The key file of the installation, which is not replicated */
  key: string;
  /** As of when, an instant as text; as late as there is without it */
  at: string | undefined;
}

/**
 * Brings an installation’s database back from where it was replicated to. Files of briefs are not replicated: those that
 * lie in the folder stay.
 * @throws BadArchive, or CannotStart where a server runs there
 */
export async function restoreReplica(url: string, data: string, how: FromReplica) {
  const { program, key, at, migrations, now } = how;
  if (!existsSync(key)) throw new BadArchive(`There is no key file ${key}.`);
  const part = `${data}.restoring-${process.pid}`;
  rmSync(part, { recursive: true, force: true });
  mkdirSync(part, { recursive: true, mode: 0o700 });
  try {
    const file = join(part, DATABASE);
    const moment = at ? ['-timestamp', new Date(at).toISOString()] : [];
    const args = ['restore', '-o', file, ...moment, url];
    await promisify(execFile)(program, args).catch(() => {
      throw new BadArchive('Nothing could be read from the replica. Look at its address, and at the moment.');
    });
    copyFileSync(key, join(part, KEY));
    const { digests, ...counts } = usable(file, migrations);
    const files = join(data, FILES);
    if (existsSync(files)) cpSync(files, join(part, FILES), { recursive: true });
    if (!counts.people) throw new BadArchive('The replica is empty: there is no account in it.');
    const there = await soundIn(join(part, FILES), digests);
    noteRestored(part, now);
    const report: RestoreReport = { ...counts, files: there, missing: digests.length - there };
    return { report, before: exchange(part, data, now) };
  } catch (error) {
    rmSync(part, { recursive: true, force: true });
    throw error;
  }
}
