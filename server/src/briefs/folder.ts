import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, renameSync, rmSync } from 'node:fs';
import { open } from 'node:fs/promises';
import { join } from 'node:path';

/**
 * Files beside the database, each named by the SHA-256 of its bytes, so that the same one is kept once
 * however often it is used. A file stands whole and safely on the disk before anything refers to it.
 */
export class FileFolder {
  private count = 0;
  constructor(private readonly path: string) {
    mkdirSync(path, { recursive: true, mode: 0o700 });
    // What a crash left half written.
    for (const name of readdirSync(path)) if (name.startsWith('.')) rmSync(join(path, name));
  }

  /**
   * Puts bytes on the disk and gives their digest. `refer` is run in the same turn in which the file gets its
   * name, so that tidying up never meets a file nobody refers to yet.
   */
  async put<T>(bytes: Uint8Array, refer: (digest: string) => T): Promise<T> {
    const digest = createHash('sha256').update(bytes).digest('hex');
    const to = this.of(digest);
    const part = join(this.path, `.${this.count++}-${digest.slice(0, 16)}`);
    const file = await open(part, 'wx', 0o600);
    try {
      await file.writeFile(bytes);
      await file.sync();
    } finally {
      await file.close();
    }
    if (existsSync(to)) rmSync(part);
    else renameSync(part, to);
    const folder = await open(this.path, 'r');
    await folder.sync().finally(() => folder.close());
    // Tidying may have come between: then it is written once more.
    return existsSync(to) ? refer(digest) : this.put(bytes, refer);
  }

  of(digest: string): string {
    return join(this.path, digest);
  }

  /** Removes what nothing refers to. */
  tidy(used: ReadonlySet<string>): void {
    for (const name of readdirSync(this.path))
      if (!name.startsWith('.') && !used.has(name)) rmSync(join(this.path, name));
  }
}
