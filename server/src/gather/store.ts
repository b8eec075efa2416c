import { and, count, eq, isNull, max, sql } from 'drizzle-orm';
import type { Db } from '../db/open.ts';
import { item, occurrence, source } from '../db/schema.ts';

export type SourceRow = typeof source.$inferSelect;
export type ItemRow = typeof item.$inferSelect;

/** Sources and what has been read from them. */
export function gatherStore(db: Db) {
  const p = sql.placeholder;
  const byId = db
    .select()
    .from(source)
    .where(eq(source.id, p('id')))
    .prepare();
  const ofLearner = db
    .select({ source, entries: count(item.id) })
    .from(source)
    .leftJoin(item, and(eq(item.sourceId, source.id), isNull(item.goneAt)))
    .where(eq(source.learnerId, p('learnerId')))
    .groupBy(source.id)
    .orderBy(source.createdAt)
    .prepare(); // prettier-ignore
  const entryCount = db
    .select({ n: count() })
    .from(item)
    .where(and(eq(item.sourceId, p('sourceId')), isNull(item.goneAt)))
    .prepare();
  const byDigest = db
    .select()
    .from(source)
    .where(and(eq(source.learnerId, p('learnerId')), eq(source.addressDigest, p('digest'))))
    .prepare();
  const itemsOf = db
    .select({ id: item.id, uid: item.uid, fingerprint: item.fingerprint, goneAt: item.goneAt })
    .from(item)
    .where(eq(item.sourceId, p('sourceId')))
    .prepare();
  const addItem = db
    .insert(item)
    .values(placeholders(['id', 'learnerId', 'calendarId', 'sourceId', 'uid', 'fingerprint', 'sort', 'handIn', 'course', 'title', 'content', 'goneAt', 'createdAt', 'updatedAt']))
    .prepare();
  const changeItem = db
    .update(item)
    .set({ fingerprint: p('fingerprint'), sort: p('sort'), handIn: p('handIn'), course: p('course'), title: p('title'), content: p('content'), goneAt: p('goneAt'), updatedAt: p('updatedAt') } as never)
    .where(eq(item.id, p('id')))
    .prepare(); // prettier-ignore
  const markGone = db
    .update(item)
    .set({ goneAt: p('goneAt') } as never)
    .where(eq(item.id, p('id')))
    .prepare();
  const clearOccurrences = db
    .delete(occurrence)
    .where(eq(occurrence.itemId, p('itemId')))
    .prepare();
  const addOccurrence = db
    .insert(occurrence)
    .values(placeholders(['itemId', 'key', 'learnerId', 'calendarId', 'title', 'place', 'status', 'sort', 'handIn', 'start', 'end', 'due', 'fromMs', 'toMs']))
    .onConflictDoNothing()
    .prepare();
  const lastMoment = db
    .select({ to: max(occurrence.toMs) })
    .from(occurrence)
    .where(eq(occurrence.itemId, p('itemId')))
    .prepare();
  return {
    byId: (id: string) => byId.get({ id }),
    /** When an item's last occurrence ends; long ago where it has none */
    lastMoment: (itemId: string) => lastMoment.get({ itemId })?.to ?? -Infinity,
    ofLearner: (learnerId: string) => ofLearner.all({ learnerId }),
    entryCount: (sourceId: string) => entryCount.get({ sourceId })?.n ?? 0,
    byDigest: (learnerId: string, digest: string) => byDigest.get({ learnerId, digest }),
    add: (row: typeof source.$inferInsert) => db.insert(source).values(row).run(),
    change: (id: string, values: Partial<SourceRow>) => db.update(source).set(values).where(eq(source.id, id)).run(),
    itemsOf: (sourceId: string) => itemsOf.all({ sourceId }),
    addItem: (row: Omit<ItemRow, never>) => addItem.run(row),
    changeItem: (row: Pick<ItemRow, 'id' | 'fingerprint' | 'sort' | 'handIn' | 'course' | 'title' | 'content' | 'goneAt' | 'updatedAt'>) => changeItem.run(row),
    markGone: (id: string, goneAt: number) => markGone.run({ id, goneAt }),
    clearOccurrences: (itemId: string) => clearOccurrences.run({ itemId }),
    addOccurrence: (row: typeof occurrence.$inferInsert) => addOccurrence.run(row),
    transaction: <T>(work: () => T): T => db.transaction(work, { behavior: 'immediate' }),
  };
}
export type GatherStore = ReturnType<typeof gatherStore>;

/** A row of placeholders named as the columns are: drizzle types them as the values they stand for. */
function placeholders(names: string[]): never {
  return Object.fromEntries(names.map((n) => [n, sql.placeholder(n)])) as never;
}
