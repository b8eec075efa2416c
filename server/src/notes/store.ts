import { and, asc, eq, isNull, lt, sql } from 'drizzle-orm';
import type { NoteBox } from '@zephyrfield/core/api/notes';
import { plain } from '@zephyrfield/core/lib/plain';
import type { Db } from '../db/open.ts';
import { note, noteFile, thread, threadPerson } from '../db/schema.ts';

export type ThreadRow = typeof thread.$inferSelect;
export type NoteRow = Omit<typeof note.$inferSelect, 'plain'> & { by: string | null };
export type NoteFileRow = typeof noteFile.$inferSelect;

/** What of threads is asked for. */
export interface Asked {
  personId: string;
  /** Schedules that the person sees, and calendars that are kept from them */
  learners: readonly string[];
  kept: readonly string[];
  box: NoteBox;
  course: string;
  person: string;
  text: string;
  itemId: string | null;
  /** Only those last written in before this moment (instant) */
  before: number;
  limit: number;
}

/** A thread as one person sees it. */
export interface SeenThread {
  id: string;
  learnerId: string;
  learner: string;
  itemId: string | null;
  recurrenceId: string;
  itemTitle: string | null;
  calendar: string | null;
  forAll: number;
  lastAt: number;
  starredAt: number | null;
  doneAt: number | null;
  readTo: number;
  unread: number;
}

/** Nobody reads as unread what was written before they came. */
const UNREAD = `n.thread_id = t.id AND n.id > coalesce(tp.read_to, 0) AND n.person_id IS NOT @personId
  AND n.taken_back_at IS NULL AND n.at >= c.joined_at`;
const IN_BOX: Record<NoteBox, string> = {
  unread: `EXISTS (SELECT 1 FROM note n WHERE ${UNREAD})`,
  starred: 'tp.starred_at IS NOT NULL',
  all: 'coalesce(tp.done_at, -1) < t.last_at',
  sent: 'EXISTS (SELECT 1 FROM note n WHERE n.thread_id = t.id AND n.person_id = @personId)',
  done: 'tp.done_at >= t.last_at',
};
/** Threads that somebody may see: for the whole crew they are in, or for them by name, and about nothing kept from them. */
const SEEN = `FROM thread t JOIN crew c ON c.learner_id = t.learner_id AND c.person_id = @personId
  JOIN learner l ON l.id = t.learner_id
  LEFT JOIN thread_person tp ON tp.thread_id = t.id AND tp.person_id = @personId
  LEFT JOIN item i ON i.id = t.item_id LEFT JOIN calendar k ON k.id = i.calendar_id
  WHERE (t.for_all OR tp.listed) AND (i.id IS NULL OR i.calendar_id NOT IN (SELECT value FROM json_each(@kept)))`;
const COLUMNS = `t.id, t.learner_id AS learnerId, l.name AS learner, t.item_id AS itemId,
  t.recurrence_id AS recurrenceId, i.title AS itemTitle, k.name AS calendar, t.for_all AS forAll,
  t.last_at AS lastAt, tp.starred_at AS starredAt, tp.done_at AS doneAt, coalesce(tp.read_to, 0) AS readTo,
  (SELECT count(*) FROM note n WHERE ${UNREAD}) AS unread`;

/** Threads, notes, and what each person keeps of them. */
export function noteStore(db: Db) {
  const { $client: sqlite } = db;
  // What SQLite itself makes small are the letters of English alone. For names and titles, which are short.
  sqlite.function('plain', { deterministic: true }, (text) =>
    typeof text === 'string' ? plain(text) : null,
  );
  const lists = new Map(
    (Object.keys(IN_BOX) as NoteBox[]).map((box) => [
      box,
      sqlite.prepare<Record<string, string | number | null>, SeenThread>(`SELECT ${COLUMNS} ${SEEN}
        AND t.learner_id IN (SELECT value FROM json_each(@learners)) AND t.last_at < @before AND ${IN_BOX[box]}
        AND (@itemId IS NULL OR t.item_id = @itemId)
        AND (@course = '' OR instr(plain(k.name), @course))
        AND (@person = '' OR EXISTS (SELECT 1 FROM note n JOIN user u ON u.id = n.person_id
          WHERE n.thread_id = t.id AND instr(plain(u.name), @person)))
        AND (@text = '' OR instr(plain(coalesce(i.title, '')), @text) OR EXISTS (SELECT 1 FROM note n
          WHERE n.thread_id = t.id AND n.taken_back_at IS NULL AND instr(n.plain, @text)))
        ORDER BY t.last_at DESC, t.id DESC LIMIT @limit`),
    ]),
  );
  const one = sqlite.prepare<{ id: string; personId: string; kept: string }, SeenThread>(
    `SELECT ${COLUMNS} ${SEEN} AND t.id = @id`,
  );
  const unreadBy = sqlite.prepare<{ personId: string; kept: string }, { learnerId: string; n: number }>(
    `SELECT t.learner_id AS learnerId, count(*) AS n ${SEEN.replace('WHERE', `JOIN note n ON ${UNREAD} WHERE`)}
      GROUP BY t.learner_id`,
  );
  const peopleOf = sqlite.prepare<[string], { personId: string; name: string }>(
    `SELECT c.person_id AS personId, u.name FROM thread t JOIN crew c ON c.learner_id = t.learner_id
      JOIN user u ON u.id = c.person_id
      LEFT JOIN thread_person tp ON tp.thread_id = t.id AND tp.person_id = c.person_id
      WHERE t.id = ? AND (t.for_all OR tp.listed) ORDER BY c.joined_at, c.rowid`,
  );
  const last = sqlite.prepare<
    [string],
    {
      by: string | null;
      personId: string | null;
      text: string;
      at: number;
      takenBackAt: number | null;
      key: string | null;
      files: number;
      isSpoken: number;
    }
  >(
    `SELECT u.name AS "by", n.person_id AS personId, n.text, n.at, n.taken_back_at AS takenBackAt,
        n.key, (SELECT count(*) FROM note_file f WHERE f.note_id = n.id) AS files,
        EXISTS (SELECT 1 FROM note_file f WHERE f.note_id = n.id AND f.seconds IS NOT NULL) AS isSpoken
      FROM note n LEFT JOIN user u ON u.id = n.person_id WHERE n.thread_id = ? ORDER BY n.id DESC LIMIT 1`,
  );
  const notesOf = sqlite.prepare<[string, number], Record<string, unknown>>(
    `SELECT * FROM (SELECT n.*, u.name AS "by" FROM note n LEFT JOIN user u ON u.id = n.person_id
      WHERE n.thread_id = ? ORDER BY n.id DESC LIMIT ?) ORDER BY id`,
  );
  const mark = sqlite.prepare(
    `INSERT INTO thread_person (thread_id, person_id, read_to, starred_at, done_at)
        VALUES (@threadId, @personId, @readTo, @starredAt, @doneAt)
      ON CONFLICT (thread_id, person_id) DO UPDATE SET read_to = excluded.read_to,
        starred_at = excluded.starred_at, done_at = excluded.done_at`,
  );
  const READ = `ON CONFLICT (thread_id, person_id) DO UPDATE SET read_to = max(read_to, excluded.read_to)`;
  const readNote = sqlite.prepare(
    `INSERT INTO thread_person (thread_id, person_id, read_to)
      SELECT thread_id, @personId, id FROM note WHERE id = @noteId ${READ}`,
  );
  const readAll = sqlite.prepare(
    `INSERT INTO thread_person (thread_id, person_id, read_to)
      SELECT t.id, @personId, (SELECT max(n.id) FROM note n WHERE n.thread_id = t.id AND n.at <= @upTo) ${SEEN}
      AND EXISTS (SELECT 1 FROM note n WHERE ${UNREAD} AND n.at <= @upTo) ${READ}`,
  );
  const setMail = sqlite.prepare<[string, string, string]>(
    `INSERT INTO thread_person (thread_id, person_id, mail_digest) VALUES (?, ?, ?)
      ON CONFLICT (thread_id, person_id) DO UPDATE SET mail_digest = excluded.mail_digest`,
  );
  const openFiles = sqlite
    .prepare<[string], number>('SELECT count(*) FROM note_file WHERE person_id = ? AND note_id IS NULL')
    .pluck();
  const bytesOf = sqlite
    .prepare<[string], number>('SELECT coalesce(sum(size), 0) FROM note_file WHERE person_id = ?')
    .pluck();
  return {
    transaction: <T>(work: () => T): T => db.transaction(work, { behavior: 'immediate' }),
    list: ({ learners, kept, ...asked }: Asked): SeenThread[] =>
      lists.get(asked.box)!.all({
        ...asked,
        learners: JSON.stringify(learners),
        kept: JSON.stringify(kept),
        course: plain(asked.course),
        person: plain(asked.person),
        text: plain(asked.text),
      }),
    seen: (id: string, personId: string, kept: readonly string[]) =>
      one.get({ id, personId, kept: JSON.stringify(kept) }),
    unreadBy: (personId: string, kept: readonly string[]) =>
      unreadBy.all({ personId, kept: JSON.stringify(kept) }),
    /** Everybody a thread is for now */
    peopleOf: (threadId: string) => peopleOf.all(threadId),
    last: (threadId: string) => last.get(threadId)!,
    byId: (id: string) => db.select().from(thread).where(eq(thread.id, id)).get(),
    note: (id: number) => db.select().from(note).where(eq(note.id, id)).get(),
    noteByKey: (personId: string, key: string) =>
      db
        .select()
        .from(note)
        .where(and(eq(note.personId, personId), eq(note.key, key)))
        .get(),
    /** The last so many notes of a thread, in order */
    notesOf: (threadId: string, most: number): NoteRow[] =>
      notesOf.all(threadId, most).map((r) => ({
        id: r['id'] as number,
        threadId,
        personId: r['person_id'] as string | null,
        text: r['text'] as string,
        at: r['at'] as number,
        correctedAt: r['corrected_at'] as number | null,
        takenBackAt: r['taken_back_at'] as number | null,
        byMail: r['by_mail'] === 1,
        key: r['key'] as string | null,
        by: r['by'] as string | null,
      })),
    filesOf: (noteId: number) =>
      db.select().from(noteFile).where(eq(noteFile.noteId, noteId)).orderBy(asc(noteFile.createdAt)).all(),
    addThread(row: typeof thread.$inferInsert, listed: readonly string[]): void {
      db.insert(thread).values(row).run();
      for (const personId of listed)
        db.insert(threadPerson).values({ threadId: row.id, personId, listed: true }).run();
    },
    addNote: (row: Omit<typeof note.$inferInsert, 'plain'>): number => {
      const { id } = db
        .insert(note)
        .values({ ...row, plain: plain(row.text) })
        .returning({ id: note.id })
        .get();
      db.update(thread).set({ lastAt: row.at }).where(eq(thread.id, row.threadId)).run();
      return id;
    },
    changeNote: (id: number, values: Partial<Omit<typeof note.$inferInsert, 'plain'>>) =>
      db
        .update(note)
        .set(values.text === undefined ? values : { ...values, plain: plain(values.text) })
        .where(eq(note.id, id))
        .run(),
    mark: (row: {
      threadId: string;
      personId: string;
      readTo: number;
      starredAt: number | null;
      doneAt: number | null;
    }) => mark.run(row),
    readNote: (of: { personId: string; noteId: number }) => readNote.run(of),
    readAll: ({ kept, ...of }: { personId: string; upTo: number; kept: readonly string[] }) =>
      readAll.run({ ...of, kept: JSON.stringify(kept) }),
    setMail: (threadId: string, personId: string, digest: string) => setMail.run(threadId, personId, digest),
    byMail: (digest: string) =>
      db
        .select({ threadId: threadPerson.threadId, personId: threadPerson.personId })
        .from(threadPerson)
        .where(eq(threadPerson.mailDigest, digest))
        .get(),
    file: (id: string) => db.select().from(noteFile).where(eq(noteFile.id, id)).get(),
    addFile: (row: typeof noteFile.$inferInsert) => db.insert(noteFile).values(row).run(),
    attach: (ids: readonly string[], noteId: number) =>
      db
        .update(noteFile)
        .set({ noteId })
        .where(
          and(
            sql`${noteFile.id} IN (SELECT value FROM json_each(${JSON.stringify(ids)}))`,
            isNull(noteFile.noteId),
          ),
        )
        .run(),
    dropFiles: (noteId: number) => db.delete(noteFile).where(eq(noteFile.noteId, noteId)).run(),
    openFiles: (personId: string) => openFiles.get(personId) ?? 0,
    bytesOf: (personId: string) => bytesOf.get(personId) ?? 0,
    forgetWaiting: (before: number) =>
      db
        .delete(noteFile)
        .where(and(isNull(noteFile.noteId), lt(noteFile.createdAt, before)))
        .run(),
  };
}
export type NoteStore = ReturnType<typeof noteStore>;
