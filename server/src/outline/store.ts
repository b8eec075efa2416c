import type { AddedRow } from '@zephyrfield/core/api/outlines';
import { and, asc, eq, isNotNull, isNull, lt, sql } from 'drizzle-orm';
import type { Db } from '../db/open.ts';
import { outline } from '../db/schema.ts';

export type OutlineStored = typeof outline.$inferSelect;

/** Outlines that wait, and those that are kept with a calendar. */
export function outlineStore(db: Db) {
  const { $client: sqlite } = db;
  const standing = sqlite
    .prepare<[string], string>(
      'SELECT i.id FROM json_each(?) e JOIN item i ON i.id = e.value WHERE i.gone_at IS NULL',
    )
    .pluck();
  const oldest = sqlite.prepare(
    `DELETE FROM outline WHERE id IN (SELECT id FROM outline WHERE person_id = ? AND calendar_id IS NULL
      ORDER BY created_at DESC, id DESC LIMIT -1 OFFSET ?)`,
  );
  const heads = {
    id: outline.id,
    name: outline.name,
    calendarId: outline.calendarId,
    createdAt: outline.createdAt,
    added: outline.added,
  };
  return {
    transaction: <T>(work: () => T): T => db.transaction(work, { behavior: 'immediate' }),
    add: (row: typeof outline.$inferInsert) => db.insert(outline).values(row).run(),
    byId: (id: string) => db.select().from(outline).where(eq(outline.id, id)).get(),
    kept: (learnerId: string) =>
      db
        .select(heads)
        .from(outline)
        .where(and(eq(outline.learnerId, learnerId), isNotNull(outline.calendarId)))
        .orderBy(asc(outline.createdAt))
        .all(),
    /** Counts how many are kept */
    countOf: (learnerId: string): number =>
      db
        .select({ n: sql<number>`count(*)` })
        .from(outline)
        .where(and(eq(outline.learnerId, learnerId), isNotNull(outline.calendarId)))
        .get()!.n,
    keep: (id: string, calendarId: string, added: AddedRow[]) =>
      db.update(outline).set({ calendarId, added }).where(eq(outline.id, id)).run(),
    remove: (id: string) => db.delete(outline).where(eq(outline.id, id)).run(),
    /** Lets go of the oldest ones of a person that wait, but for so many */
    dropOldestWaiting: (personId: string, keep: number) => oldest.run(personId, keep),
    forgetWaiting: (before: number) =>
      db
        .delete(outline)
        .where(and(isNull(outline.calendarId), lt(outline.createdAt, before)))
        .run(),
    /** Those of some items that are still there */
    standing: (ids: readonly string[]): ReadonlySet<string> => new Set(standing.all(JSON.stringify(ids))),
  };
}
export type OutlineStore = ReturnType<typeof outlineStore>;
