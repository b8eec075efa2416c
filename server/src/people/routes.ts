import { randomUUID } from 'node:crypto';
import { routes } from '@zephyrfield/core/api/routes';
import type { Session } from '@zephyrfield/core/api/schemas';
import type { Clock } from '../clock.ts';
import type { Mount } from '../http/mount.ts';
import type { PeopleStore } from './store.ts';

export function sessionView(people: PeopleStore, clock: Clock, demo: boolean, personId: string | null): Session {
  const person = personId ? (people.person(personId) ?? null) : null;
  return {
    person,
    learners: person ? people.learnersOf(person.id) : [],
    empty: people.count() === 0,
    demo,
    now: new Date(clock.now()).toISOString(),
  };
}

export function mountPeople(mount: Mount, people: PeopleStore, clock: Clock, demo: boolean): void {
  mount.open(routes.session, ({ caller }) => sessionView(people, clock, demo, caller?.personId ?? null));
  mount(routes.addLearner, ({ caller, body }) => {
    const id = randomUUID();
    people.transaction(() => {
      people.addLearner({ id, ...body, createdAt: clock.now() });
      people.join({ personId: caller.personId, learnerId: id, access: 'edit' });
    });
    return { id, ...body, access: 'edit' as const };
  });
}
