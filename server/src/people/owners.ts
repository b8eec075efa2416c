import type { Db } from '../db/open.ts';
import type { Owner, Owners } from '../http/admit.ts';

/** Finds whose each thing is that a request may name. */
export function ownersIn({ $client: sqlite }: Db): Owners {
  const ofLearner = (sql: string) => {
    const find = sqlite.prepare<[string], string>(sql).pluck();
    return (id: string): Owner | undefined => {
      const learnerId = find.get(id);
      return learnerId === undefined ? undefined : { learnerId, calendarIds: [] };
    };
  };
  /** For what is in calendars: whoever one of them is kept from has nothing to do with it. */
  const inCalendars = (sql: string) => {
    const find = sqlite.prepare<[string], { learnerId: string; calendars: string }>(sql);
    return (id: string): Owner | undefined => {
      const found = find.get(id);
      return found && { learnerId: found.learnerId, calendarIds: JSON.parse(found.calendars) as string[] };
    };
  };
  const ofPerson = (sql: string) => {
    const find = sqlite.prepare<[string], string>(sql).pluck();
    return (id: string): Owner | undefined => {
      const personId = find.get(id);
      return personId === undefined ? undefined : { personId };
    };
  };
  /** For what has to do with several schedules. */
  const inAny = (sql: string) => {
    const find = sqlite.prepare<{ id: string }, string>(sql).pluck();
    return (id: string): Owner | undefined => {
      const found = find.get({ id });
      return found === undefined ? undefined : { anyOf: JSON.parse(found) as string[] };
    };
  };
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
  const outline = sqlite.prepare<
    [string],
    { learnerId: string; calendarId: string | null; personId: string | null }
  >(
    'SELECT learner_id AS learnerId, calendar_id AS calendarId, person_id AS personId FROM outline WHERE id = ?',
  );
  /** One that waits is for whoever sent it; one that is kept for all who see its calendar. */
  const ofOutline = (id: string): Owner | undefined => {
    const found = outline.get(id);
    if (!found) return undefined;
    const { learnerId, calendarId, personId } = found;
    if (calendarId !== null) return { learnerId, calendarIds: [calendarId] };
    return personId === null ? undefined : { personId };
  };
  return {
    learner: ofLearner('SELECT id FROM learner WHERE id = ?'),
    calendar: inCalendars(
      'SELECT learner_id AS learnerId, json_array(id) AS calendars FROM calendar WHERE id = ?',
    ),
    // What is made by hand has a source as well, which nobody has to do with; one that is followed no more is
    // only kept.
    source: inCalendars(
      `SELECT learner_id AS learnerId, (SELECT json_group_array(value) FROM (SELECT calendar_id AS value UNION
        SELECT value FROM json_each(sections))) AS calendars
      FROM source WHERE id = ? AND removed_at IS NULL AND kind <> 'handMade'`,
    ),
    waitingFile: ofLearner('SELECT learner_id FROM waiting_file WHERE id = ?'),
    item: inCalendars(
      'SELECT learner_id AS learnerId, json_array(calendar_id) AS calendars FROM item WHERE id = ?',
    ),
    briefFile: inCalendars(
      `SELECT f.learner_id AS learnerId, json_array(i.calendar_id) AS calendars
        FROM brief_file f JOIN item i ON i.id = f.item_id WHERE f.id = ?`,
    ),
    briefText: inCalendars(
      `SELECT t.learner_id AS learnerId, (SELECT json_group_array(i.calendar_id) FROM brief b
        JOIN item i ON i.id = b.item_id WHERE b.text_id = t.id) AS calendars FROM brief_text t WHERE t.id = ?`,
    ),
    member: ofLearner('SELECT learner_id FROM crew WHERE id = ?'),
    invitation: ofLearner('SELECT learner_id FROM invitation_to WHERE id = ?'),
    share: ofLearner('SELECT learner_id FROM share WHERE id = ?'),
    openTime: ofPerson('SELECT person_id FROM open_time WHERE id = ?'),
    openSlot: inAny(
      `SELECT json_group_array(id) FROM (SELECT f.learner_id AS id FROM open_slot s
          JOIN open_time_for f ON f.open_time_id = s.open_time_id WHERE s.id = @id
        UNION SELECT t.learner_id FROM open_slot s JOIN open_time t ON t.id = s.open_time_id WHERE s.id = @id)`,
    ),
    booking: inAny(
      `SELECT json_array(b.learner_id, t.learner_id) FROM booking b JOIN open_slot s ON s.id = b.slot_id
        JOIN open_time t ON t.id = s.open_time_id WHERE b.id = @id`,
    ),
    thread: inThread('SELECT ? AS id'),
    note: ofNote,
    noteFile: ofNoteFile,
    outline: ofOutline,
    offer: ofLearner('SELECT learner_id FROM offer WHERE id = ?'),
    keptBrief: ofPerson('SELECT person_id FROM kept_brief WHERE id = ?'),
    passkey: ofPerson('SELECT user_id FROM passkey WHERE id = ?'),
    session: ofPerson('SELECT user_id FROM session WHERE id = ?'),
    notice: ofPerson('SELECT person_id FROM delivery WHERE id = CAST(? AS INTEGER)'),
  };
}
