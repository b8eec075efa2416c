import { asc, eq } from 'drizzle-orm';
import type { Group } from '@zephyrfield/core/api/table';
import type { Db } from '../db/open.ts';
import { learnerGroup } from '../db/schema.ts';

/** Gives what the table of learners is made of, beside their schedules: groups, and what was opened. */
export function tableStore(db: Db) {
  const { $client: sqlite } = db;
  // By the learner themself where they have an account, else by anybody of theirs but who asks.
  const opened = sqlite
    .prepare<{ learnerId: string; by: string }, string>(
      `SELECT DISTINCT o.item_id FROM learner l JOIN item i ON i.learner_id = l.id JOIN opened o ON o.item_id = i.id
        WHERE l.id = @learnerId AND iif(l.person_id IS NULL, o.person_id <> @by, o.person_id = l.person_id)`,
    )
    .pluck();
  const others = sqlite
    .prepare<{ learnerId: string; by: string }, number>(
      `SELECT EXISTS (SELECT 1 FROM learner l JOIN crew c ON c.learner_id = l.id WHERE l.id = @learnerId
        AND iif(l.person_id IS NULL, c.person_id <> @by, c.person_id = l.person_id))`,
    )
    .pluck();
  return {
    /** Items of a learner's that somebody of theirs has opened; null where there is nobody who could */
    openedOf: (learnerId: string, by: string) =>
      others.get({ learnerId, by }) ? new Set(opened.all({ learnerId, by })) : null,
    groups: (personId: string): Group[] =>
      db
        .select({ name: learnerGroup.name, learnerIds: learnerGroup.learnerIds })
        .from(learnerGroup)
        .where(eq(learnerGroup.personId, personId))
        .orderBy(asc(learnerGroup.position))
        .all(),
    putGroups(personId: string, groups: readonly Group[]): void {
      db.transaction(
        () => {
          db.delete(learnerGroup).where(eq(learnerGroup.personId, personId)).run();
          groups.forEach((group, position) =>
            db
              .insert(learnerGroup)
              .values({ ...group, personId, position })
              .run(),
          );
        },
        { behavior: 'immediate' },
      );
    },
  };
}
export type TableStore = ReturnType<typeof tableStore>;
