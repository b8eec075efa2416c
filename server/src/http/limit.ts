import type { RequestHandler } from 'express';
import { ipKeyGenerator, rateLimit } from 'express-rate-limit';
import { tooOften } from './problem.ts';

/**
 * Limits how often somebody may ask, per minute.
 * @param who names whom a request is counted for; the address it came from where that is nobody
 */
export function atMost(
  limit: number,
  who: (res: Parameters<RequestHandler>[1]) => string | undefined = () => undefined,
): RequestHandler {
  return rateLimit({
    windowMs: 60_000,
    limit,
    standardHeaders: 'draft-8',
    legacyHeaders: false,
    // What is believed of X-Forwarded-For is said by ZEPHYRFIELD_TRUST_PROXY; the package's own doubts are
    // not ours.
    validate: false,
    keyGenerator: (req, res) => who(res as Parameters<RequestHandler>[1]) ?? ipKeyGenerator(req.ip ?? ''),
    handler: (_req, _res, next) => next(tooOften(60)),
  });
}
