import type { Secrets } from '../secrets.ts';
import { FeedTrouble } from './trouble.ts';

/**
 * A pasted link as the address to fetch: webcal(s) becomes https (or http for a bare host with a port, as
 * stand-ins have), a missing scheme https.
 * @throws FeedTrouble 'address' where it is none
 */
export function normaliseAddress(text: string): URL {
  let trimmed = text.trim().replace(/^<|>$/g, '');
  if (/^webcals?:/i.test(trimmed)) trimmed = trimmed.replace(/^webcals?:(\/\/)?/i, 'https://');
  else if (!/^[a-z][a-z0-9+.-]*:/i.test(trimmed) || /^[\w.-]+:\d+\//.test(trimmed))
    trimmed = `https://${trimmed}`;
  let url: URL;
  try {
    url = new URL(trimmed);
  } catch {
    throw new FeedTrouble('address');
  }
  if (
    (url.protocol !== 'https:' && url.protocol !== 'http:') ||
    (!url.hostname.includes('.') && !url.hostname.includes(':') && url.hostname !== 'localhost')
  )
    throw new FeedTrouble('address');
  url.hash = '';
  return url;
}

/** What stands at the end of a calendar's path, in words that are nobody's secret. */
const PLAIN_NAMES = new Set([
  'calendar',
  'calendars',
  'feed',
  'feeds',
  'ical',
  'icalendar',
  'ics',
  'schedule',
  'timetable',
  'events',
  'assignments',
  'export',
  'basic',
  'public',
  'index',
]);

/**
 * A link as it may be shown: its host, and of its path no more than a common word or an ending. Whatever else
 * stands in it may be what opens it, letters alone as well.
 */
export function maskAddress(url: URL): string {
  const sections = url.pathname.split('/').filter(Boolean);
  const last = sections.at(-1) ?? '';
  const ending = /\.(?:ics|ical|ifb|icalendar)$/i.exec(last)?.[0] ?? '';
  const name = last.slice(0, last.length - ending.length);
  const shown = PLAIN_NAMES.has(name.toLowerCase()) ? name : name ? '…' : '';
  return `${url.host}/${sections.length > 1 && shown !== '…' ? '…/' : ''}${shown}${ending}${url.search ? '?…' : ''}`;
}

/** A number that names a year, a week or a part, and nobody. */
const PLAIN_NUMBER = /^(?:\d{1,2}|(?:19|20)\d\d)$/;
const LONGEST_WORD = 14;

/** Tells whether letters read like a word: a secret has runs of consonants, or letter cases, that no word has. */
const isWord = (text: string) =>
  text.length <= LONGEST_WORD &&
  /^(?:[a-z]+|[A-Z][a-z]*|[A-Z]{1,4})$/.test(text) &&
  (text.length < 5 || /[aeiouy]/i.test(text)) &&
  !/[^aeiouy]{5}/i.test(text);

/**
 * Whether an address has nothing in it that could be a secret, as far as can be told: no name or password, nothing
 * behind a question mark, and a path of plain words and small numbers. Only such a link is fetched once for all who
 * follow it. In doubt, it has a secret.
 */
export function isPlainAddress(url: URL): boolean {
  if (url.username || url.password || url.search || url.hash) return false;
  const words = url.pathname.split(/[/._-]+/).filter(Boolean);
  return words.every((word) => isWord(word) || PLAIN_NUMBER.test(word));
}

/** Gives what is stored of a link's address. */
export const storedAddress = (url: URL, secrets: Secrets) => ({
  addressSealed: secrets.seal(url.href),
  addressMasked: maskAddress(url),
  addressDigest: secrets.digest(url.href),
  hostDigest: secrets.digest(`host ${url.host}`),
  isPlain: isPlainAddress(url),
});
export type StoredAddress = ReturnType<typeof storedAddress>;
