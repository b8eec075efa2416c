import { and, desc, eq, sql } from 'drizzle-orm';
import type { Db } from '../db/open.ts';
import { learner, share, user } from '../db/schema.ts';

export type ShareRow = typeof share.$inferSelect;

/** Links by which schedules go out. */
export function shareStore(db: Db) {
  const byDigest = db
    .select()
    .from(share)
    .where(eq(share.digest, sql.placeholder('digest')))
    .prepare();
  return {
    transaction: <T>(work: () => T): T => db.transaction(work, { behavior: 'immediate' }),
    /** Those of a schedule, the latest first, with who made each */
    ofLearner: (learnerId: string) =>
      db
        .select({ share, by: user.name })
        .from(share)
        .innerJoin(user, eq(user.id, share.madeBy))
        .where(eq(share.learnerId, learnerId))
        .orderBy(desc(share.createdAt), desc(share.id))
        .all(),
    byId: (id: string) => db.select().from(share).where(eq(share.id, id)).get(),
    byDigest: (digest: string) => byDigest.get({ digest }),
    zoneOf: (learnerId: string) =>
      db.select({ zone: learner.zone }).from(learner).where(eq(learner.id, learnerId)).get()?.zone ?? 'UTC',
    count: (learnerId: string) =>
      db.select({ id: share.id }).from(share).where(eq(share.learnerId, learnerId)).all().length,
    add: (row: typeof share.$inferInsert) => db.insert(share).values(row).run(),
    /** Changes what goes out, so that whoever asks next gets it anew. */
    change: (id: string, to: Partial<typeof share.$inferInsert>) =>
      db
        .update(share)
        .set({ ...to, version: sql`${share.version} + 1` })
        .where(eq(share.id, id))
        .run(),
    remove: (id: string) => db.delete(share).where(eq(share.id, id)).run(),
    /** Notes that a link was fetched so many times more. */
    fetched: (id: string, times: number, at: number) =>
      db
        .update(share)
        .set({ fetched: sql`${share.fetched} + ${times}`, lastFetchedAt: at })
        .where(and(eq(share.id, id)))
        .run(),
  };
}
export type ShareStore = ReturnType<typeof shareStore>;
