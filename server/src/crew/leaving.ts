import { withoutLearner } from '@zephyrfield/core/notify/settings';
import type { Audience } from '@zephyrfield/core/item/access';
import { and, eq, inArray, isNull, sql } from 'drizzle-orm';
import type { Db } from '../db/open.ts';
import {
  calendar,
  delivery,
  invitation,
  invitationTo,
  item,
  learnerGroup,
  noticeSettings,
  notifyClock,
  offer,
  openTime,
  openTimeFor,
  question,
  share,
  thread,
  threadPerson,
} from '../db/schema.ts';

/** Grants that ended with the right to give them, by what the crew's history calls them. */
export interface Ended {
  invitations: { way: string; email: string | null }[];
  links: { name: string; rules: (typeof share.$inferSelect)['rules'] }[];
}

/** Takes somebody out of all that names them in a learner's schedule. To be called inside a transaction. */
export function leavingStore(db: Db) {
  const itemsOf = (learnerId: string) =>
    db.select({ id: item.id }).from(item).where(eq(item.learnerId, learnerId));
  const calendarsOf = (learnerId: string) =>
    db.select({ id: calendar.id }).from(calendar).where(eq(calendar.learnerId, learnerId));

  /**
   * Takes somebody out of the audiences of a schedule's calendars. A calendar that is for them alone stays theirs:
   * nobody else has let them see it.
   */
  function leaveAudiences(personId: string, learnerId: string): void {
    const rows = db
      .select({ id: calendar.id, audience: calendar.audience })
      .from(calendar)
      .where(eq(calendar.learnerId, learnerId))
      .all();
    for (const { id, audience } of rows) {
      if (!audience?.persons.includes(personId) || audience.persons.length === 1) continue;
      const left: Audience = { ...audience, persons: audience.persons.filter((each) => each !== personId) };
      db.update(calendar).set({ audience: left }).where(eq(calendar.id, id)).run();
    }
  }

  /** Forgets how somebody wants to be told of a schedule, and takes it out of their groups. */
  function leaveSettings(personId: string, learnerId: string): void {
    const saved = db.select().from(noticeSettings).where(eq(noticeSettings.personId, personId)).get();
    if (saved) {
      const gone = new Set(
        [...itemsOf(learnerId).all(), ...calendarsOf(learnerId).all()].map(({ id }) => id),
      );
      const value = withoutLearner(saved.value, learnerId, gone);
      db.update(noticeSettings).set({ value }).where(eq(noticeSettings.personId, personId)).run();
    }
    const groups = db.select().from(learnerGroup).where(eq(learnerGroup.personId, personId)).all();
    for (const { position, learnerIds } of groups.filter((g) => g.learnerIds.includes(learnerId)))
      db.update(learnerGroup)
        .set({ learnerIds: learnerIds.filter((each) => each !== learnerId) })
        .where(and(eq(learnerGroup.personId, personId), eq(learnerGroup.position, position)))
        .run();
  }

  return {
    /** Takes somebody out of everything of a schedule, once they are in its crew no more. */
    leave(personId: string, learnerId: string): void {
      db.delete(delivery)
        .where(and(eq(delivery.personId, personId), eq(delivery.learnerId, learnerId)))
        .run();
      db.delete(notifyClock)
        .where(and(eq(notifyClock.personId, personId), eq(notifyClock.learnerId, learnerId)))
        .run();
      // What was written for them by name is not theirs any more, should they come back.
      const threads = db.select({ id: thread.id }).from(thread).where(eq(thread.learnerId, learnerId));
      db.delete(threadPerson)
        .where(and(eq(threadPerson.personId, personId), inArray(threadPerson.threadId, threads)))
        .run();
      // What they asked ends: the answers were for them.
      db.delete(question)
        .where(and(eq(question.personId, personId), inArray(question.itemId, itemsOf(learnerId))))
        .run();
      // What was offered by them to this schedule, and not taken up yet.
      db.delete(offer)
        .where(and(eq(offer.offeredBy, personId), eq(offer.learnerId, learnerId), eq(offer.state, 'open')))
        .run();
      const times = db.select({ id: openTime.id }).from(openTime).where(eq(openTime.personId, personId));
      db.delete(openTimeFor)
        .where(and(eq(openTimeFor.learnerId, learnerId), inArray(openTimeFor.openTimeId, times)))
        .run();
      leaveAudiences(personId, learnerId);
      leaveSettings(personId, learnerId);
    },

    /** Takes back the invitations to a schedule that somebody has made. @returns those that were open */
    endInvitations(personId: string, learnerId: string, now: number): Ended['invitations'] {
      const made = db
        .select({ id: invitation.id })
        .from(invitation)
        .where(eq(invitation.invitedBy, personId));
      const to = db
        .update(invitationTo)
        .set({ takenBackAt: now })
        .where(
          and(
            eq(invitationTo.learnerId, learnerId),
            isNull(invitationTo.takenBackAt),
            inArray(invitationTo.invitationId, made),
          ),
        )
        .returning({ id: invitationTo.invitationId })
        .all();
      return db
        .select({ way: invitation.way, email: invitation.email })
        .from(invitation)
        .where(
          and(
            inArray(
              invitation.id,
              to.map(({ id }) => id),
            ),
            sql`${invitation.usesLeft} > 0 AND ${invitation.expiresAt} > ${now}`,
          ),
        )
        .all();
    },

    /** Ends the links by which somebody lets a schedule go out, and their offers of its calendars. */
    endSharing(personId: string, learnerId: string): Ended['links'] {
      db.delete(offer)
        .where(
          and(
            eq(offer.offeredBy, personId),
            eq(offer.state, 'open'),
            inArray(offer.calendarId, calendarsOf(learnerId)),
          ),
        )
        .run();
      return db
        .delete(share)
        .where(and(eq(share.madeBy, personId), eq(share.learnerId, learnerId)))
        .returning({ name: share.name, rules: share.rules })
        .all();
    },
  };
}
export type LeavingStore = ReturnType<typeof leavingStore>;
