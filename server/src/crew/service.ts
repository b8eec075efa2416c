import { createHash, randomBytes } from 'node:crypto';
import type { InvitationLook } from '@zephyrfield/core/api/crew';
import { isKept, may, suffices, type Access, type Audience } from '@zephyrfield/core/item/access';
import { newCode, readCode, type AccessEvent, type InviteWay } from '@zephyrfield/core/item/crew';
import type { Learner } from '@zephyrfield/core/api/schemas';
import type { Clock } from '../clock.ts';
import { orderedId } from '../db/ids.ts';
import { ProblemError, notAllowed, noted, tooMany } from '../http/problem.ts';
import { MOST } from '../limits.ts';
import type { Attempts } from '../people/attempts.ts';
import type { UsedInvitation } from '../accounts/sign-up.ts';
import type { PeopleStore } from '../people/store.ts';
import type { CrewStore } from './store.ts';

const DAY = 86_400_000;
/** Time what is over is kept: invitations after their end, and what happened with access. */
export const KEPT = { invitations: 30 * DAY, history: 2 * 366 * DAY } as const;

export interface CrewDeps {
  store: CrewStore;
  people: PeopleStore;
  attempts: Attempts;
  clock: Clock;
  /** Sends an invitation; null where no mail server is set up. Rejects where that fails. */
  sendInvitation:
    | ((
        to: string,
        secret: string,
        about: { by: string; learners: string[]; access: Access },
      ) => Promise<void>)
    | null;
  /** Called after something of a schedule has changed */
  changed(learnerId: string): void;
  /** Tells people of somebody who came into their crew or left it */
  tell(
    personIds: readonly string[],
    learnerId: string,
    told: { id: string; title: string; line: string },
  ): void;
  /** Called after somebody may do more, less or nothing any more in a schedule: their open pages are told */
  accessChanged(personId: string): void;
}

export interface Invited {
  learnerIds: readonly string[];
  way: InviteWay;
  email?: string | undefined;
  access: Access;
  asLearner: boolean;
  days: number;
  uses: number;
}

/** An invitation's secret as it is stored: a code however it was typed, a token as it is. */
const digestOf = (secret: string) =>
  createHash('sha256')
    .update(readCode(secret) ?? secret)
    .digest('hex');

const notGood = () =>
  noted(
    new ProblemError(410, 'invitation', 'This invitation is not good any more, or never was.', {
      remedy: 'Look whether it is typed right, or ask for another one.',
    }),
  );

/** An address of which only its owner knows which one it is. */
const hinted = (email: string) => `${email[0]}…${email.slice(email.lastIndexOf('@'))}`;

/** Bringing people in, saying what they may do, and letting them go. */
export function crewService(deps: CrewDeps) {
  const { store, people, attempts, clock, sendInvitation, changed, accessChanged, tell } = deps;

  const nameOf = (personId: string) => people.person(personId)?.name ?? '';
  const note = (
    learnerId: string,
    kind: AccessEvent,
    by: string,
    about = '',
    access: Access | null = null,
    calendarIds: readonly string[] | null = null,
  ) => void store.note({ learnerId, at: clock.now(), kind, by: nameOf(by), about, access, calendarIds });

  /** Tells whoever keeps a schedule that somebody came or left; not whom it is about, nor who did it. */
  function tellKeepers(
    learnerId: string,
    did: 'joined' | 'left' | 'was removed',
    whom: string,
    by = whom,
  ): void {
    const keepers = store
      .members(learnerId)
      .filter((m) => suffices(m.access, 'keep') && m.personId !== whom && m.personId !== by);
    tell(
      keepers.map((m) => m.personId),
      learnerId,
      {
        id: `${did} ${whom} ${clock.now()}`,
        title: `${nameOf(whom)} ${did}`,
        line: `The crew around ${store.learnerName(learnerId)}`,
      },
    );
  }

  /** @throws ProblemError where nobody would keep the schedule any more */
  function requireKept(learnerId: string): void {
    if (isKept(store.accessesOf(learnerId))) return;
    throw new ProblemError(409, 'last-keeper', 'Somebody has to keep this schedule.', {
      remedy: 'Make somebody else its keeper first.',
    });
  }

  function member(id: string) {
    const found = store.member(id);
    if (!found) throw notGood();
    return found;
  }

  async function find(secret: string, from: string, personId: string | null) {
    // Counted before it is looked for: of many at once no more are tried than may be.
    await attempts.take('wrongInvitation', from);
    const found = store.goodInvitation(digestOf(secret), clock.now(), personId);
    if (!found) throw notGood();
    await attempts.giveBack('wrongInvitation', from);
    return found;
  }

  /** Ends what somebody has given of a schedule, as far as they may not give it any more. In a transaction. */
  function endGrants(personId: string, learnerId: string, by: string): void {
    const row = store.memberOf(personId, learnerId);
    const standing = row && {
      personId,
      access: row.access,
      isSelf: store.learner(learnerId)?.personId === personId,
    };
    if (!standing || !may(standing, 'keep'))
      for (const { email, way } of store.endInvitations(personId, learnerId, clock.now()))
        note(learnerId, 'takenBack', by, email ?? way);
    if (standing && may(standing, 'share')) return;
    for (const { name, rules } of store.endSharing(personId, learnerId))
      note(learnerId, 'outNoMore', by, name, null, rules.calendars);
  }

  return {
    /** Changes what somebody may do, or whose own the schedule is. */
    change(
      id: string,
      change: { access?: Access | undefined; isSelf?: boolean | undefined },
      by: string,
    ): void {
      const { personId, learnerId } = store.transaction(() => {
        const row = member(id);
        if (change.access && change.access !== row.access) {
          store.setAccess(id, change.access);
          note(row.learnerId, 'changed', by, nameOf(row.personId), change.access);
        }
        if (change.isSelf !== undefined) {
          const is = store.learner(row.learnerId)?.personId === row.personId;
          if (is !== change.isSelf) {
            store.setOwn(row.learnerId, change.isSelf ? row.personId : null);
            note(row.learnerId, 'own', by, change.isSelf ? nameOf(row.personId) : '');
          }
        }
        requireKept(row.learnerId);
        endGrants(row.personId, row.learnerId, by);
        return row;
      });
      accessChanged(personId);
      changed(learnerId);
    },

    /** Lets somebody leave, or takes them out. */
    remove(id: string, by: { personId: string; learner: Learner }): void {
      const { personId, learnerId } = store.transaction(() => {
        const row = member(id);
        const isOwn = row.personId === by.personId;
        if (
          !isOwn &&
          !may({ personId: by.personId, access: by.learner.access, isSelf: by.learner.isSelf }, 'keep')
        )
          throw notAllowed('decide who may see this schedule');
        const name = nameOf(row.personId);
        store.remove(id, row.personId, row.learnerId);
        if (store.learner(row.learnerId)?.personId === row.personId) store.setOwn(row.learnerId, null);
        requireKept(row.learnerId);
        endGrants(row.personId, row.learnerId, by.personId);
        note(row.learnerId, isOwn ? 'left' : 'removed', by.personId, name);
        return row;
      });
      tellKeepers(learnerId, personId === by.personId ? 'left' : 'was removed', personId, by.personId);
      accessChanged(personId);
      changed(learnerId);
    },

    /**
     * Invites somebody.
     * @returns the code, or the token of the link, which is told this once; null where it went by mail
     */
    async invite(invited: Invited, by: string): Promise<string | null> {
      const { learnerIds, way, email, access, asLearner, days, uses } = invited;
      if (way === 'mail' && !sendInvitation)
        throw new ProblemError(409, 'no-mail', 'No mail server is set up here.', {
          remedy: 'Invite them by a link or a code instead.',
        });
      if (way === 'mail' && !people.person(by)?.confirmed)
        throw new ProblemError(409, 'unconfirmed', 'Your own mail address is not confirmed yet.', {
          remedy: 'Open the link that was sent to it; until then, invite them by a link or a code.',
        });
      await attempts.take('invite', by);
      if (way === 'mail') await attempts.take('inviteByMail', by);
      const now = clock.now();
      const secret = way === 'code' ? newCode((n) => randomBytes(n)) : randomBytes(24).toString('base64url');
      const ids = [...new Set(learnerIds)];
      const id = orderedId(now);
      store.transaction(() => {
        if (store.openInvitationsBy(by, now) >= MOST.invitations)
          throw tooMany(
            `You have ${MOST.invitations} open invitations, which is the most.`,
            'Take one of them back first.',
          );
        store.addInvitation(
          {
            id,
            digest: digestOf(secret),
            way,
            email: way === 'mail' ? email!.toLowerCase() : null,
            access,
            asLearner,
            invitedBy: by,
            // A mail is for one; a learner is one.
            usesLeft: way === 'mail' || asLearner ? 1 : uses,
            createdAt: now,
            expiresAt: now + days * DAY,
          },
          ids.map((learnerId) => ({ id: orderedId(now), learnerId })),
        );
        for (const learnerId of ids) note(learnerId, 'invited', by, email ?? way, access);
      });
      if (way === 'mail') {
        const learners = ids.map(store.learnerName);
        await sendInvitation!(email!, secret, { by: nameOf(by), learners, access }).catch(() => {
          throw new ProblemError(502, 'mail-unreached', 'The mail could not be sent just now.', {
            remedy: 'Take the invitation back and try again in a few minutes, or invite them by a link.',
          });
        });
      }
      return way === 'mail' ? null : secret;
    },

    takeBack(id: string, by: string): void {
      store.transaction(() => {
        const to = store.invitationTo(id);
        if (!to || to.takenBackAt !== null) return;
        store.takeBack(id, clock.now());
        const found = store.invitation(to.invitationId);
        note(to.learnerId, 'takenBack', by, found?.email ?? found?.way ?? '');
      });
    },

    /** Gives what an invitation says to whoever has its secret. */
    async look(secret: string, from: string, personId: string | null): Promise<InvitationLook> {
      const { invitedBy, access, asLearner, expiresAt, email, to } = await find(secret, from, personId);
      return {
        by: nameOf(invitedBy),
        learners: to.map((t) => t.name),
        access,
        asLearner,
        expires: new Date(expiresAt).toISOString(),
        email: email && hinted(email),
      };
    },

    /**
     * Uses an invitation for an account that is to be made with this address.
     * @returns whether it came to that very address, which is then known to be theirs, and what is to be called once the
     *   account is made or is not; null where it lets nobody make one
     */
    use(secret: string, email: string): UsedInvitation | null {
      const found = store.transaction(() => {
        const good = store.goodInvitation(digestOf(secret), clock.now());
        if (!good || (good.email !== null && good.email !== email.toLowerCase())) return null;
        store.use(good.id);
        return good;
      });
      return (
        found && {
          isTheirs: found.email !== null,
          made: (personId) => void store.addAccount(found.id, personId),
          giveBack: () => void store.giveBack(found.id),
        }
      );
    },

    /** Comes into the crews an invitation is to; whoever may do more there already goes on doing so. */
    async accept(secret: string, personId: string, from: string): Promise<string[]> {
      await find(secret, from, personId);
      const person = people.person(personId)!;
      const came = store.transaction(() => {
        // It may have been used, or taken back, while the attempts were counted.
        const found = store.goodInvitation(digestOf(secret), clock.now(), personId);
        if (!found) throw notGood();
        const { id, isUsed, access, asLearner, email, to } = found;
        if (email !== null && email !== person.email.toLowerCase())
          throw new ProblemError(403, 'other-address', `This invitation was sent to ${hinted(email)}.`, {
            remedy: 'Sign in with that address, or ask for an invitation by a link or a code.',
          });
        const wasThere = to.map(({ learnerId }) => store.memberOf(personId, learnerId) !== undefined);
        const changes = to.map(({ learnerId }) => {
          const there = store.memberOf(personId, learnerId);
          const isMore = !there || !suffices(there.access, access);
          const isOwn = asLearner && store.learner(learnerId)?.personId !== personId;
          if (!there) people.join({ personId, learnerId, access, joinedAt: clock.now() });
          else if (isMore) store.setAccess(there.id, access);
          if (isOwn) {
            if (store.learner(learnerId)?.personId)
              throw new ProblemError(409, 'has-learner', 'This schedule is somebody else’s own already.', {
                remedy: 'Ask whoever invited you for another invitation.',
              });
            store.setOwn(learnerId, personId);
          }
          if (isMore || isOwn) note(learnerId, 'came', personId, asLearner ? 'own' : '', access);
          return isMore || isOwn;
        });
        // Opened twice by the same person, it is used once.
        if (isUsed) store.dropAccount(id, personId);
        else if (changes.some(Boolean)) store.use(id);
        if (email !== null) people.confirm(personId, person.email);
        return to.map((t, i) => ({ learnerId: t.learnerId, isNew: wasThere[i] === false }));
      });
      for (const { learnerId, isNew } of came) {
        if (isNew) tellKeepers(learnerId, 'joined', personId);
        changed(learnerId);
      }
      accessChanged(personId);
      return came.map((c) => c.learnerId);
    },

    /** Says whom in the crew a calendar is for. Whoever says it is among them. */
    keepFrom(
      calendar: {
        id: string;
        learnerId: string;
        name: string;
        audience: Audience | null;
        madeBy: string | null;
      },
      audience: { members: readonly string[]; others: Audience['others'] } | null,
      by: { personId: string; learner: Learner },
    ): void {
      const { access, isSelf } = by.learner;
      if (!may({ personId: by.personId, access, isSelf }, 'keepFrom', calendar))
        throw notAllowed('decide whom this calendar is for');
      store.transaction(() => {
        const persons = audience && [...new Set([by.personId, ...store.personsOf(audience.members)])];
        store.setAudience(calendar.id, audience && { persons: persons!, others: audience.others });
        note(calendar.learnerId, persons ? 'keptFrom' : 'forAll', by.personId, calendar.name, null, [
          calendar.id,
        ]);
      });
      changed(calendar.learnerId);
    },

    /** Notes what somebody did with who sees a schedule. */
    note,

    /** Forgets what is over for long. */
    tidy(): void {
      store.forgetInvitations(clock.now() - KEPT.invitations);
      store.forgetHistory(clock.now() - KEPT.history);
    },
  };
}
export type CrewService = ReturnType<typeof crewService>;
