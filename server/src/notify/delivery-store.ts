import { and, asc, desc, eq, inArray, isNull, lte, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/sqlite-core';
import type { Db } from '../db/open.ts';
import { delivery, layer, occurrence } from '../db/schema.ts';

export type NewDelivery = typeof delivery.$inferInsert;
export type DeliveryRow = typeof delivery.$inferSelect;

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

/** Gives what each is told by each channel, waiting and sent. */
export function deliveryStore(db: Db) {
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
  const latestNotes = sqlite
    .prepare<{ personId: string; ids: string }, number>(
      `SELECT max(CAST(cause_id AS INTEGER)) FROM delivery WHERE person_id = @personId AND cause = 'note'
        AND id IN (SELECT value FROM json_each(@ids)) GROUP BY leads`,
    )
    .pluck();
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
    /** Lists the latest note of each thread that some notices tell of. */
    latestNotes: (personId: string, ids: readonly number[]) =>
      latestNotes.all({ personId, ids: JSON.stringify(ids) }),
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
