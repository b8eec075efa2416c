import { paths } from '@zephyrfield/core/api/paths';
import type { Feature } from '../feature.ts';
import { fileKinds } from '../files/index.ts';
import type { Ground } from '../ground.ts';
import { ownersIn } from './owners.ts';
import { mountBriefs } from './routes.ts';
import { briefService } from './service.ts';
import type { BriefStore } from './store.ts';

/** Briefs of items, with their files, and photos of what was done. */
export function briefsFeature({ db, folder, clock, pool, changed }: Ground, store: BriefStore) {
  const briefs = briefService({ store, folder, clock, kindOf: fileKinds(pool), changed });
  const feature: Feature = {
    mount: (mount) => mountBriefs(mount, briefs),
    owners: ownersIn(db),
    costly: [paths.sendBriefFile],
    daily: [['tidying', briefs.tidy]],
  };
  return { briefs, feature };
}
