import type { CalendarStore } from '../calendars/store.ts';
import type { CrewStore } from '../crew/store.ts';
import type { Feature } from '../feature.ts';
import type { RemovalService } from '../gather/removal.ts';
import type { GatherService } from '../gather/service.ts';
import type { GatherStore } from '../gather/store.ts';
import type { Turns } from '../gather/turns.ts';
import type { Ground } from '../ground.ts';
import { Versions } from '../http/replies.ts';
import type { OwnService } from '../items/own-service.ts';
import type { ItemStore } from '../items/store.ts';
import type { BriefStore } from '../briefs/store.ts';
import { ownersIn } from './owners.ts';
import { mountPublish } from './routes.ts';
import { publishService } from './service.ts';
import { spreading } from './spread.ts';
import type { PublishStore } from './store.ts';

interface Parts {
  published: PublishStore;
  calendars: CalendarStore;
  gathered: GatherStore;
  gather: GatherService;
  removal: RemovalService;
  turns: Turns;
  items: ItemStore;
  own: OwnService;
  briefRows: BriefStore;
  crews: CrewStore;
}

/** Calendars that one schedule offers to others, and their followers. */
export function publishFeature(ground: Ground, parts: Parts) {
  const { db, clock, pool, people, sights, hub, changed, log } = ground;
  const {
    published,
    calendars,
    gathered,
    gather,
    removal,
    turns,
    items,
    own,
    briefRows: briefs,
    crews,
  } = parts;
  const spread = spreading({
    store: published,
    gathered,
    calendars,
    briefs,
    pool,
    turns,
    clock,
    file: db.$client.name,
    changed,
    log,
  });
  hub.on('scheduleChanged', spread.wake);
  hub.on('calendarLeft', (calendarId, learnerId) => {
    const offered = published.offersOf(calendarId).find((o) => o.learnerId === learnerId);
    if (offered) published.setOffer(offered.id, 'declined');
  });
  // What was opened changes nothing that anybody else is shown: it counts for the table alone.
  const openings = new Versions();
  const publish = publishService({
    store: published,
    calendars,
    gathered,
    items,
    own,
    briefs,
    people,
    removal,
    refuseTooMany: gather.refuseTooMany,
    spread,
    sights,
    clock,
    changed,
    opened: openings.changed,
    offered: ({ id, learnerId, by, calendar }) =>
      // Whoever may answer is told.
      hub.tell(
        'news',
        crews.editors(learnerId).filter((personId) => personId !== by.personId),
        learnerId,
        {
          cause: 'offer',
          causeId: id,
          title: `${by.name} offers a calendar`,
          line: `${calendar}. Take it in, or say no.`,
          leads: '/gather',
        },
      ),
  });
  const feature: Feature = {
    mount: (mount) => mountPublish(mount, publish),
    owners: ownersIn(db),
    daily: [
      // What a stop has cut off, and what has come into the horizon.
      ['bringing calendars to their followers', spread.all],
      ['tidying', () => published.orphans().forEach(removal.remove)],
    ],
  };
  return { publish, spread, openings, feature };
}
