import { codeOf } from '../fault.ts';
import type { Log } from '../log.ts';
import { versionOf } from '@zephyrfield/core/lib/version';
import type { Problem } from '@zephyrfield/core/api/schemas';
import type { ErrorRequestHandler, Request, Response } from 'express';
import type { SecurityEvent, SecurityLog } from '../security-log.ts';

/** What is told beside a problem's title. */
type More = Pick<Problem, 'detail' | 'remedy' | 'fields'>;

/** An error that a person is told about, as RFC 9457 has it: what happened, and what to do. */
export class ProblemError extends Error {
  readonly problem: Problem;
  /** After how many seconds it may be tried again, where that is known */
  retryAfter?: number;
  /** For the security log, beside what is always noted there; undefined where it is nothing for it */
  noted?: Pick<SecurityEvent, 'account'>;

  constructor(status: number, type: string, title: string, more: More = {}) {
    super(title);
    this.problem = { type: `urn:zephyrfield:${type}`, title, status, ...more };
  }
}

/** The same problem, to be noted in the security log. */
export function noted(error: ProblemError, what: Pick<SecurityEvent, 'account'> = {}): ProblemError {
  error.noted = what;
  return error;
}

export const notFound = (what: string) =>
  new ProblemError(404, 'not-found', `There is no such ${what}.`, {
    remedy: 'It may have been removed. Go back and look again.',
  });
/** Gives what is somebody else's cannot be changed by who follows it. */
export const publishedByOthers = () =>
  new ProblemError(403, 'published', 'This belongs to whoever publishes it.', {
    remedy: 'You can tick it off, set an aim, and note something for yourself.',
  });

export const changedMeanwhile = () =>
  new ProblemError(409, 'changed-meanwhile', 'Somebody else changed this a moment ago.', {
    remedy: 'Look at it again; nothing of theirs was lost.',
  });
export const signInFirst = () =>
  noted(new ProblemError(401, 'sign-in', 'You are not signed in.', { remedy: 'Sign in and try again.' }));
export const notAllowed = (what: string) =>
  noted(
    new ProblemError(403, 'not-allowed', `You may not ${what}.`, {
      remedy: 'Ask somebody who may edit this schedule.',
    }),
  );
export const tooLarge = () =>
  new ProblemError(413, 'too-large', 'That is too much at once.', { remedy: 'Send less.' });
/** One more of something than there may be. */
export const tooMany = (title: string, remedy: string) =>
  new ProblemError(422, 'too-many', title, { remedy });

/** @param seconds until it may be tried again */
export function tooOften(seconds: number): ProblemError {
  const minutes = Math.max(1, Math.ceil(seconds / 60));
  const problem = new ProblemError(429, 'too-often', 'Too many requests.', {
    remedy: `Wait ${minutes === 1 ? 'a minute' : `${minutes} minutes`} and try again.`,
  });
  problem.retryAfter = Math.max(1, Math.ceil(seconds));
  return noted(problem);
}

/**
 * Refuses a write where another version stands by now than it was made on.
 * @param madeOn undefined where the writer does not say, and writes over whatever stands
 * @throws ProblemError 409
 */
export function refuseUnlessVersion(stands: object | null, madeOn: string | null | undefined): void {
  if (madeOn !== undefined && versionOf(stands) !== madeOn) throw changedMeanwhile();
}

export function sendProblem(res: Response, problem: Problem): void {
  res.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
}

/** Gives what an error of Express or of a body reader means to people; null for a fault of ours. */
function problemOfStatus(error: unknown): ProblemError | null {
  const status =
    typeof error === 'object' && error && 'status' in error && typeof error.status === 'number'
      ? error.status
      : 500;
  if (status === 413) return tooLarge();
  if (status < 400 || status >= 500) return null;
  return new ProblemError(status, 'bad-request', 'The request could not be understood.', {
    remedy: 'Check what was sent.',
  });
}

const KEPT = 'Nothing was changed. What stands can still be read.';
/** Nothing can be written at present, whatever it is. */
export const notWritable = () =>
  new ProblemError(503, 'not-saved', 'This cannot be saved at present.', {
    remedy: `${KEPT} Try again in a while, or tell whoever runs this server.`,
  });

/** Files cannot be saved: their folder is not there. */
export const noFolder = () =>
  new ProblemError(507, 'no-folder', 'Files cannot be saved at present.', {
    remedy: `${KEPT} Tell whoever runs this server that its folder of files is missing.`,
  });
/** A file that was added, and whose bytes are not there any more. */
export const fileLost = (how: 'damaged' | 'missing') =>
  new ProblemError(410, `file-${how}`, `This file is ${how} on the server.`, {
    remedy: 'Add it once more: that puts it right for everybody. Or tell whoever runs this server.',
  });

/** Gives what an error of the disk or the database is to people; null for one of another kind. */
function problemOfStorage(error: unknown): ProblemError | null {
  const code = codeOf(error);
  if (/^(?:SQLITE_FULL|ENOSPC|EDQUOT)$/.test(code))
    return new ProblemError(507, 'disk-full', 'There is no room left to save this.', {
      remedy: `${KEPT} Whoever runs this server has to make room; then try again.`,
    });
  if (/^SQLITE_(?:BUSY|LOCKED)/.test(code)) {
    const problem = new ProblemError(503, 'busy', 'The server is busy just now.', {
      remedy: `${KEPT} Try again in a few seconds.`,
    });
    problem.retryAfter = 5;
    return problem;
  }
  return /^(?:SQLITE_(?:READONLY|CANTOPEN|IOERR|CORRUPT|NOTADB)|EROFS$|EACCES$|EPERM$|EIO$)/.test(code)
    ? notWritable()
    : null;
}

/**
 * Where an error came from, without its data: neither its text nor a path's parameters, which may hold a
 * secret link.
 */
export const placeOf = (error: unknown): string =>
  error instanceof Error ? `${error.name} ${error.stack?.split('\n')[1]?.trim() ?? 'at ?'}` : typeof error;

/** A request by its method and the pattern of its path, never its parameters: they may hold what is secret. */
export const routeOf = (req: Request): string =>
  `${req.method} ${(req.route as { path?: string } | undefined)?.path ?? 'no route'}`;

/** Names each request, so that what somebody saw is found in the log. */
export const REQUEST_ID = 'X-Request-Id';

/**
 * Turns whatever went wrong into a problem. What is not meant for people is logged by its kind, without its
 * data.
 */
export function problemHandler(log: Log, security: SecurityLog): ErrorRequestHandler {
  return (error: unknown, req, res, next) => {
    if (res.headersSent) return next(error);
    const known = error instanceof ProblemError ? error : problemOfStatus(error);
    if (known) {
      const caller = res.locals['caller'] as { personId: string } | null | undefined;
      if (known.noted) {
        const event = known.problem.type.replace('urn:zephyrfield:', '');
        security.note({ event, from: req.ip, person: caller?.personId, route: routeOf(req), ...known.noted });
      }
      if (known.retryAfter !== undefined) res.set('Retry-After', String(known.retryAfter));
      return sendProblem(res, known.problem);
    }
    const requestId = String(res.getHeader(REQUEST_ID) ?? '');
    const storage = problemOfStorage(error);
    if (storage) {
      log('the disk or the database refused', {
        route: routeOf(req),
        code: codeOf(error),
        request: requestId,
      });
      if (storage.retryAfter !== undefined) res.set('Retry-After', String(storage.retryAfter));
      return sendProblem(res, storage.problem);
    }
    log('a request failed', { route: routeOf(req), fault: placeOf(error), request: requestId });
    sendProblem(
      res,
      new ProblemError(500, 'fault', 'Something went wrong on our side.', {
        remedy: 'Nothing was changed. Try again in a moment.',
        detail: `Should it stay so, tell whoever runs this server: request ${requestId}.`,
      }).problem,
    );
  };
}
