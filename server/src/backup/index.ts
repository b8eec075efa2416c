import { paths } from '@zephyrfield/core/api/paths';
import type { Feature } from '../feature.ts';
import type { Ground } from '../ground.ts';
import { puttingBack, type PutBackDeps } from './put-back.ts';
import { mountArchives } from './routes.ts';
import { scheduleArchives } from './schedules.ts';
import { restoreStore } from './store.ts';

/** Archives of a schedule: packed, looked into, brought back. */
export function archivesFeature(ground: Ground, parts: Omit<PutBackDeps, 'store' | 'clock'>): Feature {
  const { db, clock, pool, people, sights, folder, hub, changed } = ground;
  const store = restoreStore(db);
  const archives = scheduleArchives({
    pool,
    people,
    store,
    sights,
    clock,
    openedFor: parts.gather.openedFor,
    putBack: puttingBack({ ...parts, store, clock }),
    file: db.$client.name,
    folder: folder.path,
    changed,
    accessChanged: (personId) => hub.tell('accessChanged', personId),
  });
  return {
    mount: (mount) => mountArchives(mount, archives),
    costly: [paths.lookAtArchive, paths.restoreSchedule],
    prepare: archives.removeUnfinished,
  };
}
