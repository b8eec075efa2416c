import type { LearnerSheet, NoticeView, NoticeSettingsView } from '@zephyrfield/core/api/notify';
import type { ItemView } from '@zephyrfield/core/api/schemas';
import type { RemindRule } from '@zephyrfield/core/notify/rules';
import { threadPath } from '@zephyrfield/core/notify/links';
import {
  CHANNELS,
  channelsFor,
  withoutMail,
  type SheetEdition,
  type NoticeSettings,
} from '@zephyrfield/core/notify/settings';
import { DAY, MINUTE, parseDate, parseLocal } from '@zephyrfield/core/time/civil';
import { isWork } from '@zephyrfield/core/item/kind';
import { isFinished } from '@zephyrfield/core/item/layer';
import { deadlineOf } from '@zephyrfield/core/item/urgency';
import { instantIn } from '@zephyrfield/core/time/when';
import type { Clock } from '../clock.ts';
import { ProblemError, notFound } from '../http/problem.ts';
import type { ItemStore } from '../items/store.ts';
import type { OccurrenceRow } from '../items/rows.ts';
import type { Attempts } from '../people/attempts.ts';
import type { MayHear } from '../people/hearing.ts';
import type { SheetMaker } from './sheets.ts';
import type { Collector } from './collect.ts';
import type { Recipient } from './recipient.ts';
import { SITTING } from './sitting-reminders.ts';
import type { SittingAhead } from '../plan/sittings.ts';
import type { DeliveryRow, NotifyStore } from './store.ts';
import { noticeView } from './views.ts';

export interface NotifyDeps {
  store: NotifyStore;
  items: ItemStore;
  collector: Collector;
  /** Gives what is planned of a learner's work and still to come */
  sittingsOf(learnerId: string): readonly SittingAhead[];
  sheets: SheetMaker;
  clock: Clock;
  recipient(personId: string): Recipient | null;
  /**
   * Where a person's mail goes to, and whether they have confirmed that it is theirs: before that, none is
   * sent
   */
  addressOf(personId: string): { email: string; confirmed: boolean } | undefined;
  mailReady: boolean;
  attempts: Attempts;
  /** Called after something was put off or is to be tried again */
  wake(): void;
  noticesChanged(personId: string): void;
  mayHear: MayHear;
  /** Says why a note is not to be told to somebody any more; null where it is */
  noteGone(noteId: number, personId: string): string | null;
  /** Counts how many notes of others a person has not read */
  notesUnread(personId: string): number;
  /** Tells others that somebody has seen a note's notice, or all news up to an instant */
  seen: { note(personId: string, noteId: number): void; all(personId: string, upTo: number): void };
}

const iso = (ms: number) => new Date(ms).toISOString();
const TROUBLE = {
  refused: {
    title: 'Mail to your address came back.',
    remedy: 'Check whether your address is right and takes mail; then send yourself a test mail.',
  },
  unreached: {
    title: 'Mail is not going out at present.',
    remedy:
      'Nothing is lost: what waits is tried again by itself for a day, and all of it stands in the app.',
  },
} as const;

/** Gives what people see of what they are told, and what they say about it. */
export function notifyService({
  store,
  items,
  sittingsOf,
  collector,
  sheets,
  clock,
  recipient,
  addressOf,
  mailReady,
  attempts,
  wake,
  noticesChanged,
  mayHear,
  noteGone,
  seen,
  notesUnread,
}: NotifyDeps) {
  const listening = (personId: string): Recipient => {
    const who = recipient(personId);
    if (!who) throw notFound('schedule');
    return who;
  };

  function notices(personId: string): { notices: NoticeView[]; unseen: number; notes: number } {
    const list = store
      .notices(personId)
      .filter(({ delivery }) => mayHear(personId, delivery))
      .map(({ delivery: row, kind, snoozedUntil, doneInCourse, ...layer }) =>
        noticeView(row, {
          isWork: kind !== null && isWork(kind),
          finished: isFinished({ ...layer, doneInCourse: doneInCourse ?? false }),
          snoozedUntil,
        }),
      );
    const unseen = store
      .unseen(personId)
      .filter((subject) => mayHear(personId, subject))
      .reduce((sum, { n }) => sum + n, 0);
    return { notices: list, unseen, notes: notesUnread(personId) };
  }

  /** Gives what waits for the browser to the window that asks first. */
  function take(personId: string): NoticeView[] {
    const now = clock.now();
    return store.transaction(() =>
      store.waitingOf(personId, 'browser', now).flatMap((row) => {
        const reason = row.useBy < now ? 'too late to be of use' : stillTrue(row);
        store.settle([row.id], reason ? { state: 'dropped', reason } : { state: 'sent', sentAt: now });
        return reason ? [] : [noticeView(row, { isWork: false, finished: false, snoozedUntil: null })];
      }),
    );
  }

  /**
   * Says why something that waited is not to be told any more: not theirs to hear, taken back, finished meanwhile,
   * gone, or moved (its new date has a reminder of its own). Null where it is still to be told.
   */
  function stillTrue(row: DeliveryRow): string | null {
    const { kind, cause, causeId, learnerId, itemId, recurrenceId, anchor, personId } = row;
    if (!mayHear(personId, row)) return 'not for them any more';
    if (cause === 'note') return noteGone(Number(causeId), personId);
    if (!itemId) return null;
    if (kind !== 'dueSoon' && kind !== 'pastDue') return null;
    const date = items.occurrence(itemId, recurrenceId, personId);
    if (!date || date.occurrence.status === 'cancelled') return 'gone meanwhile';
    if (isFinished({ ...date.occurrence, ...date })) return 'finished meanwhile';
    if (date.hidden) return 'hidden meanwhile';
    if (anchor === null) return null;
    if (cause === SITTING) {
      const isThere = sittingsOf(learnerId).some((s) => s.id === causeId && s.start === anchor);
      return isThere ? null : 'moved meanwhile';
    }
    const who = recipient(personId);
    const { due, aim, start } = { ...date.occurrence, aim: date.aim };
    const anchors = who
      ? [
          due && deadlineOf(due, who.viewer),
          aim && deadlineOf(aim, who.viewer),
          instantIn(start, who.viewer),
          instantIn(start, who.viewer) + DAY,
        ]
      : [];
    return anchors.includes(anchor) ? null : 'moved meanwhile';
  }

  function snooze(personId: string, id: number, until: number): void {
    const row = store.one(personId, id);
    if (!row) throw notFound('notice');
    const now = clock.now();
    if (!(until > now))
      throw new ProblemError(422, 'invalid', 'That moment has passed.', {
        remedy: 'Choose a later one.',
        fields: [{ path: 'until', message: 'Choose a later moment.' }],
      });
    if (until > now + 60 * DAY)
      throw new ProblemError(422, 'invalid', 'That is very far off.', {
        remedy: 'Choose a moment within 60 days.',
        fields: [{ path: 'until', message: 'At most 60 days.' }],
      });
    const { noticeSettings } = listening(personId);
    store.transaction(() => {
      for (const channel of CHANNELS.filter(
        (w) => w === 'app' || channelsFor(noticeSettings, row.learnerId, row.kind).includes(w),
      )) {
        store.add({
          ...row,
          snoozedTo: until,
          channel,
          anchor: null,
          at: until,
          notBefore: until,
          useBy: until + 2 * DAY,
          state: 'waiting',
          sentAt: null,
        });
      }
      store.settle([row.id], { seenAt: row.seenAt ?? now });
    });
    wake();
  }

  function view(personId: string): NoticeSettingsView {
    const known = store.mailTrouble(personId);
    const address = addressOf(personId);
    const trouble =
      mailReady && known?.mailTrouble ? TROUBLE[known.mailTrouble as keyof typeof TROUBLE] : null;
    return {
      noticeSettings: store.noticeSettings(personId),
      mail: {
        ready: mailReady,
        address: address?.email ?? '',
        confirmed: address?.confirmed ?? false,
        waiting: mailReady ? store.mailsWaiting(personId) : 0,
        trouble: trouble ? { ...trouble, since: iso(known!.mailTroubleSince ?? clock.now()) } : null,
      },
    };
  }

  return {
    notices,
    take,
    stillTrue,
    snooze,
    view,
    see(personId: string, ids: readonly number[]): void {
      store.transaction(() => {
        store.see(personId, ids, clock.now());
        // Whoever has seen the latest of a thread has seen it all.
        for (const noteId of store.latestNotes(personId, ids)) seen.note(personId, noteId);
      });
      noticesChanged(personId);
    },
    /** Marks all as seen that came up to an instant; whoever keeps news of another sort does the same. */
    seeAll(personId: string, upTo: number): void {
      store.transaction(() => {
        store.seeAll(personId, upTo, clock.now());
        seen.all(personId, upTo);
      });
      noticesChanged(personId);
    },
    /** Marks what was told of a schedule's changes as seen, up to one of them. */
    changesSeen(personId: string, learnerId: string, changeId: number): void {
      store.transaction(() => store.seeChanges(personId, learnerId, changeId, clock.now()));
      noticesChanged(personId);
    },
    /** Marks what was told of a thread's notes as seen, up to one of them. */
    threadRead(personId: string, threadId: string, noteId: number): void {
      const leads = threadPath(threadId);
      store.transaction(() => store.seeThread({ personId, leads, noteId, now: clock.now() }));
    },
    /** Gives what was put off to a moment that has come stands in the app again, if it is still open. */
    returned(now: number): void {
      const back = store.transaction(() =>
        store.waitingApp(now).map((row) => {
          const reason = stillTrue(row);
          store.settle([row.id], reason ? { state: 'dropped', reason } : { state: 'sent', sentAt: now });
          return row.personId;
        }),
      );
      for (const personId of new Set(back)) noticesChanged(personId);
    },
    change(personId: string, noticeSettings: NoticeSettings): NoticeSettingsView {
      store.transaction(() => {
        store.saveNoticeSettings(personId, noticeSettings);
        store.wakePerson(personId);
      });
      wake();
      return view(personId);
    },
    /** A mail to oneself; what was given up before is tried again. */
    async tryMail(personId: string): Promise<void> {
      if (!mailReady)
        throw new ProblemError(409, 'no-mail', 'No mail server is set up here.', {
          remedy: 'Whoever runs this server can set one with ZEPHYRFIELD_SMTP_URL.',
        });
      if (!addressOf(personId)?.confirmed)
        throw new ProblemError(409, 'unconfirmed', 'Your mail address is not confirmed yet.', {
          remedy: 'Open the link that was sent to it, or have another one sent.',
        });
      await attempts.take('tryMail', personId);
      const now = clock.now();
      const learnerId = learnersFirst(personId);
      store.transaction(() => {
        store.tryLettersOf(personId, now);
        store.add({
          cause: 'test',
          moment: now,
          personId,
          learnerId,
          channel: 'mail',
          kind: 'sheet',
          title: 'Test mail',
          line: 'Mail from Zephyrfield reaches you.',
          at: now,
          notBefore: now,
          useBy: now + DAY,
          state: 'waiting',
        });
      });
      wake();
    },
    stopMail(personId: string): void {
      store.transaction(() =>
        store.saveNoticeSettings(personId, withoutMail(store.noticeSettings(personId))),
      );
    },
    sheet: (personId: string, edition: SheetEdition, day: string): LearnerSheet[] =>
      sheets.of(listening(personId), edition, parseDate(day), clock.now()),
    /** Tells when a person is told of an occurrence, from now on */
    remindersOf(personId: string, row: OccurrenceRow): ItemView['reminders'] {
      const who = recipient(personId);
      if (!who) return { own: null, rules: [], alarms: 0, moments: [] };
      const { rules, alarms, moments } = collector.momentsFor(row, who);
      const now = clock.now();
      return {
        own: row.reminders ?? null,
        rules: [...rules],
        alarms: alarms.length,
        moments: moments
          .filter((m) => m.at > now)
          .slice(0, 12)
          .map((m) => ({ at: iso(m.at), of: m.of })),
      };
    },
    /** @throws ProblemError where a rule comes after what it is for */
    checkRules(personId: string, row: OccurrenceRow, rules: readonly RemindRule[]): void {
      const who = listening(personId);
      const { due, start } = row.occurrence;
      const end = due ? deadlineOf(due, who.viewer) : instantIn(start, who.viewer);
      const late = rules.findIndex(
        (r) => r.kind === 'moment' && who.viewer.toInstant(parseLocal(r.local)) > end + (due ? 0 : MINUTE),
      );
      if (late >= 0)
        throw new ProblemError(422, 'invalid', 'A reminder comes after what it is for.', {
          remedy: 'Choose an earlier moment.',
          fields: [{ path: `reminders.${late}`, message: 'That is after it is due.' }],
        });
    },
  };

  function learnersFirst(personId: string): string {
    const learnerId = sheets.firstLearner(personId);
    if (!learnerId) throw notFound('schedule');
    return learnerId;
  }
}
export type NotifyService = ReturnType<typeof notifyService>;
