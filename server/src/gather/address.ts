import { FeedTrouble } from './trouble.ts';

/**
 * A pasted link as the address to fetch: webcal(s) becomes https (or http for a bare host with a port, as stand-ins
 * have), a missing scheme https.
 * @throws FeedTrouble 'address' where it is none
 */
export function normaliseAddress(text: string): URL {
  let trimmed = text.trim().replace(/^<|>$/g, '');
  if (/^webcals?:/i.test(trimmed)) trimmed = trimmed.replace(/^webcals?:(\/\/)?/i, 'https://');
  else if (!/^[a-z][a-z0-9+.-]*:/i.test(trimmed) || /^[\w.-]+:\d+\//.test(trimmed)) trimmed = `https://${trimmed}`;
  let url: URL;
  try {
    url = new URL(trimmed);
  } catch {
    throw new FeedTrouble('address');
  }
  if ((url.protocol !== 'https:' && url.protocol !== 'http:') || (!url.hostname.includes('.') && !url.hostname.includes(':') && url.hostname !== 'localhost')) throw new FeedTrouble('address');
  url.hash = '';
  return url;
}

/** A link as it may be shown: its host and the end of its path, never its query or anything like a token. */
export function maskAddress(url: URL): string {
  const parts = url.pathname.split('/').filter(Boolean);
  const last = parts.at(-1) ?? '';
  const shown = /^[a-z]+([-_][a-z]+)*(\.ics)?$/i.test(last) && last.length <= 32 ? last : last ? `…${/\.\w{2,4}$/.exec(last)?.[0] ?? ''}` : '';
  return `${url.host}/${parts.length > 1 ? '…/' : ''}${shown}${url.search ? '?…' : ''}`;
}
