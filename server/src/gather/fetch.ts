import { lookup as dnsLookup, type LookupAddress } from 'node:dns';
import { request as httpRequest, type IncomingMessage, type RequestOptions } from 'node:http';
import { request as httpsRequest } from 'node:https';
import { isIP, type LookupFunction } from 'node:net';
import { createBrotliDecompress, createGunzip, createInflate } from 'node:zlib';
import type { Readable } from 'node:stream';
import ipaddr from 'ipaddr.js';
import { FeedTrouble } from './trouble.ts';

export interface FetchOptions {
  /** Hosts (`name` or `name:port`) the operator lets us reach although they are private */
  allowedHosts: ReadonlySet<string>;
  /** Tells whether an address is one that goes out of this very server */
  isOwn?: (url: URL) => boolean;
  /** From the first byte asked to the last byte read */
  timeoutMs: number;
  /** After decompression */
  maxBytes: number;
  etag?: string | null;
  lastModified?: string | null;
}

export interface Fetched {
  /** Null where the server says nothing has changed */
  body: Uint8Array | null;
  charset: string | undefined;
  etag: string | null;
  lastModified: string | null;
  /** Place where a permanent redirect (301, 308) has led */
  movedTo: URL | null;
}

const MAX_REDIRECTS = 5;

const IPV4_COMPATIBLE = ipaddr.IPv6.parseCIDR('::/96');

/** Tells whether an address is one the whole internet can reach. */
export function isPublicAddress(address: string): boolean {
  if (!ipaddr.isValid(address)) return false;
  const parsed = ipaddr.process(address);
  // `::7f00:1` is 127.0.0.1 in a form that is used no more and still understood here and there (RFC 4291
  // 2.5.5.1).
  if (parsed.kind() === 'ipv6' && (parsed as ipaddr.IPv6).match(IPV4_COMPATIBLE)) return false;
  return parsed.range() === 'unicast';
}

/**
 * Resolves names, but refuses addresses outside the public internet at the moment of connecting, so no later
 * answer of the name server slips through.
 */
const guardedLookup: LookupFunction = (hostname, options, callback) => {
  dnsLookup(hostname, { ...options, all: true }, (error, addresses) => {
    if (error) return callback(error, '', 0);
    const list = addresses as LookupAddress[];
    if (list.some((a) => !isPublicAddress(a.address)))
      return callback(Object.assign(new Error('private address'), { code: 'EPRIVATE' }), '', 0);
    if (options.all) (callback as unknown as (e: null, a: LookupAddress[]) => void)(null, list);
    else callback(null, list[0]!.address, list[0]!.family);
  });
};

/**
 * Gets a feed, guarded: only http and https, no private addresses (also after redirects), bounded in time and
 * size.
 * @throws FeedTrouble
 */
export async function fetchFeed(address: URL, options: FetchOptions): Promise<Fetched> {
  const deadline = AbortSignal.timeout(options.timeoutMs);
  let url = address;
  let movedTo: URL | null = null;
  let permanent = true;
  for (let hop = 0; hop <= MAX_REDIRECTS; hop++) {
    const response = await ask(url, options, deadline);
    const status = response.statusCode ?? 0;
    const location = response.headers.location;
    if (status >= 300 && status < 400 && status !== 304 && location) {
      response.destroy();
      permanent &&= status === 301 || status === 308;
      url = redirected(location, url);
      if (permanent) movedTo = url;
      continue;
    }
    const etag = response.headers.etag ?? null;
    const lastModified = response.headers['last-modified'] ?? null;
    if (status === 304) {
      response.destroy();
      return { body: null, charset: undefined, etag, lastModified, movedTo };
    }
    if (status !== 200) {
      response.destroy();
      throw new FeedTrouble(troubleOfStatus(status), Number(response.headers['retry-after']) || undefined);
    }
    const charset = /charset="?([\w-]+)/i.exec(response.headers['content-type'] ?? '')?.[1];
    return {
      body: await readBody(response, options.maxBytes, deadline),
      charset,
      etag,
      lastModified,
      movedTo,
    };
  }
  throw new FeedTrouble('redirects');
}

function redirected(location: string, from: URL): URL {
  let url: URL;
  try {
    url = new URL(location, from);
  } catch {
    throw new FeedTrouble('answer');
  }
  if (url.protocol !== 'https:' && url.protocol !== 'http:') throw new FeedTrouble('answer');
  return url;
}

function troubleOfStatus(status: number): FeedTrouble['code'] {
  if (status === 401 || status === 407) return 'signIn';
  if (status === 403) return 'forbidden';
  if (status === 404) return 'notFound';
  if (status === 410) return 'gone';
  if (status === 429 || status === 503) return 'busy';
  return status >= 500 ? 'serverFault' : 'answer';
}

function ask(url: URL, options: FetchOptions, signal: AbortSignal): Promise<IncomingMessage> {
  const host = url.hostname.replace(/^\[|\]$/g, '');
  const allowed =
    options.allowedHosts.has(url.hostname) ||
    options.allowedHosts.has(url.host) ||
    (options.isOwn?.(url) ?? false);
  // Literal addresses never reach the look-up, so they are judged here.
  if (!allowed && isIP(host) && !isPublicAddress(host)) return Promise.reject(new FeedTrouble('private'));
  const headers: Record<string, string> = {
    accept: 'text/calendar, */*;q=0.5',
    'accept-encoding': 'br, gzip, deflate',
    'user-agent': 'Zephyrfield/0.1 (calendar reader)',
  };
  if (options.etag) headers['if-none-match'] = options.etag;
  if (options.lastModified) headers['if-modified-since'] = options.lastModified;
  const request: RequestOptions = {
    method: 'GET',
    headers,
    signal,
    ...(allowed ? {} : { lookup: guardedLookup }),
  };
  return new Promise((resolve, reject) => {
    const req = (url.protocol === 'https:' ? httpsRequest : httpRequest)(url, request, resolve);
    req.on('error', (error: NodeJS.ErrnoException) => reject(troubleOf(error, signal)));
    req.end();
  });
}

function troubleOf(error: NodeJS.ErrnoException, signal: AbortSignal): FeedTrouble {
  if (error instanceof FeedTrouble) return error;
  if (signal.aborted) return new FeedTrouble('timeout');
  if (error.code === 'EPRIVATE') return new FeedTrouble('private');
  if (/CERT|TLS|SSL|SIGNED|ALTNAME/i.test(error.code ?? '')) return new FeedTrouble('certificate');
  if (/^HPE_|Z_|ERR_/.test(error.code ?? '')) return new FeedTrouble('answer');
  return new FeedTrouble('unreachable');
}

async function readBody(
  response: IncomingMessage,
  maxBytes: number,
  signal: AbortSignal,
): Promise<Uint8Array> {
  const encoding = (response.headers['content-encoding'] ?? 'identity').trim().toLowerCase();
  const decoder =
    encoding === 'br'
      ? createBrotliDecompress()
      : encoding === 'gzip' || encoding === 'x-gzip'
        ? createGunzip()
        : encoding === 'deflate'
          ? createInflate()
          : null;
  if (!decoder && encoding !== 'identity' && encoding !== '') throw new FeedTrouble('answer');
  const chunks: Buffer[] = [];
  let size = 0;
  try {
    if (decoder) response.on('error', (error) => decoder.destroy(error));
    const stream: Readable = decoder ? response.pipe(decoder) : response;
    for await (const chunk of stream as AsyncIterable<Buffer>) {
      size += chunk.length;
      if (size > maxBytes) throw new FeedTrouble('tooLarge');
      chunks.push(chunk);
    }
  } catch (error) {
    throw troubleOf(error as NodeJS.ErrnoException, signal);
  } finally {
    response.destroy();
  }
  return Buffer.concat(chunks);
}
