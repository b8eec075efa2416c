import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { RequestHandler } from 'express';
import helmet from 'helmet';
import { ProblemError, noted } from './problem.ts';

/**
 * Hashes of the inline styles and scripts that the exported page itself holds, so that nothing else inline
 * may run.
 */
function inlineHashes(web: string | undefined, tag: 'style' | 'script'): string[] {
  if (!web) return [];
  const html = readFileSync(join(web, 'index.html'), 'utf8');
  return [...html.matchAll(new RegExp(`<${tag}(?![^>]*\\bsrc=)[^>]*>([\\s\\S]*?)</${tag}>`, 'g'))].map(
    (m) => `'sha256-${createHash('sha256').update(m[1]!).digest('base64')}'`,
  );
}

/**
 * Digest of nothing: React Native Web makes an empty style element and writes its rules through the object
 * model.
 */
const EMPTY = "'sha256-47DEQpj8HBSa+/TImW+5JCeuQeRkm5NMpJWZG3hSuFU='";

/** What a page of ours may not ask a browser for: all of it but what a notice and a spoken note need. */
const PERMISSIONS = [
  'accelerometer',
  'camera',
  'display-capture',
  'geolocation',
  'gyroscope',
  'magnetometer',
  'midi',
  'payment',
  'usb',
  'serial',
  'bluetooth',
  'hid',
  'browsing-topics',
];

/**
 * Security headers with a strict content policy: everything from here, nothing inline but what the export
 * holds.
 * @param isSecure whether people reach the server over https alone
 */
export function securityHeaders(web: string | undefined, isSecure: boolean): RequestHandler[] {
  const permissions = [...PERMISSIONS.map((name) => `${name}=()`), 'microphone=(self)'].join(', ');
  const headers = helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        'default-src': ["'none'"],
        'script-src': ["'self'", ...inlineHashes(web, 'script')],
        'style-src': ["'self'", EMPTY, ...inlineHashes(web, 'style')],
        // React Native Web sets style attributes for what is computed (sizes, transforms); no rule can be
        // written by one.
        'style-src-attr': ["'unsafe-inline'"],
        'img-src': ["'self'", 'data:', 'blob:'],
        'media-src': ["'self'", 'blob:'],
        'font-src': ["'self'"],
        'connect-src': ["'self'"],
        'worker-src': ["'self'"],
        'manifest-src': ["'self'"],
        'base-uri': ["'none'"],
        'form-action': ["'self'"],
        'frame-ancestors': ["'none'"],
      },
    },
    referrerPolicy: { policy: 'no-referrer' },
    // RFC 6797: a year. Where people reach it by http as well, a browser must not be told otherwise.
    strictTransportSecurity: isSecure ? { maxAge: 31_536_000, includeSubDomains: false } : false,
    crossOriginEmbedderPolicy: false,
  });
  return [headers, (_req, res, next) => void (res.set('Permissions-Policy', permissions), next())];
}

const otherSite = () =>
  noted(
    new ProblemError(403, 'other-site', 'This was asked for by another site.', {
      remedy: 'Open Zephyrfield itself and try again.',
    }),
  );

/**
 * Refuses changes asked for by other sites' pages, beside the cookies' own SameSite; also by pages of the
 * same site under another name, and by pages without an origin (sandboxed ones, files).
 */
export function sameSite(publicUrl: string | undefined): RequestHandler {
  const own = publicUrl ? new URL(publicUrl).host : null;
  return (req, _res, next) => {
    if (req.method === 'GET' || req.method === 'HEAD') return next();
    const { origin } = req.headers;
    const from = req.headers['sec-fetch-site'];
    const isOther = origin !== undefined && hostOf(origin) !== (own ?? req.headers.host);
    if (isOther || (from !== undefined && from !== 'same-origin' && from !== 'none')) throw otherSite();
    next();
  };
}

function hostOf(origin: string): string | null {
  try {
    return new URL(origin).host;
  } catch {
    return null;
  }
}
