import type { Plan, Question } from '@zephyrfield/core/plan/question';
import type { Way } from '@zephyrfield/core/plan/ways';
import { useEffect, useState } from 'react';
import { answer, type Asking, type SentSchedule, type Told } from '../../worker/plan-answer';

let count = 0;

/**
 * Asks the planner. It works in a worker; where there is none (an old page, another server than ours), in turns with the
 * page.
 * @returns what ends it
 */
export function askPlanner(asking: Omit<Asking, 'id'>, tell: (told: Told) => void): () => void {
  const id = ++count;
  const sent = { id, ...asking } as Asking;
  let isOver = false;
  const here = () =>
    answer(
      sent,
      (told) => isOver || tell(told),
      () => isOver,
    );
  if (typeof Worker === 'undefined') {
    here();
    return () => (isOver = true);
  }
  const worker = new Worker('/plan-worker.js');
  worker.onmessage = ({ data }: MessageEvent<Told & { id: number }>) => {
    if (!isOver) tell(data);
  };
  worker.onerror = () => {
    worker.terminate();
    if (!isOver) here();
  };
  worker.postMessage(sent);
  return () => {
    isOver = true;
    worker.terminate();
  };
}

/** The plan for a question as far as it is known, and whether it is the last; asked anew where the question is another. */
export function usePlanner(question: Question | null): { plan: Plan | null; isLast: boolean } {
  const [known, setKnown] = useState<{ of: Question; plan: Plan; isLast: boolean } | null>(null);
  useEffect(() => {
    if (!question) return undefined;
    return askPlanner({ kind: 'plan', question } as Omit<Asking, 'id'>, (told) => {
      if ('plan' in told) setKnown({ of: question, plan: told.plan, isLast: told.isLast });
    });
  }, [question]);
  // Until the first plan for what is asked now is there, the one before stays in sight.
  if (!question || !known) return { plan: null, isLast: false };
  return { plan: known.plan, isLast: known.of === question && known.isLast };
}

/** The ways out where a piece of work does not fit; null while they are worked out. */
export function useWays(schedule: SentSchedule | null, which: readonly string[], key: string): Way[] | null {
  const [known, setKnown] = useState<{ of: SentSchedule; ways: Way[] } | null>(null);
  useEffect(() => {
    if (!schedule) return undefined;
    return askPlanner({ kind: 'ways', schedule, which, key } as Omit<Asking, 'id'>, (told) => {
      if ('ways' in told) setKnown({ of: schedule, ways: told.ways });
    });
    // What is asked about is part of the schedule.
  }, [schedule, key]); // eslint-disable-line react-hooks/exhaustive-deps
  return known && known.of === schedule ? known.ways : null;
}
