import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { RequestHandler } from 'express';
import helmet from 'helmet';
import { ProblemError } from './problem.ts';

/** Hashes of the inline styles and scripts that the exported page itself holds, so that nothing else inline may run. */
function inlineHashes(web: string | undefined, tag: 'style' | 'script'): string[] {
  if (!web) return [];
  const html = readFileSync(join(web, 'index.html'), 'utf8');
  return [...html.matchAll(new RegExp(`<${tag}(?![^>]*\\bsrc=)[^>]*>([\\s\\S]*?)</${tag}>`, 'g'))].map((m) => `'sha256-${createHash('sha256').update(m[1]!).digest('base64')}'`);
}

/** Digest of nothing: React Native Web makes an empty style element and writes its rules through the object model. */
const EMPTY = "'sha256-47DEQpj8HBSa+/TImW+5JCeuQeRkm5NMpJWZG3hSuFU='";

/** Security headers with a strict content policy: everything from here, nothing inline but what the export holds. */
export function securityHeaders(web: string | undefined): RequestHandler {
  return helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        'default-src': ["'none'"],
        'script-src': ["'self'", ...inlineHashes(web, 'script')],
        'style-src': ["'self'", EMPTY, ...inlineHashes(web, 'style')],
        // React Native Web sets style attributes for what is computed (sizes, transforms); no rule can be written by one.
        'style-src-attr': ["'unsafe-inline'"],
        'img-src': ["'self'", 'data:', 'blob:'],
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
    // Whether it is served over https is the proxy's business, which then sets this itself.
    strictTransportSecurity: false,
    crossOriginEmbedderPolicy: false,
  });
}

/** Refuses changes asked for by other sites' pages, beside the cookies' own SameSite. */
export function sameSite(publicUrl: string | undefined): RequestHandler {
  const own = publicUrl ? new URL(publicUrl).host : null;
  return (req, _res, next) => {
    if (req.method === 'GET' || req.method === 'HEAD') return next();
    const origin = req.headers.origin;
    const isOther = origin !== undefined && origin !== 'null' && hostOf(origin) !== (own ?? req.headers.host);
    if (isOther || req.headers['sec-fetch-site'] === 'cross-site') {
      throw new ProblemError(403, 'other-site', 'This was asked for by another site.', { remedy: 'Open Zephyrfield itself and try again.' });
    }
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
