import { suffices } from '@zephyrfield/core/item/access';
import type { BriefStore } from './briefs/store.ts';
import type { CalendarStore } from './calendars/store.ts';
import type { Clock } from './clock.ts';
import type { CrewStore } from './crew/store.ts';
import type { Db } from './db/open.ts';
import type { RemovalService } from './gather/removal.ts';
import type { GatherService } from './gather/service.ts';
import type { GatherStore } from './gather/store.ts';
import { Versions } from './http/replies.ts';
import type { OwnService } from './items/own-service.ts';
import type { OwnStore } from './items/own-store.ts';
import type { ItemStore } from './items/store.ts';
import { noteService, type NoteDeps } from './notes/service.ts';
import { noteStore } from './notes/store.ts';
import type { Notification } from './notify/sitting-reminders.ts';
import { meetingWriter } from './open-times/meetings.ts';
import { replyService } from './open-times/replies.ts';
import { openTimeService } from './open-times/service.ts';
import { openTimeStore } from './open-times/store.ts';
import type { Attempts } from './people/attempts.ts';
import type { Sights } from './people/sights.ts';
import type { PeopleStore } from './people/store.ts';
import type { PlanStore } from './plan/store.ts';
import { publishService } from './publish/service.ts';
import type { Spreading } from './publish/spread.ts';
import type { PublishStore } from './publish/store.ts';
import { tableService } from './table/service.ts';
import { tableStore } from './table/store.ts';

/** What somebody is told that others have done. */
export type Told = Pick<Notification, 'cause' | 'title' | 'line'> & Partial<Notification>;

export interface DeskParts extends Pick<NoteDeps, 'folder' | 'kindOf' | 'refreshed'> {
  db: Db;
  clock: Clock;
  people: PeopleStore;
  calendars: CalendarStore;
  gathered: GatherStore;
  gather: GatherService;
  items: ItemStore;
  own: OwnService;
  ownRows: OwnStore;
  briefs: BriefStore;
  plans: PlanStore;
  crews: CrewStore;
  sights: Sights;
  published: PublishStore;
  removal: RemovalService;
  spread: Spreading;
  attempts: Attempts;
  tell(personIds: Iterable<string>, learnerId: string, told: Told): void;
  changed(learnerId: string): void;
  versionOf(learnerId: string): string | number;
}

/** What people around several learners share: notes, open times, calendars for others, the table. */
export function makeDesk(parts: DeskParts) {
  const { db, clock, people, calendars, gathered, gather, items, own, ownRows, briefs, plans } = parts;
  const { crews, sights, published, removal, spread, folder, attempts, kindOf, tell, changed } = parts;
  const { versionOf, refreshed } = parts;
  const notes = noteService({
    store: noteStore(db),
    people,
    crews,
    calendars,
    items,
    sights,
    folder,
    attempts,
    clock,
    kindOf,
    tell: (personIds, learnerId, { noteId, threadId, itemId, by, words }) =>
      tell(personIds, learnerId, {
        cause: 'note',
        causeId: String(noteId),
        itemId,
        title: `${by} wrote`,
        line: words,
        leads: `/notes?thread=${threadId}`,
      }),
    refreshed,
  });
  const timeRows = openTimeStore(db);
  const mayEdit = (learnerId: string) =>
    crews
      .members(learnerId)
      .filter((m) => suffices(m.access, 'edit'))
      .map((m) => m.personId);
  const openTimes = openTimeService({
    store: timeRows,
    meetings: meetingWriter({ calendars, gathered, own: ownRows }),
    people,
    items,
    attempts,
    clock,
    changed,
    mayTake: mayEdit,
    learnerName: crews.learnerName,
    tell: (personIds, learnerId, { id, ...told }) =>
      // Taken, given back and taken again, each is told.
      tell(personIds, learnerId, { cause: 'openTime', causeId: `${id} ${clock.now()}`, ...told }),
  });
  const replies = replyService({
    store: timeRows,
    items,
    crews,
    clock,
    changed,
    mayAnswer: mayEdit,
    copyIn: (learnerId, uid) => published.copyIn(learnerId, uid),
    tell: (personIds, learnerId, { id, ...told }) =>
      tell(personIds, learnerId, { cause: 'asked', causeId: id, ...told }),
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
    opened: (learnerId) => openings.changed(learnerId),
    offered({ id, learnerId, by, calendar }) {
      // Whoever may answer is told.
      const may = crews
        .members(learnerId)
        .filter((m) => suffices(m.access, 'edit') && m.personId !== by.personId);
      tell(
        may.map((m) => m.personId),
        learnerId,
        {
          cause: 'offer',
          causeId: id,
          title: `${by.name} offers a calendar`,
          line: `${calendar}. Take it in, or say no.`,
          leads: '/gather',
        },
      );
    },
  });
  const table = tableService({
    store: tableStore(db),
    people,
    calendars,
    items,
    plans,
    sights,
    clock,
    versionOf: (learnerId) => `${versionOf(learnerId)} ${openings.of(learnerId)}`,
    unreadOf: notes.unreadBy,
  });

  return { notes, openTimes, replies, publish, openings, table };
}
