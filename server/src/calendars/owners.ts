import type { Db } from '../db/open.ts';
import { owning } from '../http/owning.ts';

/** Finds whose the things of this feature are. */
export function ownersIn(db: Db) {
  const { inCalendars } = owning(db);
  return {
    calendar: inCalendars(
      'SELECT learner_id AS learnerId, json_array(id) AS calendars FROM calendar WHERE id = ?',
    ),
  };
}
