import type { SheetEdition, NoticeKind, NoticeSettings, Channel } from '@zephyrfield/core/notify/settings';
import { sql } from 'drizzle-orm';
import { index, integer, primaryKey, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import { user } from './accounts.ts';
import { learner } from './people.ts';
import { calendar, item } from './gathered.ts';
import { instant } from './columns.ts';

// NoticeSettings people: what they want to hear, how far they have been told, and the queue.

/** Notices that a person wants; who has changed nothing has no row. */
export const noticeSettings = sqliteTable('notice_settings', {
  personId: text('person_id')
    .primaryKey()
    .references(() => user.id, { onDelete: 'cascade' }),
  value: text('value', { mode: 'json' }).$type<NoticeSettings>().notNull(),
});

/**
 * Progress in telling a person of a learner: reminders up to an instant, changes and records up to their
 * number. What comes due is worked out from what stands in the calendars then, so that nothing is stored that
 * could grow stale.
 */
export const notifyClock = sqliteTable(
  'notify_clock',
  {
    personId: text('person_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    learnerId: text('learner_id')
      .notNull()
      .references(() => learner.id, { onDelete: 'cascade' }),
    doneTo: instant('done_to').notNull(),
    changesTo: integer('changes_to').notNull(),
    recordsTo: integer('records_to').notNull(),
    /** Moment when it is to be looked at next; 0 after anything has changed */
    nextAt: instant('next_at').notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.personId, t.learnerId] }),
    index('notify_clock_by_next').on(t.nextAt),
    index('notify_clock_by_learner').on(t.learnerId),
  ],
);

/** The same for a person's sheets; and what keeps their mail from going out. */
export const sheetClock = sqliteTable(
  'sheet_clock',
  {
    personId: text('person_id')
      .primaryKey()
      .references(() => user.id, { onDelete: 'cascade' }),
    doneTo: instant('done_to').notNull(),
    nextAt: instant('next_at').notNull(),
    mailTrouble: text('mail_trouble'),
    mailTroubleSince: instant('mail_trouble_since'),
  },
  (t) => [index('sheet_clock_by_next').on(t.nextAt)],
);

/**
 * One mail: made of deliveries once and for all, so that it is the same one however often it has to be tried.
 */
export const letter = sqliteTable(
  'letter',
  {
    id: text('id').primaryKey(),
    personId: text('person_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    attempts: integer('attempts').notNull().default(0),
    nextTryAt: instant('next_try_at'),
    giveUpAt: instant('give_up_at').notNull(),
    sentAt: instant('sent_at'),
    problem: text('problem'),
    createdAt: instant('created_at').notNull(),
  },
  (t) => [
    index('letter_by_try')
      .on(t.nextTryAt)
      .where(sql`next_try_at IS NOT NULL`),
  ],
);

/**
 * One thing one person is told by one channel. What it is told for (`cause`, `causeId`, `recurrenceId`,
 * `moment`) and when it was put off to name it, so that nothing can be told twice.
 */
export const delivery = sqliteTable(
  'delivery',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    personId: text('person_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    learnerId: text('learner_id')
      .notNull()
      .references(() => learner.id, { onDelete: 'cascade' }),
    channel: text('channel').$type<Channel>().notNull(),
    kind: text('kind').$type<NoticeKind>().notNull(),
    itemId: text('item_id').references(() => item.id, { onDelete: 'set null' }),
    recurrenceId: text('recurrence_id').notNull().default(''),
    calendarId: text('calendar_id').references(() => calendar.id, { onDelete: 'set null' }),
    /** Ids of further items that its words name: who may not hear of one of them is not shown it */
    about: text('about', { mode: 'json' }).$type<readonly string[]>(),
    title: text('title').notNull(),
    line: text('line').notNull(),
    /** The path it leads to, where that is not its item’s or its sheet’s */
    leads: text('leads'),
    /**
     * Cause it is told for: a reminder, a change, a record, a day sheet, reminders that came late, or a mail
     * to try
     */
    cause: text('cause', {
      enum: [
        'reminder',
        'change',
        'record',
        'sheet',
        'late',
        'test',
        'sitting',
        'offer',
        'crew',
        'note',
        'openTime',
        'asked',
      ],
    }).notNull(),
    /**
     * The item of a reminder, the number of a change or a record, the edition of a sheet; empty for the
     * others
     */
    causeId: text('cause_id').notNull().default(''),
    /**
     * When a reminder was set for, or when the sheet, the first of the late ones or the mail to try came due;
     * 0 for the others
     */
    moment: instant('moment').notNull().default(0),
    /** The moment a person has put it off to; 0 where it was not */
    snoozedTo: instant('snoozed_to').notNull().default(0),
    sheet: text('sheet', { mode: 'json' }).$type<{ edition: SheetEdition; day: string }>(),
    /**
     * Moment that a reminder looks towards: where that has moved meanwhile, it is not sent any more. Null for news
     * and what was put off
     */
    anchor: instant('anchor'),
    at: instant('at').notNull(),
    notBefore: instant('not_before').notNull(),
    useBy: instant('use_by').notNull(),
    state: text('state', { enum: ['waiting', 'sent', 'dropped', 'failed'] }).notNull(),
    letterId: text('letter_id').references(() => letter.id, { onDelete: 'set null' }),
    /** Reason why it was dropped or failed, in a word */
    reason: text('reason'),
    seenAt: instant('seen_at'),
    sentAt: instant('sent_at'),
  },
  (t) => [
    uniqueIndex('delivery_once').on(
      t.personId,
      t.learnerId,
      t.cause,
      t.causeId,
      t.recurrenceId,
      t.moment,
      t.channel,
      t.snoozedTo,
    ),
    index('delivery_by_person').on(t.personId, t.channel, t.at),
    index('delivery_waiting')
      .on(t.channel, t.notBefore)
      .where(sql`state = 'waiting' AND letter_id IS NULL`),
    index('delivery_waiting_of')
      .on(t.channel, t.personId)
      .where(sql`state = 'waiting' AND letter_id IS NULL`),
    index('delivery_by_letter')
      .on(t.letterId)
      .where(sql`letter_id IS NOT NULL`),
    index('delivery_by_item').on(t.itemId),
  ],
);
