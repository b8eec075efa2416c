import type { Brief, BriefPlace } from '@zephyrfield/core/api/own';
import { and, eq, isNull, lt, notExists, sql } from 'drizzle-orm';
import type { Db } from '../db/open.ts';
import { brief, briefFile, briefText, item, keptBrief, noteFile, source } from '../db/schema.ts';

export type BriefFileRow = typeof briefFile.$inferSelect;

/** Briefs, their files, and those kept to begin others with. */
export function briefStore(db: Db) {
  const said = () =>
    db
      .select({ recurrenceId: brief.recurrenceId, textId: brief.textId, value: briefText.value })
      .from(brief)
      .innerJoin(briefText, eq(briefText.id, brief.textId));
  // A thousand places travel as one text, so that they take one statement.
  const { $client: sqlite } = db;
  const place = `json_extract(p.value, '$.itemId') AS itemId, json_extract(p.value, '$.recurrenceId') AS recurrenceId`;
  const standing = sqlite.prepare<[string], BriefPlace>(
    `SELECT w.itemId, w.recurrenceId, b.text_id AS textId FROM (SELECT p.key AS n, ${place}
      FROM json_each(?) p) w LEFT JOIN brief b ON b.item_id = w.itemId AND b.recurrence_id = w.recurrenceId
      ORDER BY w.n`,
  );
  const takeAway = sqlite.prepare<[string]>(
    `DELETE FROM brief
      WHERE (item_id, recurrence_id) IN (SELECT json_extract(p.value, '$.itemId'), json_extract(p.value,
      '$.recurrenceId')
      FROM json_each(?) p)`,
  );
  const putAt = sqlite.prepare<[number, string]>(
    `INSERT OR REPLACE INTO brief (item_id, recurrence_id, text_id, updated_at)
      SELECT json_extract(p.value, '$.itemId'), json_extract(p.value, '$.recurrenceId'),
      json_extract(p.value, '$.textId'), ?
    FROM json_each(?) p WHERE json_extract(p.value, '$.textId') IS NOT NULL`,
  );
  const touch = sqlite.prepare<[number, string]>(
    'UPDATE brief_text SET used_at = ? WHERE id IN (SELECT value FROM json_each(?))',
  );
  const findText = sqlite.prepare<[string], string>('SELECT value FROM brief_text WHERE id = ?').pluck();
  return {
    item: (id: string) =>
      db
        .select({
          id: item.id,
          learnerId: item.learnerId,
          sourceId: item.sourceId,
          sourceKind: source.kind,
          title: item.title,
          section: item.section,
        })
        .from(item)
        .innerJoin(source, eq(source.id, item.sourceId))
        .where(eq(item.id, id))
        .get(),
    /** Live items of a source, to find those alike */
    siblings: (sourceId: string) =>
      db
        .select({ id: item.id, title: item.title, section: item.section })
        .from(item)
        .where(and(eq(item.sourceId, sourceId), isNull(item.goneAt)))
        .all(),
    /** Which texts stand at these places now, in their order */
    standing: (places: readonly BriefPlace[]): BriefPlace[] => standing.all(JSON.stringify(places)),
    /** Puts texts at places, or takes them away there */
    putAll(places: readonly BriefPlace[], updatedAt: number): void {
      const json = JSON.stringify(places);
      takeAway.run(json);
      putAt.run(updatedAt, json);
    },
    /** Gives what a text says */
    text: (id: string) => JSON.parse(findText.get(id)!) as Brief,
    ofItem: (itemId: string) => said().where(eq(brief.itemId, itemId)).all(),
    /** Keeps a text, or finds the one that says the same; gives its id */
    putText: (row: typeof briefText.$inferInsert) =>
      db
        .insert(briefText)
        .values(row)
        .onConflictDoUpdate({ target: [briefText.learnerId, briefText.digest], set: { usedAt: row.usedAt } })
        .returning({ id: briefText.id })
        .get().id,
    touchTexts: (ids: readonly string[], usedAt: number) =>
      touch.run(usedAt, JSON.stringify([...new Set(ids)])),
    /** Lets go of texts that stand on nothing, and were not used since */
    forgetTexts: (before: number) =>
      db
        .delete(briefText)
        .where(
          and(
            lt(briefText.usedAt, before),
            notExists(
              db
                .select({ one: sql`1` })
                .from(brief)
                .where(eq(brief.textId, briefText.id)),
            ),
          ),
        )
        .run(),
    /** Gives what all dates of an item share, brief and files, for the item it was parted into */
    copyShared(from: string, to: string): void {
      db.run(
        sql`INSERT OR IGNORE INTO brief (item_id, recurrence_id, text_id, updated_at)
          SELECT ${to}, recurrence_id, text_id, updated_at FROM brief WHERE item_id = ${from}
          AND recurrence_id = ''`,
      );
      db.run(sql`INSERT OR IGNORE INTO brief_file (id, learner_id, item_id, recurrence_id, name, type,
        size, digest, person_id, removed_at, created_at)
        SELECT lower(hex(randomblob(12))), learner_id, ${to}, recurrence_id, name, type, size, digest,
          person_id, removed_at, created_at
          FROM brief_file WHERE item_id = ${from} AND recurrence_id = '' AND "of" = 'brief' AND removed_at IS NULL`);
    },

    /** Gives what one date of an item has for itself, brief and files, for a date of another item */
    copyDate(from: string, was: string, to: string, is: string): void {
      db.run(
        sql`INSERT OR IGNORE INTO brief (item_id, recurrence_id, text_id, updated_at)
          SELECT ${to}, ${is}, text_id, updated_at FROM brief WHERE item_id = ${from} AND recurrence_id = ${was}`,
      );
      db.run(sql`INSERT OR IGNORE INTO brief_file (id, learner_id, item_id, recurrence_id, name, type,
        size, digest, person_id, removed_at, created_at)
        SELECT lower(hex(randomblob(12))), learner_id, ${to}, ${is}, name, type, size, digest, person_id,
          removed_at, created_at
          FROM brief_file WHERE item_id = ${from} AND recurrence_id = ${was} AND "of" = 'brief'
          AND removed_at IS NULL`);
    },

    file: (id: string) => db.select().from(briefFile).where(eq(briefFile.id, id)).get(),
    filesOf: (itemId: string) =>
      db
        .select()
        .from(briefFile)
        .where(and(eq(briefFile.itemId, itemId), isNull(briefFile.removedAt)))
        .orderBy(briefFile.createdAt)
        .all(),
    addFile: (row: typeof briefFile.$inferInsert) => db.insert(briefFile).values(row).run(),
    setRemoved: (id: string, removedAt: number | null) =>
      db.update(briefFile).set({ removedAt }).where(eq(briefFile.id, id)).run(),
    /** Bytes of all files a person has added */
    bytesOf: (personId: string) =>
      db
        .select({ sum: sql<number>`coalesce(sum(${briefFile.size}), 0)` })
        .from(briefFile)
        .where(eq(briefFile.personId, personId))
        .get()!.sum,
    forgetRemoved: (before: number) => db.delete(briefFile).where(lt(briefFile.removedAt, before)).run(),
    digests: () =>
      new Set(
        db
          .selectDistinct({ digest: briefFile.digest })
          .from(briefFile)
          .union(db.selectDistinct({ digest: noteFile.digest }).from(noteFile))
          .all()
          .map((r) => r.digest),
      ),

    kept: (personId: string) =>
      db.select().from(keptBrief).where(eq(keptBrief.personId, personId)).orderBy(keptBrief.name).all(),
    keep: (row: typeof keptBrief.$inferInsert) =>
      db
        .insert(keptBrief)
        .values(row)
        .onConflictDoUpdate({
          target: [keptBrief.personId, keptBrief.name],
          set: { value: row.value, updatedAt: row.updatedAt },
        })
        .returning()
        .get(),
    forget: (personId: string, id: string) =>
      db
        .delete(keptBrief)
        .where(and(eq(keptBrief.personId, personId), eq(keptBrief.id, id)))
        .run().changes > 0,
    transaction: <T>(work: () => T): T => db.transaction(work, { behavior: 'immediate' }),
  };
}
export type BriefStore = ReturnType<typeof briefStore>;
