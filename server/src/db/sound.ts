import Database from 'better-sqlite3';
import { codeOf } from '../fault.ts';

/** Tells whether SQLite failed since a file is damaged, or no database at all. */
export const isDamage = (error: unknown) => /^SQLITE_(CORRUPT|NOTADB)/.test(codeOf(error));

/** Asks SQLite for the first fault of a database; null for none. */
export function faultIn(client: Database.Database, check: 'quick_check' | 'integrity_check'): string | null {
  const found = String(client.pragma(`${check}(1)`, { simple: true }));
  return found === 'ok' ? null : found;
}

/**
 * Tells whether all of a database is sound: each page and each index, read by a connection of its own.
 * @throws where it cannot be looked through, which says nothing of it
 */
export function isSound({ file }: { file: string }): boolean {
  const client = new Database(file, { readonly: true, fileMustExist: true });
  try {
    return faultIn(client, 'integrity_check') === null;
  } catch (error) {
    if (isDamage(error)) return false;
    throw error;
  } finally {
    client.close();
  }
}
