import type { Feature } from '../feature.ts';
import type { Ground } from '../ground.ts';
import type { ItemStore } from '../items/store.ts';
import { mountPlan } from './routes.ts';
import type { PlanStore } from './store.ts';

/** Run-ups, their sittings, and the evenings they are planned into. */
export function planFeature({ clock, sights, changed }: Ground, store: PlanStore, items: ItemStore): Feature {
  return {
    mount: (mount) =>
      mountPlan(mount, {
        store,
        clock,
        sights,
        hasDate: (itemId, recurrenceId, personId) =>
          items.occurrence(itemId, recurrenceId, personId) !== undefined,
        learnerOf: (itemId) => items.item(itemId)!.item.learnerId,
        changed,
      }),
  };
}
