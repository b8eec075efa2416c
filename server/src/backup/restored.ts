import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** The file beside the database that says when it was brought back from a backup. */
const RESTORED = 'restored';

/** Notes that what lies in a folder was brought back. @param now instant, in milliseconds */
export const noteRestored = (folder: string, now: number): void =>
  writeFileSync(join(folder, RESTORED), `${new Date(now).toISOString()}\n`, { mode: 0o600 });

/** Reads when an installation was brought back last, an instant in milliseconds; 0 where it never was. */
export function restoredAt(data: string): number {
  try {
    return Date.parse(readFileSync(join(data, RESTORED), 'utf8').trim()) || 0;
  } catch {
    return 0;
  }
}
