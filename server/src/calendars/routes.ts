import { routes } from '@zephyrfield/core/api/routes';
import type { CalendarView } from '@zephyrfield/core/api/schemas';
import type { Mount } from '../http/mount.ts';
import { notFound } from '../http/problem.ts';
import type { Admit } from '../people/access.ts';
import type { CalendarRow, CalendarStore } from './store.ts';

export const calendarView = ({ id, learnerId, name, sort, colour, flag, position }: CalendarRow): CalendarView => ({ id, learnerId, name, sort, colour, flag, position });

export function mountCalendars(mount: Mount, calendars: CalendarStore, admit: Admit, changed: (learnerId: string) => void): void {
  mount(routes.calendars, ({ caller, params }) => {
    admit(caller.personId, params.learnerId, 'look');
    return calendars.ofLearner(params.learnerId).map(calendarView);
  });
  mount(routes.changeCalendar, ({ caller, params, body }) => {
    const row = calendars.byId(params.id);
    if (!row) throw notFound('calendar');
    admit(caller.personId, row.learnerId, 'edit');
    const result = Object.keys(body).length ? calendars.change(row.id, body) : row;
    changed(row.learnerId);
    return calendarView(result ?? row);
  });
}
