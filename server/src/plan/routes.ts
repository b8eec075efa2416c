import type { RunUpView } from '@zephyrfield/core/api/plan';
import { routes } from '@zephyrfield/core/api/routes';
import { DEFAULT_PLAN } from '@zephyrfield/core/plan/evenings';
import type { Clock } from '../clock.ts';
import type { Mount } from '../http/mount.ts';
import { changedMeanwhile, notFound } from '../http/problem.ts';
import type { PlanStore, RunUpRow } from './store.ts';

export interface PlanDeps {
  store: PlanStore;
  clock: Clock;
  /** Whether an item has, or ever had, this date */
  hasDate(itemId: string, recurrenceId: string, personId: string): boolean;
  learnerOf(itemId: string): string;
  /** Called after something of a learner's schedule has changed */
  changed(learnerId: string): void;
}

const viewOf = ({ itemId, recurrenceId, version, updatedAt: _at, ...runUp }: RunUpRow): RunUpView => ({
  itemId,
  recurrenceId,
  version,
  runUp,
});
const none = (itemId: string, recurrenceId: string): RunUpView => ({
  itemId,
  recurrenceId,
  version: 0,
  runUp: null,
});

export function mountPlan(mount: Mount, { store, clock, hasDate, learnerOf, changed }: PlanDeps): void {
  mount.kept(routes.plan, ({ learner }) => {
    const row = store.settings(learner.id);
    return {
      settings: row?.settings ?? DEFAULT_PLAN,
      version: row?.version ?? 0,
      runUps: store.runUps(learner.id).map(viewOf),
      took: store.took(learner.id),
    };
  });

  mount(routes.changePlanSettings, ({ learner, body: { settings, version } }) => {
    if (!store.transaction(() => store.writeSettings(learner.id, settings, version, clock.now())))
      throw changedMeanwhile();
    changed(learner.id);
    return { settings, version: version + 1 };
  });

  mount(routes.writeRunUps, ({ caller, learner, body }) => {
    const written = store.transaction(() =>
      body.writes.map(({ itemId, recurrenceId, version, runUp }) => {
        if (runUp && !hasDate(itemId, recurrenceId, caller.personId)) throw notFound('item');
        const row = store.runUp(itemId, recurrenceId);
        if ((row?.version ?? 0) !== version) throw changedMeanwhile();
        const before = row ? viewOf(row) : none(itemId, recurrenceId);
        if (!runUp) {
          store.remove(itemId, recurrenceId);
          return { before, after: none(itemId, recurrenceId) };
        }
        const next = { itemId, recurrenceId, ...runUp, version: version + 1, updatedAt: clock.now() };
        store.put(next);
        return { before, after: viewOf(next) };
      }),
    );
    changed(learner.id);
    return { runUps: written.map((w) => w.after), before: written.map((w) => w.before) };
  });

  mount(routes.tellSitting, ({ params, body: { recurrenceId, sitting, state, took, version } }) => {
    const next = store.transaction(() => {
      const row = store.runUp(params.id, recurrenceId);
      if (!row?.sittings.some((s) => s.key === sitting)) throw notFound('sitting');
      if (row.version !== version) throw changedMeanwhile();
      const sittings = row.sittings.map((s) => (s.key === sitting ? { ...s, state, took } : s));
      const changedRow = { ...row, sittings, version: version + 1, updatedAt: clock.now() };
      store.put(changedRow);
      return changedRow;
    });
    changed(learnerOf(params.id));
    return viewOf(next);
  });
}
