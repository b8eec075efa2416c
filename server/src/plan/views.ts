import type { PlanView, RunUpView } from '@zephyrfield/core/api/plan';
import { DEFAULT_PLAN, type PlanSettings } from '@zephyrfield/core/plan/evenings';
import type { KeptFrom } from '../people/sights.ts';
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

/** Gives what is said of a date without a run-up. */
export const noRunUp = (itemId: string, recurrenceId: string): RunUpView => ({
  itemId,
  recurrenceId,
  version: 0,
  runUp: null,
});

/** Settings without the ways to what is kept from who looks. */
export const settingsFor = (settings: PlanSettings, kept: KeptFrom): PlanSettings =>
  kept.size
    ? {
        ...settings,
        travel: Object.fromEntries(Object.entries(settings.travel).filter(([id]) => !kept.has(id))),
      }
    : settings;

/** Tells when a learner can work, what is planned, and how long work took, as somebody sees it. */
export function planView(store: PlanStore, learnerId: string, kept: KeptFrom): PlanView {
  const row = store.settings(learnerId);
  const isShown = ({ calendarId }: { calendarId: string }) => !kept.has(calendarId);
  return {
    settings: settingsFor(row?.settings ?? DEFAULT_PLAN, kept),
    version: row?.version ?? 0,
    runUps: store
      .runUpsIn(learnerId)
      .filter(isShown)
      .map(({ runUp }) => runUpView(runUp)),
    took: store
      .took(learnerId)
      .filter(isShown)
      .map(({ calendarId: _in, ...took }) => took),
  };
}
