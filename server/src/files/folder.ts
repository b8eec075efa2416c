import { createHash } from 'node:crypto';
import {
  createReadStream,
  existsSync,
  mkdirSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
  utimesSync,
} from 'node:fs';
import { open } from 'node:fs/promises';
import { join } from 'node:path';
import { DAY } from '@zephyrfield/core/time/civil';
import { codeOf } from '../fault.ts';
import { fileLost, noFolder } from '../http/problem.ts';
import { syncToDisk } from '../sync.ts';

/** Place where files go that nothing refers to, and for how long */
const BIN = '.bin';
const KEPT = 7 * DAY;

/** Number of files that are remembered as sound. */
const MOST_SEEN = 20_000;

/** Reads the SHA-256 of a file's bytes, in hexadecimal; empty where it cannot be read. */
export async function digestOfFile(path: string): Promise<string> {
  const hash = createHash('sha256');
  try {
    for await (const chunk of createReadStream(path)) hash.update(chunk as Buffer);
    return hash.digest('hex');
  } catch {
    return '';
  }
}

/**
 * Files beside the database, each named by the SHA-256 of its bytes, so that the same one is kept once
 * however often it is used. A file stands whole and safely on the disk before anything refers to it.
 */
export class FileFolder {
  private count = 0;
  /** Moment when each file was last found sound */
  private readonly seen = new Map<string, number>();
  constructor(readonly path: string) {
    mkdirSync(path, { recursive: true, mode: 0o700 });
    // What a crash left half written.
    for (const name of readdirSync(path))
      if (name.startsWith('.') && name !== BIN) rmSync(join(path, name), { recursive: true });
  }

  /**
   * Puts bytes on the disk and gives their digest. `refer` is run in the same turn in which the file gets its
   * name, so that tidying up never meets a file nobody refers to yet.
   */
  async put<T>(bytes: Uint8Array, refer: (digest: string) => T): Promise<T> {
    const digest = createHash('sha256').update(bytes).digest('hex');
    const to = this.of(digest);
    const part = join(this.path, `.${this.count++}-${digest.slice(0, 16)}`);
    const file = await open(part, 'wx', 0o600).catch((error: unknown) => {
      // The folder itself was taken away: what is made anew in its place would hide what is brought back.
      throw codeOf(error) === 'ENOENT' ? noFolder() : error;
    });
    try {
      await file.writeFile(bytes);
      await file.sync();
      await file.close();
    } catch (error) {
      // A full disk, say: what is half written must not keep it full.
      await file.close().catch(() => {});
      rmSync(part, { force: true });
      throw error;
    }
    // What was damaged on the disk is put right by who sends it again.
    if (existsSync(to) && (await digestOfFile(to)) === digest) rmSync(part);
    else renameSync(part, to);
    this.seen.delete(digest);
    await syncToDisk(this.path);
    // Tidying may have come between: then it is written once more.
    return existsSync(to) ? refer(digest) : this.put(bytes, refer);
  }

  /**
   * Finds a file that still holds the bytes it is named by; each is looked at once a day.
   * @param now instant, in milliseconds
   * @returns its path
   * @throws ProblemError where it is damaged, or missing
   */
  async sound(digest: string, now: number): Promise<string> {
    const path = this.of(digest);
    if (!existsSync(path)) throw fileLost('missing');
    if ((this.seen.get(digest) ?? -Infinity) > now - DAY) return path;
    if ((await digestOfFile(path)) !== digest) throw fileLost('damaged');
    if (this.seen.size >= MOST_SEEN) this.seen.clear();
    this.seen.set(digest, now);
    return path;
  }

  of(digest: string): string {
    return join(this.path, digest);
  }

  /**
   * Puts what nothing refers to into a bin, and lets go of what has lain there for a week. Nothing is moved on the word
   * of a database that knows of no file at all.
   * @param now instant, in milliseconds
   */
  tidy(used: ReadonlySet<string>, now: number): void {
    const bin = join(this.path, BIN);
    mkdirSync(bin, { recursive: true, mode: 0o700 });
    for (const name of readdirSync(bin)) {
      const file = join(bin, name);
      if (used.has(name)) renameSync(file, this.of(name));
      else if (statSync(file).mtimeMs < now - KEPT) rmSync(file);
    }
    if (!used.size) return;
    for (const name of readdirSync(this.path)) {
      if (name.startsWith('.') || used.has(name)) continue;
      utimesSync(this.of(name), now / 1000, now / 1000);
      renameSync(this.of(name), join(bin, name));
    }
  }
}
