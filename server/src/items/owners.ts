import type { Db } from '../db/open.ts';
import { owning } from '../http/owning.ts';

/** Finds whose the things of this feature are. */
export function ownersIn(db: Db) {
  const { inCalendars } = owning(db);
  return {
    item: inCalendars(
      'SELECT learner_id AS learnerId, json_array(calendar_id) AS calendars FROM item WHERE id = ?',
    ),
  };
}
