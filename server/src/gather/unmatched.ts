import type { Db } from '../db/open.ts';

/** Number of entries that are offered for one that was lost. */
const MOST_OFFERED = 100;

export interface LostItem {
  id: string;
  sourceId: string;
  calendarId: string;
  title: string;
}

/**
 * Entries that left their feed with something people had added to them, while new ones came: a person may say which
 * of the new ones each of them is.
 */
export function unmatchedStore({ $client: sqlite }: Db) {
  const lost = sqlite.prepare<[string], LostItem>(`
    SELECT id, source_id AS sourceId, calendar_id AS calendarId, title FROM item
    WHERE learner_id = ? AND unmatched AND gone_at IS NOT NULL ORDER BY id`);
  const offered = sqlite.prepare<[string, number], { id: string; title: string; when: string }>(`
    SELECT i.id, i.title, coalesce(o.due, o.start) AS "when", min(o.from_ms) AS first FROM item i
    JOIN occurrence o ON o.item_id = i.id
    WHERE i.source_id = ? AND i.gone_at IS NULL
      AND NOT EXISTS (SELECT 1 FROM layer WHERE item_id = i.id)
      AND NOT EXISTS (SELECT 1 FROM person_layer WHERE item_id = i.id)
    GROUP BY i.id ORDER BY first LIMIT ?`);
  const setUnmatched = sqlite.prepare<[number, string]>('UPDATE item SET unmatched = ? WHERE id = ?');
  // What its feed says of an item: all but its identity, on which hangs what people have added.
  const FROM_FEED = [
    'uid',
    'calendar_id',
    'digest',
    'written',
    'must_reparse',
    'section',
    'duplicate_key',
    'kind',
    'hand_in',
    'doubt',
    'course',
    'title',
    'content',
    'version',
    'gone_at',
    'unmatched',
  ];
  const read = sqlite.prepare<[string], Record<string, unknown>>(
    `SELECT ${FROM_FEED.join(', ')} FROM item WHERE id = ?`,
  );
  const write = sqlite.prepare<Record<string, unknown>>(
    `UPDATE item SET ${FROM_FEED.map((name) => `${name} = @${name}`).join(', ')}, same_as = NULL WHERE id = @id`,
  );
  const setUid = sqlite.prepare<[string, string]>('UPDATE item SET uid = ? WHERE id = ?');
  const moveDates = sqlite.prepare<[string, string]>('UPDATE occurrence SET item_id = ? WHERE item_id = ?');
  const moveParts = sqlite.prepare<[string, string]>('UPDATE item SET same_as = ? WHERE same_as = ?');
  const head = sqlite.prepare<[string], { sourceId: string; goneAt: number | null }>(
    'SELECT source_id AS sourceId, gone_at AS goneAt FROM item WHERE id = ?',
  );
  return {
    head: (id: string) => head.get(id)!,
    lost: (learnerId: string) => lost.all(learnerId),
    /** Entries of a source that nobody has added anything to, by date */
    offered: (sourceId: string) => offered.all(sourceId, MOST_OFFERED),
    setUnmatched: (id: string, is: boolean) => setUnmatched.run(Number(is), id),
    /**
     * Has two items of one source, one of them gone, change places in their feed: each keeps its identity, and with
     * it all that people have added. Done twice, all is as before. To be called inside a transaction.
     */
    swap(a: string, b: string): void {
      const [one, other] = [read.get(a)!, read.get(b)!];
      // A UID stands once in its source, also on the way.
      setUid.run(`>${a}`, a);
      write.run({ ...one, id: b });
      write.run({ ...other, id: a });
      // One of them is gone and has no dates; the others' are taken along.
      const [live, gone] = one['gone_at'] === null ? [a, b] : [b, a];
      moveDates.run(gone, live);
      moveParts.run(gone, live);
    },
  };
}
export type UnmatchedStore = ReturnType<typeof unmatchedStore>;
