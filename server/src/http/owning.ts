import type { Db } from '../db/open.ts';
import type { Owner } from './admit.ts';

type Find = (id: string) => Owner | undefined;

/** Makes finders of whose a row is, each from a query that takes its id. */
export function owning({ $client: sqlite }: Db) {
  return {
    /** @param sql gives the learner */
    ofLearner(sql: string): Find {
      const find = sqlite.prepare<[string], string>(sql).pluck();
      return (id) => {
        const learnerId = find.get(id);
        return learnerId === undefined ? undefined : { learnerId, calendarIds: [] };
      };
    },
    /**
     * For what is in calendars: whoever one of them is kept from has nothing to do with it.
     * @param sql gives `learnerId` and `calendars`, a JSON list
     */
    inCalendars(sql: string): Find {
      const find = sqlite.prepare<[string], { learnerId: string; calendars: string }>(sql);
      return (id) => {
        const found = find.get(id);
        return found && { learnerId: found.learnerId, calendarIds: JSON.parse(found.calendars) as string[] };
      };
    },
    /** @param sql gives the person */
    ofPerson(sql: string): Find {
      const find = sqlite.prepare<[string], string>(sql).pluck();
      return (id) => {
        const personId = find.get(id);
        return personId === undefined ? undefined : { personId };
      };
    },
    /**
     * For what has to do with several schedules.
     * @param sql gives a JSON list of learners, of the id `@id`
     */
    inAny(sql: string): Find {
      const find = sqlite.prepare<{ id: string }, string>(sql).pluck();
      return (id) => {
        const found = find.get({ id });
        return found === undefined ? undefined : { anyOf: JSON.parse(found) as string[] };
      };
    },
  };
}
