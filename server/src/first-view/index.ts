import { routes } from '@zephyrfield/core/api/routes';
import { DAY } from '@zephyrfield/core/time/civil';
import { between } from '@zephyrfield/core/view/near';
import type { CalendarStore } from '../calendars/store.ts';
import { calendarsOf } from '../calendars/views.ts';
import type { Ground } from '../ground.ts';
import type { Authenticate } from '../http/caller.ts';
import { keyOfReply, type Replies } from '../http/replies.ts';
import type { ItemStore } from '../items/store.ts';
import { occurrencesBetween } from '../items/views.ts';
import { sessionView } from '../people/views.ts';
import type { PlanStore } from '../plan/store.ts';
import { planView } from '../plan/views.ts';
import { firstView } from './first-view.ts';
import { DRAW } from './jobs.ts';

interface Parts {
  ground: Ground;
  calendars: CalendarStore;
  items: ItemStore;
  plans: PlanStore;
  authenticate: Authenticate;
  replies: Replies;
  versions: { of(learnerId: string): number; hasOwn(personId: string, learnerId: string): boolean };
  /** Longest time a page waits for its drawing, in milliseconds; as usual without it */
  patience?: number;
}

/** Draws Today into the page, from the very replies that its scripts ask for next. */
export function drawnToday(web: string, { ground, calendars, items, plans, versions, ...parts }: Parts) {
  const { config, clock, people, sights, limits, pool, isDemo, log } = ground;
  const { authenticate, replies, patience } = parts;
  return firstView({
    web,
    authenticate,
    draw: (job, owner) => pool.run(DRAW, job, owner),
    mayDraw: (personId) =>
      limits.take('draw', personId).then(
        () => true,
        () => false,
      ),
    session: (personId) =>
      sessionView(people, personId, { now: clock.now(), demo: isDemo, open: config.OPEN_SIGN_UP }),
    calendars: (id, personId) => calendarsOf(calendars, id, sights(personId, id)),
    plan: (id, personId) => planView(plans, id, sights(personId, id)),
    occurrences(learnerId, personId, first, last) {
      const who = versions.hasOwn(personId, learnerId) ? personId : '';
      const key = keyOfReply(
        routes.occurrences.path,
        learnerId,
        versions.of(learnerId),
        who,
        { learnerId },
        between(first, last),
      );
      return replies.text(key, () => occurrencesBetween(items, learnerId, personId, first * DAY, last * DAY));
    },
    versionOf: versions.of,
    ...(patience === undefined ? {} : { patience }),
    log,
  });
}
