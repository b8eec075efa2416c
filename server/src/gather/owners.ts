import type { Db } from '../db/open.ts';
import { owning } from '../http/owning.ts';

/** Finds whose the things of this feature are. */
export function ownersIn(db: Db) {
  const { ofLearner, inCalendars } = owning(db);
  return {
    // What is made by hand has a source as well, which nobody has to do with; one that is followed no more is
    // only kept.
    source: inCalendars(
      `SELECT learner_id AS learnerId, (SELECT json_group_array(value) FROM (SELECT calendar_id AS value UNION
        SELECT value FROM json_each(sections))) AS calendars
      FROM source WHERE id = ? AND removed_at IS NULL AND kind <> 'handMade'`,
    ),
    waitingFile: ofLearner('SELECT learner_id FROM waiting_file WHERE id = ?'),
  };
}
