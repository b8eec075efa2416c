import type { Access } from './access.ts';

/** Way in which somebody is invited: by a mail to their address, by a link, or by a short code that is read out or shown. */
export const INVITE_WAYS = ['mail', 'link', 'code'] as const;
export type InviteWay = (typeof INVITE_WAYS)[number];

/** Events of access to a schedule. */
export const ACCESS_EVENTS = [
  'invited',
  'takenBack',
  'came',
  'changed',
  'left',
  'removed',
  'keptFrom',
  'forAll',
  'own',
  'goesOut',
  'outNoMore',
] as const;
export type AccessEvent = (typeof ACCESS_EVENTS)[number];

/** What somebody may do, as it ends a sentence that begins with "you may". */
export const ACCESS_WORDS: Record<Access, string> = {
  look: 'look, and change nothing',
  tick: 'look, and tick things off',
  edit: 'look, tick off, add and change things',
  keep: 'change everything, invite others and decide what each may do',
};

/** The same as the name of a choice. */
export const ACCESS_NAMES: Record<Access, string> = {
  look: 'may look',
  tick: 'may tick off',
  edit: 'may edit',
  keep: 'keeper',
};

/** Letters and digits that are told apart when they are read out, shown large, or written by hand. */
const CODE_SIGNS = '23456789ACEFHJKMPRTUWXY';
export const CODE_LENGTH = 8;

/**
 * A code of eight signs.
 * @param chance gives as many bytes as are asked for; those that would make a sign more likely are left out
 * @example `K7MT 4PWC`, shown in two halves by `spacedCode`
 */
export function newCode(chance: (bytes: number) => Uint8Array): string {
  let code = '';
  const fair = 256 - (256 % CODE_SIGNS.length);
  while (code.length < CODE_LENGTH)
    for (const byte of chance(CODE_LENGTH))
      if (byte < fair && code.length < CODE_LENGTH) code += CODE_SIGNS[byte % CODE_SIGNS.length];
  return code;
}

/** A code in two halves, as it is easy to read out. */
export const spacedCode = (code: string): string => `${code.slice(0, 4)} ${code.slice(4)}`;

/** Signs that no code has, for those they are written for. */
const MEANT: Readonly<Record<string, string>> = { S: '5', B: '8', G: '6', Z: '2', V: 'U', N: 'M' };

/** The code that was typed, however it was: in small letters, with spaces or strokes. Null where it is none. */
export function readCode(typed: string): string | null {
  const signs = typed
    .slice(0, 64)
    .toUpperCase()
    .replace(/[\s.\-–]/g, '');
  const code = [...signs].map((c) => MEANT[c] ?? c).join('');
  return code.length === CODE_LENGTH && [...code].every((c) => CODE_SIGNS.includes(c)) ? code : null;
}

/**
 * Marks that tell people apart in little room, each another one: the first letter of a name; where two begin alike,
 * their initials; where these are alike as well, the letter and a number.
 * @example Juno, Tobias → J, T · Juno A., Jan B. → JA, JB
 */
export function marksOf(names: readonly string[]): string[] {
  const letters = names.map(initialsOf);
  const isAlone = (mark: string, marks: readonly string[]) => marks.filter((m) => m === mark).length === 1;
  const first = letters.map(([letter]) => letter ?? '');
  const whole = letters.map((all, n) => (isAlone(first[n]!, first) ? first[n]! : all.join('')));
  const taken = new Set(whole.filter((mark) => isAlone(mark, whole)));
  return whole.map((mark, n) => {
    if (isAlone(mark, whole)) return mark;
    let number = 1;
    // Somebody’s initials may be a letter and a number as well.
    while (taken.has(`${first[n]}${number}`)) number += 1;
    taken.add(`${first[n]}${number}`);
    return `${first[n]}${number}`;
  });
}

/** The first letters of a name’s first and last word, as a reader would count letters. */
export function initialsOf(name: string): string[] {
  const words = name.trim().split(/\s+/);
  return (words.length > 1 ? [words[0]!, words.at(-1)!] : words).flatMap(
    (word) => [...word][0]?.toUpperCase() ?? [],
  );
}
