import type { EntryOccurrence } from '@zephyrfield/core/gather/entries';
import { and, eq, inArray, isNull, lt, sql } from 'drizzle-orm';
import { layerCarrier } from '../db/layers.ts';
import { occurrenceWriter } from '../db/occurrences.ts';
import type { Db } from '../db/open.ts';
import { item, source } from '../db/schema.ts';

type ItemRow = typeof item.$inferSelect;

/** Gives what is made by hand: items in a source of their calendar's own, beside those its link may bring. */
export function ownStore(db: Db) {
  const p = sql.placeholder;
  const byId = db
    .select({ item, kind: source.kind })
    .from(item)
    .innerJoin(source, eq(source.id, item.sourceId))
    .where(eq(item.id, p('id')))
    .prepare();
  const sourceOf = db
    .select({ id: source.id })
    .from(source)
    .where(and(eq(source.calendarId, p('calendarId')), eq(source.kind, 'handMade')))
    .prepare();
  const occurrences = occurrenceWriter(db);
  const countOf = db.$client
    .prepare<[string], number>(
      `SELECT count(*) FROM source s JOIN item i ON i.source_id = s.id WHERE s.learner_id = ?
        AND s.kind = 'handMade' AND i.gone_at IS NULL`,
    )
    .pluck();
  const datesOf = db.$client
    .prepare<{ learnerId: string; but: string }, number>(
      `SELECT count(*) FROM source s JOIN item i ON i.source_id = s.id JOIN occurrence o ON o.item_id = i.id
        WHERE s.learner_id = @learnerId AND s.kind = 'handMade'
          AND i.id NOT IN (SELECT value FROM json_each(@but))`,
    )
    .pluck();
  return {
    /** Counts the dates of a learner's own items, but for some of them */
    datesBeside: (learnerId: string, ids: readonly string[]) =>
      datesOf.get({ learnerId, but: JSON.stringify(ids) }) ?? 0,
    /** Counts how many items of their own a learner has, taken away ones not counted */
    countOf: (learnerId: string) => countOf.get(learnerId) ?? 0,
    byId: (id: string) => byId.get({ id }),
    /** The source of what is made by hand for a calendar, made where there is none */
    sourceFor(calendarId: string, learnerId: string, now: number, newId: () => string): string {
      const found = sourceOf.get({ calendarId });
      if (found) return found.id;
      const id = newId();
      db.insert(source)
        .values({
          id,
          learnerId,
          calendarId,
          kind: 'handMade',
          addressSealed: '',
          addressMasked: '',
          addressDigest: `own ${calendarId}`,
          createdAt: now,
          nextCheckAt: null,
        })
        .run();
      return id;
    },
    put: (row: typeof item.$inferInsert) =>
      db
        .insert(item)
        .values(row)
        .onConflictDoUpdate({ target: item.id, set: { ...row, createdAt: sql`created_at` } })
        .run(),
    markGone: (id: string, now: number, version: number) =>
      db.update(item).set({ goneAt: now, version }).where(eq(item.id, id)).run(),
    /** Puts an item's dates in place of what stood there */
    putDates: (row: Pick<ItemRow, 'id' | 'learnerId' | 'calendarId'>, dates: readonly EntryOccurrence[]) =>
      occurrences.put(row, dates, { duplicate: false, own: true }),
    layers: layerCarrier(db),
    /** Sources of what is made by hand whose dates are worked out less far than this */
    shortOf: (horizonTo: number) =>
      db
        .select({ id: source.id, learnerId: source.learnerId })
        .from(source)
        .where(and(eq(source.kind, 'handMade'), lt(source.horizonTo, horizonTo)))
        .all(),
    liveIds: (sourceId: string) =>
      db
        .select({ id: item.id })
        .from(item)
        .where(and(eq(item.sourceId, sourceId), isNull(item.goneAt)))
        .all()
        .map((r) => r.id),
    /** Those that are not gone, in the order of their ids */
    itemsById: (ids: readonly string[]) =>
      db
        .select()
        .from(item)
        .where(and(inArray(item.id, [...ids]), isNull(item.goneAt)))
        .orderBy(item.id)
        .all(),
    /** The sources of what is made by hand for some calendars, with how far their dates are worked out */
    sourcesOf: (calendarIds: readonly string[]) =>
      db
        .select({ id: source.id, horizonTo: source.horizonTo })
        .from(source)
        .where(and(inArray(source.calendarId, [...calendarIds]), eq(source.kind, 'handMade')))
        .all(),
    reached: (sourceIds: string[], horizonTo: number) =>
      db.update(source).set({ horizonTo }).where(inArray(source.id, sourceIds)).run(),
    transaction: <T>(work: () => T): T => db.transaction(work, { behavior: 'immediate' }),
  };
}
export type OwnStore = ReturnType<typeof ownStore>;
