import { randomUUID } from 'node:crypto';
import type { Access, Learner } from '@zephyrfield/core/api/schemas';
import { DEFAULT_SETTINGS, type Settings, type Term } from '@zephyrfield/core/view/settings';
import { and, asc, count, eq, gt, isNotNull, lt, ne, sql } from 'drizzle-orm';
import type { Db } from '../db/open.ts';
import {
  account,
  beginning,
  confirmation,
  crew,
  learner,
  session,
  settings,
  user,
  verification,
} from '../db/schema.ts';

type LinkKind = (typeof confirmation.$inferSelect)['kind'];
const goodLink = (digest: string, now: number, kind: LinkKind) =>
  and(eq(confirmation.digest, digest), gt(confirmation.expiresAt, now), eq(confirmation.kind, kind));

/** People, learners, and who may see whose schedule. */
export function peopleStore(db: Db) {
  const countPeople = db.select({ n: count() }).from(user).prepare();
  const findPerson = db
    .select({ id: user.id, name: user.name, email: user.email, confirmed: user.emailVerified })
    .from(user)
    .where(eq(user.id, sql.placeholder('id')))
    .prepare();
  const findByEmail = db
    .select({ id: user.id })
    .from(user)
    .where(eq(user.email, sql.placeholder('email')))
    .prepare();
  const learnersOf = db
    .select({
      id: learner.id,
      name: learner.name,
      zone: learner.zone,
      access: crew.access,
      isSelf: sql<boolean>`coalesce(${learner.personId} = ${crew.personId}, false)`.mapWith(Boolean),
      term: learner.term,
      reminders: learner.reminders,
    })
    .from(crew)
    .innerJoin(learner, eq(learner.id, crew.learnerId))
    .where(eq(crew.personId, sql.placeholder('personId')))
    .orderBy(asc(crew.position), asc(learner.name))
    .prepare();
  const termOf = db
    .select({ term: learner.term })
    .from(learner)
    .where(eq(learner.id, sql.placeholder('learnerId')))
    .prepare();
  const findSettings = db
    .select({ value: settings.value })
    .from(settings)
    .where(eq(settings.personId, sql.placeholder('personId')))
    .prepare();
  const findSession = db
    .select({
      id: session.id,
      userId: session.userId,
      createdAt: session.createdAt,
      updatedAt: session.updatedAt,
      expiresAt: session.expiresAt,
    })
    .from(session)
    .where(eq(session.id, sql.placeholder('id')))
    .prepare();
  const hasPassword = (personId: string) =>
    and(eq(account.userId, personId), eq(account.providerId, 'credential'), isNotNull(account.password));
  return {
    count: () => countPeople.get()?.n ?? 0,
    person: (id: string) => findPerson.get({ id }),
    byEmail: (email: string) => findByEmail.get({ email }),
    learnersOf: (personId: string): Learner[] => learnersOf.all({ personId }),
    /** Somebody's settings, what was added since they were saved at its default */
    settings: (personId: string): Settings => ({
      ...DEFAULT_SETTINGS,
      ...findSettings.get({ personId })?.value,
    }),
    saveSettings: (personId: string, value: Settings) =>
      db
        .insert(settings)
        .values({ personId, value })
        .onConflictDoUpdate({ target: settings.personId, set: { value } })
        .run(),
    termOf: (learnerId: string): Term | null => termOf.get({ learnerId })?.term ?? null,
    saveTerm: (learnerId: string, term: Term | null) =>
      db.update(learner).set({ term }).where(eq(learner.id, learnerId)).run(),
    /** Counts how many schedules a person has begun */
    learnersBegunBy: (personId: string) =>
      db.select({ n: count() }).from(learner).where(eq(learner.createdBy, personId)).get()!.n,
    addLearner: (row: typeof learner.$inferInsert) => db.insert(learner).values(row).run(),
    join: (row: {
      personId: string;
      learnerId: string;
      access: Access;
      position?: number;
      joinedAt?: number;
    }) =>
      db
        .insert(crew)
        .values({ joinedAt: 0, ...row, id: randomUUID() })
        .run(),
    /** The hash of a person's password */
    passwordOf: (personId: string) =>
      db.select({ password: account.password }).from(account).where(hasPassword(personId)).get()?.password ??
      null,
    savePassword: (personId: string, password: string) =>
      db.update(account).set({ password }).where(hasPassword(personId)).run(),
    hasSession: (id: string) => findSession.get({ id }) !== undefined,
    session: (id: string) => findSession.get({ id }),
    endSession: (id: string) => db.delete(session).where(eq(session.id, id)).run(),
    endOtherSessions: (personId: string, id: string) =>
      db
        .delete(session)
        .where(and(eq(session.userId, personId), ne(session.id, id)))
        .run(),
    endSessionsBefore: (expired: Date, begun: Date) => {
      db.delete(session).where(lt(session.expiresAt, expired)).run();
      db.delete(session).where(lt(session.createdAt, begun)).run();
      // What better-auth asked somebody to show, and nobody did.
      db.delete(verification).where(lt(verification.expiresAt, expired)).run();
    },
    addConfirmation: (row: typeof confirmation.$inferInsert) => db.insert(confirmation).values(row).run(),
    /** A link of a kind that is still good, by its digest */
    confirmation: (digest: string, now: number, kind: LinkKind) =>
      db
        .select()
        .from(confirmation)
        .where(goodLink(digest, now, kind))
        .get(),
    /** Takes one; each can be taken once */
    takeConfirmation: (digest: string, now: number, kind: LinkKind) =>
      db
        .delete(confirmation)
        .where(goodLink(digest, now, kind))
        .returning()
        .get(),
    forgetConfirmations: (now: number) =>
      db.delete(confirmation).where(lt(confirmation.expiresAt, now)).run(),
    addBeginning: (row: typeof beginning.$inferInsert) => db.insert(beginning).values(row).run(),
    /** Finds an account that waits for its link, by the link's digest, while that is good */
    beginning: (digest: string, now: number) =>
      db
        .select()
        .from(beginning)
        .where(and(eq(beginning.digest, digest), gt(beginning.expiresAt, now)))
        .get(),
    dropBeginnings: (email: string) => db.delete(beginning).where(eq(beginning.email, email)).run(),
    forgetBeginnings: (now: number) => db.delete(beginning).where(lt(beginning.expiresAt, now)).run(),
    /** Notes that an address is a person's own, if it is still the one they have; false where it is not */
    confirm: (personId: string, email: string) =>
      db
        .update(user)
        .set({ emailVerified: true })
        .where(and(eq(user.id, personId), eq(user.email, email)))
        .run().changes > 0,
    transaction: <T>(work: () => T): T => db.transaction(work, { behavior: 'immediate' }),
  };
}
export type PeopleStore = ReturnType<typeof peopleStore>;
