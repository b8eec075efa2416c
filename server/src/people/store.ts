import type { Access, Learner } from '@zephyrfield/core/api/schemas';
import { asc, count, eq, sql } from 'drizzle-orm';
import type { Db } from '../db/open.ts';
import { crew, learner, user } from '../db/schema.ts';

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
    .select({ id: learner.id, name: learner.name, zone: learner.zone, access: crew.access })
    .from(crew)
    .innerJoin(learner, eq(learner.id, crew.learnerId))
    .where(eq(crew.personId, sql.placeholder('personId')))
    .orderBy(asc(crew.position), asc(learner.name))
    .prepare(); // prettier-ignore
  return {
    count: () => countPeople.get()?.n ?? 0,
    person: (id: string) => findPerson.get({ id }),
    byEmail: (email: string) => findByEmail.get({ email }),
    learnersOf: (personId: string): Learner[] => learnersOf.all({ personId }),
    addLearner: (row: { id: string; name: string; zone: string; createdAt: number }) => db.insert(learner).values(row).run(),
    join: (row: { personId: string; learnerId: string; access: Access; position?: number }) => db.insert(crew).values(row).run(),
    transaction: <T>(work: () => T): T => db.transaction(work),
  };
}
export type PeopleStore = ReturnType<typeof peopleStore>;
