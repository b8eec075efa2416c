import type { BriefStore } from '../briefs/store.ts';
import type { CalendarStore } from '../calendars/store.ts';
import type { Feature } from '../feature.ts';
import type { Ground } from '../ground.ts';
import { MadeJson } from '../http/replies.ts';
import { BETWEEN } from './jobs.ts';
import { ownService } from './own-service.ts';
import type { OwnStore } from './own-store.ts';
import { ownersIn } from './owners.ts';
import { mountItems, type ItemDeps } from './routes.ts';
import type { ItemStore } from './store.ts';

/** Makes what writes items by hand. */
export const ownItems = (
  { pool, clock, changed, log }: Ground,
  store: OwnStore,
  others: { calendars: CalendarStore; briefs: BriefStore },
) => ownService({ store, ...others, pool, clock, changed, log });

/** Items and their dates, and all that people add to them. */
export function itemsFeature(
  { db, pool, clock, changed }: Ground,
  parts: Pick<ItemDeps, 'store' | 'own' | 'briefs' | 'understanding' | 'notify' | 'lookedAt' | 'historyOf'>,
): Feature {
  const file = db.$client.name;
  return {
    mount: (mount) =>
      mountItems(mount, {
        ...parts,
        clock,
        changed,
        between: async (span) => new MadeJson(await pool.run(BETWEEN, { file, ...span }, span.personId)),
      }),
    owners: ownersIn(db),
    // What repeats without end comes into the stored horizon day by day.
    daily: [['working out what repeats', parts.own.extend]],
  };
}

/** Tells who has nothing for themselves in a schedule: they all see the same of it. */
export const ownSights = ({ sights }: Ground, items: ItemStore) => ({
  hasOwn: (personId: string, learnerId: string) =>
    items.hasOwn(personId, learnerId) || sights(personId, learnerId).size > 0,
});
