import { routes } from '@zephyrfield/core/api/routes';
import type { CalendarView } from '@zephyrfield/core/api/schemas';
import type { Clock } from '../clock.ts';
import { orderedId } from '../db/ids.ts';
import type { Mount } from '../http/mount.ts';
import { notFound } from '../http/problem.ts';
import type { Admit } from '../people/access.ts';
import type { CalendarRow, CalendarStore } from './store.ts';

export const calendarView = ({ id, learnerId, name, sort, category, colour, flag, zone, position, reminders, alarms }: CalendarRow, handMade = false): CalendarView => ({
  id, learnerId, name, sort, category, colour, flag, zone, position, handMade, reminders, alarms,
}); // prettier-ignore

/** A learner's calendars, as they are shown. */
export function calendarsOf(calendars: CalendarStore, learnerId: string): CalendarView[] {
  const handMade = calendars.handMade(learnerId);
  return calendars.ofLearner(learnerId).map((c) => calendarView(c, handMade.has(c.id)));
}

export interface CalendarParts {
  calendars: CalendarStore;
  clock: Clock;
  admit: Admit;
  /** Called after something of a learner's schedule has changed */
  changed(learnerId: string): void;
  /** What follows from another sort or zone */
  whenChanged(before: CalendarRow, after: CalendarRow): Promise<void>;
  forget(id: string): void;
}

export function mountCalendars(mount: Mount, { calendars, clock, admit, changed, whenChanged, forget }: CalendarParts): void {
  const mine = (personId: string, id: string) => {
    const row = calendars.byId(id);
    if (!row) throw notFound('calendar');
    admit(personId, row.learnerId, 'edit');
    return row;
  };
  mount(routes.calendars, ({ caller, params }) => {
    admit(caller.personId, params.learnerId, 'look');
    return calendarsOf(calendars, params.learnerId);
  });
  mount(routes.addCalendar, ({ caller, params, body }) => {
    admit(caller.personId, params.learnerId, 'edit');
    const now = clock.now();
    const row = calendars.add({ ...body, id: orderedId(now), learnerId: params.learnerId, position: calendars.nextPosition(params.learnerId), createdAt: now });
    changed(params.learnerId);
    return calendarView(row, true);
  });
  mount(routes.changeCalendar, async ({ caller, params, body }) => {
    const row = mine(caller.personId, params.id);
    const result = Object.keys(body).length ? calendars.change(row.id, body) : row;
    await whenChanged(row, result ?? row);
    changed(row.learnerId);
    return calendarView(calendars.byId(row.id) ?? row, calendars.handMade(row.learnerId).has(row.id));
  });
  mount(routes.forgetCalendar, ({ caller, params }) => {
    forget(mine(caller.personId, params.id).id);
    return { ok: true as const };
  });
}
