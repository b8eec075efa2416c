import { keyOf } from '@zephyrfield/core/item/occurrence';
import { ask, withPlan } from '@zephyrfield/core/plan/ask';
import { beforeAndAfter } from '@zephyrfield/core/plan/plan-days';
import { paceOf } from '@zephyrfield/core/plan/pace';
import { newRunUp, type RunUpOf } from '@zephyrfield/core/plan/run-up';
import { usualMinutes } from '@zephyrfield/core/view/load';
import type { OccurrenceView } from '@zephyrfield/core/api/schemas';
import { startTransition, useMemo, useState } from 'react';
import { newKey } from '@/data/key';
import { usePlanner } from '@/data/planner';
import type { PlanScene } from './use-plan-scene';

/** Tells how long a piece of work takes, with where that comes from: what the person says, else what is usual. */
export function lengthOf(o: OccurrenceView, scene: Pick<PlanScene, 'loads'>) {
  const minutes = Math.max(5, Math.ceil(usualMinutes(o, scene.loads) / 5) * 5);
  return { minutes, saidBy: o.estimate === null ? ('usual' as const) : ('own' as const) };
}

/** Gives what the learner's pace suggests for a piece of work, and of how many that is known; null for nothing. */
export function paceFor(o: OccurrenceView, { taken, pace, loads }: PlanScene) {
  if (!pace.some((p) => p.calendarId === o.calendarId && p.kind === o.kind)) return null;
  const { factor, from } = paceOf(taken.filter((t) => t.calendarId === o.calendarId && t.kind === o.kind));
  return { factor, from, minutes: Math.ceil((usualMinutes(o, loads) * factor) / 5) * 5 };
}

/** How work is to be worked on; its sittings are those that stand now, whenever that is asked. */
type Draft = Omit<RunUpOf, 'sittings'>;

/** The most evenings that are shown side by side. */
const SIDE_BY_SIDE = 28;

/** A plan that is looked at before it is taken: for which work, how it is to be done, and what comes of it. */
export function useProposal(scene: PlanScene) {
  const { schedule, runUps } = scene;
  /** By key; null while nothing is proposed */
  const [given, setGiven] = useState<ReadonlyMap<string, Draft> | null>(null);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());

  const begin = (works: readonly OccurrenceView[], standing: readonly RunUpOf[] = []) => {
    const fresh = works.map((o) => {
      const { minutes, saidBy } = lengthOf(o, scene);
      return newRunUp(o, minutes, saidBy, scene.today);
    });
    // Of two hundred pieces of work it is drawn in pieces: the page answers between them.
    startTransition(() => {
      setLeft(new Set());
      setGiven(
        new Map([...standing, ...fresh].map(({ sittings: _those, ...draft }) => [keyOf(draft), draft])),
      );
    });
  };
  const change = (draft: Draft) => setGiven((all) => new Map(all).set(keyOf(draft), draft));
  const drop = () => setGiven(null);
  /** Tells whether one of them is taken along */
  const toggle = (key: string) =>
    setLeft((all) => {
      const next = new Set(all);
      if (!next.delete(key)) next.add(key);
      return next;
    });

  // Another window may have told a sitting meanwhile: what stands now counts.
  const drafts = useMemo(() => {
    if (!given) return null;
    const standing = new Map(runUps.map((r) => [keyOf(r), r.sittings]));
    return [...given].map(([key, draft]): RunUpOf => ({ ...draft, sittings: standing.get(key) ?? [] }));
  }, [given, runUps]);
  const asked = useMemo(() => {
    if (!drafts) return null;
    const taken = drafts.filter((r) => !left.has(keyOf(r)));
    const which = new Set(taken.map(keyOf));
    const all = { ...schedule, runUps: [...runUps.filter((r) => !which.has(keyOf(r))), ...taken] };
    return { ...ask(all, which), which, schedule: all };
  }, [drafts, left, runUps, schedule]);
  // The same question is not asked twice, though the schedule it was made of is another.
  const text = asked && JSON.stringify(asked.question);
  const question = useMemo(() => asked && asked.question, [text]); // eslint-disable-line react-hooks/exhaustive-deps
  const { plan, isCurrent, isLast } = usePlanner(question);
  const planned = useMemo(
    () => (asked && plan ? withPlan(asked, plan, asked.schedule.runUps, newKey) : null),
    [asked, plan],
  );
  // The next evenings, as they are and as they would be: worked out by whoever draws them first, so that this is a piece
  // of drawing by itself.
  const evenings = useMemo(() => {
    let known: ReturnType<typeof beforeAndAfter> | undefined;
    return () =>
      (known ??= asked
        ? beforeAndAfter(schedule, planned ?? [], asked.firstDay, Math.min(SIDE_BY_SIDE, asked.question.days))
        : []);
  }, [schedule, asked, planned]);
  return { drafts, asked, plan, planned, isCurrent, isLast, evenings, left, begin, change, drop, toggle };
}
export type Proposal = ReturnType<typeof useProposal>;
