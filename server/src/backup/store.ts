import { randomUUID } from 'node:crypto';
import { eq } from 'drizzle-orm';
import type { Db } from '../db/open.ts';
import { accessEvent, crew, invitationTo, item, learner, share } from '../db/schema.ts';

/** A schedule that takes the place of another, with its items by what the other’s are called in its archive. */
export interface Exchanged {
  from: string;
  to: string;
  idOf: ReadonlyMap<string, string>;
}

/** What restoring a schedule reads and writes beside the stores of its parts. */
export function restoreStore(db: Db) {
  const ofLearner = db.$client.prepare<[string], { id: string; sourceId: string; uid: string }>(
    'SELECT id, source_id AS sourceId, uid FROM item WHERE learner_id = ?',
  );
  const carry = db.$client.prepare<[string, string, string]>(
    'UPDATE OR IGNORE person_layer SET item_id = ? WHERE item_id = ? AND person_id <> ?',
  );
  return {
    crewOf: (learnerId: string) =>
      db
        .select({ id: crew.personId })
        .from(crew)
        .where(eq(crew.learnerId, learnerId))
        .all()
        .map((row) => row.id),
    transaction: <T>(work: () => T): T => db.transaction(work, { behavior: 'immediate' }),
    /** The items that a source has, by their UIDs */
    itemsOf: (sourceId: string) =>
      db.select({ itemId: item.id, uid: item.uid }).from(item).where(eq(item.sourceId, sourceId)).all(),
    forget: (learnerId: string) => db.delete(learner).where(eq(learner.id, learnerId)).run(),
    /**
     * Puts a schedule in the place of another: whose own it is, its crew, invitations, links and history go over; the
     * other stays with one person alone, under a name that says since when.
     * @returns all whose crews it changed
     */
    exchange({ from, to, idOf }: Exchanged, personId: string, now: number): string[] {
      return db.transaction(
        () => {
          const before = db.select().from(learner).where(eq(learner.id, from)).get()!;
          const persons = db.select({ id: crew.personId }).from(crew).where(eq(crew.learnerId, from)).all();
          db.delete(crew).where(eq(crew.learnerId, to)).run();
          db.update(crew).set({ learnerId: to }).where(eq(crew.learnerId, from)).run();
          db.insert(crew)
            .values({ id: randomUUID(), personId, learnerId: from, access: 'keep', joinedAt: now })
            .run();
          db.update(learner).set({ personId: before.personId }).where(eq(learner.id, to)).run();
          const day = new Date(now).toISOString().slice(0, 10);
          const name = `${before.name.slice(0, 90)} (before ${day})`;
          db.update(learner).set({ personId: null, name }).where(eq(learner.id, from)).run();
          // What the others have for themselves on an item goes over to the one in its place.
          for (const { id, sourceId, uid } of ofLearner.all(from)) {
            const next = idOf.get(`${sourceId} ${uid}`) ?? idOf.get(`own ${id}`);
            if (next) carry.run(next, id, personId);
          }
          // What goes out of chosen calendars would find none of them in the other schedule.
          for (const row of db.select().from(share).where(eq(share.learnerId, from)).all())
            if (row.rules.calendars === null)
              db.update(share)
                .set({ learnerId: to, version: row.version + 1 })
                .where(eq(share.id, row.id))
                .run();
          db.update(invitationTo).set({ learnerId: to }).where(eq(invitationTo.learnerId, from)).run();
          db.update(accessEvent).set({ learnerId: to }).where(eq(accessEvent.learnerId, from)).run();
          return persons.map((p) => p.id);
        },
        { behavior: 'immediate' },
      );
    },
  };
}
export type RestoreStore = ReturnType<typeof restoreStore>;
