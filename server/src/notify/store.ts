import { DAY } from '@zephyrfield/core/time/civil';
import type { When } from '@zephyrfield/core/time/when';
import { DEFAULT_NOTICE_SETTINGS, type NoticeSettings } from '@zephyrfield/core/notify/settings';
import { and, asc, desc, eq, gt, inArray, isNull, lte, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/sqlite-core';
import type { Db } from '../db/open.ts';
import {
  sheetClock,
  calendar,
  change,
  delivery,
  item,
  layer,
  learner,
  letter,
  record,
  noticeSettings,
  notifyClock,
  occurrence,
  user,
} from '../db/schema.ts';

export type NewDelivery = typeof delivery.$inferInsert;
export type DeliveryRow = typeof delivery.$inferSelect;
export type LetterRow = typeof letter.$inferSelect;
export type Unit = typeof notifyClock.$inferSelect;

/** Gives what people are told: how far each has been told, what waits to be sent, and what was. */
export function notifyStore(db: Db) {
  return { ...clockStore(db), ...causeStore(db), ...letterStore(db), ...deliveryStore(db) };
}

export type NotifyStore = ReturnType<typeof notifyStore>;

const waitingApp = (now: number) =>
  and(eq(delivery.state, 'waiting'), isNull(delivery.letterId), lte(delivery.notBefore, now));
const NOTHING_MORE = {
  causeId: '',
  moment: 0,
  snoozedTo: 0,
  itemId: null,
  recurrenceId: '',
  calendarId: null,
  about: null,
  sheet: null,
  leads: null,
  anchor: null,
  sentAt: null,
};
const COLUMNS = [
  'personId',
  'learnerId',
  'channel',
  'kind',
  'cause',
  'causeId',
  'moment',
  'snoozedTo',
  'itemId',
  'recurrenceId',
  'calendarId',
  'about',
  'title',
  'line',
  'sheet',
  'leads',
  'anchor',
  'at',
  'notBefore',
  'useBy',
  'state',
  'sentAt',
] as const;
const inserted = (p: typeof sql.placeholder) =>
  Object.fromEntries(COLUMNS.map((name) => [name, p(name)])) as unknown as NewDelivery;

const other = alias(delivery, 'other');
/** The next moment that the same thing was put off to and still waits for. */
const snoozedUntil = (of: typeof delivery) =>
  sql<
    number | null
  >`(SELECT min(${other.notBefore}) FROM ${delivery} AS other WHERE ${other.personId} = ${of.personId}
    AND ${other.learnerId} = ${of.learnerId} AND ${other.cause} = ${of.cause}
    AND ${other.causeId} = ${of.causeId} AND ${other.recurrenceId} = ${of.recurrenceId}
    AND ${other.moment} = ${of.moment} AND ${other.snoozedTo} > 0 AND ${other.state} = 'waiting')`;

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

/** Mails, each made of deliveries once and for all. */
function letterStore(db: Db) {
  const { $client: sqlite } = db;
  const p = sql.placeholder;
  const dueLetters = db
    .select()
    .from(letter)
    .where(lte(letter.nextTryAt, p('now')))
    .orderBy(asc(letter.nextTryAt))
    .limit(p('limit'))
    .prepare();
  const ofLetter = db
    .select()
    .from(delivery)
    .where(eq(delivery.letterId, p('id')))
    .orderBy(asc(delivery.at), asc(delivery.id))
    .prepare();
  const addLetter = sqlite.prepare(
    `INSERT INTO letter (id, person_id, next_try_at, give_up_at, created_at)
      VALUES (@id, @personId, @nextTryAt, @giveUpAt, @createdAt)`,
  );
  const letterSent = sqlite.prepare(
    `UPDATE letter SET sent_at = @at, next_try_at = NULL, attempts = @attempts, problem = NULL
      WHERE id = @id`,
  );
  const rowsSent = sqlite.prepare(`UPDATE delivery SET state = 'sent', sent_at = @at WHERE letter_id = @id`);
  // A row may have waited two days for its letter, and no longer.
  const mailsSince = sqlite
    .prepare<{ personId: string; from: number }, number>(
      `SELECT count(DISTINCT d.letter_id) FROM delivery d JOIN letter l ON l.id = d.letter_id
        WHERE d.person_id = @personId AND d.channel = 'mail' AND d.at >= @from - ${2 * DAY}
        AND d.cause <> 'note' AND l.created_at >= @from`,
    )
    .pluck();
  return {
    /** Counts the letters that were made for somebody from an instant on, those of notes apart. */
    mailsSince: (personId: string, from: number) => mailsSince.get({ personId, from })!,
    /** A letter has been handed over, and with it what it is made of */
    letterSent(id: string, at: number, attempts: number): void {
      letterSent.run({ id, at, attempts });
      rowsSent.run({ id, at });
    },
    settleLetter: (letterId: string, values: Partial<DeliveryRow>) =>
      db.update(delivery).set(values).where(eq(delivery.letterId, letterId)).run(),
    addLetter: ({
      id,
      personId,
      nextTryAt,
      giveUpAt,
      createdAt,
    }: Pick<LetterRow, 'id' | 'personId' | 'nextTryAt' | 'giveUpAt' | 'createdAt'>) =>
      addLetter.run({ id, personId, nextTryAt, giveUpAt, createdAt }),
    changeLetter: (id: string, values: Partial<LetterRow>) =>
      db.update(letter).set(values).where(eq(letter.id, id)).run(),
    dueLetters: (now: number, limit: number) => dueLetters.all({ now, limit }),
    /** Letters of a person that were given up or wait are tried at once */
    tryLettersOf: (personId: string, now: number) =>
      db
        .update(letter)
        .set({ nextTryAt: now })
        .where(and(eq(letter.personId, personId), isNull(letter.sentAt), sql`next_try_at IS NOT NULL`))
        .run(),
    ofLetter: (id: string) => ofLetter.all({ id }),
    forgetLettersBefore: (before: number) =>
      sqlite.prepare('DELETE FROM letter WHERE created_at < ? AND next_try_at IS NULL').run(before),
  };
}

/** Gives what each is told by each channel, waiting and sent. */
function deliveryStore(db: Db) {
  const { $client: sqlite } = db;
  const p = sql.placeholder;
  const add = db.insert(delivery).values(inserted(p)).onConflictDoNothing().prepare();
  // The plus keeps the time from choosing the index: it is the person that narrows it down.
  const waiting = and(
    eq(delivery.state, 'waiting'),
    isNull(delivery.letterId),
    sql`+${delivery.notBefore} <= ${p('now')}`,
  );
  // In the order of an index by person, so that it ends after so many and need not look at all that waits.
  const mailWaiting = sqlite
    .prepare<{ now: number; limit: number }, string>(
      `SELECT DISTINCT person_id FROM delivery INDEXED BY delivery_waiting_of WHERE state = 'waiting'
        AND letter_id IS NULL AND channel = 'mail' AND not_before <= @now LIMIT @limit`,
    )
    .pluck();
  const waitingOf = db
    .select()
    .from(delivery)
    .where(and(eq(delivery.personId, p('personId')), eq(delivery.channel, p('channel')), waiting))
    .orderBy(asc(delivery.at), asc(delivery.id))
    .limit(200)
    .prepare();
  const notices = db
    .select({
      delivery,
      finishedAt: layer.finishedAt,
      stillToDo: layer.stillToDo,
      kind: occurrence.kind,
      doneInCourse: occurrence.doneInCourse,
      snoozedUntil: snoozedUntil(delivery),
    })
    .from(delivery)
    .leftJoin(layer, and(eq(layer.itemId, delivery.itemId), eq(layer.recurrenceId, delivery.recurrenceId)))
    .leftJoin(
      occurrence,
      and(eq(occurrence.itemId, delivery.itemId), eq(occurrence.recurrenceId, delivery.recurrenceId)),
    )
    .where(and(eq(delivery.personId, p('personId')), eq(delivery.channel, 'app'), eq(delivery.state, 'sent')))
    .orderBy(desc(delivery.at), desc(delivery.id))
    .limit(200)
    .prepare();
  const unseen = db
    .select({
      learnerId: delivery.learnerId,
      calendarId: delivery.calendarId,
      itemId: delivery.itemId,
      about: delivery.about,
      // Several notes of one thread are one piece of news.
      n: sql<number>`count(DISTINCT CASE ${delivery.cause} WHEN 'note' THEN ${delivery.leads} ELSE ${delivery.id} END)`,
    })
    .from(delivery)
    .where(
      and(
        eq(delivery.personId, p('personId')),
        eq(delivery.channel, 'app'),
        eq(delivery.state, 'sent'),
        isNull(delivery.seenAt),
      ),
    )
    .groupBy(delivery.learnerId, delivery.calendarId, delivery.itemId, delivery.about)
    .prepare();
  const UNSEEN = "person_id = @personId AND channel = 'app' AND seen_at IS NULL";
  const seeAll = sqlite.prepare(
    `UPDATE delivery SET seen_at = @now WHERE ${UNSEEN} AND state = 'sent' AND at <= @upTo`,
  );
  const seeChanges = sqlite.prepare(
    `UPDATE delivery SET seen_at = @now WHERE ${UNSEEN} AND learner_id = @learnerId AND cause = 'change'
      AND CAST(cause_id AS INTEGER) <= @changeId`,
  );
  const seeThread = sqlite.prepare(
    `UPDATE delivery SET seen_at = @now WHERE ${UNSEEN} AND cause = 'note' AND leads = @leads
      AND CAST(cause_id AS INTEGER) <= @noteId`,
  );
  const countWaiting = db.$client
    .prepare<[], number>("SELECT count(*) FROM delivery WHERE state = 'waiting'")
    .pluck();
  return {
    /** Counts how many wait to be sent, by any channel */
    countWaiting: () => countWaiting.get() ?? 0,
    /** Takes a delivery in; false where it is there already */
    add: (row: NewDelivery): boolean => add.run({ ...NOTHING_MORE, ...row }).changes > 0,
    mailWaiting: (now: number, limit: number) => mailWaiting.all({ now, limit }),
    waitingOf: (personId: string, channel: 'mail' | 'browser', now: number) =>
      waitingOf.all({ personId, channel, now }),
    waitingApp: (now: number) =>
      db
        .select()
        .from(delivery)
        .where(and(eq(delivery.channel, 'app'), waitingApp(now)))
        .limit(500)
        .all(),
    mailsWaiting: (personId: string) =>
      db
        .select({ n: sql<number>`count(*)` })
        .from(delivery)
        .where(
          and(eq(delivery.personId, personId), eq(delivery.channel, 'mail'), eq(delivery.state, 'waiting')),
        )
        .get()!.n,
    settle: (ids: number[], values: Partial<DeliveryRow>) =>
      db.update(delivery).set(values).where(inArray(delivery.id, ids)).run(),
    notices: (personId: string) => notices.all({ personId }),
    one: (personId: string, id: number) =>
      db
        .select()
        .from(delivery)
        .where(and(eq(delivery.id, id), eq(delivery.personId, personId)))
        .get(),
    /** Counts what a person has not seen yet, by what it is about */
    unseen: (personId: string) => unseen.all({ personId }),
    see: (personId: string, ids: readonly number[], now: number) =>
      db
        .update(delivery)
        .set({ seenAt: now })
        .where(and(eq(delivery.personId, personId), inArray(delivery.id, [...ids]), isNull(delivery.seenAt)))
        .run(),
    seeAll: (personId: string, upTo: number, now: number) => seeAll.run({ personId, upTo, now }),
    seeChanges: (personId: string, learnerId: string, changeId: number, now: number) =>
      seeChanges.run({ personId, learnerId, changeId, now }),
    seeThread: (of: { personId: string; leads: string; noteId: number; now: number }) => seeThread.run(of),
    /** Mail rows are few a person; what is long past is not kept for ever */
    forgetBefore: (before: number) =>
      sqlite.prepare(`DELETE FROM delivery WHERE at < ? AND state <> 'waiting'`).run(before),
    /** Gives what waited for a browser that never came, or for a mail server that is no more */
    forgetUseless: (before: number) =>
      sqlite.prepare(`DELETE FROM delivery WHERE state = 'waiting' AND use_by < ?`).run(before),
    transaction: <T>(work: () => T): T => db.transaction(work, { behavior: 'immediate' }),
  };
}
