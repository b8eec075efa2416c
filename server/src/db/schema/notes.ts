import { sql } from 'drizzle-orm';
import { index, integer, primaryKey, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import { user } from './accounts.ts';
import { instant } from './columns.ts';
import { item } from './gathered.ts';
import { learner } from './people.ts';

// Notes between the people around a learner.

/** Notes written to and fro about one thing: a learner, or one of their items. */
export const thread = sqliteTable(
  'thread',
  {
    id: text('id').primaryKey(),
    learnerId: text('learner_id')
      .notNull()
      .references(() => learner.id, { onDelete: 'cascade' }),
    itemId: text('item_id').references(() => item.id, { onDelete: 'cascade' }),
    recurrenceId: text('recurrence_id').notNull().default(''),
    /** It is for the whole crew, whoever that is; else for those who are listed */
    forAll: integer('for_all', { mode: 'boolean' }).notNull(),
    createdAt: instant('created_at').notNull(),
    /** Moment when it was last written in */
    lastAt: instant('last_at').notNull(),
  },
  (t) => [index('thread_by_learner').on(t.learnerId, t.lastAt), index('thread_by_item').on(t.itemId)],
);

/** Part somebody has in a thread: whether it is for them by name, how far they have read, what they keep of it. */
export const threadPerson = sqliteTable(
  'thread_person',
  {
    threadId: text('thread_id')
      .notNull()
      .references(() => thread.id, { onDelete: 'cascade' }),
    personId: text('person_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    listed: integer('listed', { mode: 'boolean' }).notNull().default(false),
    /** Number of the last note they have read */
    readTo: integer('read_to').notNull().default(0),
    starredAt: instant('starred_at'),
    /** Moment when they put it away; a note that comes later brings it back */
    doneAt: instant('done_at'),
    /** Digest of what stands in the address by which they answer by mail, once one was sent */
    mailDigest: text('mail_digest'),
  },
  (t) => [
    primaryKey({ columns: [t.threadId, t.personId] }),
    index('thread_person_by_person').on(t.personId),
    uniqueIndex('thread_person_by_mail')
      .on(t.mailDigest)
      .where(sql`mail_digest IS NOT NULL`),
  ],
);

/** One note. Ids grow, so that "read up to" is one number. */
export const note = sqliteTable(
  'note',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    threadId: text('thread_id')
      .notNull()
      .references(() => thread.id, { onDelete: 'cascade' }),
    personId: text('person_id').references(() => user.id, { onDelete: 'set null' }),
    text: text('text').notNull(),
    /** The text as it is searched (`core/lib/plain`): made once, as search goes through thousands of notes */
    plain: text('plain').notNull(),
    at: instant('at').notNull(),
    /** It was corrected later than others may have read it: that is seen */
    correctedAt: instant('corrected_at'),
    takenBackAt: instant('taken_back_at'),
    /** It came by mail */
    byMail: integer('by_mail', { mode: 'boolean' }).notNull().default(false),
    /** Names it from where it was written, so that the same one sent twice is one */
    key: text('key'),
  },
  (t) => [
    index('note_by_thread').on(t.threadId, t.id),
    index('note_by_person').on(t.personId),
    uniqueIndex('note_once')
      .on(t.personId, t.key)
      .where(sql`key IS NOT NULL`),
  ],
);

/** A file, picture or spoken word of a note; until the note is sent, it waits for whoever sent it in. */
export const noteFile = sqliteTable(
  'note_file',
  {
    id: text('id').primaryKey(),
    noteId: integer('note_id').references(() => note.id, { onDelete: 'cascade' }),
    personId: text('person_id').references(() => user.id, { onDelete: 'set null' }),
    name: text('name').notNull(),
    /** Media type, by its content */
    type: text('type').notNull(),
    size: integer('size').notNull(),
    /** SHA-256 of the bytes, by which they lie beside the database */
    digest: text('digest').notNull(),
    /** For a spoken note: its length */
    seconds: integer('seconds'),
    createdAt: instant('created_at').notNull(),
  },
  (t) => [index('note_file_by_note').on(t.noteId), index('note_file_by_person').on(t.personId)],
);
