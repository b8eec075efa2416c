import type { Db } from '../db/open.ts';
import type { Owner } from '../http/admit.ts';

/** Finds whose the things of this feature are. */
export function ownersIn({ $client: sqlite }: Db) {
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
  return { outline: ofOutline };
}
