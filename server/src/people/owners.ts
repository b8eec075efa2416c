import type { Db } from '../db/open.ts';
import type { Owner, Owners } from './access.ts';

/** Finds whose each thing is that a request may name. */
export function ownersIn({ $client: sqlite }: Db): Owners {
  const ofLearner = (sql: string) => {
    const find = sqlite.prepare<[string], string>(sql).pluck();
    return (id: string): Owner | undefined => {
      const learnerId = find.get(id);
      return learnerId === undefined ? undefined : { learnerId };
    };
  };
  const ofPerson = (sql: string) => {
    const find = sqlite.prepare<[string], string>(sql).pluck();
    return (id: string): Owner | undefined => {
      const personId = find.get(id);
      return personId === undefined ? undefined : { personId };
    };
  };
  return {
    learner: ofLearner('SELECT id FROM learner WHERE id = ?'),
    calendar: ofLearner('SELECT learner_id FROM calendar WHERE id = ?'),
    // What is made by hand has a source as well, which nobody has to do with; one that is followed no more is
    // only kept.
    source: ofLearner(
      "SELECT learner_id FROM source WHERE id = ? AND removed_at IS NULL AND kind <> 'handMade'",
    ),
    waitingFile: ofLearner('SELECT learner_id FROM waiting_file WHERE id = ?'),
    item: ofLearner('SELECT learner_id FROM item WHERE id = ?'),
    briefFile: ofLearner('SELECT learner_id FROM brief_file WHERE id = ?'),
    briefText: ofLearner('SELECT learner_id FROM brief_text WHERE id = ?'),
    keptBrief: ofPerson('SELECT person_id FROM kept_brief WHERE id = ?'),
    notice: ofPerson('SELECT person_id FROM delivery WHERE id = CAST(? AS INTEGER)'),
  };
}
