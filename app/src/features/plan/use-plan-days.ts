import { keyOf } from '@zephyrfield/core/item/occurrence';
import { planDays, type PlanDay } from '@zephyrfield/core/plan/plan-days';
import type { RunUpOf } from '@zephyrfield/core/plan/run-up';
import { parseDate, startOfWeek } from '@zephyrfield/core/time/civil';
import { useMemo } from 'react';
import type { PlanScene } from './use-plan-scene';
import type { Proposal } from './use-proposal';

/** Number of days that are shown at least, and at most. */
const LEAST = 14;
const MOST = 120;

/** Finds where each sitting lies, as a text. */
const placesOf = (runUps: readonly RunUpOf[]) =>
  runUps.flatMap((r) =>
    r.sittings.map((s) => ({ id: `${keyOf(r)} ${s.key}`, place: `${s.day} ${s.from} ${s.minutes}` })),
  );

/** The days of a plan, with what is proposed in place of what is planned; and which sittings stand nowhere yet. */
export function usePlanDays(scene: PlanScene, { planned }: Pick<Proposal, 'planned'>) {
  const { runUps: standing, schedule, today, troubles } = scene;
  const runUps = useMemo(() => {
    const next = new Set(planned?.map(keyOf));
    return planned ? [...standing.filter((r) => !next.has(keyOf(r))), ...planned] : standing;
  }, [planned, standing]);
  const proposed = useMemo(() => {
    const there = new Map(placesOf(standing).map(({ id, place }) => [id, place]));
    return new Set(placesOf(planned ?? []).flatMap(({ id, place }) => (there.get(id) === place ? [] : [id])));
  }, [planned, standing]);
  const days = useMemo(() => {
    const ahead = runUps.reduce(
      (far, r) => r.sittings.reduce((f, s) => Math.max(f, parseDate(s.day)), far),
      today + LEAST - 1,
    );
    // What went by and was not told stays in sight until it is.
    const open = troubles.flatMap((t) => (t.kind === 'missed' ? [parseDate(t.sitting.day)] : []));
    const first = Math.max(today - 14, Math.min(today, ...open));
    const last = Math.min(today + MOST, ahead);
    return planDays({ ...schedule, runUps }, first, last - first + 1).filter(
      (d) => d.day >= today || d.sittings.length,
    );
  }, [schedule, today, troubles, runUps]);
  return { days, proposed, runUps };
}

/** The days of whole weeks: from this week to that in which the term ends, or the last sitting of what is planned. */
export function useWholeWeeks(
  { schedule, today, term, firstDay }: PlanScene,
  runUps: readonly RunUpOf[],
  lastPlanned: number,
): PlanDay[] {
  return useMemo(() => {
    const first = startOfWeek(today, firstDay);
    const last = Math.min(today + MOST, Math.max(lastPlanned, term ? parseDate(term.end) : 0));
    return planDays({ ...schedule, runUps }, first, startOfWeek(last, firstDay) + 7 - first);
  }, [schedule, today, term, firstDay, runUps, lastPlanned]);
}
