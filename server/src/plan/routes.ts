import { routes } from '@zephyrfield/core/api/routes';
import type { Clock } from '../clock.ts';
import type { Mount } from '../http/mount.ts';
import { changedMeanwhile, notFound } from '../http/problem.ts';
import type { Sights } from '../people/sights.ts';
import type { PlanStore } from './store.ts';
import { noRunUp, planView, runUpView } from './views.ts';

export interface PlanDeps {
  store: PlanStore;
  clock: Clock;
  sights: Sights;
  /** Tells whether an item has, or ever had, this date */
  hasDate(itemId: string, recurrenceId: string, personId: string): boolean;
  learnerOf(itemId: string): string;
  /** Called after something of a learner's schedule has changed */
  changed(learnerId: string): void;
}

export function mountPlan(
  mount: Mount,
  { store, clock, sights, hasDate, learnerOf, changed }: PlanDeps,
): void {
  mount.kept(routes.plan, ({ caller, learner }) =>
    planView(store, learner.id, sights(caller.personId, learner.id)),
  );

  mount(routes.changePlanSettings, ({ caller, learner, body: { settings, version } }) => {
    const kept = sights(caller.personId, learner.id);
    const isWritten = store.transaction(() => {
      // The ways to what is kept from who writes stay as they are.
      const stood = Object.entries(store.settings(learner.id)?.settings.travel ?? {});
      const hidden = Object.fromEntries(stood.filter(([id]) => kept.has(id)));
      const whole = { ...settings, travel: { ...settings.travel, ...hidden } };
      return store.writeSettings(learner.id, whole, version, clock.now());
    });
    if (!isWritten) throw changedMeanwhile();
    changed(learner.id);
    return { settings, version: version + 1 };
  });

  mount(routes.writeRunUps, ({ caller, learner, body }) => {
    const written = store.transaction(() =>
      body.writes.map(({ itemId, recurrenceId, version, runUp }) => {
        if (runUp && !hasDate(itemId, recurrenceId, caller.personId)) throw notFound('item');
        const row = store.runUp(itemId, recurrenceId);
        if ((row?.version ?? 0) !== version) throw changedMeanwhile();
        const before = row ? runUpView(row) : noRunUp(itemId, recurrenceId);
        if (!runUp) {
          store.remove(itemId, recurrenceId);
          return { before, after: noRunUp(itemId, recurrenceId) };
        }
        const next = { itemId, recurrenceId, ...runUp, version: version + 1, updatedAt: clock.now() };
        store.put(next);
        return { before, after: runUpView(next) };
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
    return runUpView(next);
  });
}
