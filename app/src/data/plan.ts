import type { PlanView, RunUpView } from '@zephyrfield/core/api/plan';
import type { PlanSettings } from '@zephyrfield/core/plan/evenings';
import type { RunUp, RunUpOf } from '@zephyrfield/core/plan/run-up';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { begun, call } from './client';
import { keys, queryClient, refresh } from './queries';
import { useUndo } from './undo';
import { writing } from './writing';

/** When a learner can work, what is planned, and how long work took. */
export const usePlan = (learnerId: string) =>
  useQuery<PlanView>({
    queryKey: keys.plan(learnerId),
    queryFn: () => call('plan', { params: { learnerId } }),
    ...begun('plan', { params: { learnerId } }),
  });

/** The run-ups of a plan. */
export const runUpsOf = (plan: PlanView | undefined): RunUpOf[] =>
  (plan?.runUps ?? []).flatMap(({ itemId, recurrenceId, runUp }) =>
    runUp ? [{ itemId, recurrenceId, ...runUp }] : [],
  );

export function useRunUps(learnerId: string): RunUpOf[] {
  const { data } = usePlan(learnerId);
  return useMemo(() => runUpsOf(data), [data]);
}

const same = (a: RunUpView, b: Pick<RunUpView, 'itemId' | 'recurrenceId'>) =>
  a.itemId === b.itemId && a.recurrenceId === b.recurrenceId;

const shown = (learnerId: string) => queryClient.getQueryData<PlanView>(keys.plan(learnerId));

/** The run-ups as they are known now. */
export const plannedRunUps = (learnerId: string): RunUpOf[] => runUpsOf(shown(learnerId));

/** Puts what was written in place of what is shown. */
async function show(learnerId: string, written: readonly RunUpView[]): Promise<void> {
  // What was asked for before would show it as it was.
  await queryClient.cancelQueries({ queryKey: keys.plan(learnerId) });
  queryClient.setQueryData<PlanView>(
    keys.plan(learnerId),
    (plan) =>
      plan && {
        ...plan,
        runUps: [
          ...plan.runUps.filter((r) => !written.some((w) => same(r, w))),
          ...written.filter((w) => w.runUp !== null),
        ],
      },
  );
}

/** A run-up as it is to be; null for none. */
export interface RunUpChange {
  itemId: string;
  recurrenceId: string;
  runUp: RunUp | null;
}

/** So many go in one asking: the server takes no larger one. */
const AT_ONCE = 80;

async function send(learnerId: string, changes: readonly RunUpChange[]): Promise<RunUpView[]> {
  const before: RunUpView[] = [];
  try {
    for (let i = 0; i < changes.length; i += AT_ONCE)
      before.push(...(await sendSome(learnerId, changes.slice(i, i + AT_ONCE))));
  } catch (error) {
    // All or none: what was written before the one that failed goes back.
    if (before.length) await send(learnerId, before);
    throw error;
  }
  return before;
}

async function sendSome(learnerId: string, changes: readonly RunUpChange[]): Promise<RunUpView[]> {
  const versionOf = (change: RunUpChange) =>
    shown(learnerId)?.runUps.find((r) => same(r, change))?.version ?? 0;
  const writes = changes.map((change) => ({
    itemId: change.itemId,
    recurrenceId: change.recurrenceId,
    version: versionOf(change),
    runUp: change.runUp && plainRunUp(change.runUp),
  }));
  const { runUps, before } = await call('writeRunUps', { params: { learnerId }, body: { writes } });
  await show(learnerId, runUps);
  return before;
}

/** A run-up without what says whose it is. */
const plainRunUp = ({
  minutes,
  saidBy,
  firstDay,
  perDay,
  polish,
  shortest,
  longest,
  parts,
  sittings,
}: RunUp) => ({
  minutes,
  saidBy,
  firstDay,
  perDay,
  polish,
  shortest,
  longest,
  parts,
  sittings,
});

/**
 * Writes run-ups, all or none, with the way back.
 * @returns whether they were written: where somebody was faster, that is told and what they did is shown
 */
export const writeRunUps = (
  learnerId: string,
  changes: readonly RunUpChange[],
  words: string,
): Promise<boolean> =>
  writing(
    (async () => {
      try {
        const before = await send(learnerId, changes);
        useUndo.getState().did({ words, undo: () => writing(send(learnerId, before).then(() => {})) });
        return true;
      } catch (error) {
        useUndo.getState().failed(error);
        void refresh(keys.plan(learnerId));
        return false;
      }
    })(),
  );

/** Says what became of a sitting, with the way back. */
export const tellSitting = (
  learnerId: string,
  of: Pick<RunUpOf, 'itemId' | 'recurrenceId'>,
  key: string,
  told: { state: 'planned' | 'done' | 'missed'; took: number | null },
  words: string,
): Promise<void> =>
  writing(
    (async () => {
      const tell = async (next: typeof told) => {
        const known = shown(learnerId)?.runUps.find((r) => same(r, of));
        const before = known?.runUp?.sittings.find((s) => s.key === key);
        const written = await call('tellSitting', {
          params: { id: of.itemId },
          body: { recurrenceId: of.recurrenceId, sitting: key, ...next, version: known?.version ?? 0 },
        });
        await show(learnerId, [written]);
        return before;
      };
      try {
        const before = await tell(told);
        if (!before) return;
        const back = { state: before.state, took: before.took };
        useUndo.getState().did({ words, undo: () => writing(tell(back).then(() => {})) });
      } catch (error) {
        useUndo.getState().failed(error);
        void refresh(keys.plan(learnerId));
      }
    })(),
  );

/** Says when a learner can work, with the way back. */
export const writePlanSettings = (learnerId: string, settings: PlanSettings, words: string): Promise<void> =>
  writing(
    (async () => {
      const put = async (next: PlanSettings) => {
        const before = shown(learnerId)?.settings;
        const written = await call('changePlanSettings', {
          params: { learnerId },
          body: { settings: next, version: shown(learnerId)?.version ?? 0 },
        });
        queryClient.setQueryData<PlanView>(keys.plan(learnerId), (plan) => plan && { ...plan, ...written });
        return before;
      };
      try {
        const before = await put(settings);
        if (before) useUndo.getState().did({ words, undo: () => writing(put(before).then(() => {})) });
      } catch (error) {
        useUndo.getState().failed(error);
        void refresh(keys.plan(learnerId));
      }
    })(),
  );
