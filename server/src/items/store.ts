import { and, eq, getTableColumns, gt, lt, sql } from 'drizzle-orm';
import type { Db } from '../db/open.ts';
import { calendar, item, layer, occurrence, source } from '../db/schema.ts';

/** Reading items and occurrences, and the own layers on them. */
export function itemStore(db: Db) {
  const p = sql.placeholder;
  const withLayer = { occurrence, finishedAt: layer.finishedAt, version: layer.version };
  const onOccurrence = and(eq(layer.itemId, occurrence.itemId), eq(layer.key, occurrence.key));
  const between = db
    .select(withLayer)
    .from(occurrence)
    .leftJoin(layer, onOccurrence)
    .where(and(eq(occurrence.learnerId, p('learnerId')), lt(occurrence.fromMs, p('to')), gt(occurrence.toMs, p('from'))))
    .orderBy(occurrence.fromMs)
    .prepare(); // prettier-ignore
  const one = db
    .select(withLayer)
    .from(occurrence)
    .leftJoin(layer, onOccurrence)
    .where(and(eq(occurrence.itemId, p('itemId')), eq(occurrence.key, p('key'))))
    .prepare();
  const next = db
    .select(withLayer)
    .from(occurrence)
    .leftJoin(layer, onOccurrence)
    .where(and(eq(occurrence.itemId, p('itemId')), gt(occurrence.toMs, p('now'))))
    .orderBy(occurrence.fromMs)
    .limit(1)
    .prepare();
  const whole = db
    .select({ item, calendarName: calendar.name, address: source.addressMasked, lastGoodAt: source.lastGoodAt })
    .from(item)
    .innerJoin(calendar, eq(calendar.id, item.calendarId))
    .innerJoin(source, eq(source.id, item.sourceId))
    .where(eq(item.id, p('id')))
    .prepare(); // prettier-ignore
  return {
    /** What touches a span of time. Rows are put together by hand: the mapper would be most of the time of this, the most frequent of reads. */
    between: (learnerId: string, from: number, to: number): OccurrenceRow[] => (between.values({ learnerId, from, to }) as Raw[]).map(fromRaw),
    occurrence: (itemId: string, key: string) => one.get({ itemId, key }),
    /** The first occurrence that is not over yet */
    nextOccurrence: (itemId: string, now: number) => next.get({ itemId, now }),
    item: (id: string) => whole.get({ id }),
    /** Writes a layer if it is still at `version`; false where it is not. */
    writeLayer: (row: { itemId: string; key: string; finishedAt: number | null; finishedBy: string; updatedAt: number }, version: number): boolean => {
      const next = { ...row, version: version + 1 };
      const { changes } =
        version === 0
          ? db.insert(layer).values(next).onConflictDoNothing().run()
          : db.update(layer).set(next).where(and(eq(layer.itemId, row.itemId), eq(layer.key, row.key), eq(layer.version, version))).run(); // prettier-ignore
      return changes > 0;
    },
    transaction: <T>(work: () => T): T => db.transaction(work, { behavior: 'immediate' }),
  };
}
export type ItemStore = ReturnType<typeof itemStore>;
export interface OccurrenceRow {
  occurrence: typeof occurrence.$inferSelect;
  finishedAt: number | null;
  version: number | null;
}

/** A row as the driver gives it: the table's columns in their order, then the layer's. */
type Raw = unknown[];
const COLUMNS = Object.entries(getTableColumns(occurrence)).map(([name, column], index) => ({ name, index, json: column.dataType === 'json' }));

function fromRaw(raw: Raw): OccurrenceRow {
  const row: Record<string, unknown> = {};
  for (const { name, index, json } of COLUMNS) row[name] = json && raw[index] !== null ? JSON.parse(raw[index] as string) : raw[index];
  return { occurrence: row as OccurrenceRow['occurrence'], finishedAt: raw[COLUMNS.length] as number | null, version: raw[COLUMNS.length + 1] as number | null };
}
