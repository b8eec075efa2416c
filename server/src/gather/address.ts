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
