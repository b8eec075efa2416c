import type { Settings, Term } from '@zephyrfield/core/view/settings';

import type { RemindSet } from '@zephyrfield/core/notify/rules';
import { index, integer, primaryKey, sqliteTable, text } from 'drizzle-orm/sqlite-core';
import { user } from './accounts.ts';
import { instant } from './columns.ts';

// People, learners, and who sees whom.

/** Whose schedule it is. `zone` is the learner's own, never the server's. */
export const learner = sqliteTable('learner', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  zone: text('zone').notNull(),
  /** As it was typed; null where it is taken from the school's calendar */
  term: text('term', { mode: 'json' }).$type<Term>(),
  /** When to remind of what, where that is said for the whole schedule */
  reminders: text('reminders', { mode: 'json' }).$type<Partial<RemindSet>>(),
  /** Who began the schedule */
  createdBy: text('created_by').references(() => user.id, { onDelete: 'set null' }),
  createdAt: instant('created_at').notNull(),
});

/**
 * A link that confirms a mail address, by the digest of its secret: good once, for an hour, and for that
 * address alone.
 */
export const confirmation = sqliteTable(
  'confirmation',
  {
    digest: text('digest').primaryKey(),
    personId: text('person_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    email: text('email').notNull(),
    createdAt: instant('created_at').notNull(),
    expiresAt: instant('expires_at').notNull(),
  },
  (t) => [index('confirmation_by_person').on(t.personId)],
);

/** How a person likes to look at things; who has changed nothing has no row. */
export const settings = sqliteTable('settings', {
  personId: text('person_id')
    .primaryKey()
    .references(() => user.id, { onDelete: 'cascade' }),
  value: text('value', { mode: 'json' }).$type<Settings>().notNull(),
});

/** Who may see a learner's schedule, and how far. */
export const crew = sqliteTable(
  'crew',
  {
    personId: text('person_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    learnerId: text('learner_id')
      .notNull()
      .references(() => learner.id, { onDelete: 'cascade' }),
    access: text('access', { enum: ['look', 'tick', 'edit'] }).notNull(),
    position: integer('position').notNull().default(0),
  },
  (t) => [primaryKey({ columns: [t.personId, t.learnerId] }), index('crew_by_learner').on(t.learnerId)],
);
