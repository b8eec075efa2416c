import { and, desc, eq, lte, notInArray, sql } from 'drizzle-orm';
import type { Db } from '../db/open.ts';
import {
  calendar,
  confirmation,
  crew,
  keptBrief,
  learner,
  leaving,
  noticeSettings,
  passkey,
  personLayer,
  record,
  share,
  session,
  settings,
  twoFactor,
  user,
} from '../db/schema.ts';

/** Accounts as their owners see and change them, and how they end. */
export function accountStore(db: Db) {
  /** Schedules a person keeps, each with how many others keep it, and the learner's own account if it is another's */
  const keptBy = db.$client.prepare<
    { personId: string },
    { id: string; name: string; others: number; heir: string | null }
  >(
    `SELECT l.id, l.name, (SELECT count(*) FROM crew o WHERE o.learner_id = l.id AND o.access = 'keep'
        AND o.person_id <> @personId) AS others,
      (SELECT o.person_id FROM crew o WHERE o.learner_id = l.id AND o.person_id = l.person_id
        AND o.person_id <> @personId) AS heir
    FROM crew c JOIN learner l ON l.id = c.learner_id WHERE c.person_id = @personId AND c.access = 'keep'
    ORDER BY l.name`,
  );
  const onlyFor = db.$client.prepare<{ personId: string }>(
    `DELETE FROM calendar WHERE audience IS NOT NULL AND EXISTS (SELECT 1 FROM json_each(audience, '$.persons')
        WHERE value = @personId)
      AND NOT EXISTS (SELECT 1 FROM json_each(audience, '$.persons') j JOIN crew c ON c.person_id = j.value
        AND c.learner_id = calendar.learner_id WHERE j.value <> @personId)`,
  );
  return {
    transaction: <T>(work: () => T): T => db.transaction(work, { behavior: 'immediate' }),
    person: (id: string) => db.select().from(user).where(eq(user.id, id)).get(),
    sessions: (personId: string) =>
      db.select().from(session).where(eq(session.userId, personId)).orderBy(desc(session.updatedAt)).all(),
    passkeys: (personId: string) =>
      db.select().from(passkey).where(eq(passkey.userId, personId)).orderBy(passkey.createdAt).all(),
    removePasskey: (id: string) => db.delete(passkey).where(eq(passkey.id, id)).run(),
    endSession: (id: string) => db.delete(session).where(eq(session.id, id)).run(),
    endByToken: (token: string) => db.delete(session).where(eq(session.token, token)).run(),
    /** The sealed secret of a person's time codes */
    sealedSecret: (personId: string) =>
      db.select({ secret: twoFactor.secret }).from(twoFactor).where(eq(twoFactor.userId, personId)).get()
        ?.secret,
    /** Takes a time step; false where it, or a later one, was taken before */
    takeStep: (personId: string, step: number): boolean =>
      db
        .update(twoFactor)
        .set({ lastStep: step })
        .where(and(eq(twoFactor.userId, personId), sql`coalesce(${twoFactor.lastStep}, -1) < ${step}`))
        .run().changes > 0,
    /** Ends a person's second step */
    endSecondStep(personId: string): void {
      db.delete(twoFactor).where(eq(twoFactor.userId, personId)).run();
      db.update(user).set({ twoFactorEnabled: false }).where(eq(user.id, personId)).run();
    },
    /** Removes all passkeys of a person but these */
    keepPasskeys: (personId: string, ids: readonly string[]) =>
      db
        .delete(passkey)
        .where(and(eq(passkey.userId, personId), notInArray(passkey.id, [...ids])))
        .run(),
    /** All links that were sent to a person, of whatever kind, are good no more */
    dropAllLinks: (personId: string) =>
      db.delete(confirmation).where(eq(confirmation.personId, personId)).run(),
    endAllSessions: (personId: string) => db.delete(session).where(eq(session.userId, personId)).run(),
    setName: (personId: string, name: string) =>
      db.update(user).set({ name, updatedAt: new Date() }).where(eq(user.id, personId)).run(),
    setEmail: (personId: string, email: string, isConfirmed: boolean) =>
      db
        .update(user)
        .set({ email, emailVerified: isConfirmed, updatedAt: new Date() })
        .where(eq(user.id, personId))
        .run(),
    /** Links of a kind that were sent to a person before are good no more. */
    dropLinks: (personId: string, kind: 'confirm' | 'reset' | 'move') =>
      db
        .delete(confirmation)
        .where(and(eq(confirmation.personId, personId), eq(confirmation.kind, kind)))
        .run(),
    keptBy: (personId: string) => keptBy.all({ personId }),
    schedulesOf: (personId: string) =>
      db
        .select({ id: learner.id, name: learner.name, access: crew.access, joinedAt: crew.joinedAt })
        .from(crew)
        .innerJoin(learner, eq(learner.id, crew.learnerId))
        .where(eq(crew.personId, personId))
        .orderBy(learner.name)
        .all(),
    leavingAt: (personId: string) =>
      db.select().from(leaving).where(eq(leaving.personId, personId)).get()?.at ?? null,
    setLeaving: (personId: string, at: number) =>
      db
        .insert(leaving)
        .values({ personId, at })
        .onConflictDoUpdate({ target: leaving.personId, set: { at } })
        .run(),
    stay: (personId: string): boolean =>
      db.delete(leaving).where(eq(leaving.personId, personId)).run().changes > 0,
    gone: (now: number) =>
      db
        .select({ personId: leaving.personId })
        .from(leaving)
        .where(lte(leaving.at, now))
        .all()
        .map((row) => row.personId),
    makeKeeper: (personId: string, learnerId: string) =>
      db
        .update(crew)
        .set({ access: 'keep' })
        .where(and(eq(crew.personId, personId), eq(crew.learnerId, learnerId)))
        .run(),
    removeLearner: (id: string) => db.delete(learner).where(eq(learner.id, id)).run(),
    /** Removes somebody with all that is theirs alone, the calendars among it that only they see. */
    removePerson(personId: string): void {
      onlyFor.run({ personId });
      db.delete(user).where(eq(user.id, personId)).run();
    },
    /** All that is stored about a person, by the table it lies in */
    everything: (personId: string) => ({
      settings: db.select().from(settings).where(eq(settings.personId, personId)).get()?.value ?? null,
      noticeSettings:
        db.select().from(noticeSettings).where(eq(noticeSettings.personId, personId)).get()?.value ?? null,
      notes: db
        .select({
          itemId: personLayer.itemId,
          recurrenceId: personLayer.recurrenceId,
          note: personLayer.note,
          hidden: personLayer.hidden,
          colour: personLayer.colour,
        })
        .from(personLayer)
        .where(eq(personLayer.personId, personId))
        .all(),
      keptBriefs: db.select().from(keptBrief).where(eq(keptBrief.personId, personId)).all(),
      records: db.select().from(record).where(eq(record.personId, personId)).all(),
      calendarsMade: db
        .select({ id: calendar.id, name: calendar.name, learnerId: calendar.learnerId })
        .from(calendar)
        .where(eq(calendar.madeBy, personId))
        .all(),
      linksMade: db
        .select({
          id: share.id,
          name: share.name,
          learnerId: share.learnerId,
          rules: share.rules,
          until: share.until,
        })
        .from(share)
        .where(eq(share.madeBy, personId))
        .all(),
    }),
  };
}
export type AccountStore = ReturnType<typeof accountStore>;
