import { formatDate } from '@zephyrfield/core/time/civil';
import { today } from '@zephyrfield/core/words/when';
import { useMemo } from 'react';
import { useLearner } from '@/data/learner';
import { useSession } from '@/data/queries';
import { DEFAULT_SETTINGS } from '@zephyrfield/core/view/settings';
import type { Habits } from '@/ui/field-habits';

/** Gives what fields of days and hours follow: the person's settings, and the day it was when they were asked for. */
export function useHabits(): Habits {
  const session = useSession().data;
  const viewer = useLearner()?.viewer;
  return useMemo(() => {
    const { hours, firstDay } = session?.settings ?? DEFAULT_SETTINGS;
    if (!session || !viewer) return { hours, firstDay };
    return { hours, firstDay, today: formatDate(today(Date.parse(session.now), viewer)) };
  }, [session, viewer]);
}
