import type { Db } from '../db/open.ts';
import { owning } from '../http/owning.ts';

/** Finds whose the things of this feature are. */
export function ownersIn(db: Db) {
  const { ofLearner } = owning(db);
  return {
    offer: ofLearner('SELECT learner_id FROM offer WHERE id = ?'),
  };
}
