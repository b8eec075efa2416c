import type { Feature } from '../feature.ts';
import type { Ground } from '../ground.ts';
import { ownersIn } from './owners.ts';
import { mountCalendars, type CalendarDeps } from './routes.ts';
import type { CalendarStore } from './store.ts';

/**
 * Calendars of a schedule: made, named, shown otherwise, let go of.
 * @param gather works out anew what another kind or zone bears on, and takes away all that a calendar held
 */
export function calendarsFeature(
  { db, clock, sights, changed }: Ground,
  calendars: CalendarStore,
  gather: Pick<CalendarDeps, 'whenChanged' | 'forget'>,
): Feature {
  return {
    mount: (mount) => mountCalendars(mount, { calendars, clock, sights, changed, ...gather }),
    owners: ownersIn(db),
  };
}
