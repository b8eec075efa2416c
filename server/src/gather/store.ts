import type { ChangeView } from '@zephyrfield/core/api/schemas';
import { and, asc, count, countDistinct, desc, eq, gte, isNull, lte, ne, sql } from 'drizzle-orm';
import type { Db } from '../db/open.ts';
import { change, changesSeen, item, layer, occurrence, source } from '../db/schema.ts';

export type SourceRow = typeof source.$inferSelect;
export type ItemRow = typeof item.$inferSelect;
export type ItemHead = Pick<ItemRow, 'id' | 'uid' | 'fingerprint' | 'title' | 'goneAt'>;

export type ChangeRow = typeof change.$inferSelect;

export const changeView = ({ id, kind, itemId, key, calendarId, title, from, to, formerTitle, at }: ChangeRow, seenUpTo: number): ChangeView => ({
  id, kind, itemId, key, calendarId, title, from, to, formerTitle, at: new Date(at).toISOString(), seen: id <= seenUpTo,
}); // prettier-ignore

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
    .select({ id: item.id, uid: item.uid, fingerprint: item.fingerprint, title: item.title, goneAt: item.goneAt })
    .from(item)
    .where(eq(item.sourceId, p('sourceId')))
    .prepare();
  const addItem = db
    .insert(item)
    .values(placeholders(['id', 'learnerId', 'calendarId', 'sourceId', 'uid', 'fingerprint', 'sort', 'handIn', 'course', 'title', 'content', 'goneAt', 'createdAt', 'updatedAt']))
    .prepare();
  const changeItem = db
    .update(item)
    .set(placeholders(['uid', 'fingerprint', 'sort', 'handIn', 'course', 'title', 'content', 'goneAt', 'updatedAt']))
    .where(eq(item.id, p('id')))
    .prepare();
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
  const content = db
    .select({ content: item.content })
    .from(item)
    .where(eq(item.id, p('id')))
    .prepare();
  const occurrencesOf = db
    .select()
    .from(occurrence)
    .where(eq(occurrence.itemId, p('itemId')))
    .orderBy(asc(occurrence.fromMs))
    .prepare();
  const stillToCome = db
    .select({ n: countDistinct(item.id) })
    .from(item)
    .innerJoin(occurrence, eq(occurrence.itemId, item.id))
    .where(and(eq(item.sourceId, p('sourceId')), isNull(item.goneAt), gte(occurrence.toMs, p('now')), ne(occurrence.status, 'cancelled')))
    .prepare();
  const dueForCheck = db
    .select({ id: source.id })
    .from(source)
    .where(lte(source.nextCheckAt, p('now')))
    .orderBy(asc(source.nextCheckAt))
    .limit(p('limit'))
    .prepare();
  const nextDue = db
    .select({ at: occurrence.toMs })
    .from(occurrence)
    .innerJoin(item, eq(item.id, occurrence.itemId))
    .where(and(eq(item.sourceId, p('sourceId')), gte(occurrence.toMs, p('now'))))
    .orderBy(asc(occurrence.toMs))
    .limit(1)
    .prepare();
  const layerOf = db
    .select()
    .from(layer)
    .where(and(eq(layer.itemId, p('itemId')), eq(layer.key, p('key'))))
    .prepare();
  const changesOf = db
    .select()
    .from(change)
    .where(eq(change.learnerId, p('learnerId')))
    .orderBy(desc(change.id))
    .limit(300)
    .prepare();
  const changesOfItem = db
    .select()
    .from(change)
    .where(eq(change.itemId, p('itemId')))
    .orderBy(desc(change.id))
    .limit(50)
    .prepare();
  const seenUpTo = db
    .select({ upTo: changesSeen.upTo })
    .from(changesSeen)
    .where(and(eq(changesSeen.personId, p('personId')), eq(changesSeen.learnerId, p('learnerId'))))
    .prepare();
  return {
    byId: (id: string) => byId.get({ id }),
    content: (id: string) => content.get({ id })!.content,
    occurrencesOf: (itemId: string) => occurrencesOf.all({ itemId }),
    /** How many entries of a source have anything at or after `now` that is not called off */
    stillToCome: (sourceId: string, now: number) => stillToCome.get({ sourceId, now })?.n ?? 0,
    /** Sources whose time to be checked has come, the longest waiting first */
    dueForCheck: (now: number, limit: number) => dueForCheck.all({ now, limit }).map((r) => r.id),
    /** When the next thing of a source ends or is due; null where nothing is to come */
    nextDue: (sourceId: string, now: number) => nextDue.get({ sourceId, now })?.at ?? null,
    layer: (itemId: string, key: string) => layerOf.get({ itemId, key }),
    removeLayer: (itemId: string, key: string) =>
      db
        .delete(layer)
        .where(and(eq(layer.itemId, itemId), eq(layer.key, key)))
        .run(),
    addLayer: (row: typeof layer.$inferInsert) => db.insert(layer).values(row).onConflictDoNothing().run(),
    addChange: (row: typeof change.$inferInsert) => db.insert(change).values(row).run(),
    changesOfItem: (itemId: string) => changesOfItem.all({ itemId }),
    changesOf: (learnerId: string) => changesOf.all({ learnerId }),
    seenUpTo: (personId: string, learnerId: string) => seenUpTo.get({ personId, learnerId })?.upTo ?? 0,
    see: (personId: string, learnerId: string, upTo: number) =>
      db
        .insert(changesSeen)
        .values({ personId, learnerId, upTo })
        .onConflictDoUpdate({ target: [changesSeen.personId, changesSeen.learnerId], set: { upTo: sql`max(${changesSeen.upTo}, ${upTo})` } })
        .run(),
    ofLearner: (learnerId: string) => ofLearner.all({ learnerId }),
    entryCount: (sourceId: string) => entryCount.get({ sourceId })?.n ?? 0,
    byDigest: (learnerId: string, digest: string) => byDigest.get({ learnerId, digest }),
    add: (row: typeof source.$inferInsert) => db.insert(source).values(row).run(),
    change: (id: string, values: Partial<SourceRow>) => db.update(source).set(values).where(eq(source.id, id)).run(),
    itemsOf: (sourceId: string) => itemsOf.all({ sourceId }),
    addItem: (row: ItemRow) => addItem.run(row),
    changeItem: (row: Pick<ItemRow, 'id' | 'uid' | 'fingerprint' | 'sort' | 'handIn' | 'course' | 'title' | 'content' | 'goneAt' | 'updatedAt'>) => changeItem.run(row),
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
