import { RELEASE } from '@zephyrfield/core/lib/release';
import { Router } from 'express';

/** What has to be so for the server to do its work; each tells by itself, or throws. */
export type Checks = Readonly<Record<string, () => boolean>>;

/**
 * For whoever watches the server: `/healthz` answers as long as it lives, with its version, `/readyz` says what of it works. Neither says
 * anything of anybody.
 * @param told is said beside it, and keeps nobody from being served
 */
export function health(checks: Checks, told: Checks = {}): Router {
  const router = Router();
  router.get(
    '/healthz',
    (_req, res) => void res.set('Cache-Control', 'no-store').json({ ok: true, version: RELEASE }),
  );
  router.get('/readyz', (_req, res) => {
    const found = Object.entries(checks).map(([name, check]) => [name, isWell(check)] as const);
    const isReady = found.every(([, is]) => is);
    res
      .status(isReady ? 200 : 503)
      .set('Cache-Control', 'no-store')
      .json({
        ready: isReady,
        ...Object.fromEntries([
          ...found,
          ...Object.entries(told).map(([name, check]) => [name, isWell(check)] as const),
        ]),
      });
  });
  return router;
}

function isWell(check: () => boolean): boolean {
  try {
    return check();
  } catch {
    return false;
  }
}
