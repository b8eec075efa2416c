import { contentFrom } from '@zephyrfield/core/ical/content';
import { and, asc, countDistinct, desc, eq, gte, isNull, lt, ne, sql } from 'drizzle-orm';
import { layerCarrier } from '../db/layers.ts';
import { occurrenceWriter } from '../db/occurrences.ts';
import type { Db } from '../db/open.ts';
import { change, changesSeen, item, occurrence, source, waitingFile } from '../db/schema.ts';
import type { KnownBefore } from './read-bytes.ts';
import type { Busy, DueLink } from './schedule.ts';
import { duplicateStore } from './duplicates.ts';
import { unmatchedStore } from './unmatched.ts';
import { doubtfulStore } from './doubtful.ts';

export type SourceRow = typeof source.$inferSelect;
export type ItemRow = typeof item.$inferSelect;
export type ItemHead = Pick<ItemRow, 'id' | 'uid' | 'digest' | 'mustReparse' | 'title' | 'goneAt' | 'sameAs'>;

/** An item as a reading writes it; its content is JSON already. */
export interface WrittenItem extends Pick<
  ItemRow,
  | 'id'
  | 'calendarId'
  | 'uid'
  | 'digest'
  | 'written'
  | 'mustReparse'
  | 'section'
  | 'kind'
  | 'handIn'
  | 'doubt'
  | 'course'
  | 'title'
  | 'duplicateKey'
  | 'updatedAt'
> {
  content: string;
}
const headOf = ([id, uid, digest, mustReparse, title, goneAt, sameAs]: HeadRow): ItemHead => ({
  id,
  uid,
  digest,
  mustReparse: mustReparse === 1,
  title,
  goneAt,
  sameAs,
});
type HeadRow = [
  id: string,
  uid: string,
  digest: number,
  mustReparse: number,
  title: string,
  goneAt: number | null,
  sameAs: string | null,
];

export type ChangeRow = typeof change.$inferSelect;

/** Sources and what has been read from them. */
export function gatherStore(db: Db) {
  return { ...sourceStore(db), ...changeStore(db), ...waitingFileStore(db), ...contentStore(db) };
}

export type GatherStore = ReturnType<typeof gatherStore>;

/** Where items come from, and how they stand. */
function sourceStore(db: Db) {
  const p = sql.placeholder;
  const byId = db
    .select()
    .from(source)
    .where(eq(source.id, p('id')))
    .prepare();
  const ofLearner = db
    .select()
    .from(source)
    .where(and(eq(source.learnerId, p('learnerId')), isNull(source.removedAt), ne(source.kind, 'handMade')))
    .orderBy(source.createdAt, source.id)
    .prepare();
  const byDigest = db
    .select()
    .from(source)
    .where(and(eq(source.learnerId, p('learnerId')), eq(source.addressDigest, p('digest'))))
    .prepare();
  // The statements that run for every entry of a feed go to the driver itself: drizzle's mapping would be
  // half their time.
  const sqlite = db.$client;
  const sectionCounts = sqlite.prepare<[string], { section: string | null; n: number }>(
    'SELECT section, count(*) AS n FROM item WHERE source_id = ? AND gone_at IS NULL GROUP BY section',
  );
  const recordCount = sqlite
    .prepare<[string], number>(
      `SELECT count(*) FROM (SELECT item_id, recurrence_id FROM layer UNION SELECT item_id, recurrence_id
        FROM person_layer) AS l JOIN item ON item.id = l.item_id WHERE item.source_id = ?`,
    )
    .pluck();
  const ofCalendarId = sqlite
    .prepare<[string, string], string>(
      `SELECT id FROM source WHERE removed_at IS NULL AND kind <> 'handMade'
        AND (calendar_id = ? OR EXISTS (SELECT 1 FROM json_each(source.sections) WHERE value = ?))`,
    )
    .pluck();
  const unfinished = sqlite
    .prepare<[], string>(
      "SELECT id FROM source WHERE kind = 'oneTimeFile' AND last_good_at IS NULL AND removed_at IS NULL",
    )
    .pluck();
  const passOn = sqlite.prepare<
    [string, string]
  >(`UPDATE source SET calendar_id = (SELECT item.calendar_id FROM item WHERE item.source_id = source.id
    AND item.calendar_id <> ? LIMIT 1)
    WHERE calendar_id = ? AND EXISTS (SELECT 1 FROM item WHERE item.source_id = source.id
      AND item.calendar_id <> source.calendar_id)`);
  const dueForCheck = sqlite.prepare<
    { now: number; limit: number; ids: string; learners: string; hosts: string },
    DueLink
  >(`SELECT id, learner_id AS learnerId, host_digest AS host FROM source
    WHERE next_check_at <= @now AND id NOT IN (SELECT value FROM json_each(@ids))
      AND learner_id NOT IN (SELECT value FROM json_each(@learners))
      AND host_digest NOT IN (SELECT value FROM json_each(@hosts))
    ORDER BY next_check_at LIMIT @limit`);
  const countDue = sqlite
    .prepare<[number], number>('SELECT count(*) FROM source WHERE next_check_at <= ?')
    .pluck();
  const othersAt = sqlite.prepare<{ now: number; address: string; body: string; id: string }>(
    `UPDATE source SET next_check_at = @now WHERE address_digest = @address AND id <> @id
      AND next_check_at > @now AND body_digest IS NOT @body`,
  );
  const followersOf = sqlite
    .prepare<[string, string, string], string>(
      `SELECT id FROM source WHERE address_digest = ? AND id <> ? AND next_check_at IS NOT NULL
        AND body_digest IS NOT ?`,
    )
    .pluck();
  const nextDue = db
    .select({ at: occurrence.toMs })
    .from(occurrence)
    .innerJoin(item, eq(item.id, occurrence.itemId))
    .where(and(eq(item.sourceId, p('sourceId')), gte(occurrence.toMs, p('now'))))
    .orderBy(asc(occurrence.toMs))
    .limit(1)
    .prepare();
  return {
    byId: (id: string) => byId.get({ id }),
    /** Tells when the next thing of a source ends or is due; null where nothing is to come */
    nextDue: (sourceId: string, now: number) => nextDue.get({ sourceId, now })?.at ?? null,
    ofLearner: (learnerId: string) => ofLearner.all({ learnerId }),
    /** Live entries by the part they belong to */
    sectionCounts: (sourceId: string) => sectionCounts.all(sourceId),
    /** Counts how many things a person has ticked off or noted in a source */
    recordCount: (sourceId: string) => recordCount.get(sourceId) ?? 0,
    /** Sources whose time to be checked has come, but for those that are busy; the longest waiting first */
    dueForCheck: (now: number, limit: number, { ids, learners, hosts }: Busy) =>
      dueForCheck.all({
        now,
        limit,
        ids: JSON.stringify(ids),
        learners: JSON.stringify(learners),
        hosts: JSON.stringify(hosts),
      }),
    /** Counts how many links' time has come */
    countDue: (now: number) => countDue.get(now) ?? 0,
    /**
     * Has all others who follow the same link, and have not read these bytes of it, look at it now, as long as what
     * was fetched is at hand
     */
    wakeOthers: (of: { id: string; address: string; body: string }, now: number) =>
      othersAt.run({ ...of, now }),
    /** All others who follow the same link, and have not read these bytes of it */
    othersAt: (address: string, id: string, body: string) => followersOf.all(address, id, body),
    /** The source whose entries are in a calendar, if it is gathered still */
    ofCalendar: (calendarId: string) =>
      ofCalendarId.all(calendarId, calendarId).map((id) => byId.get({ id })!)[0],
    /**
     * Lets a source that is followed no more stand under another of its calendars than this one, where there
     * is one
     */
    passOn: (calendarId: string) => passOn.run(calendarId, calendarId),
    /** One-time files of which not everything was put in */
    unfinishedFiles: () => unfinished.all(),
    filesOf: (learnerId: string) => ofLearner.all({ learnerId }).filter((s) => s.kind === 'oneTimeFile'),
    byDigest: (learnerId: string, digest: string) => byDigest.get({ learnerId, digest }),
    add: (row: typeof source.$inferInsert) => db.insert(source).values(row).run(),
    change: (id: string, values: Partial<SourceRow>) =>
      db.update(source).set(values).where(eq(source.id, id)).run(),
  };
}

/** Gives what readings have changed, and who has seen it. */
function changeStore(db: Db) {
  const p = sql.placeholder;
  const changesOf = db
    .select()
    .from(change)
    .where(eq(change.learnerId, p('learnerId')))
    .orderBy(desc(change.id))
    .limit(300)
    .prepare();
  const changesOfItem = db
    .select()
    .from(change)
    .where(eq(change.itemId, p('itemId')))
    .orderBy(desc(change.id))
    .limit(50)
    .prepare();
  const seeAll = db.$client.prepare(
    `INSERT INTO changes_seen (person_id, learner_id, up_to)
      SELECT @personId, c.learner_id, max(g.id) FROM crew c JOIN change g ON g.learner_id = c.learner_id
      WHERE c.person_id = @personId AND g.at <= @upTo GROUP BY c.learner_id
      ON CONFLICT (person_id, learner_id) DO UPDATE SET up_to = max(up_to, excluded.up_to)`,
  );
  const seenUpTo = db
    .select({ upTo: changesSeen.upTo })
    .from(changesSeen)
    .where(and(eq(changesSeen.personId, p('personId')), eq(changesSeen.learnerId, p('learnerId'))))
    .prepare();
  return {
    addChange: (row: typeof change.$inferInsert) => db.insert(change).values(row).run(),
    changesOfItem: (itemId: string) => changesOfItem.all({ itemId }),
    changesOf: (learnerId: string) => changesOf.all({ learnerId }),
    seenUpTo: (personId: string, learnerId: string) => seenUpTo.get({ personId, learnerId })?.upTo ?? 0,
    /** Marks the changes of all schedules that somebody sees as seen, up to an instant in milliseconds. */
    seeAll: (personId: string, upTo: number): void => void seeAll.run({ personId, upTo }),
    see: (personId: string, learnerId: string, upTo: number) =>
      db
        .insert(changesSeen)
        .values({ personId, learnerId, upTo })
        .onConflictDoUpdate({
          target: [changesSeen.personId, changesSeen.learnerId],
          set: { upTo: sql`max(${changesSeen.upTo}, ${upTo})` },
        })
        .run(),
  };
}

/** Files that wait until it is said what is to be made of them. */
function waitingFileStore(db: Db) {
  const dropOldest = db.$client.prepare<[string, string, number]>(
    `DELETE FROM waiting_file WHERE learner_id = ? AND id NOT IN (SELECT id FROM waiting_file
      WHERE learner_id = ? ORDER BY created_at DESC LIMIT ?)`,
  );
  const waiting = db
    .select()
    .from(waitingFile)
    .where(eq(waitingFile.id, sql.placeholder('id')))
    .prepare();
  return {
    waiting: (id: string) => waiting.get({ id }),
    addWaiting: (row: typeof waitingFile.$inferInsert) => db.insert(waitingFile).values(row).run(),
    removeWaiting: (id: string) => db.delete(waitingFile).where(eq(waitingFile.id, id)).run(),
    /** Lets go of files that have waited too long */
    forgetWaiting: (before: number) => db.delete(waitingFile).where(lt(waitingFile.createdAt, before)).run(),
    /** Lets go of a learner's oldest waiting files beyond so many */
    dropOldestWaiting: (learnerId: string, most: number) => dropOldest.run(learnerId, learnerId, most),
  };
}

/** Items, their dates, and own layers that go along with them. */
function contentStore(db: Db) {
  const p = sql.placeholder;
  // The statements that run for every entry of a feed go to the driver itself: drizzle's mapping would be
  // half their time.
  const sqlite = db.$client;
  const itemsOf = sqlite
    .prepare<[string], HeadRow>(
      'SELECT id, uid, digest, must_reparse, title, gone_at, same_as FROM item WHERE source_id = ?',
    )
    .raw();
  const titlesOf = sqlite.prepare<[string], { title: string; section: string | null }>(
    'SELECT title, section FROM item WHERE source_id = ? AND gone_at IS NULL',
  );
  const moveGone = sqlite.prepare<[string, string, string]>(
    `UPDATE item SET calendar_id = ? WHERE source_id = ? AND calendar_id NOT IN (SELECT value
      FROM json_each(?))`,
  );
  const moveNews = sqlite.prepare<[string]>(
    `UPDATE change SET calendar_id = i.calendar_id FROM item i WHERE i.id = change.item_id
      AND i.source_id = ? AND change.calendar_id <> i.calendar_id`,
  );
  const dropUnmarked = sqlite.prepare<[string]>(
    `DELETE FROM item WHERE source_id = ? AND id NOT IN (SELECT item_id FROM layer UNION SELECT item_id
      FROM person_layer)`,
  );
  const dropUnmarkedDates = sqlite.prepare<
    [string]
  >(`DELETE FROM occurrence WHERE item_id IN (SELECT id FROM item WHERE source_id = ?)
    AND NOT EXISTS (SELECT 1 FROM layer l WHERE l.item_id = occurrence.item_id
      AND l.recurrence_id = occurrence.recurrence_id)
    AND NOT EXISTS (SELECT 1 FROM person_layer l WHERE l.item_id = occurrence.item_id
      AND l.recurrence_id = occurrence.recurrence_id)`);
  const allGone = sqlite.prepare<[number, string]>(
    'UPDATE item SET gone_at = coalesce(gone_at, ?) WHERE source_id = ?',
  );
  const itemByUid = sqlite
    .prepare<[string, string], HeadRow>(
      `SELECT id, uid, digest, must_reparse, title, gone_at, same_as FROM item WHERE source_id = ?
        AND uid = ?`,
    )
    .raw();
  const liveUids = sqlite
    .prepare<[string], string>('SELECT uid FROM item WHERE source_id = ? AND gone_at IS NULL')
    .pluck();
  // As three texts and not as ten thousand rows, which would take twice as long.
  const known = sqlite.prepare<[string], { uids: string | null; digests: string; written: string }>(
    `SELECT group_concat(uid, char(10)) AS uids, json_group_array(digest) AS digests,
      json_group_array(written) AS written
      FROM item WHERE source_id = ? AND gone_at IS NULL AND must_reparse = 0`,
  );
  // By place and not by name: binding names would cost a fifth of the whole.
  const addItem =
    sqlite.prepare(`INSERT INTO item (id, learner_id, calendar_id, source_id, uid, digest, written,
      must_reparse, section, kind, hand_in, doubt, course, title, content, duplicate_key, gone_at, created_at, updated_at)
    VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, NULL, ?, ?)`);
  const changeItem = sqlite.prepare(`UPDATE item
      SET calendar_id = @calendarId, uid = @uid, digest = @digest, written = @written, must_reparse = @mustReparse,
      section = @section, kind = @kind, hand_in = @handIn, doubt = @doubt, course = @course,
    title = @title, content = @content, duplicate_key = @duplicateKey, gone_at = NULL, unmatched = 0,
      updated_at = @updatedAt
      WHERE id = @id`);
  const occurrences = occurrenceWriter(db);
  const rewrite = sqlite.prepare<[number, string, string]>(
    'UPDATE item SET written = ? WHERE source_id = ? AND uid = ?',
  );
  const markGone = sqlite.prepare<[number, string]>('UPDATE item SET gone_at = ? WHERE id = ?');
  const contents = sqlite
    .prepare<[string], string>('SELECT content FROM item WHERE source_id = ? AND gone_at IS NULL')
    .pluck();
  const content = db
    .select({ content: item.content })
    .from(item)
    .where(eq(item.id, p('id')))
    .prepare();
  const occurrencesOf = db
    .select()
    .from(occurrence)
    .where(eq(occurrence.itemId, p('itemId')))
    .orderBy(asc(occurrence.fromMs))
    .prepare();
  const datesBeside = sqlite
    .prepare<{ learnerId: string; sourceId: string }, number>(
      `SELECT (SELECT count(*) FROM occurrence WHERE learner_id = @learnerId)
        - (SELECT count(*) FROM occurrence o JOIN item i ON i.id = o.item_id WHERE i.source_id = @sourceId)`,
    )
    .pluck();
  const stillToCome = db
    .select({ n: countDistinct(item.id) })
    .from(item)
    .innerJoin(occurrence, eq(occurrence.itemId, item.id))
    .where(
      and(
        eq(item.sourceId, p('sourceId')),
        isNull(item.goneAt),
        gte(occurrence.toMs, p('now')),
        ne(occurrence.status, 'cancelled'),
      ),
    )
    .prepare();
  return {
    content: (id: string) => content.get({ id })!.content,
    occurrencesOf: (itemId: string) => occurrencesOf.all({ itemId }),
    /** Counts how many dates a learner has beside those of one source */
    datesBeside: (learnerId: string, sourceId: string) => datesBeside.get({ learnerId, sourceId })!,
    /** Counts how many entries of a source have anything at or after `now` that is not called off */
    stillToCome: (sourceId: string, now: number) => stillToCome.get({ sourceId, now })?.n ?? 0,
    layers: layerCarrier(db),
    /** Titles of live entries, with their parts */
    titlesOf: (sourceId: string) => titlesOf.all(sourceId),
    /** Puts gone items into a calendar that is kept, and news where its item is */
    followCalendars(sourceId: string, calendarId: string, kept: readonly string[]) {
      moveGone.run(calendarId, sourceId, JSON.stringify(kept));
      moveNews.run(sourceId);
    },
    /**
     * Takes away a source's items but for those with an own layer, and of these all dates but the ones it is
     * on
     */
    keepRecords(sourceId: string, now: number) {
      dropUnmarked.run(sourceId);
      dropUnmarkedDates.run(sourceId);
      allGone.run(now, sourceId);
    },
    itemsOf: (sourceId: string): ItemHead[] => itemsOf.all(sourceId).map(headOf),
    duplicates: duplicateStore(db),
    unmatched: unmatchedStore(db),
    doubtful: doubtfulStore(db),
    /** Digests of what need not be read again while its blocks stay the same */
    known(sourceId: string): Pick<KnownBefore, 'uids' | 'digests' | 'written'> {
      const { uids, digests, written } = known.get(sourceId)!;
      const numbers = (text: string) =>
        Float64Array.from(JSON.parse(text) as (number | null)[], (n) => n ?? NaN);
      return { uids: uids ?? '', digests: numbers(digests), written: numbers(written) };
    },
    /** Takes note of how an entry is written that says what it said */
    rewrite: (sourceId: string, uid: string, written: number) => rewrite.run(written, sourceId, uid),
    /** UIDs that are not gone */
    liveUids: (sourceId: string) => liveUids.all(sourceId),
    itemByUid: (sourceId: string, uid: string): ItemHead | undefined => {
      const row = itemByUid.get(sourceId, uid);
      return row && headOf(row);
    },
    /** Gives what a source's items were read as */
    contents: (sourceId: string) => contents.all(sourceId).map(contentFrom),
    /** The same as they are stored: a thread beside this one reads them */
    contentTexts: (sourceId: string) => contents.all(sourceId),
    addItem: (r: WrittenItem, { id: sourceId, learnerId }: Pick<SourceRow, 'id' | 'learnerId'>) =>
      addItem.run(
        r.id,
        learnerId,
        r.calendarId,
        sourceId,
        r.uid,
        r.digest,
        r.written,
        Number(r.mustReparse),
        r.section,
        r.kind,
        r.handIn,
        Number(r.doubt),
        r.course,
        r.title,
        r.content,
        r.duplicateKey,
        r.updatedAt,
        r.updatedAt,
      ),
    changeItem: (row: WrittenItem) =>
      changeItem.run({ ...row, mustReparse: Number(row.mustReparse), doubt: Number(row.doubt) }),
    markGone: (id: string, goneAt: number) => markGone.run(goneAt, id),
    occurrences,
    transaction: <T>(work: () => T): T => db.transaction(work, { behavior: 'immediate' }),
  };
}
