import { isWork } from '@zephyrfield/core/item/kind';
import { isFinished } from '@zephyrfield/core/item/layer';
import type { Alarm } from '@zephyrfield/core/ical/feed-item';
import { changeNotice, handedInWords, reminderWords } from '@zephyrfield/core/notify/words';
import { PAST_DUE_REACH, momentsBetween, momentsOf, type DueMoment } from '@zephyrfield/core/notify/moments';
import {
  DEFAULT_REMINDERS,
  leadOf,
  rulesFor,
  type RemindRule,
  type RemindSet,
} from '@zephyrfield/core/notify/rules';
import { afterQuiet, channelsFor, type NoticeKind, type Channel } from '@zephyrfield/core/notify/settings';
import { DAY, HOUR, MINUTE } from '@zephyrfield/core/time/civil';
import { instantIn, recurrenceIdOf } from '@zephyrfield/core/time/when';
import { firstName, plural } from '@zephyrfield/core/words/text';
import { today, type Viewer } from '@zephyrfield/core/words/when';
import type { MayHear } from '../people/hearing.ts';
import type { SittingAhead } from '../plan/sittings.ts';
import { goesAlong, mailedAt, reachOfMail, type MailDay } from './mail-times.ts';
import type { Recipient } from './recipient.ts';
import { sittingReminders, type Notification } from './sitting-reminders.ts';
import type { ItemStore } from '../items/store.ts';
import type { OccurrenceRow } from '../items/rows.ts';
import { changeView } from '../gather/views.ts';
import type { ChangeRow, NewDelivery, NotifyStore, Unit } from './store.ts';

type Calendar = ReturnType<NotifyStore['calendarsOf']>[number];

/** From when on something counts as late; and so many late ones are one. */
const LATE = 10 * MINUTE;
const MANY_LATE = 3;
/** So many changes of a kind in one calendar, in one reading, are one. */
const MANY_CHANGES = 3;
const CHANGE_USE = 2 * DAY;
/** A unit without anything ahead is looked at again after so long, since what is stored reaches on. */
const LOOK_AGAIN = 12 * HOUR;
/**
 * A rule reaches 60 days ahead at most; what a feed’s alarm says beyond that is left out, and beyond so many
 * of one item.
 */
const FARTHEST = 61 * DAY;
const MOST_ALARMS = 8;

const NOTICE_KIND_OF: Partial<Record<ChangeRow['kind'], NoticeKind>> = {
  added: 'newWork',
  moved: 'moved',
  calledOff: 'calledOff',
  removed: 'calledOff',
};

/** Gives the earlier of a change's two dates: an instant in milliseconds. */
const soonestOf =
  (viewer: Viewer) =>
  ({ from, to }: ChangeRow) =>
    [from, to]
      .flatMap((at) => (at ? [instantIn(at, viewer)] : []))
      .reduce((a, b) => Math.min(a, b), Infinity);

/** Works out what one person is to be told of one learner. */
export function collector(
  store: NotifyStore,
  items: ItemStore,
  sittingsOf: (learnerId: string) => readonly SittingAhead[],
  mayHear: MayHear,
  /** Calendars of a schedule in which somebody follows what they publish themself: that is no news to them */
  authoredIn: (learnerId: string, personId: string) => ReadonlySet<string> = () => new Set(),
  /** Moment when it was brought back from a backup: what was due before then may have been told, and stands in the app alone */
  restoredAt = 0,
) {
  function longestLead(
    learnerId: string,
    calendars: readonly Calendar[],
    general: Partial<RemindSet> | null,
  ): number {
    if (store.hasOwnRules(learnerId)) return FARTHEST;
    const sets = [DEFAULT_REMINDERS, general ?? {}, ...calendars.map((c) => c.reminders ?? {})];
    const rules = sets.flatMap((s) => Object.values(s).flat() as RemindRule[]);
    return (
      Math.max(...rules.map(leadOf), calendars.some((c) => c.alarms === 'use') ? FARTHEST / MINUTE : 0) *
      MINUTE
    );
  }

  /** A date's alarms, where its calendar has them count. */
  function alarmsOf(itemId: string, recurrenceId: string, calendar: Calendar | undefined): readonly Alarm[] {
    if (calendar?.alarms !== 'use') return [];
    const content = store.contentOf(itemId);
    const face =
      content?.overrides.find((o) => o.recurrenceId && recurrenceIdOf(o.recurrenceId) === recurrenceId) ??
      content?.master;
    return (face?.alarms ?? []).slice(0, MOST_ALARMS);
  }

  function rulesOf(
    row: OccurrenceRow,
    calendar: Calendar | undefined,
    general: Partial<RemindSet> | null,
  ): readonly RemindRule[] {
    return rulesFor(
      { kind: row.occurrence.kind, calendarKind: calendar?.kind ?? 'own' },
      { item: row.reminders, calendar: calendar?.reminders ?? null, learner: general },
    );
  }

  const isMuted = ({ noticeSettings: { muted } }: Recipient, itemId: string, calendarId: string) =>
    muted.items.includes(itemId) || muted.calendars.includes(calendarId);

  const remindable = ({ occurrence: o, aim, hidden, reminders, ...layer }: OccurrenceRow) => ({
    ...o,
    aim,
    finished: isFinished({ ...o, ...layer }),
    hidden: hidden ?? false,
    // What a person has set for the item is what they want, and no more.
    ...(o.kind === 'test' && !reminders ? { knownSince: store.knownSince(o.itemId) } : {}),
  });

  /** Tells when one occurrence is reminded of, and by which rules. */
  function momentsFor(
    row: OccurrenceRow,
    who: Recipient,
  ): { rules: readonly RemindRule[]; alarms: readonly Alarm[]; moments: DueMoment[] } {
    const { learnerId, calendarId, itemId, recurrenceId } = row.occurrence;
    const calendar = store.calendarsOf(learnerId).find((c) => c.id === calendarId);
    const rules = rulesOf(row, calendar, store.remindersOf(learnerId));
    const alarms = row.reminders ? [] : alarmsOf(itemId, recurrenceId, calendar);
    return {
      rules,
      alarms,
      moments: isMuted(who, itemId, calendarId) ? [] : momentsOf(remindable(row), rules, who.viewer, alarms),
    };
  }

  /**
   * Lists reminders that have come since the unit was last looked at, up to an instant; and when the next one comes.
   * @param now the present moment, where that instant lies ahead: what is of no use by then is left out
   */
  function reminders(
    { learnerId, doneTo }: Pick<Unit, 'learnerId' | 'doneTo'>,
    who: Recipient,
    upTo: number,
    now = upTo,
  ): { notifications: Notification[]; nextAt: number } {
    const { viewer } = who;
    const calendars = store.calendarsOf(learnerId);
    const byId = new Map(calendars.map((c) => [c.id, c]));
    const general = store.remindersOf(learnerId);
    const horizon = upTo + LOOK_AGAIN;
    const notifications: Notification[] = [];
    let nextAt = horizon;
    for (const row of items.between(
      learnerId,
      who.personId,
      Math.min(doneTo, now) - PAST_DUE_REACH - DAY,
      horizon + longestLead(learnerId, calendars, general) + DAY,
    )) {
      const { occurrence: o } = row;
      if (isMuted(who, o.itemId, o.calendarId)) continue;
      const calendar = byId.get(o.calendarId);
      const moments = momentsOf(
        remindable(row),
        rulesOf(row, calendar, general),
        viewer,
        row.reminders ? [] : alarmsOf(o.itemId, o.recurrenceId, calendar),
      );
      for (const m of momentsBetween(moments, doneTo, upTo)) {
        // The lesson is over, the deadline has passed: nobody is helped by hearing of it now.
        if (m.useBy < now) continue;
        notifications.push({
          cause: 'reminder',
          causeId: o.itemId,
          moment: m.at,
          kind: m.of === 'pastDue' ? 'pastDue' : 'dueSoon',
          at: m.at,
          useBy: m.useBy,
          anchor: m.anchor,
          itemId: o.itemId,
          recurrenceId: o.recurrenceId,
          calendarId: o.calendarId,
          title: o.title,
          line: reminderWords({ ...o, aim: row.aim, stillToDo: row.stillToDo ?? false }, m, viewer),
        });
      }
      const next = moments.find((m) => m.at > upTo);
      if (next) nextAt = Math.min(nextAt, next.at);
    }
    const told = sittingReminders(sittingsOf(learnerId), {
      now,
      upTo,
      doneTo,
      before: nextAt,
      rowOf: ({ itemId, recurrenceId }) => {
        const row = items.occurrence(itemId, recurrenceId, who.personId);
        if (!row || isMuted(who, itemId, row.occurrence.calendarId)) return null;
        return remindable(row).finished || row.hidden || row.occurrence.status === 'cancelled' ? null : row;
      },
    });
    notifications.push(...told.notifications);
    nextAt = told.nextAt;
    return { notifications: notifications.sort((a, b) => a.at - b.at), nextAt };
  }

  /** Readings' changes that are worth telling; many of a kind are told as one. */
  function changes(unit: Unit, who: Recipient, now: number): Notification[] {
    const { viewer } = who;
    const groups = new Map<string, ChangeRow[]>();
    const fresh = store.changesAfter(unit.learnerId, unit.changesTo) as ChangeRow[];
    const authored = fresh.length ? authoredIn(unit.learnerId, who.personId) : new Set<string>();
    for (const change of fresh) {
      const kind = NOTICE_KIND_OF[change.kind];
      if (authored.has(change.calendarId)) continue;
      if (!kind || !mayHear(who.personId, change) || isMuted(who, change.itemId, change.calendarId)) continue;
      const row =
        items.occurrence(change.itemId, change.recurrenceId, who.personId) ??
        items.nextOccurrence(change.itemId, now, who.personId);
      const at = change.to ?? change.from;
      // What is past already, what is finished, and a new lesson in the timetable are no news.
      if (
        !at ||
        instantIn(at, viewer) < now - DAY ||
        (row && isFinished({ ...row.occurrence, ...row })) ||
        (change.kind === 'added' && row && !isWork(row.occurrence.kind))
      )
        continue;
      const name = `${kind} ${change.calendarId}`;
      groups.set(name, [...(groups.get(name) ?? []), change]);
    }
    const names = new Map(store.calendarsOf(unit.learnerId).map((c) => [c.id, c.name]));
    return [...groups.values()].flatMap((list): Notification[] => {
      const { calendarId, kind: changed, id } = list[0]!;
      const kind = NOTICE_KIND_OF[changed]!;
      const concerns = list.map(soonestOf(viewer)).reduce((a, b) => Math.min(a, b));
      const common = { kind, at: now, useBy: now + CHANGE_USE, calendarId, anchor: null, concerns };
      if (list.length <= MANY_CHANGES)
        return list.map((c) => ({
          ...common,
          cause: 'change',
          causeId: String(c.id),
          itemId: c.itemId,
          recurrenceId: c.recurrenceId,
          title: c.title,
          line: changeNotice(changeView(c, 0), viewer),
        }));
      const words = { newWork: 'new', moved: 'moved', calledOff: 'called off' }[
        kind as 'newWork' | 'moved' | 'calledOff'
      ];
      return [
        {
          ...common,
          cause: 'change',
          causeId: String(id),
          itemId: null,
          about: list.map((c) => c.itemId),
          recurrenceId: '',
          title: `${names.get(calendarId) ?? ''}: ${list.length} ${words}`,
          line:
            list
              .slice(0, 3)
              .map((c) => c.title)
              .join(', ') + (list.length > 3 ? ` and ${list.length - 3} more` : ''),
        },
      ];
    });
  }

  /** Gives what others in the crew have told of handing in. */
  function records(unit: Unit, now: number): Notification[] {
    return store
      .recordsAfter(unit.learnerId, unit.recordsTo)
      .filter(({ record: { itemId } }) => mayHear(unit.personId, { learnerId: unit.learnerId, itemId }))
      .filter(({ record: r }) => r.kind === 'handedIn' && r.personId !== unit.personId && r.way)
      .map(({ record: r, title, calendarId, by }) => ({
        cause: 'record',
        causeId: String(r.id),
        kind: 'handedIn',
        at: now,
        useBy: now + CHANGE_USE,
        anchor: null,
        itemId: r.itemId,
        recurrenceId: r.recurrenceId,
        calendarId,
        title,
        line: handedInWords(r.way!, firstName(by ?? '')),
      }));
  }

  /** Late reminders, where they are many, as one: after an outage nobody reads twenty. */
  function folded(notifications: Notification[], now: number): Notification[] {
    const late = notifications.filter((t) => t.at < now - LATE);
    if (late.length <= MANY_LATE) return notifications;
    const last = late.at(-1)!;
    const one: Notification = {
      ...last,
      cause: 'late',
      causeId: '',
      moment: late[0]!.at,
      itemId: null,
      about: late.flatMap((t) => t.itemId ?? []),
      recurrenceId: '',
      calendarId: null,
      anchor: null,
      useBy: late.reduce((most, t) => Math.max(most, t.useBy), 0),
      title: `${plural(late.length, 'reminder')} came late`,
      line:
        late
          .map((t) => t.title)
          .slice(0, 5)
          .join(', ') + (late.length > 5 ? ` and ${late.length - 5} more` : ''),
    };
    return [one, ...notifications.filter((t) => !late.includes(t))];
  }

  /**
   * One row for each way a person wants to be told by. Quiet hours hold back what is sent; in the app it
   * simply stands.
   */
  function rowsOf(
    learnerId: string,
    who: Recipient,
    notifications: readonly Notification[],
    now: number,
  ): NewDelivery[] {
    if (!notifications.length) return [];
    const { personId, noticeSettings, viewer } = who;
    const day = mailDayOf(who, now);
    return notifications.flatMap((rest) =>
      channelsFor(noticeSettings, learnerId, rest.kind).flatMap((channel: Channel): NewDelivery[] => {
        const sent = afterQuiet(now, noticeSettings.quiet, viewer);
        const notBefore =
          channel === 'app' ? now : channel === 'mail' ? mailedAt(sent, rest, who, day) : sent;
        if (notBefore > rest.useBy || (channel !== 'app' && rest.at <= restoredAt)) return [];
        const { concerns: _, ...told } = rest;
        return [
          {
            personId,
            learnerId,
            channel,
            ...told,
            notBefore,
            state: channel === 'app' ? 'sent' : 'waiting',
            sentAt: channel === 'app' ? now : null,
          },
        ];
      }),
    );
  }

  const mailDayOf = ({ personId, viewer }: Recipient, now: number): MailDay => {
    const day = today(now, viewer);
    const mails = store.mailsSince(personId, viewer.toInstant(day * DAY));
    return { end: viewer.toInstant((day + 1) * DAY), mails };
  };

  /** Lists the mails of a learner that go along with one that goes now, to somebody who hears of them later today. */
  function mailsAhead(learnerId: string, who: Recipient, now: number, isSheet = false): NewDelivery[] {
    const reach = reachOfMail(now, who, mailDayOf(who, now), isSheet);
    const { notifications } = reminders({ learnerId, doneTo: now }, who, reach.until, now);
    const early = notifications.filter((told) => goesAlong(told, now, reach));
    return rowsOf(learnerId, who, early, now).filter((row) => row.channel === 'mail');
  }

  return {
    rowsOf,
    momentsFor,
    mailsAhead,
    /** Gives what a unit is to be told now, and the unit as it then stands. */
    collect(unit: Unit, recipient: Recipient, now: number): { rows: NewDelivery[]; unit: Unit } {
      const last = store.lastIds();
      const due = reminders(unit, recipient, now);
      const notifications = [
        ...folded(due.notifications, now),
        ...changes(unit, recipient, now),
        ...records(unit, now),
      ];
      // A clock that was put back does not make anything due a second time.
      const doneTo = Math.max(unit.doneTo, now);
      const rows = rowsOf(unit.learnerId, recipient, notifications, now);
      return {
        rows,
        unit: { ...unit, doneTo, changesTo: last.changes, recordsTo: last.records, nextAt: due.nextAt },
      };
    },
  };
}
export type Collector = ReturnType<typeof collector>;
