import { paths } from '@zephyrfield/core/api/paths';
import type { CalendarStore } from '../calendars/store.ts';
import type { Feature } from '../feature.ts';
import type { Ground } from '../ground.ts';
import { ownersIn } from './owners.ts';
import { mountOutlines } from './routes.ts';
import { outlineService } from './service.ts';
import { outlineStore } from './store.ts';

/** Course outlines: read, looked through, kept. */
export function outlineFeature({ db, sights, pool, clock, changed }: Ground, calendars: CalendarStore) {
  const outlines = outlineService({ store: outlineStore(db), calendars, sights, pool, clock, changed });
  const feature: Feature = {
    mount: (mount) => mountOutlines(mount, outlines),
    owners: ownersIn(db),
    costly: [paths.sendOutline],
    hourly: [outlines.tidy],
  };
  return { outlines, feature };
}
