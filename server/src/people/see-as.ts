import type { Learner } from '@zephyrfield/core/api/schemas';
import { seenBy } from '../http/eyes.ts';
import type { PeopleStore } from './store.ts';

/** Lists the schedules that somebody sees; with another's eyes, the one that is looked at. */
export function schedulesOf(people: PeopleStore, personId: string): Learner[] {
  const seen = seenBy(personId);
  if (!seen) return people.learnersOf(personId);
  return people
    .learnersOf(seen.memberId)
    .filter((l) => l.id === seen.learnerId)
    .map((l) => ({ ...l, access: 'look', isSelf: false }));
}
