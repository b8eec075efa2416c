import type { OwnZones } from '@zephyrfield/core/ical/zones';
import type { When } from '@zephyrfield/core/time/when';
import type { Rules } from '@zephyrfield/core/gather/rules';
import type { CalendarKind, HandInWay, ItemKind } from '@zephyrfield/core/item/kind';
import type { Colour, Flag } from '@zephyrfield/core/item/flag';
import type { Audience } from '@zephyrfield/core/item/access';
import type { RemindSet } from '@zephyrfield/core/notify/rules';
import { sql } from 'drizzle-orm';
import {
  blob,
  index,
  integer,
  primaryKey,
  sqliteTable,
  text,
  uniqueIndex,
  type AnySQLiteColumn,
} from 'drizzle-orm/sqlite-core';
import { user } from './accounts.ts';
import { learner } from './people.ts';
import { content, instant, type HandedOver } from './columns.ts';

// What is gathered or made by hand, and what its feeds have changed.

export const calendar = sqliteTable(
  'calendar',
  {
    id: text('id').primaryKey(),
    learnerId: text('learner_id')
      .notNull()
      .references(() => learner.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    kind: text('kind').$type<CalendarKind>().notNull(),
    /** Name the person gives its category, where its kind is their own */
    category: text('category').notNull().default(''),
    colour: text('colour').$type<Colour>().notNull(),
    flag: text('flag', { mode: 'json' }).$type<Flag>().notNull(),
    /** Place where floating times and unknown zones are read */
    zone: text('zone').notNull(),
    position: integer('position').notNull(),
    /**
     * Reminders of what is in it, where that is said; and whether its feed’s own alarms count instead
     */
    reminders: text('reminders', { mode: 'json' }).$type<Partial<RemindSet>>(),
    alarms: text('alarms', { enum: ['use', 'ignore'] })
      .notNull()
      .default('ignore'),
    /** People in the crew it is for; null for everybody */
    audience: text('audience', { mode: 'json' }).$type<Audience>(),
    /** Person who made it */
    madeBy: text('made_by').references(() => user.id, { onDelete: 'set null' }),
    createdAt: instant('created_at').notNull(),
  },
  (t) => [index('calendar_by_learner').on(t.learnerId, t.position)],
);

export const source = sqliteTable(
  'source',
  {
    id: text('id').primaryKey(),
    learnerId: text('learner_id')
      .notNull()
      .references(() => learner.id, { onDelete: 'cascade' }),
    calendarId: text('calendar_id')
      .notNull()
      .references(() => calendar.id, { onDelete: 'cascade' }),
    kind: text('kind', { enum: ['followedLink', 'oneTimeFile', 'published', 'handMade'] }).notNull(),
    /** The calendar of another schedule that it follows; null where that is gone */
    publishedFrom: text('published_from').references((): AnySQLiteColumn => calendar.id, {
      onDelete: 'set null',
    }),
    /** The link, encrypted: it may hold a secret. Empty for a file */
    addressSealed: text('address_sealed').notNull(),
    /** The link as it may be shown, or the file's name */
    addressMasked: text('address_masked').notNull(),
    /** Keyed digest of the link, to find that it is followed already */
    addressDigest: text('address_digest').notNull(),
    /** Keyed digest of its host, so that one server is not asked by many at once */
    hostDigest: text('host_digest').notNull().default(''),
    /** Nothing in the link can be a secret, as far as can be told: it is fetched once for all who follow it */
    isPlain: integer('is_plain', { mode: 'boolean' }).notNull().default(false),
    etag: text('etag'),
    lastModified: text('last_modified'),
    /** SHA-256 of the bytes last applied */
    bodyDigest: text('body_digest'),
    zones: text('zones', { mode: 'json' }).$type<OwnZones>().notNull().default({}),
    /** Way in which a person has said its entries are to be understood */
    rules: text('rules', { mode: 'json' })
      .$type<Rules>()
      .notNull()
      .default({ split: null, corrections: [], unjoined: [] }),
    /** Which calendar each part of a split goes to; `''` for what says no part */
    sections: text('sections', { mode: 'json' }).$type<Record<string, string>>().notNull().default({}),
    /** Parts that turned up after the split was made, until a person has seen them */
    newSections: text('new_sections', { mode: 'json' }).$type<string[]>().notNull().default([]),
    /** Shape of the last reading, so that the next one can leave what has not changed unread */
    context: text('context'),
    total: integer('total'),
    openings: text('openings', { mode: 'json' }).$type<string[]>().notNull().default([]),
    ofDeadlines: integer('of_deadlines', { mode: 'boolean' }).notNull().default(false),
    feedName: text('feed_name'),
    refreshSeconds: integer('refresh_seconds'),
    warnings: text('warnings', { mode: 'json' })
      .$type<{ line: number | null; message: string }[]>()
      .notNull()
      .default([]),
    /** Instant up to which occurrences have been worked out */
    horizonTo: instant('horizon_to').notNull().default(0),
    lastCheckedAt: instant('last_checked_at'),
    lastGoodAt: instant('last_good_at'),
    troubleCode: text('trouble_code'),
    troubleSince: instant('trouble_since'),
    /**
     * A reading that lost most entries at once and is not believed yet: since when, how many readings, how
     * many of how many
     */
    heldSince: instant('held_since'),
    heldTimes: integer('held_times').notNull().default(0),
    heldMissing: integer('held_missing').notNull().default(0),
    heldOf: integer('held_of').notNull().default(0),
    /** Moment when it is to be checked by itself; null while paused */
    nextCheckAt: instant('next_check_at'),
    /** Failed checks in a row */
    failures: integer('failures').notNull().default(0),
    /** Since when it is followed no more; what was ticked off in it stays */
    removedAt: instant('removed_at'),
    createdAt: instant('created_at').notNull(),
  },
  (t) => [
    index('source_by_learner').on(t.learnerId),
    index('source_by_next_check').on(t.nextCheckAt),
    index('source_by_address').on(t.addressDigest),
    index('source_by_published')
      .on(t.publishedFrom)
      .where(sql`published_from IS NOT NULL`),
    uniqueIndex('source_once').on(t.learnerId, t.addressDigest),
  ],
);

/**
 * One UID of one source, repeats and overrides included. Its id is its identity: an own layer hangs on it, so
 * a row is marked as gone and not deleted when its feed no longer has it.
 */
export const item = sqliteTable(
  'item',
  {
    id: text('id').primaryKey(),
    learnerId: text('learner_id')
      .notNull()
      .references(() => learner.id, { onDelete: 'cascade' }),
    calendarId: text('calendar_id')
      .notNull()
      .references(() => calendar.id, { onDelete: 'cascade' }),
    sourceId: text('source_id')
      .notNull()
      .references(() => source.id, { onDelete: 'cascade' }),
    uid: text('uid').notNull(),
    /** Of its blocks; `mustReparse` where it is to be read anew every time, whatever its digest */
    digest: integer('digest').notNull().default(0),
    /** Of what is written under its UID; null where that cannot be told without cutting the feed */
    written: integer('written'),
    mustReparse: integer('must_reparse', { mode: 'boolean' }).notNull().default(true),
    section: text('section'),
    /** What it shares with items that may be the same thing; and the item it is shown as part of */
    duplicateKey: text('duplicate_key'),
    sameAs: text('same_as').references((): AnySQLiteColumn => item.id, { onDelete: 'set null' }),
    kind: text('kind').$type<ItemKind>().notNull(),
    handIn: text('hand_in').$type<HandInWay>().notNull(),
    course: text('course'),
    title: text('title').notNull(),
    /** Counts the changes of what is made by hand */
    version: integer('version').notNull().default(0),
    goneAt: instant('gone_at'),
    /** It left its feed with something that people had added, while new entries came: it may be one of them */
    unmatched: integer('unmatched', { mode: 'boolean' }).notNull().default(false),
    /** It may as well be due, or not be, as far as its feed tells: a person is asked */
    doubt: integer('doubt', { mode: 'boolean' }).notNull().default(false),
    createdAt: instant('created_at').notNull(),
    updatedAt: instant('updated_at').notNull(),
    /** Last, since whatever stands behind it would be reached only through it */
    content: content('content').notNull(),
  },
  (t) => [
    uniqueIndex('item_once').on(t.sourceId, t.uid),
    index('item_by_calendar').on(t.calendarId),
    index('item_by_duplicate').on(t.learnerId, t.duplicateKey),
    index('item_same_as')
      .on(t.sameAs)
      .where(sql`same_as IS NOT NULL`),
    index('item_unmatched')
      .on(t.learnerId)
      .where(sql`unmatched`),
    index('item_doubt')
      .on(t.learnerId)
      .where(sql`doubt`),
  ],
);

/**
 * What lasts longer than this is found by an index of its own, so that a month need not look at all that
 * began before it.
 */
export const LONG = 30 * 86_400_000;

/** An item's dates in the stored horizon; rebuilt whenever the item changes. */
export const occurrence = sqliteTable(
  'occurrence',
  {
    itemId: text('item_id')
      .notNull()
      .references(() => item.id, { onDelete: 'cascade' }),
    recurrenceId: text('recurrence_id').notNull(),
    learnerId: text('learner_id').notNull(),
    calendarId: text('calendar_id').notNull(),
    title: text('title').notNull(),
    place: text('place').notNull(),
    status: text('status', { enum: ['confirmed', 'tentative', 'cancelled'] }).notNull(),
    kind: text('kind').$type<ItemKind>().notNull(),
    handIn: text('hand_in').$type<HandInWay>().notNull(),
    start: text('start', { mode: 'json' }).$type<When>().notNull(),
    end: text('end', { mode: 'json' }).$type<When>(),
    due: text('due', { mode: 'json' }).$type<When>(),
    fromMs: integer('from_ms').notNull(),
    toMs: integer('to_ms').notNull(),
    /** Its item is shown as part of another one */
    duplicate: integer('duplicate', { mode: 'boolean' }).notNull().default(false),
    /** It is made by hand, and ours to change */
    own: integer('own', { mode: 'boolean' }).notNull().default(false),
    /** Its course says that it is done */
    doneInCourse: integer('done_in_course', { mode: 'boolean' }).notNull().default(false),
    /** One of a series that goes on for ever */
    endless: integer('endless', { mode: 'boolean' }).notNull().default(false),
    /** After this nothing is taken any more */
    closes: text('closes', { mode: 'json' }).$type<When>(),
  },
  (t) => [
    primaryKey({ columns: [t.itemId, t.recurrenceId] }),
    index('occurrence_by_time').on(t.learnerId, t.fromMs, t.toMs),
    index('occurrence_long')
      .on(t.learnerId, t.toMs)
      .where(sql.raw(`to_ms - from_ms > ${LONG}`)),
  ],
);

/** Two items of which a person has said whether they are the same thing; the smaller id first. */
export const verdict = sqliteTable(
  'verdict',
  {
    a: text('a')
      .notNull()
      .references(() => item.id, { onDelete: 'cascade' }),
    b: text('b')
      .notNull()
      .references(() => item.id, { onDelete: 'cascade' }),
    same: integer('same', { mode: 'boolean' }).notNull(),
    /** What went along from one to the other when they were joined, so that it can be given back */
    carried: text('carried', { mode: 'json' }).$type<HandedOver[]>().notNull().default([]),
  },
  (t) => [primaryKey({ columns: [t.a, t.b] }), index('verdict_by_b').on(t.b)],
);

/** A file that was sent and looked at, until it is read in or a day has passed. */
export const waitingFile = sqliteTable(
  'waiting_file',
  {
    id: text('id').primaryKey(),
    learnerId: text('learner_id')
      .notNull()
      .references(() => learner.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    bytes: blob('bytes', { mode: 'buffer' }).notNull(),
    createdAt: instant('created_at').notNull(),
  },
  (t) => [index('waiting_file_by_time').on(t.createdAt)],
);

/**
 * Differences of a reading from the one before, to be told. Ids grow, so "seen up to" is one number a
 * person.
 */
export const change = sqliteTable(
  'change',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    learnerId: text('learner_id')
      .notNull()
      .references(() => learner.id, { onDelete: 'cascade' }),
    calendarId: text('calendar_id')
      .notNull()
      .references(() => calendar.id, { onDelete: 'cascade' }),
    itemId: text('item_id')
      .notNull()
      .references(() => item.id, { onDelete: 'cascade' }),
    recurrenceId: text('recurrence_id').notNull(),
    kind: text('kind', { enum: ['added', 'moved', 'reworded', 'calledOff', 'removed'] }).notNull(),
    title: text('title').notNull(),
    from: text('from', { mode: 'json' }).$type<When>(),
    to: text('to', { mode: 'json' }).$type<When>(),
    /** Its title before, where that is what changed */
    formerTitle: text('former_title'),
    at: instant('at').notNull(),
  },
  (t) => [index('change_by_learner').on(t.learnerId, t.id), index('change_by_item').on(t.itemId)],
);

export const changesSeen = sqliteTable(
  'changes_seen',
  {
    personId: text('person_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    learnerId: text('learner_id')
      .notNull()
      .references(() => learner.id, { onDelete: 'cascade' }),
    upTo: integer('up_to').notNull(),
  },
  (t) => [primaryKey({ columns: [t.personId, t.learnerId] })],
);
