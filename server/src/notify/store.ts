import type { When } from '@zephyrfield/core/time/when';
import { DEFAULT_NOTICE_SETTINGS, type NoticeSettings } from '@zephyrfield/core/notify/settings';
import { and, asc, eq, gt, lte, sql } from 'drizzle-orm';
import type { Db } from '../db/open.ts';
import {
  sheetClock,
  calendar,
  change,
  item,
  learner,
  record,
  noticeSettings,
  notifyClock,
  user,
} from '../db/schema.ts';
import { deliveryStore } from './delivery-store.ts';
import { letterStore } from './letter-store.ts';

export type { DeliveryRow, NewDelivery } from './delivery-store.ts';
export type { LetterRow } from './letter-store.ts';

export type Unit = typeof notifyClock.$inferSelect;

/** Gives what people are told: how far each has been told, what waits to be sent, and what was. */
export function notifyStore(db: Db) {
  return { ...clockStore(db), ...causeStore(db), ...letterStore(db), ...deliveryStore(db) };
}

export type NotifyStore = ReturnType<typeof notifyStore>;

export type ChangeRow = typeof change.$inferSelect & { to: When | null };

/** Tells how far each has been told, and what they want to be told. */
function clockStore(db: Db) {
  const { $client: sqlite } = db;
  const p = sql.placeholder;
  const counts = sqlite.prepare<[], { crew: number; units: number; people: number; clocks: number }>(
    `SELECT (SELECT count(*) FROM crew) AS crew, (SELECT count(*)
      FROM notify_clock) AS units, (SELECT count(*) FROM "user") AS people, (SELECT count(*)
      FROM sheet_clock) AS clocks`,
  );
  const addUnits =
    sqlite.prepare(`INSERT OR IGNORE INTO notify_clock (person_id, learner_id, done_to, changes_to,
      records_to, next_at)
    SELECT person_id, learner_id, @now, (SELECT coalesce(max(id), 0)
      FROM change), (SELECT coalesce(max(id), 0) FROM record), 0 FROM crew`);
  const dropUnits = sqlite.prepare(
    `DELETE FROM notify_clock WHERE NOT EXISTS (SELECT 1 FROM crew c
      WHERE c.person_id = notify_clock.person_id AND c.learner_id = notify_clock.learner_id)`,
  );
  const addClocks = sqlite.prepare(
    'INSERT OR IGNORE INTO sheet_clock (person_id, done_to, next_at) SELECT id, @now, 0 FROM "user"',
  );
  const dueUnits = db
    .select()
    .from(notifyClock)
    .where(lte(notifyClock.nextAt, p('now')))
    .orderBy(asc(notifyClock.nextAt))
    .limit(p('limit'))
    .prepare();
  const dueSheets = db
    .select()
    .from(sheetClock)
    .where(lte(sheetClock.nextAt, p('now')))
    .orderBy(asc(sheetClock.nextAt))
    .limit(p('limit'))
    .prepare();
  const saveUnit = sqlite.prepare(
    `UPDATE notify_clock
      SET done_to = @doneTo, changes_to = @changesTo, records_to = @recordsTo, next_at = @nextAt
      WHERE person_id = @personId AND learner_id = @learnerId`,
  );
  const wake = sqlite.prepare('UPDATE notify_clock SET next_at = 0 WHERE learner_id = ?');
  const nextAt = sqlite
    .prepare<{ mail: number }, number | null>(
      `SELECT min(at) FROM (SELECT min(next_at) AS at FROM notify_clock UNION ALL SELECT min(next_at)
        FROM sheet_clock
      UNION ALL SELECT min(not_before) FROM delivery WHERE state = 'waiting' AND letter_id IS NULL
        AND channel = 'app'
      UNION ALL SELECT min(not_before) FROM delivery WHERE @mail AND state = 'waiting'
        AND letter_id IS NULL AND channel = 'mail'
      UNION ALL SELECT min(next_try_at) FROM letter WHERE @mail AND next_try_at IS NOT NULL)`,
    )
    .pluck();
  const findNoticeSettings = db
    .select({ value: noticeSettings.value })
    .from(noticeSettings)
    .where(eq(noticeSettings.personId, p('personId')))
    .prepare();
  const clockOf = db
    .select()
    .from(sheetClock)
    .where(eq(sheetClock.personId, p('personId')))
    .prepare();
  return {
    /** Everybody in a crew, and everybody with an account, has a clock; a new one begins now */
    ensure(now: number): void {
      const { crew, units, people, clocks } = counts.get()!;
      if (crew === units && people === clocks) return;
      db.transaction(
        () => {
          dropUnits.run();
          addUnits.run({ now });
          addClocks.run({ now });
        },
        { behavior: 'immediate' },
      );
    },
    dueUnits: (now: number, limit: number) => dueUnits.all({ now, limit }),
    dueSheets: (now: number, limit: number) => dueSheets.all({ now, limit }),
    saveUnit: (unit: Unit) => saveUnit.run(unit),
    saveSheetClock: (personId: string, values: Partial<typeof sheetClock.$inferInsert>) =>
      db.update(sheetClock).set(values).where(eq(sheetClock.personId, personId)).run(),
    mailTrouble: (personId: string) => clockOf.get({ personId }),
    wake: (learnerId: string) => wake.run(learnerId),
    wakePerson(personId: string): void {
      db.update(notifyClock).set({ nextAt: 0 }).where(eq(notifyClock.personId, personId)).run();
      db.update(sheetClock).set({ nextAt: 0 }).where(eq(sheetClock.personId, personId)).run();
    },
    wakeAll(): void {
      db.update(notifyClock).set({ nextAt: 0 }).run();
      db.update(sheetClock).set({ nextAt: 0 }).run();
    },
    /** Tells when anything comes due next; with what waits to be mailed, or without */
    nextAt: (mail: boolean) => nextAt.get({ mail: mail ? 1 : 0 }) ?? null,
    /** Gives what a person wants to be told, what was added since it was saved at its default */
    noticeSettings: (personId: string): NoticeSettings => {
      const { all } = DEFAULT_NOTICE_SETTINGS;
      const saved = findNoticeSettings.get({ personId })?.value;
      if (!saved) return DEFAULT_NOTICE_SETTINGS;
      const learners = Object.entries(saved.learners).map(([id, of]) => [id, { ...all, ...of }]);
      return {
        ...DEFAULT_NOTICE_SETTINGS,
        ...saved,
        all: { ...all, ...saved.all },
        learners: Object.fromEntries(learners) as NoticeSettings['learners'],
      };
    },
    saveNoticeSettings: (personId: string, value: NoticeSettings) =>
      db
        .insert(noticeSettings)
        .values({ personId, value })
        .onConflictDoUpdate({ target: noticeSettings.personId, set: { value } })
        .run(),
  };
}

/** Gives what there is to be told of: changes, records, calendars with their rules. */
function causeStore(db: Db) {
  const { $client: sqlite } = db;
  const p = sql.placeholder;
  const changesAfter = db
    .select()
    .from(change)
    .where(and(eq(change.learnerId, p('learnerId')), gt(change.id, p('after'))))
    .orderBy(asc(change.id))
    .limit(2000)
    .prepare();
  const recordsAfter = db
    .select({ record, title: item.title, calendarId: item.calendarId, by: user.name })
    .from(record)
    .innerJoin(item, eq(item.id, record.itemId))
    .leftJoin(user, eq(user.id, record.personId))
    .where(and(eq(item.learnerId, p('learnerId')), gt(record.id, p('after'))))
    .orderBy(asc(record.id))
    .limit(500)
    .prepare();
  const lastIds = sqlite.prepare<[], { changes: number; records: number }>(
    `SELECT (SELECT coalesce(max(id), 0) FROM change) AS changes, (SELECT coalesce(max(id), 0)
      FROM record) AS records`,
  );
  const hasOwnRules = sqlite
    .prepare<[string], number>(
      `SELECT EXISTS (SELECT 1 FROM layer l JOIN item i ON i.id = l.item_id WHERE i.learner_id = ?
        AND l.reminders IS NOT NULL)`,
    )
    .pluck();
  const sourceText = db
    .select({ content: item.content })
    .from(item)
    .where(eq(item.id, p('id')))
    .prepare();
  const knownSince = sqlite
    .prepare<[string], number>(
      `SELECT max(created_at, coalesce((SELECT max(at) FROM change WHERE item_id = item.id
        AND kind IN ('added', 'moved')), 0)) FROM item WHERE id = ?`,
    )
    .pluck();
  const calendarsOf = db
    .select({
      id: calendar.id,
      name: calendar.name,
      kind: calendar.kind,
      reminders: calendar.reminders,
      alarms: calendar.alarms,
    })
    .from(calendar)
    .where(eq(calendar.learnerId, p('learnerId')))
    .prepare();
  const remindersOf = db
    .select({ reminders: learner.reminders })
    .from(learner)
    .where(eq(learner.id, p('learnerId')))
    .prepare();
  return {
    changesAfter: (learnerId: string, after: number) => changesAfter.all({ learnerId, after }),
    recordsAfter: (learnerId: string, after: number) => recordsAfter.all({ learnerId, after }),
    lastIds: () => lastIds.get()!,
    hasOwnRules: (learnerId: string) => hasOwnRules.get(learnerId) === 1,
    /** Since when an item, at the date it has now, has been known (instant) */
    knownSince: (itemId: string) => knownSince.get(itemId) ?? 0,
    contentOf: (itemId: string) => sourceText.get({ id: itemId })?.content,
    calendarsOf: (learnerId: string) => calendarsOf.all({ learnerId }),
    remindersOf: (learnerId: string) => remindersOf.get({ learnerId })?.reminders ?? null,
    saveReminders: (learnerId: string, reminders: typeof learner.$inferSelect.reminders) =>
      db.update(learner).set({ reminders }).where(eq(learner.id, learnerId)).run(),
  };
}
