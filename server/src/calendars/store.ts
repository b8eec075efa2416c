import { asc, eq, max, sql } from 'drizzle-orm';
import type { Db } from '../db/open.ts';
import { calendar, item } from '../db/schema.ts';

export type CalendarRow = typeof calendar.$inferSelect;

export function calendarStore(db: Db) {
  const ofLearner = db
    .select()
    .from(calendar)
    .where(eq(calendar.learnerId, sql.placeholder('learnerId')))
    .orderBy(asc(calendar.position))
    .prepare();
  const byId = db
    .select()
    .from(calendar)
    .where(eq(calendar.id, sql.placeholder('id')))
    .prepare();
  const lastPosition = db
    .select({ position: max(calendar.position) })
    .from(calendar)
    .where(eq(calendar.learnerId, sql.placeholder('learnerId')))
    .prepare();
  const ofSource = db
    .selectDistinct({ calendar })
    .from(item)
    .innerJoin(calendar, eq(calendar.id, item.calendarId))
    .where(eq(item.sourceId, sql.placeholder('sourceId')))
    .prepare();
  const anyItem = db
    .select({ id: item.id })
    .from(item)
    .where(eq(item.calendarId, sql.placeholder('id')))
    .limit(1)
    .prepare();
  return {
    /** The calendars a source's items are in */
    ofSource: (sourceId: string) => ofSource.all({ sourceId }).map((r) => r.calendar),
    isEmpty: (id: string) => anyItem.get({ id }) === undefined,
    ofLearner: (learnerId: string) => ofLearner.all({ learnerId }),
    byId: (id: string) => byId.get({ id }),
    nextPosition: (learnerId: string) => (lastPosition.get({ learnerId })?.position ?? 0) + 1,
    add: (row: typeof calendar.$inferInsert) => db.insert(calendar).values(row).returning().get(),
    change: (id: string, values: Partial<CalendarRow>) => db.update(calendar).set(values).where(eq(calendar.id, id)).returning().get(),
    remove: (id: string) => db.delete(calendar).where(eq(calendar.id, id)).run(),
  };
}
export type CalendarStore = ReturnType<typeof calendarStore>;
