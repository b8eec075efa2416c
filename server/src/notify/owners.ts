import type { Db } from '../db/open.ts';
import { owning } from '../http/owning.ts';

/** Finds whose the things of this feature are. */
export function ownersIn(db: Db) {
  const { ofPerson } = owning(db);
  return {
    notice: ofPerson('SELECT person_id FROM delivery WHERE id = CAST(? AS INTEGER)'),
  };
}
