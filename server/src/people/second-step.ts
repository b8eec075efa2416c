import { APIError } from 'better-auth/api';
import type { Request } from 'express';
import { ProblemError, noted } from '../http/problem.ts';
import type { Attempts } from './attempts.ts';
import { headersFor, passCookies, type Auth } from './auth.ts';

export interface SecondStepDeps {
  auth: Auth;
  attempts: Attempts;
  /** @throws ProblemError where it is not the person's password */
  requirePassword(personId: string, password: string, from: string): Promise<void>;
}

const wrongCode = (message: string) =>
  noted(
    new ProblemError(422, 'invalid', message, {
      remedy: 'Look at the app again: each code is good for half a minute. Or use a recovery code.',
      fields: [{ path: 'code', message }],
    }),
  );

/** A second step at signing in, by the time codes of an app (RFC 6238) or by recovery codes. */
export function secondStep({ auth, attempts, requirePassword }: SecondStepDeps) {
  /** Asks better-auth; what it refuses is a wrong code. */
  async function checking(
    req: Request,
    ask: (headers: Headers) => Promise<{ headers: Headers }>,
  ): Promise<boolean> {
    try {
      const { headers } = await ask(headersFor(req));
      passCookies(headers, req);
      return true;
    } catch (error) {
      if (error instanceof APIError) return false;
      throw error;
    }
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

    async confirm(code: string, req: Request): Promise<void> {
      await attempts.take('secondStep', req.ip ?? '');
      const body = { code: code.replace(/\s/g, '') };
      if (!(await checking(req, (headers) => auth.api.verifyTOTP({ body, headers, returnHeaders: true }))))
        throw wrongCode('That is not the code of just now.');
    },

    async end(personId: string, password: string, req: Request): Promise<void> {
      await requirePassword(personId, password, req.ip ?? '');
      await checking(req, (headers) =>
        auth.api.disableTwoFactor({ body: { password }, headers, returnHeaders: true }),
      );
    },

    /** Takes the step at signing in. better-auth knows by a cookie of ten minutes whose password was right. */
    async take(code: string, req: Request): Promise<void> {
      await attempts.take('secondStep', req.ip ?? '');
      const typed = code.replace(/\s/g, '');
      const isRight = await checking(req, (headers) =>
        isTime(typed)
          ? auth.api.verifyTOTP({ body: { code: typed }, headers, returnHeaders: true })
          : auth.api.verifyBackupCode({ body: { code: typed }, headers, returnHeaders: true }),
      );
      if (!isRight) throw wrongCode('That is not the code of just now, or the time for it is over.');
    },
  };
}
export type SecondStep = ReturnType<typeof secondStep>;
