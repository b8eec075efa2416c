import type { Learner } from '@zephyrfield/core/api/schemas';
import type { PeopleStore } from './store.ts';

/**
 * Somebody who looks at one schedule with another's eyes: what is kept from that person is kept from them, they may
 * only look, and of what that person has for themselves (notes, what they have hidden) they see nothing. Such a name
 * is nobody's id.
 */
const AS = 'as ';
export const withEyesOf = (personId: string, learnerId: string): string => `${AS}${learnerId} ${personId}`;

/** Whose rights count for who looks. */
export const whoseEyes = (personId: string): string =>
  personId.startsWith(AS) ? personId.slice(personId.lastIndexOf(' ') + 1) : personId;

/** The schedules that somebody sees; with another's eyes the one that is looked at. */
export function schedulesOf(people: PeopleStore, personId: string): Learner[] {
  if (!personId.startsWith(AS)) return people.learnersOf(personId);
  const [, learnerId] = personId.split(' ');
  return people
    .learnersOf(whoseEyes(personId))
    .filter((l) => l.id === learnerId)
    .map((l) => ({ ...l, access: 'look', isSelf: false }));
}
