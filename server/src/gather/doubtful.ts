import type { ItemKind } from '@zephyrfield/core/item/kind';
import type { Db } from '../db/open.ts';

export interface DoubtfulItem {
  id: string;
  sourceId: string;
  section: string | null;
  calendarId: string;
  title: string;
  kind: ItemKind;
  /** Its next date, as JSON */
  when: string;
}

/** Reads which entries may be due or not, as far as their feeds tell. */
export function doubtfulStore({ $client: sqlite }: Db) {
  const doubtful = sqlite.prepare<{ learner: string; from: number; most: number }, DoubtfulItem>(`
    SELECT i.id, i.source_id AS sourceId, i.section, i.calendar_id AS calendarId, i.title, i.kind,
      coalesce(o.due, o.start) AS "when", min(o.from_ms) AS first
    FROM item i JOIN occurrence o ON o.item_id = i.id
    WHERE i.learner_id = @learner AND i.doubt AND i.gone_at IS NULL AND i.same_as IS NULL AND o.to_ms > @from
    GROUP BY i.id ORDER BY first LIMIT @most`);
  return {
    /** Those with a date that ends after a moment, the soonest first */
    since: (learner: string, from: number, most: number) => doubtful.all({ learner, from, most }),
  };
}
