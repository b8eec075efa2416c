import type { Plan, Question } from '@zephyrfield/core/plan/question';
import type { Way } from '@zephyrfield/core/plan/ways';
import { startTransition, useEffect, useState } from 'react';
import { answer, type Asking, type SentSchedule, type Told } from '../../worker/plan-answer';

/**
 * Asks the planner. It works in a worker; where there is none (an old page, another server than ours), in turns with the
 * page.
 * @returns what ends it
 */
function askPlanner(asking: Asking, tell: (told: Told) => void): () => void {
  let isOver = false;
  const here = () => answer(asking, tell, () => isOver);
  if (typeof Worker === 'undefined') {
    here();
    return () => (isOver = true);
  }
  const worker = new Worker('/plan-worker.js');
  worker.onmessage = ({ data }: MessageEvent<Told>) => tell(data);
  worker.onerror = () => {
    worker.terminate();
    if (!isOver) here();
  };
  worker.postMessage(asking);
  return () => {
    isOver = true;
    worker.terminate();
  };
}

/** The plan for a question as far as it is known; asked anew where the question is another. */
export function usePlanner(question: Question | null): {
  plan: Plan | null;
  /** It answers this very question */
  isCurrent: boolean;
  isLast: boolean;
} {
  const [known, setKnown] = useState<{ of: Question; plan: Plan; isLast: boolean } | null>(null);
  useEffect(() => {
    if (!question) return undefined;
    return askPlanner({ kind: 'plan', question }, (told) => {
      // A plan of many sittings is drawn in pieces, between which the page answers.
      if ('plan' in told)
        startTransition(() => setKnown({ of: question, plan: told.plan, isLast: told.isLast }));
    });
  }, [question]);
  // Until the first plan for what is asked now is there, the one before stays in sight.
  if (!question || !known) return { plan: null, isCurrent: false, isLast: false };
  const isCurrent = known.of === question;
  return { plan: known.plan, isCurrent, isLast: isCurrent && known.isLast };
}

/** The ways out where a piece of work does not fit; null while they are worked out. */
export function useWays(schedule: SentSchedule | null, which: readonly string[], key: string): Way[] | null {
  const [known, setKnown] = useState<{ of: SentSchedule; ways: Way[] } | null>(null);
  useEffect(() => {
    if (!schedule) return undefined;
    return askPlanner({ kind: 'ways', schedule, which, key }, (told) => {
      if ('ways' in told) startTransition(() => setKnown({ of: schedule, ways: told.ways }));
    });
    // What is asked about is part of the schedule.
  }, [schedule, key]); // eslint-disable-line react-hooks/exhaustive-deps
  return known && known.of === schedule ? known.ways : null;
}
