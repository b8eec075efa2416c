import type { Learner } from '@zephyrfield/core/api/schemas';
import { dayIn } from '@zephyrfield/core/time/when';
import { schoolTerm } from '@zephyrfield/core/view/term';
import { today } from '@zephyrfield/core/words/when';
import { useMemo } from 'react';
import { useLearner } from './learner';
import { useNow } from './now';
import { useCalendars, useOccurrences } from './queries';

/**
 * Finds the days that are no school and the term, as one schedule tells of them: that of whom a form is about, whoever
 * was looked at last. Day numbers.
 */
export function useSchool(learner: Pick<Learner, 'id' | 'term'>, first: number, last: number) {
  const { viewer } = useLearner()!;
  const now = useNow();
  const occurrences = useOccurrences(learner.id, now, { first, last });
  const calendars = useCalendars(learner.id);
  const { data } = occurrences;
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
