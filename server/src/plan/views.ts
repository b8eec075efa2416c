import type { PlanView, RunUpView } from '@zephyrfield/core/api/plan';
import { DEFAULT_PLAN } from '@zephyrfield/core/plan/evenings';
import type { PlanStore, RunUpRow } from './store.ts';

/** A run-up as it stands. */
export const runUpView = ({
  itemId,
  recurrenceId,
  version,
  updatedAt: _at,
  ...runUp
}: RunUpRow): RunUpView => ({
  itemId,
  recurrenceId,
  version,
  runUp,
});

/** What is said of a date without a run-up. */
export const noRunUp = (itemId: string, recurrenceId: string): RunUpView => ({
  itemId,
  recurrenceId,
  version: 0,
  runUp: null,
});

/** When a learner can work, what is planned, and how long work took. */
export function planView(store: PlanStore, learnerId: string): PlanView {
  const row = store.settings(learnerId);
  return {
    settings: row?.settings ?? DEFAULT_PLAN,
    version: row?.version ?? 0,
    runUps: store.runUps(learnerId).map(runUpView),
    took: store.took(learnerId),
  };
}
