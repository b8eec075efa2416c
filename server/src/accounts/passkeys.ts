import type { AuthenticationResponseJSON, RegistrationResponseJSON } from '@simplewebauthn/server';
import { APIError } from 'better-auth/api';
import type { Request } from 'express';
import { ProblemError, noted } from '../http/problem.ts';
import { headersFor, noteCame, passCookies, type Auth } from './auth.ts';

export interface PasskeyDeps {
  auth: Auth;
  /** @throws ProblemError where it is not the person's password */
  requirePassword(personId: string, password: string, from: string): Promise<void>;
  /** Called after somebody has signed in */
  came(personId: string): void;
  /** Tells a person by mail of a change to how their account is reached */
  tellOfChange(personId: string, change: 'passkeyAdded'): void;
}

const refused = (message: string) =>
  noted(
    new ProblemError(422, 'passkey', message, {
      remedy: 'Try again. If it stays so, sign in with your password.',
    }),
  );

/** Passkeys (Web Authentication, W3C): signing in by a device instead of a password. */
export function passkeys({ auth, requirePassword, came, tellOfChange }: PasskeyDeps) {
  /** @throws ProblemError for what better-auth refuses */
  async function asking<T>(words: string, ask: () => Promise<T>): Promise<T> {
    try {
      return await ask();
    } catch (error) {
      if (!(error instanceof APIError)) throw error;
      throw refused(words);
    }
  }

  return {
    /** Gives what a browser needs to make a passkey; asks for the password, since it lets in without one. */
    async begin(personId: string, password: string, req: Request): Promise<object> {
      await requirePassword(personId, password, req.ip ?? '');
      const { headers, response } = await asking('A passkey cannot be made just now.', () =>
        auth.api.generatePasskeyRegistrationOptions({
          query: {},
          headers: headersFor(req),
          returnHeaders: true,
        }),
      );
      passCookies(headers, req);
      return response;
    },

    /** Keeps the passkey that a browser has made. */
    async keep(personId: string, response: unknown, name: string, req: Request): Promise<void> {
      await asking('This passkey could not be kept.', () =>
        auth.api.verifyPasskeyRegistration({
          body: { response: response as RegistrationResponseJSON, name },
          headers: headersFor(req),
        }),
      );
      tellOfChange(personId, 'passkeyAdded');
    },

    /** Gives what a browser needs to ask for a passkey. */
    async challenge(req: Request): Promise<object> {
      const { headers, response } = await auth.api.generatePasskeyAuthenticationOptions({
        headers: headersFor(req),
        returnHeaders: true,
      });
      passCookies(headers, req);
      return response;
    },

    /** Signs in by a passkey: it stands for both steps, since it is had and unlocked. */
    async signIn(response: unknown, req: Request): Promise<void> {
      const { headers, response: found } = await asking('This passkey could not be used.', () =>
        auth.api.verifyPasskeyAuthentication({
          body: { response: response as AuthenticationResponseJSON },
          headers: headersFor(req),
          returnHeaders: true,
        }),
      );
      passCookies(headers, req);
      noteCame(req, found.user.id);
      came(found.user.id);
    },
  };
}
export type Passkeys = ReturnType<typeof passkeys>;
