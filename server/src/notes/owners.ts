import type { Db } from '../db/open.ts';
import type { Owner } from '../http/admit.ts';

/** Finds whose the things of this feature are. */
export function ownersIn({ $client: sqlite }: Db) {
  /** For what is in threads: those a thread is for, in whose sight is what it is about. */
  const inThread = (sql: string) => {
    const find = sqlite.prepare<
      [string],
      { learnerId: string; forAll: number; calendarId: string | null; persons: string }
    >(
      `SELECT t.learner_id AS learnerId, t.for_all AS forAll, i.calendar_id AS calendarId,
          (SELECT json_group_array(p.person_id) FROM thread_person p WHERE p.thread_id = t.id AND p.listed) AS persons
        FROM (${sql}) w JOIN thread t ON t.id = w.id LEFT JOIN item i ON i.id = t.item_id`,
    );
    return (id: string): Owner | undefined => {
      const found = find.get(id);
      if (!found) return undefined;
      const calendarIds = found.calendarId === null ? [] : [found.calendarId];
      const { learnerId } = found;
      return found.forAll
        ? { learnerId, calendarIds, personIds: crewOf.all(learnerId) }
        : { learnerId, calendarIds, personIds: JSON.parse(found.persons) as string[] };
    };
  };
  // Whoever looks with somebody else’s eyes is not among them: notes are nobody else’s to see.
  const crewOf = sqlite.prepare<[string], string>('SELECT person_id FROM crew WHERE learner_id = ?').pluck();
  const noteFile = sqlite.prepare<[string], { personId: string | null; noteId: number | null }>(
    'SELECT person_id AS personId, note_id AS noteId FROM note_file WHERE id = ?',
  );
  const ofNote = inThread('SELECT thread_id AS id FROM note WHERE id = CAST(? AS INTEGER)');
  /** A file that waits is for whoever sent it in; one of a note for all it is for. */
  const ofNoteFile = (id: string): Owner | undefined => {
    const found = noteFile.get(id);
    if (!found) return undefined;
    if (found.noteId !== null) return ofNote(String(found.noteId));
    return found.personId === null ? undefined : { personId: found.personId };
  };
  return { thread: inThread('SELECT ? AS id'), note: ofNote, noteFile: ofNoteFile };
}
