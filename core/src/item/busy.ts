import type { When } from '../time/when.ts';
import { isWork, type ItemKind } from './kind.ts';
import { UNTOUCHED, type OccurrenceView } from './occurrence.ts';

/** Tells whether one has to be somewhere for it. */
export function takesTime({
  status,
  kind,
  start,
  end,
}: {
  status: OccurrenceView['status'];
  kind: ItemKind;
  start: When;
  end: When | null;
}): boolean {
  if (status === 'cancelled' || kind === 'reminder' || kind === 'dayOff') return false;
  // Of what takes whole days only a trip is somewhere else.
  if (start.kind === 'date') return kind === 'trip';
  // A test is written while one is there, if it says from when to when; other work is only due.
  return !isWork(kind) || (kind === 'test' && end !== null);
}

/** Gives what stands for all calendars of a schedule of which somebody may know only when they take time. */
export const busyCalendarId = (learnerId: string): string => `busy ${learnerId}`;

/**
 * Hours of a calendar that is kept from somebody, as they see them: when, and nothing else.
 * @param id a name that tells nothing of the item
 */
export const busyView = (
  id: string,
  learnerId: string,
  { start, end, status }: Pick<OccurrenceView, 'start' | 'end' | 'status'>,
): OccurrenceView => ({
  itemId: id,
  recurrenceId: '',
  calendarId: busyCalendarId(learnerId),
  alsoIn: [],
  title: 'Busy',
  place: '',
  kind: 'meeting',
  handIn: 'nothing',
  status,
  start,
  end,
  due: null,
  ...UNTOUCHED,
  busy: true,
});
