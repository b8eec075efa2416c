import type { EntryOccurrence } from '@zephyrfield/core/gather/entries';
import { whenText } from '@zephyrfield/core/time/when';
import type { Db } from './open.ts';
import type { item } from './schema.ts';

type Item = Pick<typeof item.$inferSelect, 'id' | 'learnerId' | 'calendarId'>;

/**
 * Writes an item's dates, in place of those that stood there. Thousands come at once: the driver itself, with
 * values by place and not by name, takes a third of the time.
 */
export function occurrenceWriter({ $client: sqlite }: Db) {
  const clear = sqlite.prepare<[string]>('DELETE FROM occurrence WHERE item_id = ?');
  const add = sqlite.prepare(
    `INSERT OR IGNORE INTO occurrence (item_id, recurrence_id, learner_id, calendar_id, title, place,
      status, kind, hand_in,
      start, "end", due, from_ms, to_ms, duplicate, own, done_in_course, endless, closes)
      VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
  );
  return {
    clear: (itemId: string) => clear.run(itemId),
    /**
     * @param duplicate whether the item is shown as part of another one
     * @param own whether it is made by hand
     */
    put(
      { id, learnerId, calendarId }: Item,
      dates: readonly EntryOccurrence[],
      { duplicate, own }: { duplicate: boolean; own: boolean },
    ): void {
      clear.run(id);
      const flags = [Number(duplicate), Number(own)];
      for (const o of dates) {
        const [start, end, due] = [whenText(o.start), o.end && whenText(o.end), o.due && whenText(o.due)];
        const what = [o.title, o.place, o.status, o.kind, o.handIn];
        const when = [start, end, due, o.from, o.to];
        const says = [Number(o.doneInCourse), Number(o.endless), o.closes && whenText(o.closes)];
        add.run(id, o.recurrenceId, learnerId, calendarId, ...what, ...when, ...flags, ...says);
      }
    },
  };
}
export type OccurrenceWriter = ReturnType<typeof occurrenceWriter>;
