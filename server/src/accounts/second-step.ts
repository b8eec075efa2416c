import { APIError } from 'better-auth/api';
import type { Request } from 'express';
import { ProblemError, noted } from '../http/problem.ts';
import type { Attempts } from '../people/attempts.ts';
import { headersFor, noteCame, passCookies, type Auth } from './auth.ts';
import { stepOfCode } from './time-codes.ts';

export interface SecondStepDeps {
  auth: Auth;
  attempts: Attempts;
  /** @throws ProblemError where it is not the person's password */
  requirePassword(personId: string, password: string, from: string): Promise<void>;
  /** Called after somebody has signed in */
  came(personId: string): void;
  /** Tells a person by mail of a change to how their account is reached */
  tellOfChange(personId: string, change: 'secondStepOn' | 'secondStepOff'): void;
  /** The secret of a person's time codes, opened; null where they have none */
  secretOf(personId: string): Promise<Buffer | null>;
  /** Takes a time step for a person; false where that one, or a later one, was taken before */
  takeStep(personId: string, step: number): boolean;
  /** Ends a session that has just begun, by its token */
  endByToken(token: string): void;
  /** The time that codes are counted in, an instant in milliseconds */
  now(): number;
}

const wrongCode = (message: string) =>
  noted(
    new ProblemError(422, 'invalid', message, {
      remedy: 'Look at the app again: each code is good for half a minute. Or use a recovery code.',
      fields: [{ path: 'code', message }],
    }),
  );

/** A second step at signing in, by the time codes of an app (RFC 6238) or by recovery codes. */
export function secondStep(deps: SecondStepDeps) {
  const { auth, attempts, requirePassword, came, tellOfChange, secretOf, takeStep, endByToken, now } = deps;
  /** Asks better-auth; what it refuses is told in these words. @throws ProblemError */
  async function asking<T>(
    req: Request,
    words: string,
    ask: (headers: Headers) => Promise<{ headers: Headers; response: T }>,
    isGood: (response: T) => Promise<boolean> = () => Promise.resolve(true),
  ): Promise<T> {
    const from = req.ip ?? '';
    // Counted before it is tried: of many at once no more are tried than may be.
    await attempts.take('wrongCode', from);
    let asked: { headers: Headers; response: T };
    try {
      asked = await ask(headersFor(req));
    } catch (error) {
      if (!(error instanceof APIError)) throw error;
      throw wrongCode(words);
    }
    if (!(await isGood(asked.response))) throw wrongCode(words);
    await attempts.giveBack('wrongCode', from);
    passCookies(asked.headers, req);
    return asked.response;
  }

  /** Takes a time code for a person; false where it, or a later one, was taken before (RFC 6238 5.2). */
  async function takeOnce(personId: string, code: string): Promise<boolean> {
    const secret = await secretOf(personId);
    const step = secret && stepOfCode(code, secret, now());
    return step !== null && takeStep(personId, step);
  }
  const isTime = (code: string) => /^\d{6}$/.test(code);

  return {
    /** Gives the address an app takes the secret from, and recovery codes: both are told this once. */
    async begin(
      personId: string,
      password: string,
      req: Request,
    ): Promise<{ address: string; codes: string[] }> {
      await requirePassword(personId, password, req.ip ?? '');
      const headers = headersFor(req);
      try {
        const begun = await auth.api.enableTwoFactor({ body: { password, method: 'totp' }, headers });
        if (!('totpURI' in begun)) throw new Error('no secret came of it');
        return { address: begun.totpURI, codes: begun.backupCodes };
      } catch (error) {
        if (!(error instanceof APIError)) throw error;
        throw new ProblemError(409, 'second-step', 'You have a second step already.', {
          remedy: 'End it first to begin anew.',
        });
      }
    },

    async confirm(personId: string, code: string, req: Request): Promise<void> {
      const body = { code: code.replace(/\s/g, '') };
      await asking(req, 'That is not the code of just now.', (headers) =>
        auth.api.verifyTOTP({ body, headers, returnHeaders: true }),
      );
      await takeOnce(personId, body.code);
      tellOfChange(personId, 'secondStepOn');
    },

    async end(personId: string, password: string, req: Request): Promise<void> {
      await requirePassword(personId, password, req.ip ?? '');
      await asking(req, 'There is no second step to end.', (headers) =>
        auth.api.disableTwoFactor({ body: { password }, headers, returnHeaders: true }),
      );
      tellOfChange(personId, 'secondStepOff');
    },

    /** Takes the step at signing in. better-auth knows by a cookie of ten minutes whose password was right. */
    async take(typed: string, req: Request): Promise<void> {
      const body = { code: typed.replace(/\s/g, '') };
      const verify = isTime(body.code) ? auth.api.verifyTOTP : auth.api.verifyBackupCode;
      const late = 'That is not the code of just now, it was used before, or the time for it is over.';
      const { user } = await asking(
        req,
        late,
        (headers) => verify({ body, headers, returnHeaders: true }),
        async ({ user: { id }, token }) => {
          // A recovery code is struck off by the package itself.
          if (!isTime(body.code) || (await takeOnce(id, body.code))) return true;
          if (token) endByToken(token);
          return false;
        },
      );
      noteCame(req, user.id);
      came(user.id);
    },
  };
}
export type SecondStep = ReturnType<typeof secondStep>;
