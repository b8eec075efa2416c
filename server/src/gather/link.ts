import { normaliseAddress } from './address.ts';
import { fetchFeed, type FetchOptions } from './fetch.ts';
import { withBody, type Arrived } from './reader.ts';
import { FeedTrouble } from './trouble.ts';

/**
 * Fetches what a pasted link leads to. `webcal:` says nothing of encryption: it is tried with it first, and
 * without where the server cannot be reached so.
 * @throws FeedTrouble
 */
export async function fetchLink(
  text: string,
  options: FetchOptions,
): Promise<{ url: URL; fetched: Arrived }> {
  const url = normaliseAddress(text);
  try {
    return { url, fetched: withBody(await fetchFeed(url, options)) };
  } catch (error) {
    const isLoose = /^\s*<?webcal:/i.test(text) && url.protocol === 'https:';
    const isClosed =
      error instanceof FeedTrouble && (error.code === 'unreachable' || error.code === 'certificate');
    if (!isLoose || !isClosed) throw error;
    const plain = new URL(url.href.replace(/^https:/, 'http:'));
    return { url: plain, fetched: withBody(await fetchFeed(plain, options)) };
  }
}
