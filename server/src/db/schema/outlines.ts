import type { AddedRow } from '@zephyrfield/core/api/outlines';
import { index, sqliteTable, text } from 'drizzle-orm/sqlite-core';
import { user } from './accounts.ts';
import { instant } from './columns.ts';
import { calendar } from './gathered.ts';
import { learner } from './people.ts';

/** A course outline as it was read: its lines and tables, and what was added from it. */
export const outline = sqliteTable(
  'outline',
  {
    id: text('id').primaryKey(),
    learnerId: text('learner_id')
      .notNull()
      .references(() => learner.id, { onDelete: 'cascade' }),
    /** Place where its items were added; null while it waits, which it does for a day */
    calendarId: text('calendar_id').references(() => calendar.id, { onDelete: 'cascade' }),
    personId: text('person_id').references(() => user.id, { onDelete: 'set null' }),
    name: text('name').notNull(),
    /** A page (`core/outline/page`) as JSON, which is parsed in a worker alone */
    page: text('page').notNull(),
    added: text('added', { mode: 'json' }).$type<AddedRow[]>().notNull(),
    createdAt: instant('created_at').notNull(),
  },
  (t) => [
    index('outline_by_learner').on(t.learnerId),
    index('outline_by_calendar').on(t.calendarId),
    index('outline_by_person').on(t.personId),
  ],
);
