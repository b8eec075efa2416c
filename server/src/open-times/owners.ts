import type { Db } from '../db/open.ts';
import { owning } from '../http/owning.ts';

/** Finds whose the things of this feature are. */
export function ownersIn(db: Db) {
  const { ofPerson, inAny } = owning(db);
  return {
    openTime: ofPerson('SELECT person_id FROM open_time WHERE id = ?'),
    openSlot: inAny(
      `SELECT json_group_array(id) FROM (SELECT f.learner_id AS id FROM open_slot s
          JOIN open_time_for f ON f.open_time_id = s.open_time_id WHERE s.id = @id
        UNION SELECT t.learner_id FROM open_slot s JOIN open_time t ON t.id = s.open_time_id WHERE s.id = @id)`,
    ),
    booking: inAny(
      `SELECT json_array(b.learner_id, t.learner_id) FROM booking b JOIN open_slot s ON s.id = b.slot_id
        JOIN open_time t ON t.id = s.open_time_id WHERE b.id = @id`,
    ),
  };
}
