import type { CalendarStore } from '../calendars/store.ts';
import type { CrewStore } from '../crew/store.ts';
import type { Feature } from '../feature.ts';
import type { GatherStore } from '../gather/store.ts';
import type { Ground } from '../ground.ts';
import type { OwnStore } from '../items/own-store.ts';
import type { ItemStore } from '../items/store.ts';
import { meetingWriter } from './meetings.ts';
import { ownersIn } from './owners.ts';
import { replyService } from './replies.ts';
import { mountOpenTimes } from './routes.ts';
import { openTimeService } from './service.ts';
import { openTimeStore } from './store.ts';

interface Parts {
  calendars: CalendarStore;
  gathered: GatherStore;
  items: ItemStore;
  ownRows: OwnStore;
  crews: CrewStore;
  /** Finds the copy of an item in the schedule of who follows its calendar */
  copyIn(learnerId: string, uid: string): string | undefined;
}

/** Open times that are offered and taken, and answers to who asks whether one comes. */
export function openTimesFeature(
  ground: Ground,
  { calendars, gathered, items, ownRows, crews, copyIn }: Parts,
) {
  const { db, clock, people, limits, hub, changed } = ground;
  const store = openTimeStore(db);
  const openTimes = openTimeService({
    store,
    meetings: meetingWriter({ calendars, gathered, own: ownRows }),
    people,
    items,
    attempts: limits,
    clock,
    changed,
    mayTake: crews.editors,
    learnerName: crews.learnerName,
    tell: (personIds, learnerId, { id, ...told }) =>
      // Taken, given back and taken again, each is told.
      hub.tell('news', personIds, learnerId, {
        ...{ cause: 'openTime', causeId: `${id} ${clock.now()}` },
        ...told,
      }),
  });
  const replies = replyService({
    store,
    items,
    crews,
    clock,
    changed,
    mayAnswer: crews.editors,
    copyIn,
    tell: (personIds, learnerId, { id, ...told }) =>
      hub.tell('news', personIds, learnerId, { cause: 'asked', causeId: id, ...told }),
  });
  const feature: Feature = {
    mount: (mount) => mountOpenTimes(mount, openTimes, replies),
    owners: ownersIn(db),
  };
  return { openTimes, feature };
}
