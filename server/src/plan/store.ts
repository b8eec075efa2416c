import { and, eq, gt, sql } from 'drizzle-orm';
import type { PlanSettings } from '@zephyrfield/core/plan/evenings';
import type { Db } from '../db/open.ts';
import { item, layer, learner, planSettings, runUp } from '../db/schema.ts';

export type RunUpRow = typeof runUp.$inferSelect;

/** Tells when learners can work, and their run-ups. */
export function planStore(db: Db) {
  const p = sql.placeholder;
  const settingsOf = db
    .select()
    .from(planSettings)
    .where(eq(planSettings.learnerId, p('learnerId')))
    .prepare();
  const ofLearner = db
    .select({ runUp, calendarId: item.calendarId })
    .from(runUp)
    .innerJoin(item, eq(item.id, runUp.itemId))
    .where(eq(item.learnerId, p('learnerId')))
    .prepare();
  const one = db
    .select()
    .from(runUp)
    .where(and(eq(runUp.itemId, p('itemId')), eq(runUp.recurrenceId, p('recurrenceId'))))
    .prepare();
  const zone = db
    .select({ zone: learner.zone })
    .from(learner)
    .where(eq(learner.id, p('learnerId')))
    .prepare();
  const took = db
    .select({
      itemId: layer.itemId,
      recurrenceId: layer.recurrenceId,
      minutes: layer.spent,
      calendarId: item.calendarId,
    })
    .from(layer)
    .innerJoin(item, eq(item.id, layer.itemId))
    .where(and(eq(item.learnerId, p('learnerId')), gt(layer.spent, 0)))
    .prepare();

  return {
    transaction: <T>(work: () => T): T => db.transaction(work, { behavior: 'immediate' }),
    settings: (learnerId: string) => settingsOf.get({ learnerId }),
    /** Writes them where they still are as they were; says whether they were. */
    writeSettings(learnerId: string, settings: PlanSettings, version: number, now: number): boolean {
      if ((settingsOf.get({ learnerId })?.version ?? 0) !== version) return false;
      const row = { learnerId, settings, version: version + 1, updatedAt: now };
      db.insert(planSettings)
        .values(row)
        .onConflictDoUpdate({ target: planSettings.learnerId, set: row })
        .run();
      return true;
    },
    /** A learner's run-ups, each with the calendar of its item */
    runUpsIn: (learnerId: string) => ofLearner.all({ learnerId }),
    runUps: (learnerId: string): RunUpRow[] => ofLearner.all({ learnerId }).map((row) => row.runUp),
    runUp: (itemId: string, recurrenceId: string): RunUpRow | undefined => one.get({ itemId, recurrenceId }),
    put(row: RunUpRow): void {
      db.insert(runUp)
        .values(row)
        .onConflictDoUpdate({ target: [runUp.itemId, runUp.recurrenceId], set: row })
        .run();
    },
    remove(itemId: string, recurrenceId: string): void {
      db.delete(runUp)
        .where(and(eq(runUp.itemId, itemId), eq(runUp.recurrenceId, recurrenceId)))
        .run();
    },
    zoneOf: (learnerId: string): string | undefined => zone.get({ learnerId })?.zone,
    /** Minutes that work took, of which that is known. */
    took: (learnerId: string) => took.all({ learnerId }),
  };
}
export type PlanStore = ReturnType<typeof planStore>;
