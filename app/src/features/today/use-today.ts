import { partHidden } from '@zephyrfield/core/view/hidden';
import { sharedOnce } from '@zephyrfield/core/view/shared';
import { termWeeks, weekName } from '@zephyrfield/core/view/term';
import { allOf, todayView } from '@zephyrfield/core/view/today';
import { formatDate, startOfWeek } from '@zephyrfield/core/time/civil';
import { sittingEntries } from '@zephyrfield/core/plan/plan-days';
import { troublesOf } from '@zephyrfield/core/plan/standing';
import { tonightOf } from '@zephyrfield/core/plan/tonight';
import { today as dayOf } from '@zephyrfield/core/words/when';
import { useMemo } from 'react';
import { useShown, useOwnClock, useSettings } from '@/data/learner';
import { useNow } from '@/data/now';
import { runUpsOf, usePlan } from '@/data/plan';
import { EVERYBODY, useDrawnCalendars, useOccurrences } from '@/data/queries';
import { useTerm } from '@/data/term';
import { useScreen } from '@/data/screen';

/**
 * Works out Today for the learner looked at: its parts, the week's name, what there is to do tonight.
 * `isKnown` is false while it is not known what there is, so that nobody reads that there is nothing.
 */
export function useToday() {
  const { learner, viewer } = useShown()!;
  const settings = useSettings();
  const { ahead, firstDay, weeks, loads, shelfFrom } = settings;
  const now = useNow();
  const calendars = useDrawnCalendars(learner.id);
  const occurrences = useOccurrences(learner.id, now);
  const hidden = useScreen((s) => s.hidden);
  const byId = useMemo(() => new Map(calendars.data?.map((c) => [c.id, c])), [calendars.data]);
  const { shown: all, held: out } = useMemo(() => {
    const parted = partHidden(occurrences.data ?? [], new Set(hidden));
    return learner.id === EVERYBODY
      ? { ...parted, shown: sharedOnce(parted.shown, byId, () => false) }
      : parted;
  }, [occurrences.data, hidden, learner.id, byId]);
  const seen = useMemo(() => todayView(all, { now, viewer, ahead }), [all, now, viewer, ahead]);
  const held = useMemo(
    () => allOf(todayView(out, { now, viewer, ahead })).map((e) => e.occurrence),
    [out, now, viewer, ahead],
  );
  const term = useTerm(learner, occurrences.data, calendars.data, seen.day);
  const week = weekName(startOfWeek(seen.day, firstDay), termWeeks(term, firstDay, seen.day), weeks);
  const own = useOwnClock(learner);
  const plan = usePlan(learner.id).data;
  const runUps = useMemo(() => runUpsOf(plan), [plan]);
  const at = Math.floor(now / A_WHILE) * A_WHILE;
  const troubles = useMemo(() => {
    if (!plan || !runUps.length || !occurrences.data) return [];
    const { settings } = plan;
    return troublesOf({
      now: at,
      viewer: own,
      loads,
      shelfFrom,
      settings,
      occurrences: occurrences.data,
      runUps,
    });
  }, [plan, runUps, occurrences.data, at, own, loads, shelfFrom]);
  // What is hidden is hidden here as well.
  const tonight = useMemo(() => {
    const day = formatDate(dayOf(at, own));
    const sittings = sittingEntries({ occurrences: all, runUps }).filter((e) => e.sitting.day === day);
    return tonightOf(seen.due, sittings, loads);
  }, [all, runUps, at, own, seen.due, loads]);
  return {
    learner,
    viewer,
    now,
    ahead,
    seen,
    held,
    byId,
    week,
    tonight,
    troubles,
    calendars: calendars.data,
    failure: calendars.error ?? occurrences.error,
    isPending: occurrences.isPending,
    isKnown: occurrences.data !== undefined,
  };
}

/** What no longer holds is worked out so often, in milliseconds. */
const A_WHILE = 300_000;

export type Today = ReturnType<typeof useToday>;
