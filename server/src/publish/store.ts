import { and, eq, sql } from 'drizzle-orm';
import type { Db } from '../db/open.ts';
import { brief, briefFile, learner, offer, type source, user } from '../db/schema.ts';
import { stampIn } from './stamp.ts';

export type OfferRow = typeof offer.$inferSelect;
/** A source by which a schedule follows a calendar of another one. */
export type Follower = Pick<typeof source.$inferSelect, 'id' | 'learnerId' | 'calendarId' | 'bodyDigest'>;

/** Calendars that are offered and followed, and who has looked at what is in them. */
export function publishStore(db: Db) {
  const { $client: sqlite } = db;
  const p = sql.placeholder;
  const followed = sqlite
    .prepare<[string], string>(
      `SELECT DISTINCT s.published_from FROM source s JOIN calendar c ON c.id = s.published_from
        WHERE c.learner_id = ? AND s.removed_at IS NULL`,
    )
    .pluck();
  const allFollowed = sqlite
    .prepare<[], string>(
      `SELECT DISTINCT published_from FROM source WHERE published_from IS NOT NULL AND removed_at IS NULL`,
    )
    .pluck();
  const followersOf = sqlite.prepare<[string], Follower>(
    `SELECT id, learner_id AS learnerId, calendar_id AS calendarId, body_digest AS bodyDigest FROM source
      WHERE published_from = ? AND removed_at IS NULL ORDER BY id`,
  );
  const orphans = sqlite
    .prepare<[], string>(
      `SELECT id FROM source WHERE kind = 'published' AND published_from IS NULL AND removed_at IS NULL
        AND address_digest LIKE 'published %'`,
    )
    .pluck();
  const byId = db
    .select()
    .from(offer)
    .where(eq(offer.id, p('id')))
    .prepare();
  const ofCalendar = db
    .select({ offer, name: learner.name })
    .from(offer)
    .innerJoin(learner, eq(learner.id, offer.learnerId))
    .where(eq(offer.calendarId, p('calendarId')))
    .orderBy(learner.name)
    .prepare();
  const openFor = db
    .select({ offer, by: user.name })
    .from(offer)
    .innerJoin(user, eq(user.id, offer.offeredBy))
    .where(and(eq(offer.learnerId, p('learnerId')), eq(offer.state, 'open')))
    .orderBy(offer.createdAt)
    .prepare();
  const authored = sqlite
    .prepare<[string, string], string>(
      `SELECT s.calendar_id FROM source s JOIN calendar c ON c.id = s.published_from
        WHERE s.learner_id = ? AND c.made_by = ?`,
    )
    .pluck();
  const looked = sqlite.prepare<
    { uid: string; calendarId: string; personId: string },
    { of: number; opened: number | null }
  >(`SELECT count(*) AS "of", sum(EXISTS (SELECT 1 FROM item i JOIN opened o ON o.item_id = i.id
      WHERE i.source_id = s.id AND i.uid = @uid AND o.person_id <> @personId)) AS opened
    FROM source s WHERE s.published_from = @calendarId AND s.removed_at IS NULL`);
  const open = sqlite.prepare<{ itemId: string; personId: string; now: number }>(
    `INSERT INTO opened (item_id, person_id, first_at, last_at) VALUES (@itemId, @personId, @now, @now)
      ON CONFLICT (item_id, person_id) DO UPDATE SET last_at = excluded.last_at`,
  );
  const copyIn = sqlite
    .prepare<[string, string], string>(
      `SELECT i.id FROM item i JOIN source s ON s.id = i.source_id WHERE i.learner_id = ? AND i.uid = ?
        AND s.kind = 'published' AND s.removed_at IS NULL`,
    )
    .pluck();
  const itemByUid = sqlite
    .prepare<[string, string], string>('SELECT id FROM item WHERE source_id = ? AND uid = ?')
    .pluck();
  const clearBriefs = sqlite.prepare<[string]>(
    'DELETE FROM brief WHERE item_id IN (SELECT id FROM item WHERE source_id = ?)',
  );
  const clearFiles = sqlite.prepare<[string]>(
    `DELETE FROM brief_file WHERE "of" = 'brief' AND item_id IN (SELECT id FROM item WHERE source_id = ?)`,
  );
  const ownOf = sqlite.prepare<
    [string],
    { id: string; kind: string; handIn: string; content: string; brief: number; files: number }
  >(
    `SELECT i.id, i.kind, i.hand_in AS handIn, i.content,
        EXISTS (SELECT 1 FROM brief b WHERE b.item_id = i.id) AS brief,
        (SELECT count(*) FROM brief_file f WHERE f.item_id = i.id AND f."of" = 'brief' AND f.removed_at IS NULL)
          AS files
      FROM item i JOIN source s ON s.id = i.source_id
      WHERE i.calendar_id = ? AND s.kind = 'handMade' AND i.gone_at IS NULL ORDER BY i.id`,
  );
  return {
    /** Calendars of a schedule that somebody follows, and all there are */
    followedOf: (learnerId: string) => followed.all(learnerId),
    allFollowed: () => allFollowed.all(),
    followersOf: (calendarId: string) => followersOf.all(calendarId),
    /** Sources whose calendar is gone */
    orphans: () => orphans.all(),
    stamp: stampIn(db),
    offer: (id: string) => byId.get({ id }),
    offersOf: (calendarId: string) =>
      ofCalendar.all({ calendarId }).map((row) => ({ ...row.offer, name: row.name })),
    openFor: (learnerId: string) => openFor.all({ learnerId }).map((row) => ({ ...row.offer, by: row.by })),
    addOffer: (row: typeof offer.$inferInsert) =>
      db
        .insert(offer)
        .values(row)
        .onConflictDoUpdate({
          target: [offer.calendarId, offer.learnerId],
          set: { state: 'open', offeredBy: row.offeredBy, createdAt: row.createdAt },
        })
        .run(),
    setOffer: (id: string, state: OfferRow['state']) =>
      db.update(offer).set({ state }).where(eq(offer.id, id)).run(),
    dropOffer: (id: string) => db.delete(offer).where(eq(offer.id, id)).run(),
    /** Calendars of a schedule in which somebody sees their own published items */
    authoredIn: (learnerId: string, personId: string) => new Set(authored.all(learnerId, personId)),
    /** Counts how many schedules follow an item, and in how many somebody else than its author has opened it */
    looked(of: { uid: string; calendarId: string; personId: string }): { of: number; opened: number } {
      const found = looked.get(of)!;
      return { of: found.of, opened: found.opened ?? 0 };
    },
    /** The item by which a schedule follows one of another schedule, by its UID */
    copyIn: (learnerId: string, uid: string) => copyIn.get(learnerId, uid),
    open: (itemId: string, personId: string, now: number) => open.run({ itemId, personId, now }),
    itemByUid: (sourceId: string, uid: string) => itemByUid.get(sourceId, uid),
    clearBriefs: (sourceId: string) => clearBriefs.run(sourceId),
    clearFiles: (sourceId: string) => clearFiles.run(sourceId),
    addBrief: (row: typeof brief.$inferInsert) => db.insert(brief).values(row).run(),
    addFile: (row: typeof briefFile.$inferInsert) => db.insert(briefFile).values(row).run(),
    /** Items of a calendar made by hand */
    ownOf: (calendarId: string) => ownOf.all(calendarId),
    transaction: <T>(work: () => T): T => db.transaction(work, { behavior: 'immediate' }),
  };
}
export type PublishStore = ReturnType<typeof publishStore>;
