import { routes } from '@zephyrfield/core/api/routes';
import type { Clock } from '../clock.ts';
import { keyedId, orderedId } from '../db/ids.ts';
import type { Mount } from '../http/mount.ts';
import { tooMany } from '../http/problem.ts';
import { MOST } from '../limits.ts';
import type { Sights } from '../people/sights.ts';
import type { CalendarRow, CalendarStore } from './store.ts';
import { calendarView, calendarsOf } from './views.ts';

export interface CalendarDeps {
  calendars: CalendarStore;
  clock: Clock;
  sights: Sights;
  /** Called after something of a learner's schedule has changed */
  changed(learnerId: string): void;
  /** Gives what follows from another kind or zone */
  whenChanged(before: CalendarRow, after: CalendarRow): Promise<void>;
  forget(id: string): void;
}

export function mountCalendars(
  mount: Mount,
  { calendars, clock, sights, changed, whenChanged, forget }: CalendarDeps,
): void {
  mount.kept(routes.calendars, ({ caller, learner }) =>
    calendarsOf(calendars, learner.id, sights(caller.personId, learner.id)),
  );
  mount(routes.addCalendar, ({ caller, learner, body: { key, ...body } }) => {
    const id = key ? keyedId(learner.id, key) : orderedId(clock.now());
    const made = calendars.byId(id);
    if (made) return calendarView(made, true);
    if (calendars.ofLearner(learner.id).length >= MOST.calendars)
      throw tooMany(`There are ${MOST.calendars} calendars, which is the most.`, 'Remove one first.');
    const now = clock.now();
    const row = calendars.add({
      ...body,
      id,
      madeBy: caller.personId,
      learnerId: learner.id,
      position: calendars.nextPosition(learner.id),
      createdAt: now,
    });
    changed(learner.id);
    return calendarView(row, true);
  });
  mount(routes.changeCalendar, async ({ learner, params, body }) => {
    const row = calendars.byId(params.id)!;
    const result = Object.keys(body).length ? calendars.change(row.id, body) : row;
    await whenChanged(row, result ?? row);
    changed(learner.id);
    return calendarView(calendars.byId(row.id) ?? row, calendars.handMade(learner.id).has(row.id));
  });
  mount(routes.forgetCalendar, ({ params }) => {
    forget(params.id);
    return { ok: true as const };
  });
}
