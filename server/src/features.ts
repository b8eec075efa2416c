import { accountsFeature } from './accounts/index.ts';
import { archivesFeature } from './backup/index.ts';
import { briefsFeature } from './briefs/index.ts';
import { briefStore } from './briefs/store.ts';
import { calendarsFeature } from './calendars/index.ts';
import { calendarStore } from './calendars/store.ts';
import { crewFeature } from './crew/index.ts';
import { crewStore } from './crew/store.ts';
import { setBack } from './db/set-back.ts';
import type { Feature } from './feature.ts';
import { gatherFeature } from './gather/index.ts';
import { gatherStore } from './gather/store.ts';
import { changeView } from './gather/views.ts';
import { layGround, type Deps } from './ground.ts';
import { itemsFeature, ownItems } from './items/index.ts';
import { ownStore } from './items/own-store.ts';
import { itemStore } from './items/store.ts';
import { notesFeature } from './notes/index.ts';
import { notifyFeature } from './notify/index.ts';
import { openTimesFeature } from './open-times/index.ts';
import { outFeature } from './out/index.ts';
import { outlineFeature } from './outline/index.ts';
import { planFeature } from './plan/index.ts';
import { planStore } from './plan/store.ts';
import { publishFeature } from './publish/index.ts';
import { publishStore } from './publish/store.ts';
import { tableFeature } from './table/index.ts';

/** Puts the features of the server together, each given what stands before it. Opens nothing and listens to nothing. */
export function makeFeatures(deps: Deps) {
  const ground = layGround(deps);
  const { db } = deps;
  const calendars = calendarStore(db);
  const gathered = gatherStore(db);
  const items = itemStore(db, ground.sights);
  const briefRows = briefStore(db);
  const plans = planStore(db);
  const crews = crewStore(db);
  const published = publishStore(db);
  const ownRows = ownStore(db);

  const gathering = gatherFeature(ground, calendars, gathered);
  const { gather, understanding, removal, turns } = gathering;
  const briefing = briefsFeature(ground, briefRows);
  const { briefs } = briefing;
  const own = ownItems(ground, ownRows, { calendars, briefs: briefRows });
  const crewing = crewFeature(ground, crews, calendars);
  const noting = notesFeature(ground, { crews, calendars, items });
  const { notes, replyTo } = noting;
  const { authoredIn, copyIn, looked } = published;
  const notifying = notifyFeature(ground, { items, plans, gathered, notes, replyTo, authoredIn });
  const publishing = publishFeature(ground, {
    ...{ published, calendars, gathered, gather, removal, turns, items, own, briefRows, crews },
  });
  const timing = openTimesFeature(ground, { calendars, gathered, items, ownRows, crews, copyIn });
  const tabling = tableFeature(ground, {
    ...{ calendars, items, plans, unreadOf: notes.unreadBy, openings: publishing.openings },
  });
  const outlining = outlineFeature(ground, calendars);
  const sharing = outFeature(ground, crewing.crew.note);
  const accounting = accountsFeature(ground, crewing.crew);
  const features: readonly Feature[] = [
    accounting.feature,
    calendarsFeature(ground, calendars, {
      whenChanged: understanding.calendarChanged,
      forget: removal.forget,
    }),
    gathering.feature,
    briefing.feature,
    itemsFeature(ground, {
      ...{ store: items, own, briefs, understanding, notify: notifying.notify },
      lookedAt({ uid, calendarId }, personId) {
        const found = looked({ uid, calendarId, personId });
        return found.of ? found : null;
      },
      historyOf: (id) => gathered.changesOfItem(id).map((row) => changeView(row, 0)),
    }),
    publishing.feature,
    tabling.feature,
    noting.feature,
    timing.feature,
    outlining.feature,
    planFeature(ground, plans, items),
    notifying.feature,
    crewing.feature,
    sharing.feature,
    archivesFeature(ground, { calendars, gather, own, items, briefs, plans }),
  ];
  const { people, sights, limits, live, versions, changed } = ground;
  const services = {
    ...{ people, sights, limits, live, versions, changed },
    ...{ calendars, gathered, items, own, plans, crews, published, notes },
    ...{ ...gathering, ...briefing, ...crewing, ...notifying, ...publishing, ...timing, ...tabling },
    ...{ ...outlining, ...sharing, ...accounting },
    /** After the clock was set back: what was planned under a wrong time is planned anew */
    setBack(now: number): void {
      setBack(db, now, Math.random);
      void notifying.engine.run();
    },
  };
  return { ground, features, services };
}

export type Services = ReturnType<typeof makeFeatures>['services'];
