import type { AccountView, ResetLook } from '@zephyrfield/core/api/account-view';
import type { Clock } from '../clock.ts';
import type { Caller } from '../http/caller.ts';
import { ProblemError, noted } from '../http/problem.ts';
import type { Log } from '../log.ts';
import type { AccountChange } from './mails.ts';
import type { AccountStore } from './account-store.ts';
import type { Attempts } from '../people/attempts.ts';
import { deviceWords } from './device.ts';
import { digestOf, newLink } from './links.ts';
import { hashPassword, isPassword } from './passwords.ts';
import { refuseWeak } from './refuse.ts';
import type { PeopleStore } from '../people/store.ts';

const DAY = 86_400_000;
/** Time after it was asked for an account is deleted. */
export const GRACE = 7 * DAY;

/** Mails about an account, each with one link or none. Each rejects where it cannot be sent. */
export interface AccountMails {
  reset(to: string, token: string): Promise<void>;
  move(to: string, token: string): Promise<void>;
  moved(to: string): Promise<void>;
  leaving(to: string, at: number): Promise<void>;
  attacked(to: string): Promise<void>;
  changed(to: string, change: AccountChange): Promise<void>;
}

export interface OwnAccountDeps {
  store: AccountStore;
  people: PeopleStore;
  attempts: Attempts;
  clock: Clock;
  /** Null where no mail server is set up */
  mails: AccountMails | null;
  /** Ends the event streams of a session, or (without one) of all sessions of a person */
  endStreams(personId: string, sessionId?: string): void;
  /** Called after a person's address has changed, or was confirmed */
  addressChanged(personId: string): void;
  /** Called after what is in a schedule, or who may see it, has changed */
  changed(learnerId: string): void;
  log: Log;
}

const iso = (ms: number) => new Date(ms).toISOString();

const used = () =>
  noted(
    new ProblemError(410, 'link-used', 'This link is not good any more.', {
      remedy: 'A link is good once, for an hour. Have another one sent.',
    }),
  );

/** A new password, and the other ways of signing in that its owner keeps. */
export interface Reset {
  token: string;
  newPassword: string;
  /** Ids of the passkeys that stay; the others go */
  passkeys: readonly string[];
  /** True where the second step stays */
  secondStep: boolean;
}

/** Gives what somebody sees and changes of their own account, and how it ends. */
export function ownAccount(deps: OwnAccountDeps) {
  const { store, people, attempts, clock, mails, endStreams, addressChanged, changed, log } = deps;

  /** Does what nobody waits for: it sends a mail. */
  const later = (work: () => Promise<void> | undefined) =>
    void setImmediate(
      () =>
        void Promise.resolve()
          .then(work)
          .catch(() => log('a mail about an account could not be sent')),
    );

  const link = (personId: string, email: string, kind: 'reset' | 'move') =>
    newLink({ people, store }, { personId, email, kind }, clock.now());

  /** @throws ProblemError where it is not the person's password, or was tried too often */
  async function requirePassword(personId: string, password: string, from: string): Promise<void> {
    const here = `${people.person(personId)!.email} ${from}`;
    await attempts.take('withPassword', personId);
    await attempts.take('wrongFromHere', here);
    const hash = people.passwordOf(personId);
    if (hash !== null && (await isPassword({ hash, password })))
      return attempts.giveBack('wrongFromHere', here);
    const message = 'That is not your password.';
    throw noted(
      new ProblemError(422, 'invalid', message, {
        remedy: 'Correct it and try again.',
        fields: [{ path: 'password', message }],
      }),
    );
  }

  /** Tells a person of a change to how their account is reached, where their address is confirmed. */
  function tellOfChange(personId: string, change: AccountChange): void {
    const person = people.person(personId);
    if (person?.confirmed) later(() => mails?.changed(person.email, change));
  }

  /** A link by which a password is set anew, and whose it is. @throws ProblemError 410 */
  function goodReset(token: string) {
    const known = people.confirmation(digestOf(token), clock.now(), 'reset');
    const person = known && people.person(known.personId);
    // A link that was sent to an address the person has no more lets nobody in.
    if (!known || person?.email !== known.email) throw used();
    return person;
  }

  const passkeysOf = (personId: string) =>
    store.passkeys(personId).map((p) => ({
      id: p.id,
      name: p.name ?? '',
      since: (p.createdAt ?? new Date(0)).toISOString(),
    }));

  /** Gives what goes with an account, and to whom what stays goes. */
  function outcome(personId: string) {
    const kept = store.keptBy(personId);
    const goes = kept.filter((l) => l.others === 0 && l.heir === null);
    const gone = new Set(goes.map((l) => l.id));
    return {
      goes,
      inherited: kept.filter((l) => l.others === 0 && l.heir !== null),
      stays: store.schedulesOf(personId).filter((l) => !gone.has(l.id)),
    };
  }

  return {
    requirePassword,
    tellOfChange,

    view({ personId, sessionId }: Caller): AccountView {
      const { name, email, emailVerified, twoFactorEnabled } = store.person(personId)!;
      const { goes, stays } = outcome(personId);
      return {
        name,
        email,
        confirmed: emailVerified,
        mail: mails !== null,
        secondStep: twoFactorEnabled,
        passkeys: passkeysOf(personId),
        sessions: store.sessions(personId).map((s) => ({
          id: s.id,
          here: s.id === sessionId,
          device: deviceWords(s.userAgent ?? ''),
          from: s.ipAddress ?? '',
          since: s.createdAt.toISOString(),
          lastUsed: s.updatedAt.toISOString(),
        })),
        goes: goes.map((l) => l.name),
        stays: stays.map((l) => l.name),
      };
    },

    removePasskey(personId: string, id: string): void {
      people.transaction(() => void store.removePasskey(id));
      tellOfChange(personId, 'passkeyRemoved');
    },

    endSession(personId: string, id: string): void {
      people.transaction(() => store.endSession(id));
      endStreams(personId, id);
    },

    endOthers({ personId, sessionId }: Caller): void {
      people.transaction(() => people.endOtherSessions(personId, sessionId));
      endStreams(personId);
    },

    setName(personId: string, name: string): void {
      people.transaction(() => store.setName(personId, name));
      for (const { id } of people.learnersOf(personId)) changed(id);
    },

    /**
     * Changes the address: at once where no mail goes out here, else once the link that is sent to the new one was
     * opened. The answer is the same whoever else has that address.
     * @returns whether it waits for that
     */
    async setEmail(personId: string, email: string, password: string, from: string): Promise<boolean> {
      await requirePassword(personId, password, from);
      await attempts.take('confirmation', personId);
      const next = email.toLowerCase();
      const other = people.byEmail(next);
      if (mails) {
        // Somebody else's address gets no link: whether it is one, nobody learns here, nor by how long it takes.
        if (!other) later(() => mails.move(next, link(personId, next, 'move')));
        tellOfChange(personId, 'addressAsked');
        return true;
      }
      if (other && other.id !== personId) {
        const message = 'That address cannot be used.';
        throw new ProblemError(422, 'invalid', message, {
          remedy: 'Use another one.',
          fields: [{ path: 'email', message }],
        });
      }
      people.transaction(() => store.setEmail(personId, next, false));
      addressChanged(personId);
      return false;
    },

    /** Takes a link that makes an address somebody's; tells the former one. */
    move(token: string): boolean {
      const found = people.transaction(() => {
        const taken = people.takeConfirmation(digestOf(token), clock.now(), 'move');
        if (!taken || people.byEmail(taken.email)) return null;
        const before = people.person(taken.personId)!.email;
        store.setEmail(taken.personId, taken.email, true);
        return { personId: taken.personId, before };
      });
      if (!found) return false;
      later(() => mails?.moved(found.before));
      addressChanged(found.personId);
      return true;
    },

    /** Sends a link to set the password anew, if the address is somebody's. Takes as long either way. */
    async forgot(email: string, from: string): Promise<void> {
      const account = email.toLowerCase();
      await attempts.take('forgottenFrom', from);
      await attempts.take('forgotten', account);
      // After the answer: making a link takes time, which would tell whose address is known.
      later(async () => {
        const found = people.byEmail(account);
        if (found && mails) await mails.reset(account, link(found.id, account, 'reset'));
      });
    },

    /** Says what else an account can be reached by, to whoever has the link that sets its password anew. */
    lookAtReset(token: string): ResetLook {
      const { id } = goodReset(token);
      return { passkeys: passkeysOf(id), secondStep: store.person(id)!.twoFactorEnabled };
    },

    /**
     * Sets the password anew; the link shows as well that the address is theirs. Ends all sessions, all other links that
     * are under way, and every passkey and second step that is not said to stay.
     * @returns whose password it was
     */
    async reset({ token, newPassword, passkeys, secondStep }: Reset): Promise<string> {
      const person = goodReset(token);
      refuseWeak('newPassword', newPassword, [person.name, person.email]);
      const hash = await hashPassword(newPassword);
      people.transaction(() => {
        // It may have been used meanwhile.
        const taken = people.takeConfirmation(digestOf(token), clock.now(), 'reset');
        if (!taken) throw used();
        people.savePassword(taken.personId, hash);
        people.confirm(taken.personId, taken.email);
        store.endAllSessions(taken.personId);
        store.dropAllLinks(taken.personId);
        store.keepPasskeys(taken.personId, passkeys);
        if (!secondStep) store.endSecondStep(taken.personId);
      });
      endStreams(person.id);
      tellOfChange(person.id, 'reset');
      return person.id;
    },

    /** Has the account deleted after the days of grace, and signs out everywhere. @returns when */
    async leave(personId: string, password: string, from: string): Promise<number> {
      await requirePassword(personId, password, from);
      const at = clock.now() + GRACE;
      people.transaction(() => {
        store.setLeaving(personId, at);
        store.endAllSessions(personId);
      });
      endStreams(personId);
      const { email } = people.person(personId)!;
      later(() => mails?.leaving(email, at));
      return at;
    },

    /** Who has signed in, by whatever way, takes back that the account is to be deleted. */
    came(personId: string): void {
      if (store.leavingAt(personId) !== null) people.transaction(() => store.stay(personId));
    },

    /** Tells an account's owner that many wrong passwords were tried. */
    attacked(email: string): void {
      if (people.byEmail(email)) later(() => mails?.attacked(email));
    },

    /** All that is stored about somebody. */
    everything(personId: string): object {
      const { name, email, createdAt, emailVerified } = store.person(personId)!;
      return {
        made: iso(clock.now()),
        account: { name, email, confirmed: emailVerified, since: createdAt.toISOString() },
        sessions: store.sessions(personId).map(({ createdAt: since, updatedAt, ipAddress, userAgent }) => ({
          since,
          lastUsed: updatedAt,
          ipAddress,
          userAgent,
        })),
        schedules: store
          .schedulesOf(personId)
          .map(({ joinedAt, ...rest }) => ({ ...rest, since: iso(joinedAt) })),
        ...store.everything(personId),
      };
    },

    /** Deletes the accounts whose days of grace are over. What another one keeps, or its learner can keep, stays. */
    tidy(): void {
      for (const personId of store.gone(clock.now())) {
        const { goes, inherited } = outcome(personId);
        people.transaction(() => {
          for (const { id, heir } of inherited) store.makeKeeper(heir!, id);
          for (const { id } of goes) store.removeLearner(id);
          store.removePerson(personId);
        });
        endStreams(personId);
        for (const { id } of inherited) changed(id);
      }
    },
  };
}
export type OwnAccount = ReturnType<typeof ownAccount>;
