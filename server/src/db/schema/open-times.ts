import { sql } from 'drizzle-orm';
import { index, integer, primaryKey, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import { user } from './accounts.ts';
import { instant } from './columns.ts';
import { item } from './gathered.ts';
import { learner } from './people.ts';

// Times that somebody offers, and who has taken which; and what people answer to "will you come?".

/** Some short meetings that are offered together. */
export const openTime = sqliteTable(
  'open_time',
  {
    id: text('id').primaryKey(),
    personId: text('person_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    /** The schedule of whoever offers them, where what is taken stands as well */
    learnerId: text('learner_id')
      .notNull()
      .references(() => learner.id, { onDelete: 'cascade' }),
    title: text('title').notNull(),
    details: text('details').notNull().default(''),
    /** A place, or the link of a meeting */
    place: text('place').notNull().default(''),
    zone: text('zone').notNull(),
    /** Number of learners that can take one of them, and of those that one learner can take */
    places: integer('places').notNull(),
    each: integer('each').notNull(),
    namesShown: integer('names_shown', { mode: 'boolean' }).notNull(),
    /** Until so many minutes before it begins one can be taken or given back */
    until: integer('until').notNull(),
    createdAt: instant('created_at').notNull(),
    endedAt: instant('ended_at'),
  },
  (t) => [index('open_time_by_person').on(t.personId), index('open_time_by_learner').on(t.learnerId)],
);

/** For whom they are. */
export const openTimeFor = sqliteTable(
  'open_time_for',
  {
    openTimeId: text('open_time_id')
      .notNull()
      .references(() => openTime.id, { onDelete: 'cascade' }),
    learnerId: text('learner_id')
      .notNull()
      .references(() => learner.id, { onDelete: 'cascade' }),
  },
  (t) => [
    primaryKey({ columns: [t.openTimeId, t.learnerId] }),
    index('open_time_for_learner').on(t.learnerId),
  ],
);

/** One of them. */
export const openSlot = sqliteTable(
  'open_slot',
  {
    id: text('id').primaryKey(),
    openTimeId: text('open_time_id')
      .notNull()
      .references(() => openTime.id, { onDelete: 'cascade' }),
    startAt: instant('start_at').notNull(),
    endAt: instant('end_at').notNull(),
    /** The item that stands for it in the schedule of whoever offers it, once one is taken */
    itemId: text('item_id').references(() => item.id, { onDelete: 'set null' }),
  },
  (t) => [index('open_slot_by_time').on(t.openTimeId, t.startAt)],
);

/** That one was taken for a learner; given back, it stays as what has been. */
export const booking = sqliteTable(
  'booking',
  {
    id: text('id').primaryKey(),
    slotId: text('slot_id')
      .notNull()
      .references(() => openSlot.id, { onDelete: 'cascade' }),
    learnerId: text('learner_id')
      .notNull()
      .references(() => learner.id, { onDelete: 'cascade' }),
    personId: text('person_id').references(() => user.id, { onDelete: 'set null' }),
    /** A word left with it */
    word: text('word').notNull().default(''),
    /** The item that stands for it in the learner’s schedule */
    itemId: text('item_id').references(() => item.id, { onDelete: 'set null' }),
    at: instant('at').notNull(),
    endedAt: instant('ended_at'),
  },
  (t) => [
    index('booking_by_slot').on(t.slotId),
    index('booking_by_learner').on(t.learnerId),
    uniqueIndex('booking_once')
      .on(t.slotId, t.learnerId)
      .where(sql`ended_at IS NULL`),
  ],
);

/** Events of one’s own that ask whether one will come. */
export const question = sqliteTable('question', {
  itemId: text('item_id')
    .primaryKey()
    .references(() => item.id, { onDelete: 'cascade' }),
  personId: text('person_id')
    .notNull()
    .references(() => user.id, { onDelete: 'cascade' }),
  createdAt: instant('created_at').notNull(),
  /** Moment when those who have not answered were reminded, which is once */
  remindedAt: instant('reminded_at'),
});

export const ANSWERS = ['yes', 'no', 'perhaps'] as const;

/** Answers to "will you come?": for a schedule that follows the event, or by somebody of the crew it is in. */
export const reply = sqliteTable(
  'reply',
  {
    itemId: text('item_id')
      .notNull()
      .references(() => item.id, { onDelete: 'cascade' }),
    recurrenceId: text('recurrence_id').notNull(),
    /** The schedule it is for; and who has answered */
    learnerId: text('learner_id')
      .notNull()
      .references(() => learner.id, { onDelete: 'cascade' }),
    personId: text('person_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    answer: text('answer', { enum: ANSWERS }).notNull(),
    word: text('word').notNull().default(''),
    at: instant('at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.itemId, t.recurrenceId, t.learnerId, t.personId] })],
);
