import type { When } from '@zephyrfield/core/time/when';
import type { HandInWay } from '@zephyrfield/core/item/kind';
import type { Brief } from '@zephyrfield/core/api/own';
import type { Colour } from '@zephyrfield/core/item/flag';
import type { RemindRule } from '@zephyrfield/core/notify/rules';
import { index, integer, primaryKey, real, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import { sql } from 'drizzle-orm';
import { user } from './accounts.ts';
import { learner } from './people.ts';
import { item } from './gathered.ts';
import { instant } from './columns.ts';

// What people add to items: the own layer, records, briefs.

/** What is added to an item on a learner's behalf, and seen by all of their crew. */
export const layer = sqliteTable(
  'layer',
  {
    itemId: text('item_id')
      .notNull()
      .references(() => item.id, { onDelete: 'cascade' }),
    recurrenceId: text('recurrence_id').notNull(),
    finishedAt: instant('finished_at'),
    finishedBy: text('finished_by').references(() => user.id, { onDelete: 'set null' }),
    handedIn: text('handed_in').$type<HandInWay>(),
    stillToDo: integer('still_to_do', { mode: 'boolean' }).notNull().default(false),
    aim: text('aim', { mode: 'json' }).$type<When>(),
    /** Minutes: what the person thinks it takes, and what it took so far */
    estimate: integer('estimate'),
    spent: integer('spent').notNull().default(0),
    timerSince: instant('timer_since'),
    position: real('position'),
    /** Reminders of it, in place of what holds otherwise */
    reminders: text('reminders', { mode: 'json' }).$type<RemindRule[]>(),
    /** Counts changes; a change names the version it was made on */
    version: integer('version').notNull(),
    updatedAt: instant('updated_at').notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.itemId, t.recurrenceId] }),
    index('layer_running')
      .on(t.itemId)
      .where(sql`timer_since IS NOT NULL`),
  ],
);

/** What a person has for themselves on an item; nobody else sees it. */
export const personLayer = sqliteTable(
  'person_layer',
  {
    personId: text('person_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    itemId: text('item_id')
      .notNull()
      .references(() => item.id, { onDelete: 'cascade' }),
    recurrenceId: text('recurrence_id').notNull(),
    hidden: integer('hidden', { mode: 'boolean' }).notNull().default(false),
    colour: text('colour').$type<Colour>(),
    note: text('note').notNull().default(''),
    /** Counts changes; a change names the version it was made on */
    version: integer('version').notNull(),
    updatedAt: instant('updated_at').notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.itemId, t.recurrenceId, t.personId] }),
    index('person_layer_by_person').on(t.personId),
  ],
);

/**
 * Records of what was told about finishing and handing in, one deed a row: what settles a later “but I did hand it in”.
 */
export const record = sqliteTable(
  'record',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    itemId: text('item_id')
      .notNull()
      .references(() => item.id, { onDelete: 'cascade' }),
    recurrenceId: text('recurrence_id').notNull(),
    kind: text('kind', { enum: ['finished', 'reopened', 'handedIn', 'stillToDo'] }).notNull(),
    way: text('way').$type<HandInWay>(),
    note: text('note').notNull().default(''),
    personId: text('person_id').references(() => user.id, { onDelete: 'set null' }),
    /** Moment when it was done, which may be before it was told */
    at: instant('at').notNull(),
  },
  (t) => [index('record_by_item').on(t.itemId, t.recurrenceId)],
);

/**
 * Text of a brief, once for each learner, however many items it stands on. It stays for a day after the
 * last of them has another one, so that it can be put back.
 */
export const briefText = sqliteTable(
  'brief_text',
  {
    id: text('id').primaryKey(),
    learnerId: text('learner_id')
      .notNull()
      .references(() => learner.id, { onDelete: 'cascade' }),
    /** SHA-256 of the value */
    digest: text('digest').notNull(),
    value: text('value', { mode: 'json' }).$type<Brief>().notNull(),
    /** Moment when it was last written or taken off an item */
    usedAt: instant('used_at').notNull(),
  },
  (t) => [uniqueIndex('brief_text_once').on(t.learnerId, t.digest)],
);

/** Which brief stands on an item, for all its dates (`recurrenceId` empty) or for one. */
export const brief = sqliteTable(
  'brief',
  {
    itemId: text('item_id')
      .notNull()
      .references(() => item.id, { onDelete: 'cascade' }),
    recurrenceId: text('recurrence_id').notNull(),
    textId: text('text_id')
      .notNull()
      .references(() => briefText.id, { onDelete: 'cascade' }),
    updatedAt: instant('updated_at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.itemId, t.recurrenceId] }), index('brief_by_text').on(t.textId)],
);

/**
 * A picture or file of a brief, for all dates of an item (`recurrenceId` empty) or for one. Its bytes lie
 * beside the database, named by their digest.
 */
export const briefFile = sqliteTable(
  'brief_file',
  {
    id: text('id').primaryKey(),
    learnerId: text('learner_id')
      .notNull()
      .references(() => learner.id, { onDelete: 'cascade' }),
    itemId: text('item_id')
      .notNull()
      .references(() => item.id, { onDelete: 'cascade' }),
    recurrenceId: text('recurrence_id').notNull(),
    name: text('name').notNull(),
    /** Media type, by its content */
    type: text('type').notNull(),
    size: integer('size').notNull(),
    /** SHA-256 of the bytes */
    digest: text('digest').notNull(),
    /** What it belongs to: the brief, or the record of handing in */
    of: text('of', { enum: ['brief', 'record'] })
      .notNull()
      .default('brief'),
    /** Person who added it */
    personId: text('person_id').references(() => user.id, { onDelete: 'set null' }),
    /** Since when it is taken away; it can be put back for a day */
    removedAt: instant('removed_at'),
    createdAt: instant('created_at').notNull(),
  },
  (t) => [
    index('brief_file_by_item').on(t.itemId, t.recurrenceId),
    index('brief_file_by_digest').on(t.digest),
    index('brief_file_by_learner').on(t.learnerId),
    index('brief_file_by_person').on(t.personId),
  ],
);

/** A brief kept under a name, to begin others with. */
export const keptBrief = sqliteTable(
  'kept_brief',
  {
    id: text('id').primaryKey(),
    personId: text('person_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    value: text('value', { mode: 'json' }).$type<Brief>().notNull(),
    updatedAt: instant('updated_at').notNull(),
  },
  (t) => [uniqueIndex('kept_brief_once').on(t.personId, t.name)],
);
