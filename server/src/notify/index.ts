import { withoutMail } from '@zephyrfield/core/notify/settings';
import { lineToday } from '@zephyrfield/core/notify/words';
import { DAY } from '@zephyrfield/core/time/civil';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import { firstName } from '@zephyrfield/core/words/text';
import { viewerOf } from '@zephyrfield/core/words/when';
import { orderedId } from '../db/ids.ts';
import type { Feature } from '../feature.ts';
import type { GatherStore } from '../gather/store.ts';
import { changeView } from '../gather/views.ts';
import type { Ground } from '../ground.ts';
import type { News } from '../hub.ts';
import type { ItemStore } from '../items/store.ts';
import { occurrenceView } from '../items/views.ts';
import { plannedFor } from '../plan/sheet.ts';
import { sittingsAhead } from '../plan/sittings.ts';
import type { PlanStore } from '../plan/store.ts';
import { collector } from './collect.ts';
import type { Recipient } from './recipient.ts';
import { composeNote, composeNotices, composeSheet, type Names, type MailedNote } from './compose.ts';
import { notifyEngine } from './engine.ts';
import { ownersIn } from './owners.ts';
import { postOffice } from './post.ts';
import { mountMailStop, mountNotify } from './routes.ts';
import { notifyService } from './service.ts';
import { sheetMaker, type SheetMaker } from './sheets.ts';
import { notifyStore, type DeliveryRow, type NotifyStore } from './store.ts';

interface Parts {
  items: ItemStore;
  plans: PlanStore;
  gathered: GatherStore;
  notes: {
    /** Says why a note is not to be told to somebody any more; null where it is */
    stillTrue(noteId: number, personId: string): string | null;
    unreadBy(personId: string): ReadonlyMap<string, number>;
    asMail(noteId: number, personId: string): MailedNote | null;
  };
  /** Gives the address by which somebody answers in a thread; null where no mail is taken in */
  replyTo(threadId: string, personId: string): string | null;
  /** Lists the calendars in a schedule that somebody publishes themself: what they bring is no news to them */
  authoredIn(learnerId: string, personId: string): ReadonlySet<string>;
}

const NEWS = { kind: 'fromCrew', itemId: null, recurrenceId: '', calendarId: null, anchor: null } as const;
/** Time news of others is of use, in milliseconds. */
const NEWS_USE = 14 * DAY;

/** Gives what people are told: reminders, sheets and news, in the application, in the browser and by mail. */
export function notifyFeature(ground: Ground, parts: Parts) {
  const { db, clock, mail, people, sights, mayHear, limits, hub, live, restoredAt, changed, log } = ground;
  const { items, plans, notes, authoredIn } = parts;
  const store = notifyStore(db);
  const recipient = recipients(ground, store);
  const sittingsOf = (learnerId: string) => sittingsAhead(plans, learnerId);
  const collecting = collector(store, items, sittingsOf, mayHear, authoredIn, restoredAt);
  const sheets = sheetsOf(ground, store, parts);
  const notify = notifyService({
    store,
    items,
    collector: collecting,
    sittingsOf,
    sheets,
    clock,
    recipient,
    addressOf: people.person,
    mailReady: mail !== null,
    attempts: limits,
    wake: () => void engine.run(),
    noticesChanged: live.tellPerson,
    mayHear,
    noteGone: notes.stillTrue,
    notesUnread: (personId) => [...notes.unreadBy(personId).values()].reduce((sum, n) => sum + n, 0),
    seen: {
      note: (personId, noteId) => hub.tell('noteSeen', personId, noteId),
      all: (personId, upTo) => hub.tell('newsSeen', personId, upTo),
    },
  });
  const stopToken = (personId: string) => `${personId}.${ground.secrets.digest(`mail stop ${personId}`)}`;
  const post = postOffice({
    store,
    transport: mail,
    clock,
    chance: Math.random,
    addressOf: (personId) => {
      const person = people.person(personId);
      return person?.confirmed ? person.email : null;
    },
    write: writing(ground, store, { ...parts, recipient, sheet: notify.sheet }),
    unsubscribe: (personId) => `${ground.base()}/api/mail/stop/${stopToken(personId)}`,
    newId: orderedId,
    host: ground.host,
    log,
  });
  const engine = notifyEngine({
    store,
    collector: collecting,
    sheets,
    clock,
    recipient,
    stillTrue: notify.stillTrue,
    returned: notify.returned,
    post,
    noticesChanged: live.tellPerson,
    mailReady: mail !== null,
    log,
  });
  /** Tells some people, by the ways each has chosen, of something that others have done just now. */
  const tell = (personIds: Iterable<string>, learnerId: string, told: News): void => {
    const now = clock.now();
    const heard = [...new Set(personIds)].filter((personId) => {
      if (!mayHear(personId, { learnerId, ...told })) return false;
      const who = recipient(personId);
      const notification = { ...NEWS, ...told, at: now, useBy: now + NEWS_USE };
      const rows = who ? collecting.rowsOf(learnerId, who, [notification], now) : [];
      return store.transaction(() => rows.filter((row) => store.add(row)).length > 0);
    });
    for (const personId of heard) live.tellPerson(personId);
    if (heard.length) void engine.run();
  };
  hub.on('news', tell);
  hub.on('changesSeen', notify.changesSeen);
  hub.on('threadRead', notify.threadRead);
  hub.on('scheduleChanged', engine.wake);
  hub.on('listenerChanged', store.wakePerson);
  hub.on('addressChanged', () => void engine.run());
  const feature: Feature = {
    mount: (mount) => mountNotify(mount, { notify, store, changed }),
    pages: (app) =>
      mountMailStop(app, {
        // Null where it is none of ours.
        personOf: (token) => (stopToken(token.split('.')[0]!) === token ? token.split('.')[0]! : null),
        stop: notify.stopMail,
      }),
    owners: ownersIn(db),
    start: engine.start,
    stop: engine.stop,
  };
  return { deliveries: store, notify, engine, post, feature };

  /** Makes the sheets of evenings, mornings and weeks. */
  function sheetsOf({ people }: Ground, store: NotifyStore, { items, plans, gathered }: Parts): SheetMaker {
    return sheetMaker({
      store,
      restoredAt,
      learnersOf: people.learnersOf,
      occurrences: (learnerId, personId, from, to) =>
        items.between(learnerId, personId, from, to).map((row) => occurrenceView(row)),
      changes: (learnerId, personId) => {
        const kept = sights(personId, learnerId);
        return gathered
          .changesOf(learnerId)
          .filter((row) => !kept.has(row.calendarId))
          .map((row) => changeView(row, 0));
      },
      plan: (learnerId, personId, at) =>
        plannedFor({ plans, items, sights, settingsOf: people.settings }, learnerId, personId, at),
    });
  }
}

/** Finds who is told: somebody with a schedule, their wishes, and the clock on their wall. */
const recipients =
  ({ people, mail }: Ground, store: NotifyStore) =>
  (personId: string): Recipient | null => {
    const [first] = people.learnersOf(personId);
    if (!first) return null;
    const settings = people.settings(personId);
    const wanted = store.noticeSettings(personId);
    // Nothing goes to an address that nobody has confirmed.
    const noticeSettings = mail && people.person(personId)?.confirmed ? wanted : withoutMail(wanted);
    return {
      personId,
      noticeSettings,
      viewer: viewerOf(ianaZone(settings.zone ?? first.zone) ?? UTC, settings),
    };
  };

/** Makes what writes a mail of some deliveries: a note, a sheet with what goes along, or notices. */
const writing =
  (
    { people, clock, base }: Ground,
    store: NotifyStore,
    {
      notes,
      replyTo,
      recipient,
      sheet,
    }: Pick<Parts, 'notes' | 'replyTo'> & {
      recipient(personId: string): Recipient | null;
      sheet: ReturnType<typeof notifyService>['sheet'];
    },
  ) =>
  (rows: readonly DeliveryRow[], personId: string) => {
    const learners = people.learnersOf(personId);
    const names: Names = {
      learner: (id) =>
        learners.length > 1 ? firstName(learners.find((l) => l.id === id)?.name ?? '') || null : null,
      line: (row) =>
        row.kind === 'dueSoon'
          ? lineToday(row.line, row.anchor, clock.now(), recipient(personId)!.viewer)
          : row.line,
      calendar: (learnerId, id) => store.calendarsOf(learnerId).find((c) => c.id === id)?.name ?? '',
    };
    const [only] = rows;
    const noted = only?.cause === 'note' ? notes.asMail(Number(only.causeId), personId) : null;
    if (noted) return composeNote(noted, base(), replyTo(noted.threadId, personId));
    const latest = rows.findLast((r) => r.sheet);
    if (!latest?.sheet) return composeNotices(rows, names, base());
    const { edition, day } = latest.sheet;
    const others = rows.filter((r) => !r.sheet);
    return composeSheet(sheet(personId, edition, day), others, names, base());
  };
