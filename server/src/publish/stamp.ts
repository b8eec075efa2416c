import type { Db } from '../db/open.ts';

/**
 * Finds what a calendar's content is known by: another text after anything has changed that its followers see. Worked
 * out from counts and versions, so that it costs next to nothing.
 */
export function stampIn({ $client: sqlite }: Pick<Db, '$client'>): (calendarId: string) => string {
  const find = sqlite
    .prepare<{ id: string }, string>(
      `WITH mine AS (SELECT i.id, i.version, i.gone_at FROM item i JOIN source s ON s.id = i.source_id
          WHERE i.calendar_id = @id AND s.kind = 'handMade')
        SELECT json_array(
          (SELECT json_array(zone, kind, reminders) FROM calendar WHERE id = @id),
          (SELECT max(horizon_to) FROM source WHERE calendar_id = @id AND kind = 'handMade'),
          (SELECT json_array(count(*), sum(version), sum(gone_at IS NULL)) FROM mine),
          (SELECT json_array(count(*), sum(l.version)) FROM layer l JOIN mine ON mine.id = l.item_id
            WHERE l.reminders IS NOT NULL),
          (SELECT json_array(count(*), max(b.updated_at), max(b.text_id), min(b.text_id)) FROM brief b
            JOIN mine ON mine.id = b.item_id),
          (SELECT json_array(count(*), max(f.id), count(f.removed_at)) FROM brief_file f
            JOIN mine ON mine.id = f.item_id WHERE f."of" = 'brief'))`,
    )
    .pluck();
  return (calendarId) => find.get({ id: calendarId })!;
}
