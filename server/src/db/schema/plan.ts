import type { PlanSettings, Part } from '@zephyrfield/core/plan/evenings';
import type { PlannedSitting, SaidBy } from '@zephyrfield/core/plan/run-up';
import { integer, primaryKey, sqliteTable, text } from 'drizzle-orm/sqlite-core';
import { instant } from './columns.ts';
import { item } from './gathered.ts';
import { learner } from './people.ts';

// Run-ups: when one can work, and how work is worked on before it is due.

/** Times at which a learner can work, and how they like to; a learner without a row has never said so. */
export const planSettings = sqliteTable('plan_settings', {
  learnerId: text('learner_id')
    .primaryKey()
    .references(() => learner.id, { onDelete: 'cascade' }),
  settings: text('settings', { mode: 'json' }).$type<PlanSettings>().notNull(),
  /** Counts changes; a change names the version it was made on */
  version: integer('version').notNull(),
  updatedAt: instant('updated_at').notNull(),
});

/**
 * The run-up of one date of an item, with all its sittings: they are planned, changed and taken along together, so that
 * they are one thing with one version.
 */
export const runUp = sqliteTable(
  'run_up',
  {
    itemId: text('item_id')
      .notNull()
      .references(() => item.id, { onDelete: 'cascade' }),
    recurrenceId: text('recurrence_id').notNull(),
    minutes: integer('minutes').notNull(),
    saidBy: text('said_by').$type<SaidBy>().notNull(),
    /** A date */
    firstDay: text('first_day').notNull(),
    perDay: integer('per_day').notNull(),
    polish: integer('polish', { mode: 'boolean' }).notNull(),
    shortest: integer('shortest'),
    longest: integer('longest'),
    parts: text('parts', { mode: 'json' }).$type<Part[]>().notNull(),
    sittings: text('sittings', { mode: 'json' }).$type<PlannedSitting[]>().notNull(),
    /** Counts changes; a change names the version it was made on */
    version: integer('version').notNull(),
    updatedAt: instant('updated_at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.itemId, t.recurrenceId] })],
);
