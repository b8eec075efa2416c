import { randomBytes } from 'node:crypto';
import { APIError } from 'better-auth/api';
import type { Request } from 'express';
import type { Clock } from '../clock.ts';
import { ProblemError, noted } from '../http/problem.ts';
import type { Log } from '../log.ts';
import type { Attempts } from '../people/attempts.ts';
import { headersFor, noteCame, passCookies, type Auth } from './auth.ts';
import { LINK_TAKES, digestOf } from './links.ts';
import { hashPassword, isPassword } from './passwords.ts';
import { refuseWeak, wrongField } from './refuse.ts';
import { isSetUpWord } from './set-up-word.ts';
import type { PeopleStore } from '../people/store.ts';

/** An invitation that an account is being made by. */
export interface UsedInvitation {
  /** True where it was sent to the account's address */
  isTheirs: boolean;
  made(personId: string): void;
  giveBack(): void;
}

export interface SignUpDeps {
  auth: Auth;
  people: PeopleStore;
  attempts: Attempts;
  clock: Clock;
  /** Anybody may make an account, not only the first person */
  openSignUp: boolean;
  /** The word the first account needs, if there was none at the start: null where none is known to anybody */
  setUpWord: string | null;
  /** The first account needs that word */
  asksForWord: boolean;
  /** A keyed digest: an account's name in the security log */
  digest(text: string): string;
  /**
   * Mails to whoever has typed an address: the link that makes the account, or that there is one. Null where no mail
   * goes out here.
   */
  mails: { begin(to: string, token: string): Promise<void>; known(to: string): Promise<void> } | null;
  /** Sends a new account the link that confirms its address; does nothing where no mail goes out */
  sendLink(personId: string): void;
  /** Uses an invitation for an account that is to be made; null where it lets nobody with this address make one */
  takeInvitation(secret: string, email: string): UsedInvitation | null;
  log: Log;
}

interface Typed {
  name: string;
  email: string;
  password: string;
  setUpWord?: string | undefined;
  invitation?: string | undefined;
}

/**
 * Making accounts. The first one takes the set-up word, others an invitation. Where anybody may come, the account is made
 * once the link that was sent to its address is opened, so that signing up tells nobody whose address is known here.
 * Without mail there is no such link: the account is made at once, and a known address is refused.
 */
export function signUpService(deps: SignUpDeps) {
  const { auth, people, attempts, clock, openSignUp, setUpWord, asksForWord, digest, mails, log } = deps;

  /** Refuses who has neither account nor invitation where strangers may not come. The same answer for every address. */
  function refuseStrangers(typed: string | undefined): void {
    const isFirst = people.count() === 0;
    if (!isFirst && !openSignUp) {
      throw noted(
        new ProblemError(403, 'closed', 'This installation has its first account already.', {
          remedy: 'Ask its owner to let you in.',
        }),
      );
    }
    // Where the last account has gone since the start, there is no word: only another start lets somebody in.
    if (!isFirst || !asksForWord || (setUpWord && typed && isSetUpWord(typed, setUpWord))) return;
    const message = typed ? 'That is not the set-up word.' : 'Type the set-up word.';
    throw noted(
      new ProblemError(403, 'set-up-word', message, {
        remedy: 'The server prints it when it starts. A restart makes a new one.',
        fields: [{ path: 'setUpWord', message }],
      }),
    );
  }

  /** Makes an account, and signs its owner in. @returns whose it is @throws ProblemError 422 where the address has one */
  async function make(
    { name, email, password }: Typed,
    req: Request,
  ): Promise<{ id: string; email: string }> {
    try {
      const { headers, response } = await auth.api.signUpEmail({
        body: { name, email, password },
        headers: headersFor(req),
        returnHeaders: true,
      });
      passCookies(headers, req);
      noteCame(req, response.user.id);
      return response.user;
    } catch (error) {
      if (!(error instanceof APIError)) throw error;
      if (/USER_ALREADY_EXISTS/.test(String(error.body?.code)))
        throw noted(wrongField('email', 'There is an account with that mail address already.'), {
          account: digest(email.toLowerCase()),
        });
      throw wrongField('email', 'An account with that mail address cannot be made.');
    }
  }

  /** Keeps what was typed until the link is opened, and sends it; tells a known address that it has an account. */
  async function sendBeginning(email: string, name: string, passwordHash: string): Promise<void> {
    if (people.byEmail(email)) return mails!.known(email);
    const token = randomBytes(24).toString('base64url');
    const now = clock.now();
    people.transaction(() => {
      people.forgetBeginnings(now);
      people.addBeginning({
        digest: digestOf(token),
        name,
        email,
        passwordHash,
        expiresAt: now + LINK_TAKES,
      });
    });
    return mails!.begin(email, token);
  }

  return {
    /** Signs somebody up. @returns whether the account waits for a link to be opened, and nobody is signed in yet */
    async signUp(typed: Typed, req: Request): Promise<boolean> {
      const { name, password, invitation } = typed;
      const email = typed.email.toLowerCase();
      await attempts.take('signUp', req.ip ?? '');
      const invited = invitation === undefined ? null : deps.takeInvitation(invitation, email);
      try {
        if (!invited) refuseStrangers(typed.setUpWord);
        refuseWeak('password', password, [name, email]);
        if (mails && !invited && people.count() > 0) {
          await attempts.take('signUpMail', email);
          // Worked out before the answer, for known addresses too: the time it takes tells nothing.
          const hash = await hashPassword(password);
          setImmediate(
            () =>
              void sendBeginning(email, name, hash).catch(() =>
                log('the mail that begins an account could not be sent'),
              ),
          );
          return true;
        }
        const { id } = await make(typed, req);
        invited?.made(id);
        // The account is made whether the mail arrives or not; its owner can ask for another one.
        if (invited?.isTheirs) people.confirm(id, email);
        else deps.sendLink(id);
        return false;
      } catch (error) {
        invited?.giveBack();
        throw error;
      }
    },

    /**
     * Makes the account whose link was opened. It asks for the password that was chosen: who opens a link in a mail of
     * their own takes over no account that somebody else began with their address.
     */
    async begin({ token, password }: { token: string; password: string }, req: Request): Promise<void> {
      await attempts.take('wrongFromHere', `begin ${req.ip ?? ''}`);
      const begun = people.beginning(digestOf(token), clock.now());
      if (!begun)
        throw noted(
          new ProblemError(410, 'link-used', 'This link is not good any more.', {
            remedy: 'A link is good once, for an hour. Have another one sent, or sign in.',
          }),
        );
      const { name, email, passwordHash } = begun;
      await attempts.take('wrongFromHere', `begin ${begun.digest}`);
      if (!(await isPassword({ hash: passwordHash, password })))
        throw noted(wrongField('password', 'That is not the password you chose.'), {
          account: digest(email),
        });
      const { id } = await make({ name, email, password }, req);
      people.transaction(() => {
        people.confirm(id, email);
        people.dropBeginnings(email);
      });
      await attempts.giveBack('wrongFromHere', `begin ${req.ip ?? ''}`);
    },
  };
}
export type SignUpService = ReturnType<typeof signUpService>;
