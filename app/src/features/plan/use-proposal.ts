import { keyOf } from '@zephyrfield/core/item/occurrence';
import { ask, withPlan } from '@zephyrfield/core/plan/ask';
import { paceOf } from '@zephyrfield/core/plan/pace';
import { newRunUp, usualMinutes, type RunUpOf } from '@zephyrfield/core/plan/run-up';
import type { OccurrenceView } from '@zephyrfield/core/api/schemas';
import { useCallback, useMemo, useState } from 'react';
import { newKey } from '@/data/key';
import { usePlanner } from '@/data/planner';
import type { PlanScene } from './use-plan-scene';

/** How long a piece of work takes, with where that comes from: what the person says, else what is usual. */
export function lengthOf(o: OccurrenceView, scene: Pick<PlanScene, 'loads'>) {
  const minutes = Math.max(5, Math.ceil(usualMinutes(o, scene.loads) / 5) * 5);
  return { minutes, saidBy: o.estimate === null ? ('usual' as const) : ('own' as const) };
}

/** What the learner's pace suggests for a piece of work, and of how many that is known; null for nothing. */
export function paceFor(o: OccurrenceView, { taken, pace, loads }: PlanScene) {
  if (!pace.some((p) => p.calendarId === o.calendarId && p.kind === o.kind)) return null;
  const { factor, from } = paceOf(taken.filter((t) => t.calendarId === o.calendarId && t.kind === o.kind));
  return { factor, from, minutes: Math.ceil((usualMinutes(o, loads) * factor) / 5) * 5 };
}

/** A plan that is looked at before it is taken: for which work, how it is to be done, and what comes of it. */
export function useProposal(scene: PlanScene) {
  const { schedule, runUps } = scene;
  /** The run-ups to be planned as they are to be, by key; null while nothing is proposed */
  const [drafts, setDrafts] = useState<ReadonlyMap<string, RunUpOf> | null>(null);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());

  const begin = useCallback(
    (works: readonly OccurrenceView[], standing: readonly RunUpOf[] = []) => {
      const fresh = works.map((o) => {
        const { minutes, saidBy } = lengthOf(o, scene);
        return newRunUp(o, minutes, saidBy, scene.today);
      });
      setLeft(new Set());
      setDrafts(new Map([...standing, ...fresh].map((r) => [keyOf(r), r])));
    },
    [scene],
  );
  const change = (runUp: RunUpOf) => setDrafts((all) => new Map(all).set(keyOf(runUp), runUp));
  const drop = () => setDrafts(null);
  /** Whether one of them is taken along */
  const toggle = (key: string) =>
    setLeft((all) => {
      const next = new Set(all);
      if (!next.delete(key)) next.add(key);
      return next;
    });

  const asked = useMemo(() => {
    if (!drafts) return null;
    const which = new Set([...drafts.keys()].filter((key) => !left.has(key)));
    const others = runUps.filter((r) => !drafts.has(keyOf(r)));
    const theirs = [...drafts.values()].map((r) => r);
    const all = { ...schedule, runUps: [...others, ...theirs] };
    return { ...ask(all, which), which, schedule: all };
  }, [drafts, left, runUps, schedule]);
  // The same question is not asked twice, though the schedule it was made of is another.
  const text = asked && JSON.stringify(asked.question);
  const question = useMemo(() => asked && asked.question, [text]); // eslint-disable-line react-hooks/exhaustive-deps
  const { plan, isLast } = usePlanner(question);
  const planned = useMemo(
    () => (asked && plan ? withPlan(asked, plan, asked.schedule.runUps, newKey) : null),
    [asked, plan],
  );
  return { drafts, asked, plan, planned, isLast, left, begin, change, drop, toggle };
}
export type Proposal = ReturnType<typeof useProposal>;
