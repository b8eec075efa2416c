import type { Db } from '../db/open.ts';
import { owning } from '../http/owning.ts';

/** Finds whose the things of this feature are. */
export function ownersIn(db: Db) {
  const { ofLearner, ofPerson } = owning(db);
  return {
    learner: ofLearner('SELECT id FROM learner WHERE id = ?'),
    passkey: ofPerson('SELECT user_id FROM passkey WHERE id = ?'),
    session: ofPerson('SELECT user_id FROM session WHERE id = ?'),
  };
}
