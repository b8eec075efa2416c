import { routes } from '@zephyrfield/core/api/routes';
import { may } from '@zephyrfield/core/item/access';
import type { CalendarStore } from '../calendars/store.ts';
import { calendarView } from '../calendars/views.ts';
import type { Clock } from '../clock.ts';
import type { Mount } from '../http/mount.ts';
import { standingOf } from '../people/access.ts';
import type { Sights } from '../people/sights.ts';
import type { CrewService } from './service.ts';
import type { CrewStore } from './store.ts';
import { crewView } from './views.ts';

const ok = { ok: true as const };

export interface CrewRoutes {
  crew: CrewService;
  store: CrewStore;
  calendars: CalendarStore;
  sights: Sights;
  clock: Clock;
}

export function mountCrew(mount: Mount, { crew, store, calendars, sights, clock }: CrewRoutes): void {
  mount(routes.crew, ({ caller, learner }) => {
    const kept = sights(caller.personId, learner.id);
    const all = calendars.ofLearner(learner.id).map(({ id }) => id);
    return crewView(store, learner.id, {
      isKeeper: may(standingOf(caller.personId, learner), 'keep'),
      seen: new Set(all.filter((id) => !kept.has(id))),
      now: clock.now(),
    });
  });
  mount(routes.changeMember, ({ caller, params, body }) => {
    crew.change(params.id, body, caller.personId);
    return ok;
  });
  mount(routes.removeMember, ({ caller, learner, params }) => {
    crew.remove(params.id, { personId: caller.personId, learner });
    return ok;
  });
  mount(routes.invite, async ({ caller, body }) => ({ secret: await crew.invite(body, caller.personId) }));
  mount(routes.takeBackInvitation, ({ caller, params }) => {
    crew.takeBack(params.id, caller.personId);
    return ok;
  });
  mount.open(routes.lookAtInvitation, ({ caller, body, req }) =>
    crew.look(body.secret, req.ip ?? '', caller?.personId ?? null),
  );
  mount(routes.acceptInvitation, async ({ caller, body, req }) => ({
    learnerIds: await crew.accept(body.secret, caller.personId, req.ip ?? ''),
  }));
  mount(routes.changeAudience, ({ caller, learner, params, body }) => {
    const { personId } = caller;
    crew.keepFrom(calendars.byId(params.id)!, body.audience, { personId, learner });
    return calendarView(calendars.byId(params.id)!, calendars.handMade(learner.id).has(params.id));
  });
}
