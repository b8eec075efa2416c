import { contentFrom, contentText } from '@zephyrfield/core/gather/content';
import type { EntryContent } from '@zephyrfield/core/gather/entries';
import type { OwnZones } from '@zephyrfield/core/ical/zones';
import type { Settings, Term } from '@zephyrfield/core/view/settings';
import type { When } from '@zephyrfield/core/time/when';
import type { Rules } from '@zephyrfield/core/gather/rules';
import type { CalendarSort, HandInWay, Sort } from '@zephyrfield/core/item/sort';
import type { Brief } from '@zephyrfield/core/api/own';
import type { Colour, Flag } from '@zephyrfield/core/item/flag';
import type { RemindRule, RemindSet } from '@zephyrfield/core/remind/rules';
import type { BriefPart, News, Telling, Way } from '@zephyrfield/core/remind/telling';
import { sql } from 'drizzle-orm';
import { blob, customType, index, integer, primaryKey, real, sqliteTable, text, uniqueIndex, type AnySQLiteColumn } from 'drizzle-orm/sqlite-core';

/** Instants are milliseconds since the epoch, in UTC, unless a column's name says otherwise. */
const instant = (name: string) => integer(name);
/** An entry's content in the text form of core/gather/content. */
const content = customType<{ data: EntryContent; driverData: string }>({ dataType: () => 'text', toDriver: contentText, fromDriver: contentFrom });
/** better-auth keeps its own times as Dates. */
const authTime = (name: string) => integer(name, { mode: 'timestamp' });

// ---- accounts, as better-auth lays them out -------------------------------------------------------------------------

export const user = sqliteTable('user', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  email: text('email').notNull().unique(),
  emailVerified: integer('email_verified', { mode: 'boolean' }).notNull().default(false),
  image: text('image'),
  createdAt: authTime('created_at').notNull(),
  updatedAt: authTime('updated_at').notNull(),
});

export const session = sqliteTable('session', {
  id: text('id').primaryKey(),
  expiresAt: authTime('expires_at').notNull(),
  token: text('token').notNull().unique(),
  createdAt: authTime('created_at').notNull(),
  updatedAt: authTime('updated_at').notNull(),
  ipAddress: text('ip_address'),
  userAgent: text('user_agent'),
  userId: text('user_id').notNull().references(() => user.id, { onDelete: 'cascade' }),
}); // prettier-ignore

export const account = sqliteTable('account', {
  id: text('id').primaryKey(),
  accountId: text('account_id').notNull(),
  providerId: text('provider_id').notNull(),
  userId: text('user_id').notNull().references(() => user.id, { onDelete: 'cascade' }),
  accessToken: text('access_token'),
  refreshToken: text('refresh_token'),
  idToken: text('id_token'),
  accessTokenExpiresAt: authTime('access_token_expires_at'),
  refreshTokenExpiresAt: authTime('refresh_token_expires_at'),
  scope: text('scope'),
  password: text('password'),
  createdAt: authTime('created_at').notNull(),
  updatedAt: authTime('updated_at').notNull(),
}); // prettier-ignore

export const verification = sqliteTable('verification', {
  id: text('id').primaryKey(),
  identifier: text('identifier').notNull(),
  value: text('value').notNull(),
  expiresAt: authTime('expires_at').notNull(),
  createdAt: authTime('created_at').notNull(),
  updatedAt: authTime('updated_at').notNull(),
});

// ---- people -----------------------------------------------------------------------------------------------------------

/** Whose schedule it is. `zone` is the learner's own, never the server's. */
export const learner = sqliteTable('learner', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  zone: text('zone').notNull(),
  /** As it was typed; null where it is taken from the school's calendar */
  term: text('term', { mode: 'json' }).$type<Term>(),
  /** When to remind of what, where that is said for the whole schedule */
  reminders: text('reminders', { mode: 'json' }).$type<Partial<RemindSet>>(),
  createdAt: instant('created_at').notNull(),
});

/** How a person likes to look at things; who has changed nothing has no row. */
export const settings = sqliteTable('settings', {
  personId: text('person_id').primaryKey().references(() => user.id, { onDelete: 'cascade' }),
  value: text('value', { mode: 'json' }).$type<Settings>().notNull(),
}); // prettier-ignore

/** Who may see a learner's schedule, and how far. */
export const crew = sqliteTable(
  'crew',
  {
    personId: text('person_id').notNull().references(() => user.id, { onDelete: 'cascade' }),
    learnerId: text('learner_id').notNull().references(() => learner.id, { onDelete: 'cascade' }),
    access: text('access', { enum: ['look', 'tick', 'edit'] }).notNull(),
    position: integer('position').notNull().default(0),
  },
  (t) => [primaryKey({ columns: [t.personId, t.learnerId] }), index('crew_by_learner').on(t.learnerId)],
); // prettier-ignore

// ---- what is gathered -------------------------------------------------------------------------------------------------

export const calendar = sqliteTable(
  'calendar',
  {
    id: text('id').primaryKey(),
    learnerId: text('learner_id').notNull().references(() => learner.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    sort: text('sort').$type<CalendarSort>().notNull(),
    /** What the person calls its category, where its sort is their own */
    category: text('category').notNull().default(''),
    colour: text('colour').$type<Colour>().notNull(),
    flag: text('flag', { mode: 'json' }).$type<Flag>().notNull(),
    /** Where floating times and unknown zones are read */
    zone: text('zone').notNull(),
    position: integer('position').notNull(),
    /** When to remind of what is in it, where that is said; and whether its feed’s own alarms count instead */
    reminders: text('reminders', { mode: 'json' }).$type<Partial<RemindSet>>(),
    alarms: text('alarms', { enum: ['use', 'ignore'] }).notNull().default('ignore'),
    createdAt: instant('created_at').notNull(),
  },
  (t) => [index('calendar_by_learner').on(t.learnerId, t.position)],
); // prettier-ignore

export const source = sqliteTable(
  'source',
  {
    id: text('id').primaryKey(),
    learnerId: text('learner_id').notNull().references(() => learner.id, { onDelete: 'cascade' }),
    calendarId: text('calendar_id').notNull().references(() => calendar.id, { onDelete: 'cascade' }),
    kind: text('kind', { enum: ['followedLink', 'oneTimeFile', 'handMade'] }).notNull(),
    /** The link, encrypted: it may hold a secret. Empty for a file */
    addressSealed: text('address_sealed').notNull(),
    /** The link as it may be shown, or the file's name */
    addressMasked: text('address_masked').notNull(),
    /** Keyed digest of the link, to find that it is followed already */
    addressDigest: text('address_digest').notNull(),
    etag: text('etag'),
    lastModified: text('last_modified'),
    /** SHA-256 of the bytes last applied */
    bodyDigest: text('body_digest'),
    zones: text('zones', { mode: 'json' }).$type<OwnZones>().notNull().default({}),
    /** How a person has said its entries are to be understood */
    rules: text('rules', { mode: 'json' }).$type<Rules>().notNull().default({ split: null, corrections: [], apart: [] }),
    /** Which calendar each part of a split goes to; `''` for what says no part */
    parts: text('parts', { mode: 'json' }).$type<Record<string, string>>().notNull().default({}),
    /** Parts that turned up after the split was made, until a person has seen them */
    newParts: text('new_parts', { mode: 'json' }).$type<string[]>().notNull().default([]),
    /** What the last reading looked like, so that the next one can leave what has not changed unread */
    context: text('context'),
    total: integer('total'),
    openings: text('openings', { mode: 'json' }).$type<string[]>().notNull().default([]),
    feedName: text('feed_name'),
    refreshSeconds: integer('refresh_seconds'),
    warnings: text('warnings', { mode: 'json' }).$type<{ line: number | null; message: string }[]>().notNull().default([]),
    /** How far ahead occurrences have been worked out */
    horizonTo: instant('horizon_to').notNull().default(0),
    lastCheckedAt: instant('last_checked_at'),
    lastGoodAt: instant('last_good_at'),
    troubleCode: text('trouble_code'),
    troubleSince: instant('trouble_since'),
    /** A reading that lost most entries at once and is not believed yet: since when, how many readings, how many of how many */
    heldSince: instant('held_since'),
    heldTimes: integer('held_times').notNull().default(0),
    heldMissing: integer('held_missing').notNull().default(0),
    heldOf: integer('held_of').notNull().default(0),
    /** When it is to be checked by itself; null while paused */
    nextCheckAt: instant('next_check_at'),
    /** Failed checks in a row */
    failures: integer('failures').notNull().default(0),
    /** Since when it is followed no more; what was ticked off in it stays */
    removedAt: instant('removed_at'),
    createdAt: instant('created_at').notNull(),
  },
  (t) => [index('source_by_learner').on(t.learnerId), index('source_by_next_check').on(t.nextCheckAt), uniqueIndex('source_once').on(t.learnerId, t.addressDigest)],
); // prettier-ignore

/**
 * One UID of one source, repeats and overrides included. Its id is its identity: an own layer hangs on it, so a row is
 * marked as gone and not deleted when its feed no longer has it.
 */
export const item = sqliteTable(
  'item',
  {
    id: text('id').primaryKey(),
    learnerId: text('learner_id').notNull().references(() => learner.id, { onDelete: 'cascade' }),
    calendarId: text('calendar_id').notNull().references(() => calendar.id, { onDelete: 'cascade' }),
    sourceId: text('source_id').notNull().references(() => source.id, { onDelete: 'cascade' }),
    uid: text('uid').notNull(),
    /** Of its blocks; `again` where it is to be read anew every time, whatever its digest */
    digest: integer('digest').notNull().default(0),
    again: integer('again', { mode: 'boolean' }).notNull().default(true),
    part: text('part'),
    /** What it shares with items that may be the same thing; and the item it is shown as part of */
    twinKey: text('twin_key'),
    sameAs: text('same_as').references((): AnySQLiteColumn => item.id, { onDelete: 'set null' }),
    sort: text('sort').$type<Sort>().notNull(),
    handIn: text('hand_in').$type<HandInWay>().notNull(),
    course: text('course'),
    title: text('title').notNull(),
    content: content('content').notNull(),
    /** Counts the changes of what is made by hand */
    version: integer('version').notNull().default(0),
    goneAt: instant('gone_at'),
    createdAt: instant('created_at').notNull(),
    updatedAt: instant('updated_at').notNull(),
  },
  (t) => [
    uniqueIndex('item_once').on(t.sourceId, t.uid), index('item_by_calendar').on(t.calendarId),
    index('item_by_twin').on(t.learnerId, t.twinKey),
    index('item_same_as').on(t.sameAs).where(sql`same_as IS NOT NULL`),
  ],
); // prettier-ignore

/** What lasts longer than this is found by an index of its own, so that a month need not look at all that began before it. */
export const LONG = 30 * 86_400_000;

/** An item's dates in the stored horizon; rebuilt whenever the item changes. */
export const occurrence = sqliteTable(
  'occurrence',
  {
    itemId: text('item_id').notNull().references(() => item.id, { onDelete: 'cascade' }),
    key: text('key').notNull(),
    learnerId: text('learner_id').notNull(),
    calendarId: text('calendar_id').notNull(),
    title: text('title').notNull(),
    place: text('place').notNull(),
    status: text('status', { enum: ['confirmed', 'tentative', 'cancelled'] }).notNull(),
    sort: text('sort').$type<Sort>().notNull(),
    handIn: text('hand_in').$type<HandInWay>().notNull(),
    start: text('start', { mode: 'json' }).$type<When>().notNull(),
    end: text('end', { mode: 'json' }).$type<When>(),
    due: text('due', { mode: 'json' }).$type<When>(),
    fromMs: integer('from_ms').notNull(),
    toMs: integer('to_ms').notNull(),
    /** Its item is shown as part of another one */
    twin: integer('twin', { mode: 'boolean' }).notNull().default(false),
    /** It is made by hand, and ours to change */
    own: integer('own', { mode: 'boolean' }).notNull().default(false),
  },
  (t) => [primaryKey({ columns: [t.itemId, t.key] }), index('occurrence_by_time').on(t.learnerId, t.fromMs, t.toMs), index('occurrence_long').on(t.learnerId, t.toMs).where(sql.raw(`to_ms - from_ms > ${LONG}`))],
); // prettier-ignore

/** What a learner adds to an item that is not theirs to change. */
export const layer = sqliteTable(
  'layer',
  {
    itemId: text('item_id').notNull().references(() => item.id, { onDelete: 'cascade' }),
    key: text('key').notNull(),
    finishedAt: instant('finished_at'),
    finishedBy: text('finished_by').references(() => user.id, { onDelete: 'set null' }),
    handedIn: text('handed_in').$type<HandInWay>(),
    stillToDo: integer('still_to_do', { mode: 'boolean' }).notNull().default(false),
    aim: text('aim', { mode: 'json' }).$type<When>(),
    /** Minutes: what the person thinks it takes, and what it took so far */
    estimate: integer('estimate'),
    spent: integer('spent').notNull().default(0),
    timerSince: instant('timer_since'),
    note: text('note').notNull().default(''),
    hidden: integer('hidden', { mode: 'boolean' }).notNull().default(false),
    colour: text('colour').$type<Colour>(),
    position: real('position'),
    /** When to remind of it, in place of what holds otherwise */
    reminders: text('reminders', { mode: 'json' }).$type<RemindRule[]>(),
    /** Counts changes; a change names the version it was made on */
    version: integer('version').notNull(),
    updatedAt: instant('updated_at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.itemId, t.key] })],
); // prettier-ignore

/** What was told about finishing and handing in, one deed a row: what settles a later “but I did hand it in”. */
export const record = sqliteTable(
  'record',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    itemId: text('item_id').notNull().references(() => item.id, { onDelete: 'cascade' }),
    key: text('key').notNull(),
    kind: text('kind', { enum: ['finished', 'reopened', 'handedIn', 'stillToDo'] }).notNull(),
    way: text('way').$type<HandInWay>(),
    note: text('note').notNull().default(''),
    personId: text('person_id').references(() => user.id, { onDelete: 'set null' }),
    /** When it was done, which may be before it was told */
    at: instant('at').notNull(),
  },
  (t) => [index('record_by_item').on(t.itemId, t.key)],
); // prettier-ignore

/** A brief, for all dates of an item (`key` empty) or for one. */
export const brief = sqliteTable(
  'brief',
  {
    itemId: text('item_id').notNull().references(() => item.id, { onDelete: 'cascade' }),
    key: text('key').notNull(),
    value: text('value', { mode: 'json' }).$type<Brief>().notNull(),
    updatedAt: instant('updated_at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.itemId, t.key] })],
); // prettier-ignore

/** A picture or file of a brief, for all dates of an item (`key` empty) or for one. Its bytes lie beside the database, named by their digest. */
export const briefFile = sqliteTable(
  'brief_file',
  {
    id: text('id').primaryKey(),
    learnerId: text('learner_id').notNull().references(() => learner.id, { onDelete: 'cascade' }),
    itemId: text('item_id').notNull().references(() => item.id, { onDelete: 'cascade' }),
    key: text('key').notNull(),
    name: text('name').notNull(),
    /** Media type, by its content */
    type: text('type').notNull(),
    size: integer('size').notNull(),
    /** SHA-256 of the bytes */
    digest: text('digest').notNull(),
    /** Since when it is taken away; it can be put back for a day */
    removedAt: instant('removed_at'),
    createdAt: instant('created_at').notNull(),
  },
  (t) => [index('brief_file_by_item').on(t.itemId, t.key), index('brief_file_by_digest').on(t.digest), index('brief_file_by_learner').on(t.learnerId)],
); // prettier-ignore

/** A brief kept under a name, to begin others with. */
export const keptBrief = sqliteTable(
  'kept_brief',
  {
    id: text('id').primaryKey(),
    personId: text('person_id').notNull().references(() => user.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    value: text('value', { mode: 'json' }).$type<Brief>().notNull(),
    updatedAt: instant('updated_at').notNull(),
  },
  (t) => [uniqueIndex('kept_brief_once').on(t.personId, t.name)],
); // prettier-ignore

/** Two items a person has said are not the same thing, the smaller id first. */
export const toldApart = sqliteTable(
  'told_apart',
  {
    a: text('a').notNull().references(() => item.id, { onDelete: 'cascade' }),
    b: text('b').notNull().references(() => item.id, { onDelete: 'cascade' }),
  },
  (t) => [primaryKey({ columns: [t.a, t.b] }), index('told_apart_by_b').on(t.b)],
); // prettier-ignore

/** A file that was sent and looked at, until it is read in or a day has passed. */
export const waitingFile = sqliteTable(
  'waiting_file',
  {
    id: text('id').primaryKey(),
    learnerId: text('learner_id').notNull().references(() => learner.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    bytes: blob('bytes', { mode: 'buffer' }).notNull(),
    createdAt: instant('created_at').notNull(),
  },
  (t) => [index('waiting_file_by_time').on(t.createdAt)],
); // prettier-ignore

/** What a reading said otherwise than the one before, to be told. Ids grow, so "seen up to" is one number a person. */
export const change = sqliteTable(
  'change',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    learnerId: text('learner_id').notNull().references(() => learner.id, { onDelete: 'cascade' }),
    calendarId: text('calendar_id').notNull().references(() => calendar.id, { onDelete: 'cascade' }),
    itemId: text('item_id').notNull().references(() => item.id, { onDelete: 'cascade' }),
    key: text('key').notNull(),
    kind: text('kind', { enum: ['added', 'moved', 'reworded', 'calledOff', 'removed'] }).notNull(),
    title: text('title').notNull(),
    from: text('from', { mode: 'json' }).$type<When>(),
    to: text('to', { mode: 'json' }).$type<When>(),
    /** Its title before, where that is what changed */
    formerTitle: text('former_title'),
    at: instant('at').notNull(),
  },
  (t) => [index('change_by_learner').on(t.learnerId, t.id), index('change_by_item').on(t.itemId)],
); // prettier-ignore

export const changesSeen = sqliteTable(
  'changes_seen',
  {
    personId: text('person_id').notNull().references(() => user.id, { onDelete: 'cascade' }),
    learnerId: text('learner_id').notNull().references(() => learner.id, { onDelete: 'cascade' }),
    upTo: integer('up_to').notNull(),
  },
  (t) => [primaryKey({ columns: [t.personId, t.learnerId] })],
); // prettier-ignore

// ---- telling people -----------------------------------------------------------------------------------------------------

/** What a person wants to be told; who has changed nothing has no row. */
export const telling = sqliteTable('telling', {
  personId: text('person_id').primaryKey().references(() => user.id, { onDelete: 'cascade' }),
  value: text('value', { mode: 'json' }).$type<Telling>().notNull(),
}); // prettier-ignore

/**
 * How far a person has been told of a learner: reminders up to an instant, changes and records up to their number. What
 * comes due is worked out from what stands in the calendars then, so that nothing is stored that could grow stale.
 */
export const tellingClock = sqliteTable(
  'telling_clock',
  {
    personId: text('person_id').notNull().references(() => user.id, { onDelete: 'cascade' }),
    learnerId: text('learner_id').notNull().references(() => learner.id, { onDelete: 'cascade' }),
    doneTo: instant('done_to').notNull(),
    changesTo: integer('changes_to').notNull(),
    recordsTo: integer('records_to').notNull(),
    /** When it is to be looked at next; 0 after anything has changed */
    nextAt: instant('next_at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.personId, t.learnerId] }), index('telling_clock_by_next').on(t.nextAt), index('telling_clock_by_learner').on(t.learnerId)],
); // prettier-ignore

/** The same for a person's briefs; and what keeps their mail from going out. */
export const briefClock = sqliteTable(
  'brief_clock',
  {
    personId: text('person_id').primaryKey().references(() => user.id, { onDelete: 'cascade' }),
    doneTo: instant('done_to').notNull(),
    nextAt: instant('next_at').notNull(),
    mailTrouble: text('mail_trouble'),
    mailTroubleSince: instant('mail_trouble_since'),
  },
  (t) => [index('brief_clock_by_next').on(t.nextAt)],
); // prettier-ignore

/** One mail: made of deliveries once and for all, so that it is the same one however often it has to be tried. */
export const letter = sqliteTable(
  'letter',
  {
    id: text('id').primaryKey(),
    personId: text('person_id').notNull().references(() => user.id, { onDelete: 'cascade' }),
    attempts: integer('attempts').notNull().default(0),
    nextTryAt: instant('next_try_at'),
    giveUpAt: instant('give_up_at').notNull(),
    sentAt: instant('sent_at'),
    problem: text('problem'),
    createdAt: instant('created_at').notNull(),
  },
  (t) => [index('letter_by_try').on(t.nextTryAt).where(sql`next_try_at IS NOT NULL`)],
); // prettier-ignore

/** One thing one person is told by one way. Its key makes doubles impossible. */
export const delivery = sqliteTable(
  'delivery',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    key: text('key').notNull(),
    personId: text('person_id').notNull().references(() => user.id, { onDelete: 'cascade' }),
    learnerId: text('learner_id').notNull().references(() => learner.id, { onDelete: 'cascade' }),
    way: text('way').$type<Way>().notNull(),
    news: text('news').$type<News>().notNull(),
    itemId: text('item_id').references(() => item.id, { onDelete: 'set null' }),
    itemKey: text('item_key').notNull().default(''),
    calendarId: text('calendar_id').references(() => calendar.id, { onDelete: 'set null' }),
    title: text('title').notNull(),
    line: text('line').notNull(),
    brief: text('brief', { mode: 'json' }).$type<{ part: BriefPart; day: string }>(),
    /** What a reminder looks towards: where that has moved meanwhile, it is not sent any more. Null for news and what was put off */
    anchor: instant('anchor'),
    at: instant('at').notNull(),
    notBefore: instant('not_before').notNull(),
    useBy: instant('use_by').notNull(),
    state: text('state', { enum: ['waiting', 'sent', 'dropped', 'failed'] }).notNull(),
    letterId: text('letter_id').references(() => letter.id, { onDelete: 'set null' }),
    /** Why it was dropped or failed, in a word */
    reason: text('reason'),
    seenAt: instant('seen_at'),
    sentAt: instant('sent_at'),
  },
  (t) => [
    uniqueIndex('delivery_once').on(t.key), index('delivery_by_person').on(t.personId, t.way, t.at),
    index('delivery_waiting').on(t.way, t.notBefore).where(sql`state = 'waiting' AND letter_id IS NULL`),
    index('delivery_waiting_of').on(t.way, t.personId).where(sql`state = 'waiting' AND letter_id IS NULL`),
    index('delivery_by_letter').on(t.letterId).where(sql`letter_id IS NOT NULL`), index('delivery_by_item').on(t.itemId),
  ],
); // prettier-ignore
