import { busyCalendarId } from '@zephyrfield/core/item/busy';
import type { CalendarView } from '@zephyrfield/core/api/schemas';
import type { KeptFrom } from '../people/sights.ts';
import type { CalendarRow, CalendarStore } from './store.ts';

export const calendarView = (
  { createdAt: _created, ...shown }: CalendarRow,
  handMade = false,
): CalendarView => ({ ...shown, handMade });

/** A learner's calendars in order, as somebody sees them: at the end one for all hours that are kept from them. */
export function calendarsOf(calendars: CalendarStore, learnerId: string, kept: KeptFrom): CalendarView[] {
  const handMade = calendars.handMade(learnerId);
  const all = calendars.ofLearner(learnerId);
  const shown = all.filter((c) => !kept.has(c.id)).map((c) => calendarView(c, handMade.has(c.id)));
  return [...kept.values()].includes('busy') ? [...shown, busyCalendar(learnerId, all[0]!.zone)] : shown;
}

const busyCalendar = (learnerId: string, zone: string): CalendarView => ({
  id: busyCalendarId(learnerId),
  learnerId,
  name: 'Busy',
  kind: 'own',
  category: '',
  colour: 'slate',
  flag: { shape: 'banner', pattern: 'plain', letters: 'BU' },
  zone,
  position: Number.MAX_SAFE_INTEGER,
  handMade: false,
  reminders: null,
  alarms: 'ignore',
  audience: null,
  madeBy: null,
  busy: true,
});
