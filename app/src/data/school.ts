import type { Learner } from '@zephyrfield/core/api/schemas';
import { dayIn } from '@zephyrfield/core/time/when';
import { schoolTerm } from '@zephyrfield/core/view/term';
import { today } from '@zephyrfield/core/words/when';
import { useMemo } from 'react';
import { useLearner } from './learner';
import { useNow } from './now';
import { useCalendars, useOccurrences } from './queries';

type Schedule = Pick<Learner, 'id' | 'term'>;

/**
 * Finds the days that are no school and the term, as the schedule tells of them that a form is about. Where that tells
 * of none, as a teacher's own, the first learner's count: never those of whoever was looked at last. Day numbers.
 */
export function useSchool(learner: Schedule, first: number, last: number) {
  const { learners } = useLearner()!;
  const own = useSchoolOf(learner, first, last);
  const others = useSchoolOf(learners.find((l) => !l.isSelf) ?? learner, first, last);
  return own.term || own.daysOff.length ? own : others;
}

function useSchoolOf(learner: Schedule, first: number, last: number) {
  const { viewer } = useLearner()!;
  const now = useNow();
  const { data } = useOccurrences(learner.id, now, { first, last });
  const calendars = useCalendars(learner.id);
  return useMemo(() => {
    const daysOff = (data ?? [])
      .filter((o) => o.kind === 'dayOff' && o.start.kind === 'date' && o.status !== 'cancelled')
      .map((o) => {
        const from = dayIn(o.start, viewer);
        return { from, to: o.end ? Math.max(from, dayIn(o.end, viewer) - 1) : from, name: o.title };
      });
    const term = learner.term ?? schoolTerm(data, calendars.data, today(now, viewer));
    return { daysOff, term };
  }, [data, calendars.data, learner.term, now, viewer]);
}
