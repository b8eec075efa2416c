import type { PlanView, RunUpView } from '@zephyrfield/core/api/plan';
import { keyOf } from '@zephyrfield/core/item/occurrence';
import type { PlanSettings } from '@zephyrfield/core/plan/evenings';
import type { PlannedSitting, RunUp, RunUpOf } from '@zephyrfield/core/plan/run-up';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { begun, call } from './client';
import { isUnreached, keepForLater, planWithKept, waitsFor } from './outbox';
import { EVERYBODY, keys, queryClient, refresh } from './queries';
import { useUndo } from './undo';
import { writing } from './writing';

/** Tells when a learner can work, what is planned, and how long work took. */
export const usePlan = (learnerId: string) =>
  useQuery<PlanView>({
    queryKey: keys.plan(learnerId),
    queryFn: async () => planWithKept(await call('plan', { params: { learnerId } })),
    // What is planned is planned for one.
    enabled: learnerId !== EVERYBODY,
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

const shown = (learnerId: string) => queryClient.getQueryData<PlanView>(keys.plan(learnerId));

/** The run-ups as they are known now. */
export const plannedRunUps = (learnerId: string): RunUpOf[] => runUpsOf(shown(learnerId));

/** Puts what was written in place of what is shown. */
async function show(learnerId: string, written: readonly RunUpView[]): Promise<void> {
  // What was asked for before would show it as it was.
  await queryClient.cancelQueries({ queryKey: keys.plan(learnerId) });
  const now = new Set(written.map(keyOf));
  queryClient.setQueryData<PlanView>(
    keys.plan(learnerId),
    (plan) =>
      plan && {
        ...plan,
        runUps: [
          ...plan.runUps.filter((r) => !now.has(keyOf(r))),
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

/** What goes in one asking, in characters: the server takes no more than some more bytes. */
const AT_ONCE = 120_000;

/** Changes in parts that are small enough to be sent. */
function inParts(changes: readonly RunUpChange[]): RunUpChange[][] {
  const parts: RunUpChange[][] = [];
  let size = Infinity;
  for (const change of changes) {
    const its = JSON.stringify(change).length;
    if (size + its > AT_ONCE) {
      parts.push([]);
      size = 0;
    }
    parts.at(-1)!.push(change);
    size += its;
  }
  return parts;
}

/** The version our last write of each run-up made: taking it back is meant for that one, whoever was there since. */
const ours = new Map<string, number>();

/**
 * Writes run-ups, all or none.
 * @param isBack they are as they were before we wrote them
 * @returns what stood before
 */
async function send(
  learnerId: string,
  changes: readonly RunUpChange[],
  isBack = false,
): Promise<RunUpView[]> {
  const seen = new Map(shown(learnerId)?.runUps.map((r) => [keyOf(r), r.version]));
  const before: RunUpView[] = [];
  try {
    for (const part of inParts(changes)) {
      const writes = part.map((change) => {
        const key = keyOf(change);
        return { ...change, version: (isBack ? ours.get(key) : seen.get(key)) ?? 0 };
      });
      const written = await call('writeRunUps', { params: { learnerId }, body: { writes } });
      for (const r of written.runUps) ours.set(keyOf(r), r.version);
      await show(learnerId, written.runUps);
      before.push(...written.before);
    }
  } catch (error) {
    // What was written before the one that failed goes back.
    if (before.length) await send(learnerId, before, true);
    throw error;
  }
  return before;
}

/**
 * Writes something of a plan, with the way back. Where somebody was faster, that is told, and what they did is shown.
 * @param put writes; gives what takes it back, null for nothing
 * @param later keeps it on this device where it cannot be sent, or where something waits that has to go first
 * @returns whether it was written
 */
const write = (
  learnerId: string,
  words: string,
  put: () => Promise<(() => Promise<unknown>) | null>,
  later: { isBehind: boolean; keep(isBehind: boolean): boolean } = { isBehind: false, keep: () => false },
): Promise<boolean> =>
  writing(
    (async () => {
      const isKept = (isBehind: boolean): boolean => {
        if (!later.keep(isBehind)) return false;
        queryClient.setQueryData<PlanView>(keys.plan(learnerId), (plan) => plan && planWithKept(plan));
        return true;
      };
      // What waits goes first.
      if (later.isBehind && isKept(true)) return true;
      try {
        const back = await put();
        if (back) useUndo.getState().did({ words, undo: () => writing(back().then(() => {})) });
        return true;
      } catch (error) {
        if (isUnreached(error) && isKept(false)) return true;
        useUndo.getState().failed(error);
        void refresh(keys.plan(learnerId));
        return false;
      }
    })(),
  );

/** Writes run-ups, all or none, with the way back; says whether they were written. */
export const writeRunUps = (
  learnerId: string,
  changes: readonly RunUpChange[],
  words: string,
): Promise<boolean> =>
  write(
    learnerId,
    words,
    async () => {
      const before = await send(learnerId, changes);
      return () => send(learnerId, before, true);
    },
    {
      isBehind: changes.some((c) => waitsFor(c.itemId, WAITS)),
      keep: (isBehind) => {
        const seen = new Map(shown(learnerId)?.runUps.map((r) => [keyOf(r), r.version]));
        return inParts(changes).every((part) => {
          const writes = part.map((c) => ({ ...c, version: seen.get(keyOf(c)) ?? 0 }));
          return keepForLater({ kind: 'runUps', learnerId, writes, words }, isBehind);
        });
      },
    },
  );

/** Kinds of changes of a run-up that may wait. */
const WAITS = ['runUps', 'sitting'] as const;

type Told = Pick<PlannedSitting, 'state' | 'took'>;

/** Says what became of a sitting, with the way back. */
export const tellSitting = (
  learnerId: string,
  of: Pick<RunUpOf, 'itemId' | 'recurrenceId'>,
  key: string,
  told: Told,
  words: string,
): Promise<boolean> =>
  write(
    learnerId,
    words,
    async () => {
      const tell = async (next: Told): Promise<Told | undefined> => {
        const known = shown(learnerId)?.runUps.find((r) => keyOf(r) === keyOf(of));
        const before = known?.runUp?.sittings.find((s) => s.key === key);
        const written = await call('tellSitting', {
          params: { id: of.itemId },
          body: { recurrenceId: of.recurrenceId, sitting: key, ...next, version: known?.version ?? 0 },
        });
        ours.set(keyOf(of), written.version);
        await show(learnerId, [written]);
        return before && { state: before.state, took: before.took };
      };
      const before = await tell(told);
      return before ? () => tell(before) : null;
    },
    {
      isBehind: waitsFor(of.itemId, WAITS),
      keep: (isBehind) => {
        const { itemId, recurrenceId } = of;
        return keepForLater(
          { kind: 'sitting', learnerId, words, told, sitting: key, itemId, recurrenceId },
          isBehind,
        );
      },
    },
  );

/** Says when a learner can work, with the way back. */
export const writePlanSettings = (
  learnerId: string,
  settings: PlanSettings,
  words: string,
): Promise<boolean> =>
  write(learnerId, words, async () => {
    const put = async (next: PlanSettings) => {
      const before = shown(learnerId)?.settings;
      const written = await call('changePlanSettings', {
        params: { learnerId },
        body: { settings: next, version: shown(learnerId)?.version ?? 0 },
      });
      queryClient.setQueryData<PlanView>(keys.plan(learnerId), (plan) => plan && { ...plan, ...written });
      return before;
    };
    const before = await put(settings);
    return before ? () => put(before) : null;
  });
