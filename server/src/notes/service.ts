import {
  CHANGEABLE_FOR,
  type NoteBox,
  type NotePerson,
  type NoteView,
  type ThreadHead,
  type ThreadView,
  type ThreadsView,
} from '@zephyrfield/core/api/notes';
import { sightOf } from '@zephyrfield/core/item/access';
import { briefPassages } from '@zephyrfield/core/item/brief';
import type { CalendarStore } from '../calendars/store.ts';
import type { CrewStore } from '../crew/store.ts';
import { orderedId } from '../db/ids.ts';
import { ProblemError, notFound } from '../http/problem.ts';
import type { ItemStore } from '../items/store.ts';
import type { Attempts } from '../people/attempts.ts';
import type { PeopleStore } from '../people/store.ts';
import type { Sights } from '../people/sights.ts';
import { fileView, noteFiles, type NoteFileDeps } from './files.ts';
import { noteMail } from './mail.ts';
import type { NoteRow, SeenThread, ThreadRow } from './store.ts';

export interface NoteDeps extends NoteFileDeps {
  people: Pick<PeopleStore, 'learnersOf' | 'person'>;
  crews: Pick<CrewStore, 'members' | 'member'>;
  calendars: Pick<CalendarStore, 'byId'>;
  items: Pick<ItemStore, 'item'>;
  sights: Sights;
  attempts: Attempts;
  /** Tells people of a note, by the ways each has chosen */
  tell(
    personIds: readonly string[],
    learnerId: string,
    told: { noteId: number; threadId: string; itemId: string | null; by: string; words: string },
  ): void;
  /** Their open pages show threads anew */
  refreshed(personId: string): void;
  /** Told when somebody has read a thread up to one of its notes */
  read(personId: string, threadId: string, noteId: number): void;
}

/** A note as somebody writes it. */
export interface Written {
  text: string;
  fileIds: readonly string[];
  key: string | null;
  byMail?: boolean;
}

const PAGE = 50;
/** Number of notes of one thread that are shown, the last ones. */
const MOST_SHOWN = 500;
const LONGEST_WORDS = 160;

/** Notes between the people around a learner: writing, reading, and what each keeps of them. */
export function noteService(deps: NoteDeps) {
  const { store, people, crews, calendars, items, sights, attempts, clock, tell, refreshed, read } = deps;
  const files = noteFiles(deps);

  /** Calendars that are kept from somebody, in all schedules they see. */
  const keptFrom = (personId: string) =>
    people.learnersOf(personId).flatMap((l) => [...sights(personId, l.id).keys()]);

  function seen(id: string, personId: string): SeenThread {
    const found = store.seen(id, personId, keptFrom(personId));
    if (!found) throw notFound('notes');
    return found;
  }

  function headOf(t: SeenThread, personId: string): ThreadHead {
    const last = store.last(t.id);
    const words =
      last.takenBackAt !== null ? 'taken back' : wordsOf(last.text, last.files, last.isSpoken === 1);
    const others = store.peopleOf(t.id).filter((p) => p.personId !== personId);
    return {
      id: t.id,
      learnerId: t.learnerId,
      learner: t.learner,
      item:
        t.itemId === null
          ? null
          : {
              id: t.itemId,
              recurrenceId: t.recurrenceId,
              title: t.itemTitle ?? '',
              calendar: t.calendar ?? '',
            },
      forAll: t.forAll === 1,
      others: others.map((p) => p.name),
      last: {
        by: last.by ?? 'somebody who has left',
        isOwn: last.personId === personId,
        words,
        at: new Date(last.at).toISOString(),
        sentAs: last.personId === personId ? (last.key?.split(' ', 1)[0] ?? null) : null,
      },
      unread: t.unread,
      starred: t.starredAt !== null,
      done: t.doneAt !== null && t.doneAt >= t.lastAt,
    };
  }

  function viewOf(id: string, personId: string): ThreadView {
    const found = seen(id, personId);
    return {
      head: headOf(found, personId),
      notes: store.notesOf(id, MOST_SHOWN).map((row) => noteView(row, personId, found.readTo)),
    };
  }

  const noteView = (row: NoteRow, personId: string, readTo: number): NoteView => ({
    id: row.id,
    by: row.by ?? 'somebody who has left',
    isOwn: row.personId === personId,
    text: row.takenBackAt === null ? row.text : '',
    at: new Date(row.at).toISOString(),
    corrected: row.correctedAt === null ? null : new Date(row.correctedAt).toISOString(),
    takenBack: row.takenBackAt !== null,
    byMail: row.byMail,
    files: row.takenBackAt === null ? store.filesOf(row.id).map(fileView) : [],
    unread: row.id > readTo && row.personId !== personId && row.takenBackAt === null,
  });

  /** Tells who of a crew may see what a note is about. */
  function whoSees(learnerId: string, itemId: string | undefined) {
    const calendar = itemId === undefined ? undefined : calendars.byId(items.item(itemId)!.item.calendarId);
    return crews.members(learnerId).filter((m) => !calendar || sightOf(m.personId, calendar) === 'all');
  }

  /** Writes into a thread; null where the same was sent before, under the same key. */
  function put(
    thread: Pick<ThreadRow, 'id' | 'learnerId'>,
    personId: string,
    written: Written,
  ): number | null {
    const { text, fileIds, key, byMail = false } = written;
    const known = key === null ? undefined : store.noteByKey(personId, `${key} ${thread.learnerId}`);
    if (known) return null;
    // Only now: what was sent before went along with the note that is known.
    files.requireOwn(fileIds, personId);
    const at = clock.now();
    const noteId = store.addNote({
      threadId: thread.id,
      personId,
      text,
      at,
      byMail,
      key: key === null ? null : `${key} ${thread.learnerId}`,
    });
    store.attach(fileIds, noteId);
    return noteId;
  }

  function told(threadId: string, noteId: number, personId: string): void {
    const row = store.byId(threadId)!;
    const note = store.note(noteId)!;
    const all = store.peopleOf(threadId).map((p) => p.personId);
    const along = store.filesOf(noteId);
    const isSpoken = along.some((f) => f.seconds !== null);
    const words = wordsOf(note.text, along.length, isSpoken);
    const by = people.person(personId)?.name ?? '';
    tell(
      all.filter((each) => each !== personId),
      row.learnerId,
      { noteId, threadId, itemId: row.itemId, by, words },
    );
    for (const each of all) refreshed(each);
  }

  /** One’s own note. @throws ProblemError */
  function ownNote(id: number, personId: string) {
    const found = store.note(id);
    if (found?.personId !== personId || found.takenBackAt !== null) throw notFound('note of yours');
    return found;
  }

  return {
    list(
      personId: string,
      asked: {
        box: NoteBox;
        learner?: string | undefined;
        course?: string | undefined;
        person?: string | undefined;
        text?: string | undefined;
        before?: string | undefined;
      },
    ): ThreadsView {
      const learners = people.learnersOf(personId).map((l) => l.id);
      const kept = keptFrom(personId);
      const found = store.list({
        personId,
        learners: asked.learner === undefined ? learners : learners.filter((id) => id === asked.learner),
        kept,
        box: asked.box,
        course: asked.course ?? '',
        person: asked.person ?? '',
        text: asked.text ?? '',
        itemId: null,
        before: asked.before === undefined ? Number.MAX_SAFE_INTEGER : Date.parse(asked.before),
        limit: PAGE,
      });
      return {
        threads: found.map((t) => headOf(t, personId)),
        next: found.length === PAGE ? new Date(found.at(-1)!.lastAt).toISOString() : null,
        unread: store.unreadBy(personId, kept).reduce((sum, { n }) => sum + n, 0),
      };
    },

    thread: viewOf,

    ofItem(itemId: string, personId: string): ThreadHead[] {
      const learners = people.learnersOf(personId).map((l) => l.id);
      const about = { itemId, box: 'all' as const, course: '', person: '', text: '' };
      return store
        .list({
          personId,
          learners,
          kept: keptFrom(personId),
          ...about,
          before: Number.MAX_SAFE_INTEGER,
          limit: PAGE,
        })
        .map((t) => headOf(t, personId));
    },

    /** Tells whom a note about a learner, or one of their items, can be for: all who may see it, but for who writes. */
    whomFor: (learnerId: string, itemId: string | undefined, personId: string): NotePerson[] =>
      whoSees(learnerId, itemId)
        .filter((m) => m.personId !== personId)
        .map(({ id, name, isSelf }) => ({ memberId: id, name, isSelf })),

    /** Begins a thread with each of some crews, or with some of one. */
    async write(
      personId: string,
      to: {
        learnerIds: readonly string[];
        members: readonly string[] | null;
        item?: string | undefined;
        recurrenceId: string;
      },
      written: Written & { key: string },
    ): Promise<string[]> {
      const { learnerIds, members, item, recurrenceId } = to;
      const ids = [...new Set(learnerIds)];
      if (ids.length > 1 && (members || item !== undefined))
        throw new ProblemError(422, 'invalid', 'What is for several crews is for all of each.', {
          remedy: 'Choose one learner, or leave out the item and the people.',
        });
      if (item !== undefined && items.item(item)!.item.learnerId !== ids[0]) throw notFound('item');
      const listed = members && listedOf(ids[0]!, members, item, personId);
      await attempts.take('note', personId);
      const begun = store.transaction(() =>
        ids.map((learnerId, n) => {
          const again = store.noteByKey(personId, `${written.key} ${learnerId}`);
          if (again) return { threadId: again.threadId, noteId: null };
          const now = clock.now();
          const id = orderedId(now);
          const about = { itemId: item ?? null, recurrenceId: item === undefined ? '' : recurrenceId };
          store.addThread(
            { id, learnerId, ...about, forAll: listed === null, createdAt: now, lastAt: now },
            listed ?? [],
          );
          // Files go along with each: their bytes lie there once.
          const fileIds = n === 0 ? written.fileIds : files.copies(written.fileIds);
          return { threadId: id, noteId: put({ id, learnerId }, personId, { ...written, fileIds }) };
        }),
      );
      for (const { threadId, noteId } of begun) if (noteId !== null) told(threadId, noteId, personId);
      return begun.map((b) => b.threadId);
    },

    /** Tells whether somebody has written in a thread under this key. */
    isWritten: (personId: string, threadId: string, key: string): boolean =>
      store.noteByKey(personId, `${key} ${store.byId(threadId)?.learnerId}`) !== undefined,

    /** Writes in a thread. */
    async answer(id: string, personId: string, written: Written): Promise<ThreadView> {
      const { learnerId } = seen(id, personId);
      await attempts.take('note', personId);
      const noteId = store.transaction(() => {
        const found = put({ id, learnerId }, personId, written);
        // Who answers has read what they answer.
        if (found !== null) store.mark({ ...marksOf(id, personId), readTo: found });
        return found;
      });
      if (noteId !== null) told(id, noteId, personId);
      return viewOf(id, personId);
    },

    /** Words a note otherwise, or takes it back: within ten minutes as if it had never been; later a correction is seen. */
    change(id: number, personId: string, text: string | null): ThreadView {
      const found = ownNote(id, personId);
      const now = clock.now();
      const isFresh = now - found.at <= CHANGEABLE_FOR;
      if (text === null && !isFresh)
        throw new ProblemError(409, 'too-late', 'A note can be taken back for ten minutes.', {
          remedy: 'You can still correct it; that it was corrected is then seen.',
        });
      store.transaction(() => {
        if (text === null) {
          store.changeNote(id, { takenBackAt: now, text: '' });
          store.dropFiles(id);
        } else store.changeNote(id, { text, ...(isFresh ? {} : { correctedAt: now }) });
      });
      for (const each of store.peopleOf(found.threadId)) refreshed(each.personId);
      return viewOf(found.threadId, personId);
    },

    mark(
      id: string,
      personId: string,
      {
        readTo,
        starred,
        done,
      }: { readTo?: number | undefined; starred?: boolean | undefined; done?: boolean | undefined },
    ): void {
      const now = clock.now();
      store.transaction(() => {
        const before = marksOf(id, personId);
        store.mark({
          ...before,
          readTo: Math.max(before.readTo, readTo ?? 0),
          ...(starred === undefined ? {} : { starredAt: starred ? (before.starredAt ?? now) : null }),
          ...(done === undefined ? {} : { doneAt: done ? now : null }),
        });
      });
      if (readTo !== undefined) read(personId, id, readTo);
      refreshed(personId);
    },

    /** Reads a note's thread for somebody, up to that note. */
    readNote(personId: string, noteId: number): void {
      const threadId = store.transaction(() => {
        store.readNote({ personId, noteId });
        return store.note(noteId)?.threadId;
      });
      if (threadId) read(personId, threadId, noteId);
    },
    /** Reads every thread of somebody, up to an instant in milliseconds. */
    readAll(personId: string, upTo: number): void {
      store.transaction(() => store.readAll({ personId, upTo, kept: keptFrom(personId) }));
    },

    unreadBy: (personId: string): ReadonlyMap<string, number> =>
      new Map(store.unreadBy(personId, keptFrom(personId)).map(({ learnerId, n }) => [learnerId, n])),

    file: files.file,
    takeFile: files.take,
    tidy: files.tidy,
    ...noteMail({ store, people, keptFrom }),
  };

  function marksOf(threadId: string, personId: string) {
    const { readTo, starredAt, doneAt } = seen(threadId, personId);
    return { threadId, personId, readTo, starredAt, doneAt };
  }

  /** Those of a crew whom a note is for by name, and whoever writes it. */
  function listedOf(
    learnerId: string,
    members: readonly string[],
    item: string | undefined,
    personId: string,
  ): string[] {
    const may = new Map(whoSees(learnerId, item).map((m) => [m.id, m.personId]));
    const chosen = members.map((id) => may.get(id));
    if (chosen.some((id) => id === undefined)) throw notFound('person in the crew');
    return [...new Set([personId, ...(chosen as string[])])];
  }
}
export type NoteService = ReturnType<typeof noteService>;

/** The beginning of a note in a line; what carries only files says so. */
function wordsOf(text: string, files: number, isSpoken = false): string {
  // What is written as Markdown, or as markup of a page, is read as words.
  const line = briefPassages(text)
    .map(({ runs }) => runs.map((run) => run.text).join(''))
    .join(' ')
    .replace(/\s+/g, ' ')
    .trim();
  if (!line) return isSpoken ? 'a spoken note' : files ? 'a file' : '';
  return line.length > LONGEST_WORDS ? `${line.slice(0, LONGEST_WORDS - 1)}…` : line;
}
