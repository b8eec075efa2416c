import type { Db } from '../db/open.ts';
import { owning } from '../http/owning.ts';

/** Finds whose the things of this feature are. */
export function ownersIn(db: Db) {
  const { inCalendars, ofPerson } = owning(db);
  return {
    briefFile: inCalendars(
      `SELECT f.learner_id AS learnerId, json_array(i.calendar_id) AS calendars
        FROM brief_file f JOIN item i ON i.id = f.item_id WHERE f.id = ?`,
    ),
    briefText: inCalendars(
      `SELECT t.learner_id AS learnerId, (SELECT json_group_array(i.calendar_id) FROM brief b
        JOIN item i ON i.id = b.item_id WHERE b.text_id = t.id) AS calendars FROM brief_text t WHERE t.id = ?`,
    ),
    keptBrief: ofPerson('SELECT person_id FROM kept_brief WHERE id = ?'),
  };
}
