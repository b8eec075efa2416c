import type { Access, Learner } from '@zephyrfield/core/api/schemas';
import { DEFAULT_SETTINGS, type Settings, type Term } from '@zephyrfield/core/view/settings';
import { asc, count, eq, sql } from 'drizzle-orm';
import type { Db } from '../db/open.ts';
import { crew, learner, settings, user } from '../db/schema.ts';

/** People, learners, and who may see whose schedule. */
export function peopleStore(db: Db) {
  const countPeople = db.select({ n: count() }).from(user).prepare();
  const findPerson = db
    .select({ id: user.id, name: user.name, email: user.email })
    .from(user)
    .where(eq(user.id, sql.placeholder('id')))
    .prepare();
  const findByEmail = db
    .select({ id: user.id })
    .from(user)
    .where(eq(user.email, sql.placeholder('email')))
    .prepare();
  const learnersOf = db
    .select({ id: learner.id, name: learner.name, zone: learner.zone, access: crew.access, term: learner.term, reminders: learner.reminders })
    .from(crew)
    .innerJoin(learner, eq(learner.id, crew.learnerId))
    .where(eq(crew.personId, sql.placeholder('personId')))
    .orderBy(asc(crew.position), asc(learner.name))
    .prepare(); // prettier-ignore
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
  return {
    count: () => countPeople.get()?.n ?? 0,
    person: (id: string) => findPerson.get({ id }),
    byEmail: (email: string) => findByEmail.get({ email }),
    learnersOf: (personId: string): Learner[] => learnersOf.all({ personId }),
    /** Somebody's settings, what was added since they were saved at its default */
    settings: (personId: string): Settings => ({ ...DEFAULT_SETTINGS, ...findSettings.get({ personId })?.value }),
    saveSettings: (personId: string, value: Settings) => db.insert(settings).values({ personId, value }).onConflictDoUpdate({ target: settings.personId, set: { value } }).run(),
    termOf: (learnerId: string): Term | null => termOf.get({ learnerId })?.term ?? null,
    saveTerm: (learnerId: string, term: Term | null) => db.update(learner).set({ term }).where(eq(learner.id, learnerId)).run(),
    addLearner: (row: { id: string; name: string; zone: string; createdAt: number }) => db.insert(learner).values(row).run(),
    join: (row: { personId: string; learnerId: string; access: Access; position?: number }) => db.insert(crew).values(row).run(),
    transaction: <T>(work: () => T): T => db.transaction(work),
  };
}
export type PeopleStore = ReturnType<typeof peopleStore>;
