import { paths } from '@zephyrfield/core/api/paths';
import type { CalendarStore } from '../calendars/store.ts';
import type { Feature } from '../feature.ts';
import type { Ground } from '../ground.ts';
import { composeInvitation } from '../accounts/mails.ts';
import { ownersIn } from './owners.ts';
import { mountCrew } from './routes.ts';
import { crewService } from './service.ts';
import type { CrewStore } from './store.ts';

/** Crews: who is in them, what each may do, invitations, and which calendars are for whom. */
export function crewFeature(ground: Ground, store: CrewStore, calendars: CalendarStore) {
  const { db, clock, people, sights, limits, hub, changed, base, sendOne } = ground;
  const crew = crewService({
    store,
    people,
    attempts: limits,
    clock,
    sendInvitation: sendOne && ((to, secret, about) => sendOne(to, composeInvitation(secret, about, base()))),
    changed,
    accessChanged: (personId) => hub.tell('accessChanged', personId),
    tell: (personIds, learnerId, { id, ...told }) =>
      hub.tell('news', personIds, learnerId, { cause: 'crew', causeId: id, leads: '/crew', ...told }),
  });
  const feature: Feature = {
    mount: (mount) => mountCrew(mount, { crew, store, calendars, sights, clock }),
    owners: ownersIn(db),
    guessable: [paths.lookAtInvitation, paths.acceptInvitation],
    hourly: [crew.tidy],
  };
  return { crew, feature };
}
