import { suffices } from '@zephyrfield/core/item/access';
import type { CalendarView, OccurrenceView } from '@zephyrfield/core/api/schemas';
import { keyOf, readyBy } from '@zephyrfield/core/item/occurrence';
import { DEFAULT_PLAN } from '@zephyrfield/core/plan/evenings';
import type { Schedule } from '@zephyrfield/core/plan/ask';
import { isBig, isPlannable } from '@zephyrfield/core/plan/run-up';
import { usualMinutes } from '@zephyrfield/core/view/load';
import { paces, type Taken } from '@zephyrfield/core/plan/pace';
import { troublesOf } from '@zephyrfield/core/plan/standing';
import { instantIn } from '@zephyrfield/core/time/when';
import { parseDate } from '@zephyrfield/core/time/civil';
import { today as dayOf } from '@zephyrfield/core/words/when';
import { useMemo } from 'react';
import { useLearner, useOwnClock, useSettings } from '@/data/learner';
import { useNow } from '@/data/now';
import { runUpsOf, usePlan } from '@/data/plan';
import { useTerm } from '@/data/term';
import { useCalendars, useDrawnCalendars, useOccurrences } from '@/data/queries';

/** Work that was finished and of which it is known how long it took. */
export interface TakenWork extends Taken {
  occurrence: OccurrenceView;
}

const NONE: OccurrenceView[] = [];
const NO_CALENDARS: CalendarView[] = [];

/** All that the Plan place draws from: the learner's schedule with its run-ups, and what follows from them. */
export function usePlanScene() {
  const { learner } = useLearner()!;
  const { loads, shelfFrom, firstDay } = useSettings();
  const viewer = useOwnClock(learner);
  const now = useNow();
  const plan = usePlan(learner.id);
  const occurrences = useOccurrences(learner.id, now);
  const drawn = useDrawnCalendars(learner.id);
  const calendars = useCalendars(learner.id);
  const all = occurrences.data ?? NONE;
  const settings = plan.data?.settings ?? DEFAULT_PLAN;
  const runUps = useMemo(() => runUpsOf(plan.data), [plan.data]);
  // Nothing of a plan changes within five minutes.
  const at = Math.floor(now / 300_000) * 300_000;
  const schedule = useMemo<Schedule>(
    () => ({ now: at, viewer, loads, shelfFrom, settings, occurrences: all, runUps }),
    [at, viewer, loads, shelfFrom, settings, all, runUps],
  );
  const troubles = useMemo(() => troublesOf(schedule), [schedule]);
  const unplanned = useMemo(() => {
    const planned = new Set(runUps.map(keyOf));
    const until = at + AHEAD;
    return all
      .filter((o) => !o.hidden && isBig(o, loads) && isPlannable(o, at, viewer) && !planned.has(keyOf(o)))
      .filter((o) => instantIn(readyBy(o)!, viewer) < until)
      .sort((a, b) => instantIn(readyBy(a)!, viewer) - instantIn(readyBy(b)!, viewer));
  }, [runUps, all, at, viewer, loads]);
  const taken = useMemo<TakenWork[]>(() => {
    const byKey = new Map(all.map((o) => [keyOf(o), o]));
    const since = settings.paceSince ? parseDate(settings.paceSince) : -Infinity;
    // Of work with a run-up, what its sittings took, where its timer never ran.
    const bySittings = runUps.map((r) => ({
      itemId: r.itemId,
      recurrenceId: r.recurrenceId,
      minutes: r.sittings.reduce((sum, s) => sum + (s.took ?? 0), 0),
    }));
    const timed = new Set((plan.data?.took ?? []).map(keyOf));
    const known = [
      ...(plan.data?.took ?? []),
      ...bySittings.filter((t) => t.minutes && !timed.has(keyOf(t))),
    ];
    return known.flatMap((t) => {
      const occurrence = byKey.get(keyOf(t));
      if (!occurrence?.finished) return [];
      if (dayOf(Date.parse(occurrence.finishedAt ?? '') || 0, viewer) < since) return [];
      const { calendarId, kind } = occurrence;
      return [{ occurrence, calendarId, kind, said: usualMinutes(occurrence, loads), took: t.minutes }];
    });
  }, [plan.data, runUps, all, loads, settings.paceSince, viewer]);
  const pace = useMemo(() => paces(taken), [taken]);
  const today = dayOf(at, viewer);
  const term = useTerm(learner, occurrences.data, calendars.data, today);
  return {
    learner,
    viewer,
    now,
    loads,
    firstDay,
    today,
    term,
    plan: plan.data,
    settings,
    schedule,
    runUps,
    troubles,
    unplanned,
    taken,
    pace,
    all,
    byId: useMemo(() => new Map((drawn.data ?? NO_CALENDARS).map((c) => [c.id, c])), [drawn.data]),
    calendars: calendars.data ?? NO_CALENDARS,
    byKey: useMemo(() => new Map(all.map((o) => [keyOf(o), o])), [all]),
    failure: plan.error ?? occurrences.error ?? calendars.error,
    isKnown: plan.data !== undefined && occurrences.data !== undefined,
    mayTick: suffices(learner.access, 'tick'),
    mayEdit: suffices(learner.access, 'edit'),
  };
}
/** Work is offered to be planned so long before it is due: six weeks. */
const AHEAD = 42 * 86_400_000;

export type PlanScene = ReturnType<typeof usePlanScene>;
