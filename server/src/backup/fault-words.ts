import { CannotStart } from '../data-folder.ts';
import { codeOf } from '../fault.ts';
import { BadArchive } from './archive.ts';

/** Words for what went wrong with a backup, and what to do, by the codes of the system and the database. */
const WORDS: readonly (readonly [RegExp, string])[] = [
  [
    /^(?:ENOSPC|EDQUOT|SQLITE_FULL)$/,
    'There is no room left on the disk. Make room there, or write elsewhere.',
  ],
  [/^(?:EACCES|EPERM|EROFS)$|^SQLITE_READONLY/, 'It may not be written or read there. Look at whose it is.'],
  [/^(?:ENOENT|ENOTDIR)$/, 'The folder it goes to, or the file it comes from, is not there.'],
  [/^SQLITE_(?:CORRUPT|NOTADB)/, 'The database is damaged. Bring it back from a backup, or from a replica.'],
  [/^SQLITE_(?:BUSY|LOCKED)/, 'Another program holds the database. End that one, and try again.'],
  [/^(?:EIO|SQLITE_(?:IOERR|CANTOPEN))/, 'The disk could not be read or written. Look at the disk.'],
];

/** Says what went wrong with a backup, in words for whoever runs the server. */
export function faultWords(error: unknown): string {
  if (error instanceof CannotStart || error instanceof BadArchive) return error.message;
  const code = codeOf(error);
  const words = WORDS.find(([codes]) => codes.test(code))?.[1] ?? 'Something went wrong that is not known.';
  return code ? `${words} (${code})` : words;
}
