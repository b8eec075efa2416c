import { closeSync, fsyncSync, openSync, readFileSync, renameSync, writeSync } from 'node:fs';
import { join } from 'node:path';
import { CannotStart } from '../data-folder.ts';
import type { Db } from './open.ts';

// A count that is written into the database, and beside it, after something was saved: a database that has a lower one
// than lies beside it has lost what was written since, say with its write-ahead log.

/** The file beside the database, in the folder of the installation. */
const BESIDE = 'written';
/** Time for which a database counts as one that can be written to, or cannot, once that was found, in milliseconds. */
const [GOOD_FOR, BAD_FOR] = [5_000, 1_000];

function countBeside(data: string): number {
  try {
    return Number(readFileSync(join(data, BESIDE), 'utf8')) || 0;
  } catch {
    return 0;
  }
}

/** Writes a small file whole and safely. */
function putBeside(data: string, count: number): void {
  const part = join(data, `.${BESIDE}`);
  const file = openSync(part, 'w', 0o600);
  try {
    writeSync(file, String(count));
    fsyncSync(file);
  } finally {
    closeSync(file);
  }
  renameSync(part, join(data, BESIDE));
}

/**
 * Counts what is saved.
 * @throws CannotStart where the database has lost something that was saved
 */
export function makePulse({ $client: sqlite }: Db, data: string) {
  const countIn = () => sqlite.pragma('user_version', { simple: true }) as number;
  const changes = sqlite.prepare<[], number>('SELECT total_changes()').pluck();
  let count = countIn();
  const beside = countBeside(data);
  if (count < beside)
    throw new CannotStart(
      `the database has lost what was saved last: it is older than the count in ${join(data, BESIDE)} says, or the ` +
        'log beside it (-wal) is gone. Bring it back from a backup or a replica. To go on with what is there, ' +
        'delete that file first.',
    );
  try {
    if (beside < count) putBeside(data, count);
  } catch {
    // A full disk keeps nobody from reading; it is written with the next change.
  }
  let seen = changes.get()!;
  let wrote = -Infinity;
  let failed = -Infinity;
  const write = (): void => {
    sqlite.pragma(`user_version = ${count + 1}`);
    count++;
    wrote = performance.now();
    putBeside(data, count);
  };
  return {
    /** Counts on, where something was saved since. @throws where nothing can be written */
    beat(): void {
      const now = changes.get()!;
      if (now === seen) return;
      write();
      seen = now;
    },
    /** Tells whether something can be written: by what was, a moment ago, or by writing. */
    beats(): boolean {
      if (performance.now() - wrote < GOOD_FOR) return true;
      // Another program's lock is waited for each time: not for everybody who asks.
      if (performance.now() - failed < BAD_FOR) return false;
      try {
        write();
        return true;
      } catch {
        failed = performance.now();
        return false;
      }
    },
  };
}
export type Pulse = ReturnType<typeof makePulse>;
