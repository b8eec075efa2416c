import { isDeepStrictEqual } from 'node:util';
import type { Problem } from '@zephyrfield/core/api/schemas';
import type { ErrorRequestHandler, Response } from 'express';

/** An error that a person is told about, as RFC 9457 has it: what happened, and what to do. */
export class ProblemError extends Error {
  readonly problem: Problem;

  constructor(status: number, type: string, title: string, more: Pick<Problem, 'detail' | 'remedy' | 'fields'> = {}) {
    super(title);
    this.problem = { type: `urn:zephyrfield:${type}`, title, status, ...more };
  }
}

export const notFound = (what: string) => new ProblemError(404, 'not-found', `There is no such ${what}.`, { remedy: 'It may have been removed. Go back and look again.' });
export const changedMeanwhile = () => new ProblemError(409, 'changed-meanwhile', 'Somebody else changed this a moment ago.', { remedy: 'Look at it again; nothing of theirs was lost.' });
export const signInFirst = () => new ProblemError(401, 'sign-in', 'You are not signed in.', { remedy: 'Sign in and try again.' });
export const notAllowed = (what: string) => new ProblemError(403, 'not-allowed', `You may not ${what}.`, { remedy: 'Ask somebody who may edit this schedule.' });

/**
 * Refuses a change where something else stands by now than the writer began from.
 * @param over what that was; undefined where the writer does not say, and writes over whatever stands
 * @throws ProblemError 409
 */
export function refuseUnlessOver<T>(stands: T | null, over: T | null | undefined): void {
  if (over !== undefined && !isDeepStrictEqual(stands, over)) throw changedMeanwhile();
}

export function sendProblem(res: Response, problem: Problem): void {
  res.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
}

/** Turns whatever went wrong into a problem. What is not meant for people is logged by its kind, without its data. */
export function problemHandler(log: (message: string) => void): ErrorRequestHandler {
  return (error: unknown, req, res, next) => {
    if (res.headersSent) return next(error);
    if (error instanceof ProblemError) return sendProblem(res, error.problem);
    const status = typeof error === 'object' && error && 'status' in error && typeof error.status === 'number' ? error.status : 500;
    if (status === 413) return sendProblem(res, new ProblemError(413, 'too-large', 'That is more than can be taken in at once.', { remedy: 'Send less.' }).problem);
    if (status >= 400 && status < 500) return sendProblem(res, new ProblemError(status, 'bad-request', 'The request could not be understood.', { remedy: 'Check what was sent.' }).problem);
    // Neither the path's parameters nor the error's text are logged: both may hold a secret link.
    log(`${req.method} ${req.route?.path ?? 'unknown route'} failed: ${error instanceof Error ? `${error.name} at ${error.stack?.split('\n')[1]?.trim() ?? '?'}` : typeof error}`);
    sendProblem(res, new ProblemError(500, 'fault', 'Something went wrong on our side.', { remedy: 'Nothing was changed. Try again in a moment.' }).problem);
  };
}
