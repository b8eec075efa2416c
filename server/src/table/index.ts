import type { Feature } from '../feature.ts';
import type { Ground } from '../ground.ts';
import type { Versions } from '../http/replies.ts';
import { mountTable } from './routes.ts';
import { tableService, type TableDeps } from './service.ts';
import { tableStore } from './store.ts';

/** The table of all learners somebody looks after. */
export function tableFeature(
  { db, clock, people, sights, versions }: Ground,
  {
    openings,
    ...parts
  }: Pick<TableDeps, 'calendars' | 'items' | 'plans' | 'unreadOf'> & { openings: Versions },
) {
  const table = tableService({
    ...parts,
    store: tableStore(db),
    people,
    sights,
    clock,
    versionOf: (learnerId) => `${versions.of(learnerId)} ${openings.of(learnerId)}`,
  });
  const feature: Feature = { mount: (mount) => mountTable(mount, table) };
  return { table, feature };
}
