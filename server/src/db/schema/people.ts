import type { Settings, Term } from '@zephyrfield/core/view/settings';

import { ACCESSES, type Access } from '@zephyrfield/core/item/access';
import type { RemindSet } from '@zephyrfield/core/notify/rules';
import { ACCESS_EVENTS, INVITE_WAYS } from '@zephyrfield/core/item/crew';
import { index, integer, primaryKey, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
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
  /** Reminders, where that is said for the whole schedule */
  reminders: text('reminders', { mode: 'json' }).$type<Partial<RemindSet>>(),
  /** Whose own schedule it is; null while they have no account */
  personId: text('person_id').references(() => user.id, { onDelete: 'set null' }),
  /** Person who began the schedule */
  createdBy: text('created_by').references(() => user.id, { onDelete: 'set null' }),
  createdAt: instant('created_at').notNull(),
});

/**
 * A link that was sent to a mail address, by the digest of its secret: good once, for an hour, and for that address
 * alone.
 */
export const confirmation = sqliteTable(
  'confirmation',
  {
    digest: text('digest').primaryKey(),
    personId: text('person_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    /** What it does: confirms the address, sets a password anew, or makes it the person’s address */
    kind: text('kind', { enum: ['confirm', 'reset', 'move'] })
      .notNull()
      .default('confirm'),
    email: text('email').notNull(),
    createdAt: instant('created_at').notNull(),
    expiresAt: instant('expires_at').notNull(),
  },
  (t) => [index('confirmation_by_person').on(t.personId)],
);

/**
 * Accounts that are made once the link sent to their address is opened, by the digest of its secret. What was typed is
 * kept that long; of one address there may be several.
 */
export const beginning = sqliteTable(
  'beginning',
  {
    digest: text('digest').primaryKey(),
    name: text('name').notNull(),
    email: text('email').notNull(),
    passwordHash: text('password_hash').notNull(),
    expiresAt: instant('expires_at').notNull(),
  },
  (t) => [index('beginning_by_email').on(t.email)],
);

/** Accounts whose owners want them deleted, with the moment at which they are. Signing in takes it back. */
export const leaving = sqliteTable('leaving', {
  personId: text('person_id')
    .primaryKey()
    .references(() => user.id, { onDelete: 'cascade' }),
  at: instant('at').notNull(),
});

/** Way in which a person likes to look at things; who has changed nothing has no row. */
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
    /** Names somebody as one of this crew */
    id: text('id').notNull().unique(),
    personId: text('person_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    learnerId: text('learner_id')
      .notNull()
      .references(() => learner.id, { onDelete: 'cascade' }),
    access: text('access', { enum: ACCESSES }).notNull(),
    position: integer('position').notNull().default(0),
    joinedAt: instant('joined_at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.personId, t.learnerId] }), index('crew_by_learner').on(t.learnerId)],
);

/**
 * An invitation, by the digest of its secret: to one learner's crew or to several. It is good until a moment, so many
 * times, and (by mail) for one address alone.
 */
export const invitation = sqliteTable(
  'invitation',
  {
    id: text('id').primaryKey(),
    digest: text('digest').notNull().unique(),
    way: text('way', { enum: INVITE_WAYS }).notNull(),
    /** Place where it was sent; null where it was not */
    email: text('email'),
    access: text('access', { enum: ACCESSES }).notNull(),
    /** Whoever takes it is the learner themself */
    asLearner: integer('as_learner', { mode: 'boolean' }).notNull().default(false),
    invitedBy: text('invited_by')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    usesLeft: integer('uses_left').notNull(),
    used: integer('used').notNull().default(0),
    createdAt: instant('created_at').notNull(),
    expiresAt: instant('expires_at').notNull(),
  },
  (t) => [index('invitation_by_person').on(t.invitedBy)],
);

/** Accounts that were made by an invitation and have not accepted it yet: each has used it once already. */
export const invitationAccount = sqliteTable(
  'invitation_account',
  {
    invitationId: text('invitation_id')
      .notNull()
      .references(() => invitation.id, { onDelete: 'cascade' }),
    personId: text('person_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
  },
  (t) => [primaryKey({ columns: [t.invitationId, t.personId] })],
);

/** Which crews an invitation is to; taken back from one, it is still good for the others. */
export const invitationTo = sqliteTable(
  'invitation_to',
  {
    id: text('id').primaryKey(),
    invitationId: text('invitation_id')
      .notNull()
      .references(() => invitation.id, { onDelete: 'cascade' }),
    learnerId: text('learner_id')
      .notNull()
      .references(() => learner.id, { onDelete: 'cascade' }),
    takenBackAt: instant('taken_back_at'),
  },
  (t) => [
    uniqueIndex('invitation_to_once').on(t.invitationId, t.learnerId),
    index('invitation_to_by_learner').on(t.learnerId),
  ],
);

/** Events of access to a schedule, for who keeps it. Names stand as they were then. */
export const accessEvent = sqliteTable(
  'access_event',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    learnerId: text('learner_id')
      .notNull()
      .references(() => learner.id, { onDelete: 'cascade' }),
    at: instant('at').notNull(),
    kind: text('kind', { enum: ACCESS_EVENTS }).notNull(),
    /** Person who did it */
    by: text('by').notNull(),
    /** Whom or what it was about */
    about: text('about').notNull().default(''),
    /** The calendars it tells of: who may not see one of them is not told its name */
    calendarIds: text('calendar_ids', { mode: 'json' }).$type<readonly string[]>(),
    access: text('access', { enum: ACCESSES }).$type<Access>(),
  },
  (t) => [index('access_event_by_learner').on(t.learnerId, t.id)],
);
