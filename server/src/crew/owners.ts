import type { Db } from '../db/open.ts';
import { owning } from '../http/owning.ts';

/** Finds whose the things of this feature are. */
export function ownersIn(db: Db) {
  const { ofLearner } = owning(db);
  return {
    member: ofLearner('SELECT learner_id FROM crew WHERE id = ?'),
    invitation: ofLearner('SELECT learner_id FROM invitation_to WHERE id = ?'),
  };
}
