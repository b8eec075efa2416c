import { createHash, randomInt, timingSafeEqual } from 'node:crypto';

/** Letters and digits that are not taken for each other when read off a screen. */
const SIGNS = 'ABCDEFGHJKMNPQRSTVWXYZ23456789';
const GROUPS = 4;
const PER_GROUP = 4;

/** A word of 78 bits to be read off the server's screen: `K7QX-2MHB-WE4T-9ZRD`. */
export function newSetUpWord(): string {
  const group = () => Array.from({ length: PER_GROUP }, () => SIGNS[randomInt(SIGNS.length)]).join('');
  return Array.from({ length: GROUPS }, group).join('-');
}

/** Tells whether it is the word, however it was typed: without the dashes, in small letters. */
export function isSetUpWord(typed: string, word: string): boolean {
  const digest = (text: string) =>
    createHash('sha256')
      .update(text.toUpperCase().replace(/[^A-Z0-9]/g, ''))
      .digest();
  return timingSafeEqual(digest(typed), digest(word));
}
