import { keyOf } from '@zephyrfield/core/item/occurrence';
import { sittingNames, type PlannedSitting } from '@zephyrfield/core/plan/run-up';
import { DAY, MINUTE, parseDate } from '@zephyrfield/core/time/civil';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import type { PlanStore } from './store.ts';

/** A sitting that is still to come, at its moment. */
export interface SittingAhead {
  itemId: string;
  recurrenceId: string;
  /** Names it among all */
  id: string;
  /** `2 of 5 · draft` */
  words: string;
  sitting: PlannedSitting;
  /** Instants in milliseconds */
  start: number;
  end: number;
}

/** The sittings of a learner that nothing has been told of yet: they lie on that learner's own wall clock. */
export function sittingsAhead(store: PlanStore, learnerId: string): SittingAhead[] {
  const zone = ianaZone(store.zoneOf(learnerId) ?? '') ?? UTC;
  return store.runUps(learnerId).flatMap((runUp) => {
    const names = sittingNames(runUp);
    return runUp.sittings
      .filter((s) => s.state === 'planned')
      .map((sitting) => {
        const start = zone.toInstant(parseDate(sitting.day) * DAY + sitting.from * MINUTE);
        const name = names.get(sitting.key);
        return {
          itemId: runUp.itemId,
          recurrenceId: runUp.recurrenceId,
          id: `${keyOf(runUp)} ${sitting.key}`,
          words: name ? [`${name.at} of ${name.of}`, name.part].filter(Boolean).join(' · ') : '',
          sitting,
          start,
          end: start + sitting.minutes * MINUTE,
        };
      });
  });
}
