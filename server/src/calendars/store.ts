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
  const handMade = db.$client
    .prepare<[string], string>(
      `SELECT c.id FROM calendar c WHERE c.learner_id = ? AND NOT EXISTS (SELECT 1 FROM source s
        WHERE s.kind <> 'handMade'
        AND (s.calendar_id = c.id OR EXISTS (SELECT 1 FROM json_each(s.sections) WHERE value = c.id)))
          AND NOT EXISTS
        (SELECT 1 FROM item i JOIN source s ON s.id = i.source_id WHERE i.calendar_id = c.id
          AND s.kind <> 'handMade')`,
    )
    .pluck();
  const ownItems = db.$client
    .prepare<[string], number>(
      `SELECT count(*) FROM item i JOIN source s ON s.id = i.source_id WHERE i.calendar_id = ?
        AND s.kind = 'handMade' AND i.gone_at IS NULL`,
    )
    .pluck();
  return {
    /** Calendars into which nothing was ever gathered */
    handMade: (learnerId: string) => new Set(handMade.all(learnerId)),
    /** Counts how many items of a person's own making are in a calendar */
    ownItems: (id: string) => ownItems.get(id) ?? 0,
    /** The calendars a source's items are in */
    ofSource: (sourceId: string) => ofSource.all({ sourceId }).map((r) => r.calendar),
    isEmpty: (id: string) => anyItem.get({ id }) === undefined,
    ofLearner: (learnerId: string) => ofLearner.all({ learnerId }),
    byId: (id: string) => byId.get({ id }),
    nextPosition: (learnerId: string) => (lastPosition.get({ learnerId })?.position ?? 0) + 1,
    add: (row: typeof calendar.$inferInsert) => db.insert(calendar).values(row).returning().get(),
    change: (id: string, values: Partial<CalendarRow>) =>
      db.update(calendar).set(values).where(eq(calendar.id, id)).returning().get(),
    remove: (id: string) => db.delete(calendar).where(eq(calendar.id, id)).run(),
  };
}
export type CalendarStore = ReturnType<typeof calendarStore>;
