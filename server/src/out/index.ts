import type { Feature } from '../feature.ts';
import type { Ground } from '../ground.ts';
import { ownersIn } from './owners.ts';
import { mountOut, mountShared } from './routes.ts';
import { shareService, type ShareDeps } from './service.ts';
import { shareStore } from './store.ts';

/** Gives what goes out of a schedule: links for others, pages, files, paper. */
export function outFeature(ground: Ground, note: ShareDeps['note']) {
  const { config, db, pool, clock, people, sights, base, versions, changed } = ground;
  const shares = shareService({
    store: shareStore(db),
    people,
    pool,
    clock,
    file: db.$client.name,
    web: config.WEB,
    base,
    versionOf: versions.of,
    sights,
    note,
    changed,
  });
  const feature: Feature = {
    mount: (mount) => mountOut(mount, shares),
    pages: (app) => mountShared(app, shares),
    owners: ownersIn(db),
    close: shares.close,
  };
  return { shares, feature };
}
