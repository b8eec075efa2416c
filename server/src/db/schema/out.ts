import type { ShareRules } from '@zephyrfield/core/out/share';
import { index, integer, sqliteTable, text } from 'drizzle-orm/sqlite-core';
import { user } from './accounts.ts';
import { instant } from './columns.ts';
import { learner } from './people.ts';

// What goes out.

/**
 * A link by which a schedule, or a part of it, goes out to whoever has its address; that is stored as a digest. Nothing
 * goes out once whoever made it may not share the schedule any more.
 */
export const share = sqliteTable(
  'share',
  {
    id: text('id').primaryKey(),
    learnerId: text('learner_id')
      .notNull()
      .references(() => learner.id, { onDelete: 'cascade' }),
    madeBy: text('made_by')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    /** SHA-256 of its secret */
    digest: text('digest').notNull().unique(),
    rules: text('rules', { mode: 'json' }).$type<ShareRules>().notNull(),
    page: integer('page', { mode: 'boolean' }).notNull(),
    /** The last day on which it goes out, a date on the learner's wall clock */
    until: text('until'),
    paused: integer('paused', { mode: 'boolean' }).notNull().default(false),
    /** Number of times it was fetched, and when last: never by whom */
    fetched: integer('fetched').notNull().default(0),
    lastFetchedAt: instant('last_fetched_at'),
    /** Counts changes of what goes out by it */
    version: integer('version').notNull().default(0),
    createdAt: instant('created_at').notNull(),
  },
  (t) => [index('share_by_learner').on(t.learnerId), index('share_by_person').on(t.madeBy)],
);
