import type { Schedule } from '@zephyrfield/core/plan/ask';
import { planner } from '@zephyrfield/core/plan/planner';
import type { Plan, Question } from '@zephyrfield/core/plan/question';
import { waysOut, type Way } from '@zephyrfield/core/plan/ways';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import { viewerOf } from '@zephyrfield/core/words/when';

/** A schedule as it can be sent to a worker: with its zone by name. */
export type SentSchedule = Omit<Schedule, 'viewer'> & { zone: string; nightUntil: number };

/** What is asked of the planner: a plan, or the ways out where one piece of work does not fit. */
export type Asking =
  | { kind: 'plan'; question: Question }
  | { kind: 'ways'; schedule: SentSchedule; which: readonly string[]; key: string };

/** What comes back: plans one after the other, the last of them marked; or the ways. */
export type Told = { plan: Plan; isLast: boolean } | { ways: Way[] };

/**
 * Answers an asking bit by bit, so that others have their turn in between.
 * @param isOver whether it is to stop
 */
export function answer(asking: Asking, tell: (told: Told) => void, isOver: () => boolean): void {
  if (asking.kind === 'ways') {
    const { zone, nightUntil, ...schedule } = asking.schedule;
    const viewer = viewerOf(ianaZone(zone) ?? UTC, { hours: 24, nightUntil });
    tell({ ways: waysOut({ ...schedule, viewer }, new Set(asking.which), asking.key) });
    return;
  }
  const plans = planner(asking.question);
  let best: Plan | null = null;
  let isNew = false;
  let toldAt = -Infinity;
  const go = () => {
    if (isOver()) return;
    const until = performance.now() + A_TURN;
    let last = false;
    while (performance.now() < until && !last) {
      const { value, done } = plans.next();
      last = done === true;
      if (value) {
        best = value;
        isNew = true;
      }
      // The first one is shown at once.
      if (toldAt === -Infinity && best) break;
    }
    if (best && (last || (isNew && performance.now() - toldAt > BETWEEN))) {
      tell({ plan: best, isLast: last });
      isNew = false;
      toldAt = performance.now();
    }
    if (!last) setTimeout(go);
  };
  go();
}
/** So long is planned at a stretch, and so long is between two plans that are shown, in milliseconds. */
const A_TURN = 20;
const BETWEEN = 250;
