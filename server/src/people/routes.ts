import { randomUUID } from 'node:crypto';
import { routes } from '@zephyrfield/core/api/routes';
import type { Session } from '@zephyrfield/core/api/schemas';
import type { Clock } from '../clock.ts';
import type { Mount } from '../http/mount.ts';
import { refuseUnlessOver } from '../http/problem.ts';
import { DEFAULT_SETTINGS } from '@zephyrfield/core/view/settings';
import type { Admit } from './access.ts';
import type { PeopleStore } from './store.ts';

export function sessionView(people: PeopleStore, clock: Clock, demo: boolean, personId: string | null): Session {
  const person = personId ? (people.person(personId) ?? null) : null;
  return {
    person,
    settings: person ? people.settings(person.id) : DEFAULT_SETTINGS,
    learners: person ? people.learnersOf(person.id) : [],
    empty: people.count() === 0,
    demo,
    now: new Date(clock.now()).toISOString(),
  };
}

export interface PeopleParts {
  people: PeopleStore;
  clock: Clock;
  demo: boolean;
  admit: Admit;
  /** Called after something of a learner's schedule has changed */
  changed(learnerId: string): void;
  /** Called after somebody has changed how they look at things: their clock may be another one */
  settingsChanged(personId: string): void;
}

export function mountPeople(mount: Mount, { people, clock, demo, admit, changed, settingsChanged }: PeopleParts): void {
  mount.open(routes.session, ({ caller }) => sessionView(people, clock, demo, caller?.personId ?? null));
  mount(routes.addLearner, ({ caller, body }) => {
    const id = randomUUID();
    people.transaction(() => {
      people.addLearner({ id, ...body, createdAt: clock.now() });
      people.join({ personId: caller.personId, learnerId: id, access: 'edit' });
    });
    return { id, ...body, access: 'edit' as const, term: null, reminders: null };
  });
  mount(routes.changeSettings, ({ caller, body }) => {
    people.saveSettings(caller.personId, body);
    settingsChanged(caller.personId);
    return body;
  });
  mount(routes.changeTerm, ({ caller, params, body }) => {
    admit(caller.personId, params.learnerId, 'edit');
    people.transaction(() => {
      refuseUnlessOver(people.termOf(params.learnerId), body.over);
      people.saveTerm(params.learnerId, body.term);
    });
    changed(params.learnerId);
    return { ok: true as const };
  });
}
