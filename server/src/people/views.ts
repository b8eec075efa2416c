import type { Session } from '@zephyrfield/core/api/schemas';
import { DEFAULT_SETTINGS } from '@zephyrfield/core/view/settings';
import { schedulesOf } from './see-as.ts';
import type { PeopleStore } from './store.ts';

/**
 * Who is signed in, and whose schedules they see.
 * @param now instant in milliseconds
 * @param ownId who it is, where they look with somebody else’s eyes
 */
export function sessionView(
  people: PeopleStore,
  personId: string | null,
  { now, demo, open, ownId = personId }: { now: number; demo: boolean; open: boolean; ownId?: string | null },
): Session {
  const person = personId ? (people.person(ownId ?? personId) ?? null) : null;
  return {
    person: person && { id: person.id, name: person.name, email: person.email },
    settings: person ? people.settings(person.id) : DEFAULT_SETTINGS,
    learners: personId && person ? schedulesOf(people, personId) : [],
    empty: people.count() === 0,
    open,
    demo,
    now: new Date(now).toISOString(),
  };
}
