import { and, asc, desc, eq, exists, gt, isNull, sql } from 'drizzle-orm';
import type { Db } from '../db/open.ts';
import { booking, openSlot, openTime, openTimeFor, question, reply } from '../db/schema.ts';

export type OpenTimeRow = typeof openTime.$inferSelect;
export type SlotRow = typeof openSlot.$inferSelect;
export type BookingRow = typeof booking.$inferSelect;

/** A slot with what it is of, and how much of it is taken. */
export interface SlotWhole {
  id: string;
  openTimeId: string;
  startAt: number;
  endAt: number;
  itemId: string | null;
  title: string;
  details: string;
  place: string;
  personId: string;
  ownLearnerId: string;
  by: string;
  places: number;
  each: number;
  namesShown: number;
  until: number;
  endedAt: number | null;
  taken: number;
}

const SLOT = `SELECT s.id, s.open_time_id AS openTimeId, s.start_at AS startAt, s.end_at AS endAt,
    s.item_id AS itemId, t.title, t.details, t.place, t.person_id AS personId, t.learner_id AS ownLearnerId,
    u.name AS "by", t.places, t.each, t.names_shown AS namesShown, t.until, t.ended_at AS endedAt,
    (SELECT count(*) FROM booking b WHERE b.slot_id = s.id AND b.ended_at IS NULL) AS taken
  FROM open_slot s JOIN open_time t ON t.id = s.open_time_id JOIN user u ON u.id = t.person_id`;

/** Times that are offered, and who has taken which; answers to "will you come?". */
export function openTimeStore(db: Db) {
  const { $client: sqlite } = db;
  const slot = sqlite.prepare<[string], SlotWhole>(`${SLOT} WHERE s.id = ?`);
  const slotsFor = sqlite.prepare<{ learnerId: string; now: number; limit: number }, SlotWhole>(
    `${SLOT} JOIN open_time_for f ON f.open_time_id = t.id WHERE f.learner_id = @learnerId AND s.end_at > @now
      AND (t.ended_at IS NULL OR EXISTS (SELECT 1 FROM booking b WHERE b.slot_id = s.id
        AND b.learner_id = @learnerId AND b.ended_at IS NULL)) ORDER BY s.start_at, s.id LIMIT @limit`,
  );
  const names = sqlite
    .prepare<[string], string>(
      `SELECT l.name FROM booking b JOIN learner l ON l.id = b.learner_id WHERE b.slot_id = ? AND b.ended_at IS NULL
        ORDER BY b.at`,
    )
    .pluck();
  const takenBy = sqlite
    .prepare<[string, string], number>(
      `SELECT count(*) FROM booking b JOIN open_slot s ON s.id = b.slot_id WHERE s.open_time_id = ?
        AND b.learner_id = ? AND b.ended_at IS NULL`,
    )
    .pluck();
  const bookings = sqlite.prepare<
    [string],
    { id: string; slotId: string; learner: string; by: string | null; word: string; at: number }
  >(
    `SELECT b.id, b.slot_id AS slotId, l.name AS learner, u.name AS "by", b.word, b.at FROM booking b
      JOIN open_slot s ON s.id = b.slot_id JOIN learner l ON l.id = b.learner_id LEFT JOIN user u ON u.id = b.person_id
      WHERE s.open_time_id = ? AND b.ended_at IS NULL ORDER BY b.at`,
  );
  const isFor = sqlite
    .prepare<[string, string], number>(
      'SELECT EXISTS (SELECT 1 FROM open_time_for WHERE open_time_id = ? AND learner_id = ?)',
    )
    .pluck();
  const namesFor = sqlite
    .prepare<[string], string>(
      'SELECT l.name FROM open_time_for f JOIN learner l ON l.id = f.learner_id WHERE f.open_time_id = ? ORDER BY l.name',
    )
    .pluck();
  const followers = sqlite.prepare<[string], { learnerId: string; name: string }>(
    `SELECT l.id AS learnerId, l.name FROM item i JOIN source s ON s.published_from = i.calendar_id
      JOIN learner l ON l.id = s.learner_id WHERE i.id = ? AND s.removed_at IS NULL ORDER BY l.name`,
  );
  const rootOf = sqlite
    .prepare<[string], string>(
      `SELECT a.id FROM item i JOIN source s ON s.id = i.source_id JOIN source h ON h.calendar_id = s.published_from
        AND h.kind = 'handMade' JOIN item a ON a.source_id = h.id AND a.uid = i.uid WHERE i.id = ?`,
    )
    .pluck();
  return {
    transaction: <T>(work: () => T): T => db.transaction(work, { behavior: 'immediate' }),
    /** Gives what somebody offers of which something is still ahead, the newest first */
    of: (personId: string, now: number): OpenTimeRow[] =>
      db
        .select()
        .from(openTime)
        .where(
          and(
            eq(openTime.personId, personId),
            exists(
              db
                .select({ one: sql`1` })
                .from(openSlot)
                .where(and(eq(openSlot.openTimeId, openTime.id), gt(openSlot.endAt, now))),
            ),
          ),
        )
        .orderBy(desc(openTime.createdAt))
        .limit(100)
        .all(),
    byId: (id: string) => db.select().from(openTime).where(eq(openTime.id, id)).get(),
    add(
      row: typeof openTime.$inferInsert,
      learnerIds: readonly string[],
      slots: readonly (typeof openSlot.$inferInsert)[],
    ): void {
      db.insert(openTime).values(row).run();
      for (const learnerId of learnerIds)
        db.insert(openTimeFor).values({ openTimeId: row.id, learnerId }).run();
      for (const each of slots) db.insert(openSlot).values(each).run();
    },
    end: (id: string, endedAt: number) =>
      db
        .update(openTime)
        .set({ endedAt })
        .where(and(eq(openTime.id, id), isNull(openTime.endedAt)))
        .run(),
    slotsOf: (openTimeId: string): SlotRow[] =>
      db
        .select()
        .from(openSlot)
        .where(eq(openSlot.openTimeId, openTimeId))
        .orderBy(asc(openSlot.startAt))
        .all(),
    slot: (id: string) => slot.get(id),
    slotsFor: (learnerId: string, now: number, limit: number) => slotsFor.all({ learnerId, now, limit }),
    setItem: (id: string, itemId: string | null) =>
      db.update(openSlot).set({ itemId }).where(eq(openSlot.id, id)).run(),
    names: (slotId: string) => names.all(slotId),
    takenBy: (openTimeId: string, learnerId: string) => takenBy.get(openTimeId, learnerId) ?? 0,
    isFor: (openTimeId: string, learnerId: string) => isFor.get(openTimeId, learnerId) === 1,
    namesFor: (openTimeId: string) => namesFor.all(openTimeId),
    bookingsOf: (openTimeId: string) => bookings.all(openTimeId),
    booking: (id: string) => db.select().from(booking).where(eq(booking.id, id)).get(),
    bookingOf: (slotId: string, learnerId: string) =>
      db
        .select()
        .from(booking)
        .where(and(eq(booking.slotId, slotId), eq(booking.learnerId, learnerId), isNull(booking.endedAt)))
        .get(),
    addBooking: (row: typeof booking.$inferInsert) => db.insert(booking).values(row).run(),
    endBooking: (id: string, endedAt: number) =>
      db.update(booking).set({ endedAt }).where(eq(booking.id, id)).run(),
    /** The item of its author that a followed one is a copy of */
    rootOf: (itemId: string) => rootOf.get(itemId) ?? itemId,
    followersOf: (itemId: string) => followers.all(itemId),
    question: (itemId: string) => db.select().from(question).where(eq(question.itemId, itemId)).get(),
    ask: (itemId: string, personId: string, createdAt: number) =>
      db.insert(question).values({ itemId, personId, createdAt }).onConflictDoNothing().run(),
    askNoMore: (itemId: string) => db.delete(question).where(eq(question.itemId, itemId)).run(),
    setReminded: (itemId: string, remindedAt: number) =>
      db.update(question).set({ remindedAt }).where(eq(question.itemId, itemId)).run(),
    /** Gives what was answered for one date of an event; without one, for any of its dates */
    repliesTo: (itemId: string, recurrenceId?: string) =>
      db
        .select()
        .from(reply)
        .where(
          and(
            eq(reply.itemId, itemId),
            recurrenceId === undefined ? undefined : eq(reply.recurrenceId, recurrenceId),
          ),
        )
        .orderBy(sql`${reply.at} DESC`)
        .all(),
    say: (row: typeof reply.$inferInsert) =>
      db
        .insert(reply)
        .values(row)
        .onConflictDoUpdate({
          target: [reply.itemId, reply.recurrenceId, reply.learnerId, reply.personId],
          set: { answer: row.answer, word: row.word, at: row.at },
        })
        .run(),
  };
}
export type OpenTimeStore = ReturnType<typeof openTimeStore>;
