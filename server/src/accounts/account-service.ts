import type { Log } from '../log.ts';
import { randomBytes } from 'node:crypto';
import { APIError } from 'better-auth/api';
import type { Request } from 'express';
import type { Clock } from '../clock.ts';
import type { Caller } from '../http/caller.ts';
import { countedFor } from '../http/page.ts';
import { ProblemError, noted } from '../http/problem.ts';
import type { AccountChange } from './mails.ts';
import type { Attempts } from '../people/attempts.ts';
import { headersFor, noteCame, passCookies, type Auth } from './auth.ts';
import { LINK_TAKES, digestOf } from './links.ts';
import { hashPassword, isOldHash } from './passwords.ts';
import { refuseWeak, wrongField } from './refuse.ts';
import type { PeopleStore } from '../people/store.ts';

export interface AccountDeps {
  auth: Auth;
  people: PeopleStore;
  attempts: Attempts;
  clock: Clock;
  /** A keyed digest: an account's name in the security log */
  digest(text: string): string;
  /**
   * Sends the link that confirms an address; null where no mail server is set up. Rejects where that fails.
   */
  sendLink: ((to: string, token: string) => Promise<void>) | null;
  /** Ends the event streams of a session, or (without one) of all sessions of a person */
  endStreams(personId: string, sessionId?: string): void;
  /** Called after many wrong passwords for one account: its owner is told */
  attacked(email: string): void;
  /** Called after somebody has signed in, with all steps */
  came(personId: string): void;
  /** Tells a person by mail of a change to how their account is reached */
  tellOfChange(personId: string, change: AccountChange): void;
  /** Takes a link that makes an address somebody's; false where it is none */
  move(token: string): boolean;
  /** Called after a person's address was confirmed */
  confirmed(personId: string): void;
  log: Log;
}

/** After so many wrong passwords in a quarter of an hour an account’s owner is told. */
const MANY_WRONG = 12;

/** Signing in and out, passwords, and confirming that a mail address is somebody's own. */
export function accountService(deps: AccountDeps) {
  const {
    auth,
    people,
    attempts,
    clock,
    digest,
    sendLink,
    endStreams,
    confirmed,
    attacked,
    came,
    tellOfChange,
    move,
    log,
  } = deps;

  async function link(personId: string): Promise<void> {
    const person = people.person(personId);
    if (!sendLink)
      throw new ProblemError(409, 'no-mail', 'No mail server is set up here.', {
        remedy: 'Whoever runs this server can set one with ZEPHYRFIELD_SMTP_URL.',
      });
    if (!person || person.confirmed)
      throw new ProblemError(409, 'confirmed', 'Your mail address is confirmed already.', {
        remedy: 'There is nothing to do.',
      });
    const token = randomBytes(24).toString('base64url');
    const now = clock.now();
    people.transaction(() => {
      people.forgetConfirmations(now);
      people.addConfirmation({
        digest: digestOf(token),
        personId,
        email: person.email,
        createdAt: now,
        expiresAt: now + LINK_TAKES,
      });
    });
    await sendLink(person.email, token);
  }

  return {
    /** Sends a new account the link that confirms its address, and waits for nothing. */
    sendFirstConfirmation(personId: string): void {
      if (sendLink)
        void link(personId).catch(() => log('the mail that confirms an address could not be sent'));
    },

    /** @returns whether a second step is to be taken before anybody is signed in */
    async signIn(
      { email, password }: { email: string; password: string },
      req: Request,
    ): Promise<{ secondStep: boolean }> {
      const account = email.toLowerCase();
      const here = `${account} ${req.ip ?? ''}`;
      // Counted before the password is worked out, which takes its time: many at once are not tried.
      await attempts.take('wrongFromHere', here);
      const tries = await attempts.take('wrongFromAnywhere', account);
      try {
        // A whole school may sign in from one address: each account waits in its own line.
        const { headers, response } = await countedFor(`account ${account}`, () =>
          auth.api.signInEmail({
            body: { email, password },
            headers: headersFor(req),
            returnHeaders: true,
          }),
        );
        await attempts.forget('wrongFromHere', here);
        await attempts.giveBack('wrongFromAnywhere', account);
        passCookies(headers, req);
        if (!('user' in response)) return { secondStep: true };
        const personId = response.user.id;
        noteCame(req, personId);
        came(personId);
        if (isOldHash(people.passwordOf(personId) ?? ''))
          people.savePassword(personId, await hashPassword(password));
        return { secondStep: false };
      } catch (error) {
        if (!(error instanceof APIError)) throw error;
        if (tries === MANY_WRONG) attacked(account);
        const wrong = new ProblemError(
          401,
          'wrong-password',
          'That mail address and password do not belong together.',
          { remedy: 'Check what you typed and try again.' },
        );
        throw noted(wrong, { account: digest(account) });
      }
    },

    /** Ends the session, and has the browser forget all that it kept of it. */
    async signOut(caller: Caller | null, req: Request): Promise<void> {
      const { headers } = await auth.api.signOut({ headers: headersFor(req), returnHeaders: true });
      passCookies(headers, req);
      req.res?.set('Clear-Site-Data', '"cache", "cookies", "storage"');
      if (caller) endStreams(caller.personId, caller.sessionId);
    },

    /** Changes the password, and ends all sessions but the one this was asked in. */
    async changePassword(
      caller: Caller,
      { currentPassword, newPassword }: { currentPassword: string; newPassword: string },
      req: Request,
    ): Promise<void> {
      const { name, email } = people.person(caller.personId)!;
      const here = `${email} ${req.ip ?? ''}`;
      refuseWeak('newPassword', newPassword, [name, email]);
      await attempts.take('wrongFromHere', here);
      try {
        await auth.api.changePassword({
          body: { currentPassword, newPassword, revokeOtherSessions: false },
          headers: headersFor(req),
        });
      } catch (error) {
        if (!(error instanceof APIError)) throw error;
        throw noted(wrongField('currentPassword', 'That is not your password.'), { account: digest(email) });
      }
      await attempts.giveBack('wrongFromHere', here);
      people.transaction(() => people.endOtherSessions(caller.personId, caller.sessionId));
      endStreams(caller.personId);
      tellOfChange(caller.personId, 'password');
    },

    /** Sends the person the link that confirms their address. */
    async sendConfirmation(personId: string): Promise<void> {
      await attempts.take('confirmation', personId);
      try {
        await link(personId);
      } catch (error) {
        if (error instanceof ProblemError) throw error;
        log('the mail that confirms an address could not be sent');
        throw new ProblemError(502, 'mail-unreached', 'The mail could not be sent just now.', {
          remedy: 'Try again in a few minutes.',
        });
      }
    },

    /** Confirms an address by the secret of the link that was sent to it. */
    confirm(token: string): void {
      if (move(token)) return;
      const taken = people.transaction(() => {
        const found = people.takeConfirmation(digestOf(token), clock.now(), 'confirm');
        return found && people.confirm(found.personId, found.email) ? found.personId : null;
      });
      if (!taken) {
        throw noted(
          new ProblemError(410, 'link-used', 'This link is not good any more.', {
            remedy: 'A link is good once, for an hour. Sign in and have another one sent.',
          }),
        );
      }
      confirmed(taken);
    },
  };
}
export type AccountService = ReturnType<typeof accountService>;
