import { asc, eq, max, sql } from 'drizzle-orm';
import type { Db } from '../db/open.ts';
import { calendar } from '../db/schema.ts';

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
  return {
    ofLearner: (learnerId: string) => ofLearner.all({ learnerId }),
    byId: (id: string) => byId.get({ id }),
    nextPosition: (learnerId: string) => (lastPosition.get({ learnerId })?.position ?? 0) + 1,
    add: (row: typeof calendar.$inferInsert) => db.insert(calendar).values(row).returning().get(),
    change: (id: string, values: Partial<CalendarRow>) => db.update(calendar).set(values).where(eq(calendar.id, id)).returning().get(),
    remove: (id: string) => db.delete(calendar).where(eq(calendar.id, id)).run(),
  };
}
export type CalendarStore = ReturnType<typeof calendarStore>;
