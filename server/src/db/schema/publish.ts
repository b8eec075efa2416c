import { index, integer, primaryKey, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import { user } from './accounts.ts';
import { instant } from './columns.ts';
import { calendar, item } from './gathered.ts';
import { learner } from './people.ts';

// Calendars that somebody keeps for others, who has looked at what is in them, and the groups a teacher keeps.

/** Way in which an offered calendar stands: asked for, taken in, or not wanted. */
export const OFFER_STATES = ['open', 'taken', 'declined'] as const;

/** A calendar of one schedule that is offered to another; taken in, it has a source there (`source.published_from`). */
export const offer = sqliteTable(
  'offer',
  {
    id: text('id').primaryKey(),
    calendarId: text('calendar_id')
      .notNull()
      .references(() => calendar.id, { onDelete: 'cascade' }),
    /** The schedule it is offered to */
    learnerId: text('learner_id')
      .notNull()
      .references(() => learner.id, { onDelete: 'cascade' }),
    offeredBy: text('offered_by')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    state: text('state', { enum: OFFER_STATES }).notNull().default('open'),
    createdAt: instant('created_at').notNull(),
  },
  (t) => [
    uniqueIndex('offer_once').on(t.calendarId, t.learnerId),
    index('offer_by_learner').on(t.learnerId),
    index('offer_by_person').on(t.offeredBy),
  ],
);

/** That somebody has opened an item, whichever of its dates: first and last. */
export const opened = sqliteTable(
  'opened',
  {
    itemId: text('item_id')
      .notNull()
      .references(() => item.id, { onDelete: 'cascade' }),
    personId: text('person_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    firstAt: integer('first_at').notNull(),
    lastAt: integer('last_at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.itemId, t.personId] }), index('opened_by_person').on(t.personId)],
);

/** Learners that somebody looks at together, under a name of their own. */
export const learnerGroup = sqliteTable(
  'learner_group',
  {
    personId: text('person_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    position: integer('position').notNull(),
    name: text('name').notNull(),
    learnerIds: text('learner_ids', { mode: 'json' }).$type<string[]>().notNull(),
  },
  (t) => [primaryKey({ columns: [t.personId, t.position] })],
);
