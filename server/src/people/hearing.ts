import type { Db } from '../db/open.ts';
import type { Sights } from './sights.ts';

/** A subject of telling: a schedule, and the calendars and items that the words are about. */
export interface Subject {
  learnerId: string;
  calendarId?: string | null;
  itemId?: string | null;
  /** Further items that the words name */
  about?: readonly string[] | null;
}

/**
 * Tells whether somebody may hear of something: they are in the crew, and no calendar it is about is kept from them.
 * Everything that tells people asks this twice: before it tells, and again before it shows what was told.
 */
export type MayHear = (personId: string, subject: Subject) => boolean;

export function hearingIn({ $client: sqlite }: Db, sights: Sights): MayHear {
  const isInCrew = sqlite
    .prepare<[string, string], number>(
      'SELECT EXISTS (SELECT 1 FROM crew WHERE person_id = ? AND learner_id = ?)',
    )
    .pluck();
  const calendarOf = sqlite.prepare<[string], string>('SELECT calendar_id FROM item WHERE id = ?').pluck();
  return (personId, { learnerId, calendarId, itemId, about }) => {
    if (!isInCrew.get(personId, learnerId)) return false;
    const kept = sights(personId, learnerId);
    if (!kept.size) return true;
    if (calendarId && kept.has(calendarId)) return false;
    return [itemId, ...(about ?? [])].every((id) => {
      const calendar = id ? calendarOf.get(id) : undefined;
      return calendar === undefined || !kept.has(calendar);
    });
  };
}
