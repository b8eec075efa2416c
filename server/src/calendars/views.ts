import type { CalendarView } from '@zephyrfield/core/api/schemas';
import type { CalendarRow, CalendarStore } from './store.ts';

export const calendarView = (
  { createdAt: _created, ...shown }: CalendarRow,
  handMade = false,
): CalendarView => ({ ...shown, handMade });

/** A learner's calendars in order. */
export function calendarsOf(calendars: CalendarStore, learnerId: string): CalendarView[] {
  const handMade = calendars.handMade(learnerId);
  return calendars.ofLearner(learnerId).map((c) => calendarView(c, handMade.has(c.id)));
}
