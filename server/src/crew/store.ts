import { and, asc, desc, eq, gt, inArray, isNull, lt, sql } from 'drizzle-orm';
import { suffices, type Access, type Audience } from '@zephyrfield/core/item/access';
import type { Db } from '../db/open.ts';
import {
  accessEvent,
  calendar,
  crew,
  invitation,
  invitationAccount,
  invitationTo,
  learner,
  user,
} from '../db/schema.ts';
import { leavingStore } from './leaving.ts';

export type InvitationRow = typeof invitation.$inferSelect;

/** The people around learners, invitations to them, and what happened with access. */
export function crewStore(db: Db) {
  const { $client: sqlite } = db;
  // A sheet's words are about all calendars at once.
  const notToldOf = sqlite.prepare<{ calendarId: string; persons: string }>(
    `DELETE FROM delivery WHERE person_id NOT IN (SELECT value FROM json_each(@persons))
      AND person_id IN (SELECT c.person_id FROM crew c JOIN calendar k ON k.learner_id = c.learner_id WHERE k.id = @calendarId)
      AND (calendar_id = @calendarId OR sheet IS NOT NULL
        OR item_id IN (SELECT id FROM item WHERE calendar_id = @calendarId)
        OR EXISTS (SELECT 1 FROM json_each(about) a JOIN item i ON i.id = a.value WHERE i.calendar_id = @calendarId))`,
  );
  const leaving = leavingStore(db);
  const findLearner = (id: string) => db.select().from(learner).where(eq(learner.id, id)).get();
  const members = (learnerId: string) =>
    db
      .select({
        id: crew.id,
        personId: crew.personId,
        name: user.name,
        access: crew.access,
        isSelf: sql`coalesce(${learner.personId} = ${crew.personId}, 0)`.mapWith(Boolean),
        joinedAt: crew.joinedAt,
      })
      .from(crew)
      .innerJoin(user, eq(user.id, crew.personId))
      .innerJoin(learner, eq(learner.id, crew.learnerId))
      .where(eq(crew.learnerId, learnerId))
      .orderBy(asc(crew.joinedAt), sql`${crew}.rowid`)
      .all();
  return {
    transaction: <T>(work: () => T): T => db.transaction(work, { behavior: 'immediate' }),
    learner: findLearner,
    members,
    learnerName: (id: string): string => findLearner(id)?.name ?? '',
    /** Lists the people who may change a schedule */
    editors: (learnerId: string): string[] =>
      members(learnerId).flatMap((m) => (suffices(m.access, 'edit') ? [m.personId] : [])),
    member: (id: string) => db.select().from(crew).where(eq(crew.id, id)).get(),
    memberOf: (personId: string, learnerId: string) =>
      db
        .select()
        .from(crew)
        .where(and(eq(crew.personId, personId), eq(crew.learnerId, learnerId)))
        .get(),
    keepersOf: (learnerId: string): string[] =>
      db
        .select({ personId: crew.personId })
        .from(crew)
        .where(and(eq(crew.learnerId, learnerId), eq(crew.access, 'keep')))
        .all()
        .map((row) => row.personId),
    accessesOf: (learnerId: string): Access[] =>
      db
        .select({ access: crew.access })
        .from(crew)
        .where(eq(crew.learnerId, learnerId))
        .all()
        .map((row) => row.access),
    setAccess: (id: string, access: Access) => db.update(crew).set({ access }).where(eq(crew.id, id)).run(),
    setOwn: (learnerId: string, personId: string | null) =>
      db.update(learner).set({ personId }).where(eq(learner.id, learnerId)).run(),
    /** Takes somebody out, of the crew and of all that names them in the schedule. */
    remove(id: string, personId: string, learnerId: string): void {
      db.delete(crew).where(eq(crew.id, id)).run();
      leaving.leave(personId, learnerId);
    },
    endInvitations: leaving.endInvitations,
    endSharing: leaving.endSharing,
    addInvitation(row: typeof invitation.$inferInsert, to: { id: string; learnerId: string }[]): void {
      db.insert(invitation).values(row).run();
      db.insert(invitationTo)
        .values(to.map((t) => ({ ...t, invitationId: row.id })))
        .run();
    },
    /** Those of a learner, the latest first */
    invitations: (learnerId: string) =>
      db
        .select({ to: invitationTo, invitation, by: user.name })
        .from(invitationTo)
        .innerJoin(invitation, eq(invitation.id, invitationTo.invitationId))
        .innerJoin(user, eq(user.id, invitation.invitedBy))
        .where(eq(invitationTo.learnerId, learnerId))
        .orderBy(desc(invitation.createdAt), desc(invitation.id))
        .limit(100)
        .all(),
    invitationTo: (id: string) => db.select().from(invitationTo).where(eq(invitationTo.id, id)).get(),
    invitation: (id: string) => db.select().from(invitation).where(eq(invitation.id, id)).get(),
    /** Finds an invitation that is still good by its secret's digest, with the crews it is to */
    goodInvitation(digest: string, now: number, personId: string | null = null) {
      // Who has made an account by it has used it, and may still accept it.
      const isUsedBy = sql`EXISTS (SELECT 1 FROM ${invitationAccount} a
        WHERE a.invitation_id = ${invitation.id} AND a.person_id = ${personId})`;
      const found = db
        .select({ invitation, isUsed: isUsedBy.mapWith(Boolean) })
        .from(invitation)
        .where(
          and(
            eq(invitation.digest, digest),
            gt(invitation.expiresAt, now),
            sql`(${invitation.usesLeft} > 0 OR ${isUsedBy})`,
          ),
        )
        .get();
      if (!found) return null;
      const to = db
        .select({ learnerId: invitationTo.learnerId, name: learner.name, makerAccess: crew.access })
        .from(invitationTo)
        .innerJoin(learner, eq(learner.id, invitationTo.learnerId))
        .innerJoin(
          crew,
          and(eq(crew.learnerId, invitationTo.learnerId), eq(crew.personId, found.invitation.invitedBy)),
        )
        .where(and(eq(invitationTo.invitationId, found.invitation.id), isNull(invitationTo.takenBackAt)))
        .orderBy(asc(learner.name))
        .all()
        // It counts as far as its maker may still give what it gives.
        .filter(({ makerAccess }) => suffices(makerAccess, 'keep'));
      return to.length ? { ...found.invitation, isUsed: found.isUsed, to } : null;
    },
    openInvitationsBy: (personId: string, now: number): number =>
      db
        .select({ id: invitation.id })
        .from(invitation)
        .where(
          and(eq(invitation.invitedBy, personId), gt(invitation.expiresAt, now), gt(invitation.usesLeft, 0)),
        )
        .all().length,
    use: (id: string) =>
      db
        .update(invitation)
        .set({ usesLeft: sql`${invitation.usesLeft} - 1`, used: sql`${invitation.used} + 1` })
        .where(and(eq(invitation.id, id), gt(invitation.usesLeft, 0)))
        .run(),
    /** Takes back that an invitation was used: no account came of it */
    giveBack: (id: string) =>
      db
        .update(invitation)
        .set({ usesLeft: sql`${invitation.usesLeft} + 1`, used: sql`${invitation.used} - 1` })
        .where(eq(invitation.id, id))
        .run(),
    /** Notes that somebody has made their account by an invitation, or that they have accepted it */
    addAccount: (invitationId: string, personId: string) =>
      db.insert(invitationAccount).values({ invitationId, personId }).run(),
    dropAccount: (invitationId: string, personId: string) =>
      db
        .delete(invitationAccount)
        .where(
          and(eq(invitationAccount.invitationId, invitationId), eq(invitationAccount.personId, personId)),
        )
        .run(),
    takeBack: (id: string, now: number) =>
      db.update(invitationTo).set({ takenBackAt: now }).where(eq(invitationTo.id, id)).run(),
    forgetInvitations: (before: number) =>
      db.delete(invitation).where(lt(invitation.expiresAt, before)).run(),
    note: (row: typeof accessEvent.$inferInsert) => db.insert(accessEvent).values(row).run(),
    history: (learnerId: string) =>
      db
        .select()
        .from(accessEvent)
        .where(eq(accessEvent.learnerId, learnerId))
        .orderBy(desc(accessEvent.id))
        .limit(200)
        .all(),
    forgetHistory: (before: number) => db.delete(accessEvent).where(lt(accessEvent.at, before)).run(),
    personsOf: (memberIds: readonly string[]): string[] =>
      memberIds.length
        ? db
            .select({ personId: crew.personId })
            .from(crew)
            .where(inArray(crew.id, [...memberIds]))
            .all()
            .map((row) => row.personId)
        : [],
    /** Says whom a calendar is for; the others are told nothing more of it, and what they were told goes. */
    setAudience(calendarId: string, audience: Audience | null): void {
      db.update(calendar).set({ audience }).where(eq(calendar.id, calendarId)).run();
      if (audience) notToldOf.run({ calendarId, persons: JSON.stringify(audience.persons) });
    },
  };
}
export type CrewStore = ReturnType<typeof crewStore>;
