import type { Access, Learner } from '@zephyrfield/core/api/schemas';
import { notAllowed, notFound } from '../http/problem.ts';
import type { PeopleStore } from './store.ts';

const RANK: Record<Access, number> = { look: 0, tick: 1, edit: 2 };
const DEED: Record<Access, string> = { look: 'look at this schedule', tick: 'tick things off in this schedule', edit: 'change this schedule' };

/**
 * The learner, if this person may do that much with their schedule. To somebody who may not even look, the learner
 * does not exist.
 */
export type Admit = (personId: string, learnerId: string, wanted: Access) => Learner;

export function admission(people: PeopleStore): Admit {
  return (personId, learnerId, wanted) => {
    const found = people.learnersOf(personId).find((l) => l.id === learnerId);
    if (!found) throw notFound('schedule');
    if (RANK[found.access] < RANK[wanted]) throw notAllowed(DEED[wanted]);
    return found;
  };
}
