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
  /** Called after somebody has signed in */
  came(personId: string): void;
}

const wrongCode = (message: string) =>
  noted(
    new ProblemError(422, 'invalid', message, {
      remedy: 'Look at the app again: each code is good for half a minute. Or use a recovery code.',
      fields: [{ path: 'code', message }],
    }),
  );

/** A second step at signing in, by the time codes of an app (RFC 6238) or by recovery codes. */
export function secondStep({ auth, attempts, requirePassword, came }: SecondStepDeps) {
  /** Asks better-auth; what it refuses is told in these words. @throws ProblemError */
  async function asking<T>(
    req: Request,
    words: string,
    ask: (headers: Headers) => Promise<{ headers: Headers; response: T }>,
  ): Promise<T> {
    try {
      const { headers, response } = await ask(headersFor(req));
      passCookies(headers, req);
      return response;
    } catch (error) {
      if (!(error instanceof APIError)) throw error;
      await attempts.fail('wrongCode', req.ip ?? '');
      throw wrongCode(words);
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
      await attempts.check('wrongCode', req.ip ?? '');
      const body = { code: code.replace(/\s/g, '') };
      await asking(req, 'That is not the code of just now.', (headers) =>
        auth.api.verifyTOTP({ body, headers, returnHeaders: true }),
      );
    },

    async end(personId: string, password: string, req: Request): Promise<void> {
      await requirePassword(personId, password, req.ip ?? '');
      await asking(req, 'There is no second step to end.', (headers) =>
        auth.api.disableTwoFactor({ body: { password }, headers, returnHeaders: true }),
      );
    },

    /** Takes the step at signing in. better-auth knows by a cookie of ten minutes whose password was right. */
    async take(typed: string, req: Request): Promise<void> {
      await attempts.check('wrongCode', req.ip ?? '');
      const body = { code: typed.replace(/\s/g, '') };
      const verify = isTime(body.code) ? auth.api.verifyTOTP : auth.api.verifyBackupCode;
      const late = 'That is not the code of just now, or the time for it is over.';
      const { user } = await asking(req, late, (headers) => verify({ body, headers, returnHeaders: true }));
      came(user.id);
    },
  };
}
export type SecondStep = ReturnType<typeof secondStep>;
