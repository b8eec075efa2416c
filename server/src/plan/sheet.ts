import { planSections } from '@zephyrfield/core/plan/plan-sheet';
import type { PlanSections } from '@zephyrfield/core/notify/day-sheet';
import type { SheetEdition } from '@zephyrfield/core/notify/settings';
import { DAY } from '@zephyrfield/core/time/civil';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import type { Settings } from '@zephyrfield/core/view/settings';
import { viewerOf } from '@zephyrfield/core/words/when';
import type { ItemStore } from '../items/store.ts';
import { occurrencesBetween } from '../items/views.ts';
import type { Sights } from '../people/sights.ts';
import type { PlanStore } from './store.ts';
import { planView } from './views.ts';

/** How far ahead what is planned is looked at, in days: a run-up is rarely longer. */
const AHEAD = 120;

export interface Plans {
  plans: PlanStore;
  items: ItemStore;
  sights: Sights;
  settingsOf(personId: string): Settings;
}

/** Gives what is planned of a learner's work, as parts of a sheet that somebody reads. Evenings are the learner's own. */
export function plannedFor(
  { plans, items, sights, settingsOf }: Plans,
  learnerId: string,
  personId: string,
  { edition, day, now }: { edition: SheetEdition; day: number; now: number },
): PlanSections | undefined {
  const plan = planView(plans, learnerId, sights(personId, learnerId));
  const runUps = plan.runUps.flatMap(({ itemId, recurrenceId, runUp }) =>
    runUp ? [{ itemId, recurrenceId, ...runUp }] : [],
  );
  if (!runUps.length) return undefined;
  const settings = settingsOf(personId);
  const occurrences = occurrencesBetween(items, learnerId, personId, (day - 1) * DAY, (day + AHEAD) * DAY);
  return planSections(
    {
      now,
      viewer: viewerOf(ianaZone(plans.zoneOf(learnerId) ?? '') ?? UTC, settings),
      loads: settings.loads,
      shelfFrom: settings.shelfFrom,
      settings: plan.settings,
      occurrences,
      runUps,
    },
    edition,
    day,
  );
}
