import type { Learner, OccurrenceView } from '@zephyrfield/core/api/schemas';
import { startOfWeek } from '@zephyrfield/core/time/civil';
import { agendaEntry, isHidden, type AgendaEntry } from '@zephyrfield/core/view/entry';
import { agenda as makeAgenda, type Agenda } from '@zephyrfield/core/view/agenda';
import { isFiltering, passes } from '@zephyrfield/core/view/filter';
import { loadByDay, loadShares } from '@zephyrfield/core/view/load';
import { termRibbon, type RibbonWeek } from '@zephyrfield/core/view/ribbon';
import { sharedOnce } from '@zephyrfield/core/view/shared';
import { termWeeks, type TermWeek } from '@zephyrfield/core/view/term';
import { today as dayOf } from '@zephyrfield/core/words/when';
import { sittingEntries, sittingOccurrence } from '@zephyrfield/core/plan/plan-days';
import { OPEN_TIMES, openTimeView } from '@zephyrfield/core/item/open-time';
import { sittingDays } from '@zephyrfield/core/plan/run-up';
import { useMemo } from 'react';
import { useShown, useSettings } from '@/data/learner';
import { useNow } from '@/data/now';
import { useOpenSlots } from '@/data/open-slots';
import { useRunUps } from '@/data/plan';
import { EVERYBODY, useDrawnCalendars, type DrawnCalendar, useOccurrences } from '@/data/queries';
import { useHiddenSoon } from '@/data/screen';
import { useTerm } from '@/data/term';
import type { Looking } from './use-look';
import { useSearch } from './use-search';

/** All a view of the calendar draws from. */
export interface Scene {
  calendars: readonly DrawnCalendar[] | undefined;
  /** What may be shown: not hidden, not filtered out */
  shown: readonly OccurrenceView[];
  agenda: Agenda;
  /** Ids of the calendars that are hidden here */
  hidden: ReadonlySet<string>;
  weeks: readonly TermWeek[];
  ribbon: readonly RibbonWeek[];
  /** Minutes of work by day number, of what is not hidden */
  load: ReadonlyMap<number, number>;
  isPending: boolean;
  /** It is known what there is: an empty day is one, and not one that could not be read */
  isKnown: boolean;
  error: Error | null;
}

const NONE: OccurrenceView[] = [];

/** Gives what stands for times that are offered, among the calendars of a schedule. */
const openTimesOf = ({ id, zone }: Pick<Learner, 'id' | 'zone'>): DrawnCalendar => ({
  id: OPEN_TIMES,
  learnerId: id,
  name: 'Open times',
  kind: 'own',
  category: '',
  colour: 'slate',
  flag: { shape: 'banner', pattern: 'border', letters: 'OT' },
  zone,
  position: Number.MAX_SAFE_INTEGER,
  handMade: false,
  reminders: null,
  alarms: 'ignore',
  audience: null,
  madeBy: null,
});

/** Puts together what is shown of a learner's schedule, for the days a view covers. */
export function useScene(
  { filters, view }: Pick<Looking, 'filters' | 'view'>,
  days: { first: number; last: number },
): Scene {
  const { learner, viewer } = useShown()!;
  const settings = useSettings();
  const now = useNow();
  const today = dayOf(now, viewer);
  const calendars = useDrawnCalendars(learner.id);
  const occurrences = useOccurrences(learner.id, now, days);
  const runUps = useRunUps(learner.id);
  const near = occurrences.data ?? NONE;
  const slots = useOpenSlots(learner.id).data;
  const hiddenIds = useHiddenSoon();
  const hidden = useMemo(() => new Set(hiddenIds), [hiddenIds]);
  const byId = useMemo(() => new Map(calendars.data?.map((c) => [c.id, c])), [calendars.data]);
  const all = useMemo(() => {
    const sittings = sittingEntries({ occurrences: near, runUps }).filter(
      (e) => e.sitting.state !== 'missed',
    );
    // Times that can be taken, and fit between what there is, stand as outlines.
    const free = (slots ?? []).filter((s) => s.booking === null && !s.clashes).map(openTimeView);
    const whole =
      sittings.length || free.length ? [...near, ...sittings.map(sittingOccurrence), ...free] : near;
    return learner.id === EVERYBODY ? sharedOnce(whole, byId, (o) => isHidden(o, hidden)) : whole;
  }, [near, runUps, slots, learner.id, byId, hidden]);
  const drawn = useMemo(
    () =>
      slots?.some((s) => s.booking === null)
        ? [...(calendars.data ?? []), openTimesOf(learner)]
        : calendars.data,
    [calendars.data, slots, learner],
  );
  const found = useSearch(learner.id, all, calendars.data, filters.text);
  const keep = useMemo(() => {
    if (!isFiltering(filters)) return undefined;
    return (entry: AgendaEntry) =>
      passes(entry, filters) && (found === null || found.has(entry.occurrence.itemId));
  }, [filters, found]);

  const visible = useMemo(() => all.filter((o) => !isHidden(o, hidden)), [all, hidden]);
  const shown = useMemo(
    () => (keep ? visible.filter((o) => keep(agendaEntry(o, now, viewer))) : visible),
    [visible, keep, now, viewer],
  );
  const agenda = useMemo(
    () => makeAgenda(all, { now, viewer, hidden, ...(keep ? { keep } : {}) }),
    [all, now, viewer, hidden, keep],
  );
  const term = useTerm(learner, all, calendars.data, today);
  const weeks = useMemo(
    () => termWeeks(term, settings.firstDay, startOfWeek(today, settings.firstDay)),
    [term, settings.firstDay, today],
  );
  const options = useMemo(
    () => ({
      viewer,
      loads: settings.loads,
      shelfFrom: settings.shelfFrom,
      sittings: sittingDays(runUps),
    }),
    [viewer, settings.loads, settings.shelfFrom, runUps],
  );
  const ribbon = useMemo(() => termRibbon(visible, weeks, today, options), [visible, weeks, today, options]);
  const load = useMemo(() => loadByDay(loadShares(visible, options)), [visible, options]);
  // The agenda grows at its ends while it is read; the other views wait for the days they are to show.
  const isPending =
    calendars.isPending || occurrences.isPending || (occurrences.isFarPending && view !== 'agenda');
  return {
    calendars: drawn,
    shown,
    agenda,
    hidden,
    weeks,
    ribbon,
    load,
    isPending,
    isKnown: occurrences.data !== undefined,
    error: calendars.error ?? occurrences.error,
  };
}
