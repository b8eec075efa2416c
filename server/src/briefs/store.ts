import { and, eq, isNull, lt, notExists, sql } from 'drizzle-orm';
import type { Db } from '../db/open.ts';
import { brief, briefFile, briefText, item, keptBrief } from '../db/schema.ts';

export type BriefFileRow = typeof briefFile.$inferSelect;

/** Briefs, their files, and those kept to begin others with. */
export function briefStore(db: Db) {
  const said = () => db.select({ key: brief.key, textId: brief.textId, value: briefText.value }).from(brief).innerJoin(briefText, eq(briefText.id, brief.textId)); // prettier-ignore
  const at = (itemId: string, key: string) => and(eq(brief.itemId, itemId), eq(brief.key, key));
  return {
    item: (id: string) => db.select({ id: item.id, learnerId: item.learnerId, sourceId: item.sourceId, title: item.title, part: item.part }).from(item).where(eq(item.id, id)).get(),
    /** Live items of a source, to find those alike */
    siblings: (sourceId: string) => db.select({ id: item.id, title: item.title, part: item.part }).from(item).where(and(eq(item.sourceId, sourceId), isNull(item.goneAt))).all(),
    one: (itemId: string, key: string) => said().where(at(itemId, key)).get(),
    ofItem: (itemId: string) => said().where(eq(brief.itemId, itemId)).all(),
    /** Keeps a text, or finds the one that says the same; gives its id */
    putText: (row: typeof briefText.$inferInsert) =>
      db
        .insert(briefText)
        .values(row)
        .onConflictDoUpdate({ target: [briefText.learnerId, briefText.digest], set: { usedAt: row.usedAt } })
        .returning({ id: briefText.id })
        .get().id,
    touchText: (id: string, usedAt: number) => db.update(briefText).set({ usedAt }).where(eq(briefText.id, id)).run(),
    /** Lets go of texts that stand on nothing, and were not used since */
    forgetTexts: (before: number) =>
      db.delete(briefText).where(and(lt(briefText.usedAt, before), notExists(db.select({ one: sql`1` }).from(brief).where(eq(brief.textId, briefText.id))))).run(),
    put: (row: typeof brief.$inferInsert) =>
      db
        .insert(brief)
        .values(row)
        .onConflictDoUpdate({ target: [brief.itemId, brief.key], set: row })
        .run(),
    remove: (itemId: string, key: string) => db.delete(brief).where(at(itemId, key)).run(),
    /** What all dates of an item share, brief and files, for the item it was parted into */
    copyShared(from: string, to: string): void {
      db.run(sql`INSERT OR IGNORE INTO brief (item_id, key, text_id, updated_at) SELECT ${to}, key, text_id, updated_at FROM brief WHERE item_id = ${from} AND key = ''`);
      db.run(sql`INSERT OR IGNORE INTO brief_file (id, learner_id, item_id, key, name, type, size, digest, person_id, removed_at, created_at)
        SELECT lower(hex(randomblob(12))), learner_id, ${to}, key, name, type, size, digest, person_id, removed_at, created_at FROM brief_file WHERE item_id = ${from} AND key = '' AND removed_at IS NULL`);
    },

    file: (id: string) => db.select().from(briefFile).where(eq(briefFile.id, id)).get(),
    filesOf: (itemId: string) => db.select().from(briefFile).where(and(eq(briefFile.itemId, itemId), isNull(briefFile.removedAt))).orderBy(briefFile.createdAt).all(),
    addFile: (row: typeof briefFile.$inferInsert) => db.insert(briefFile).values(row).run(),
    setRemoved: (id: string, removedAt: number | null) => db.update(briefFile).set({ removedAt }).where(eq(briefFile.id, id)).run(),
    /** Bytes of all files a person has added */
    bytesOf: (personId: string) => db.select({ sum: sql<number>`coalesce(sum(${briefFile.size}), 0)` }).from(briefFile).where(eq(briefFile.personId, personId)).get()!.sum,
    forgetRemoved: (before: number) => db.delete(briefFile).where(lt(briefFile.removedAt, before)).run(),
    digests: () => new Set(db.selectDistinct({ digest: briefFile.digest }).from(briefFile).all().map((r) => r.digest)),

    kept: (personId: string) => db.select().from(keptBrief).where(eq(keptBrief.personId, personId)).orderBy(keptBrief.name).all(),
    keep: (row: typeof keptBrief.$inferInsert) =>
      db
        .insert(keptBrief)
        .values(row)
        .onConflictDoUpdate({ target: [keptBrief.personId, keptBrief.name], set: { value: row.value, updatedAt: row.updatedAt } })
        .returning()
        .get(),
    forget: (personId: string, id: string) => db.delete(keptBrief).where(and(eq(keptBrief.personId, personId), eq(keptBrief.id, id))).run().changes > 0,
    transaction: <T>(work: () => T): T => db.transaction(work, { behavior: 'immediate' }),
  }; // prettier-ignore
}
export type BriefStore = ReturnType<typeof briefStore>;
