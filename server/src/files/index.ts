import { UsedUp, type Pool } from '../work/pool.ts';
import { FILE_KIND } from './jobs.ts';
import type { FileKind } from './kind.ts';

/** Tells what files are by their content, in a thread; what takes too long is of no known kind. */
export const fileKinds =
  (pool: Pool) =>
  (personId: string, bytes: Uint8Array, name: string): Promise<FileKind> =>
    pool.run(FILE_KIND, { bytes, name }, personId).catch((error: unknown) => {
      if (error instanceof UsedUp) return { ok: false, why: 'unknown', says: '', is: '' };
      throw error;
    });
