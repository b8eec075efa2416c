import { randomUUID } from 'node:crypto';
import { setImmediate } from 'node:timers/promises';
import { eq, inArray, like } from 'drizzle-orm';
import type { NoticeSettings } from '@zephyrfield/core/notify/settings';
import type { Db } from '../db/open.ts';
import {
  accessEvent,
  crew,
  installation,
  invitationTo,
  item,
  learner,
  noticeSettings,
  share,
} from '../db/schema.ts';
import { nameOfItem, type NewNames } from './names.ts';

/** The schedule that another takes the place of, with what its things are called there. */
export interface Place {
  from: string;
  names: NewNames;
}

/** Rows that are taken away at once. */
const ROWS_IN_STEP = 500;
/** What a mark of a schedule that is being brought back is called. */
const UNFINISHED = 'restoring ';

/** Gives what restoring a schedule reads and writes beside the stores of its parts. */
export function restoreStore(db: Db) {
  // Only what somebody has added to, or muted, has anything that goes over.
  const itemsOfLearner = db.$client.prepare<
    { learnerId: string; muted: string },
    { id: string; sourceId: string; uid: string }
  >(
    `SELECT id, source_id AS sourceId, uid FROM item WHERE learner_id = @learnerId
      AND (EXISTS (SELECT 1 FROM person_layer p WHERE p.item_id = item.id)
        OR id IN (SELECT value FROM json_each(@muted)))`,
  );
  const dropDates = db.$client.prepare<[string, number]>(
    'DELETE FROM occurrence WHERE rowid IN (SELECT rowid FROM occurrence WHERE learner_id = ? LIMIT ?)',
  );
  const dropItems = db.$client.prepare<[string, number]>(
    'DELETE FROM item WHERE rowid IN (SELECT rowid FROM item WHERE learner_id = ? LIMIT ?)',
  );
  const carryLayer = db.$client.prepare<[string, string, string]>(
    'UPDATE OR IGNORE person_layer SET item_id = ? WHERE item_id = ? AND person_id <> ?',
  );
  const crewOf = (learnerId: string) =>
    db
      .select({ id: crew.personId })
      .from(crew)
      .where(eq(crew.learnerId, learnerId))
      .all()
      .map((row) => row.id);
  const join = (learnerId: string, personId: string, now: number) =>
    db.insert(crew).values({ id: randomUUID(), personId, learnerId, access: 'keep', joinedAt: now }).run();

  const unmark = (learnerId: string) =>
    db
      .delete(installation)
      .where(eq(installation.name, `${UNFINISHED}${learnerId}`))
      .run();
  /** Takes away a schedule that was not brought back, some rows at a time: others are answered between. */
  async function forget(learnerId: string): Promise<void> {
    for (const drop of [dropDates, dropItems])
      while (drop.run(learnerId, ROWS_IN_STEP).changes) await setImmediate();
    forgetAtOnce(learnerId);
  }
  const forgetAtOnce = (learnerId: string): void =>
    db.transaction(() => {
      db.delete(learner).where(eq(learner.id, learnerId)).run();
      unmark(learnerId);
    });

  /** Gives what the others have for themselves goes over: what stands on items, and what they are told of. */
  function carryOwn({ from, names }: Place, to: string, persons: readonly string[], personId: string): void {
    const next = new Map<string, string>();
    const rows = db
      .select()
      .from(noticeSettings)
      .where(inArray(noticeSettings.personId, [...persons]))
      .all();
    const muted = JSON.stringify(rows.flatMap(({ value }) => value.muted.items));
    for (const { id, sourceId, uid } of itemsOfLearner.all({ learnerId: from, muted })) {
      const known =
        names.items.get(nameOfItem({ source: sourceId, uid })) ?? names.items.get(nameOfItem({ own: id }));
      if (known) next.set(id, known);
    }
    for (const [id, known] of next) carryLayer.run(known, id, personId);
    for (const { personId: whose, value } of rows)
      db.update(noticeSettings)
        .set({ value: settingsFor(value, from, to, { items: next, calendars: names.calendars }) })
        .where(eq(noticeSettings.personId, whose))
        .run();
  }

  /** Puts a schedule in the place of another. @returns all whose crews that changes */
  function takePlace(to: string, place: Place, personId: string, now: number): string[] {
    const { from } = place;
    const before = db.select().from(learner).where(eq(learner.id, from)).get()!;
    const persons = crewOf(from);
    db.update(crew).set({ learnerId: to }).where(eq(crew.learnerId, from)).run();
    join(from, personId, now);
    db.update(learner).set({ personId: before.personId }).where(eq(learner.id, to)).run();
    const name = `${before.name.slice(0, 90)} (before ${new Date(now).toISOString().slice(0, 10)})`;
    db.update(learner).set({ personId: null, name }).where(eq(learner.id, from)).run();
    carryOwn(place, to, persons, personId);
    // What goes out of chosen calendars would find none of them in the other schedule.
    for (const row of db.select().from(share).where(eq(share.learnerId, from)).all())
      if (row.rules.calendars === null)
        db.update(share)
          .set({ learnerId: to, version: row.version + 1 })
          .where(eq(share.id, row.id))
          .run();
    db.update(invitationTo).set({ learnerId: to }).where(eq(invitationTo.learnerId, from)).run();
    db.update(accessEvent).set({ learnerId: to }).where(eq(accessEvent.learnerId, from)).run();
    return persons;
  }

  const followed = db.$client.prepare<[string, string], { learnerId: string; calendarId: string }>(
    `SELECT s.learner_id AS learnerId, s.calendar_id AS calendarId FROM source s JOIN crew c ON c.learner_id = s.learner_id
      WHERE s.address_digest = ? AND c.person_id = ? AND c.access = 'keep' AND s.removed_at IS NULL`,
  );
  return {
    /** Finds where a link is followed in schedules that somebody keeps, by the digest of its address */
    followedBy: (personId: string, digest: string) => followed.all(digest, personId),
    crewOf,
    transaction: <T>(work: () => T): T => db.transaction(work, { behavior: 'immediate' }),
    /** The items that a source has, by their UIDs */
    itemsOf: (sourceId: string) =>
      db.select({ itemId: item.id, uid: item.uid }).from(item).where(eq(item.sourceId, sourceId)).all(),
    forget,
    /** Notes that a schedule is being brought back, until people are let in. */
    mark: (learnerId: string) =>
      db
        .insert(installation)
        .values({ name: `${UNFINISHED}${learnerId}`, value: '' })
        .run(),
    /** Takes away what a crash has left half brought back. */
    removeUnfinished(): void {
      const marks = db
        .select()
        .from(installation)
        .where(like(installation.name, `${UNFINISHED}%`))
        .all();
      for (const { name } of marks) forgetAtOnce(name.slice(UNFINISHED.length));
    },
    /**
     * Lets people in, once all of a schedule is there: whoever brought it back; or, in the place of another, whose own that
     * is, its crew, invitations, links and history, and then the other stays with one person alone, under a name that says
     * until when it counted.
     * @returns all whose crews it changed
     */
    open: (learnerId: string, personId: string, place: Place | null, now: number): string[] =>
      db.transaction(
        () => {
          unmark(learnerId);
          if (place) return takePlace(learnerId, place, personId, now);
          join(learnerId, personId, now);
          return [personId];
        },
        { behavior: 'immediate' },
      ),
  };
}
export type RestoreStore = ReturnType<typeof restoreStore>;

/** Gives what somebody is told of one schedule, said of the one in its place. */
function settingsFor(value: NoticeSettings, from: string, to: string, names: NewNames): NoticeSettings {
  const { learners, muted } = value;
  const also = (list: string[], known: ReadonlyMap<string, string>) => [
    ...list,
    ...list.flatMap((id) => known.get(id) ?? []),
  ];
  return {
    ...value,
    learners: learners[from] ? { ...learners, [to]: learners[from] } : learners,
    muted: { items: also(muted.items, names.items), calendars: also(muted.calendars, names.calendars) },
  };
}
