import { formatDate, parseDate } from '@zephyrfield/core/time/civil';
import { filtersFromQuery, filtersToQuery, type Filters } from '@zephyrfield/core/view/filter';
import { router, useGlobalSearchParams } from '@/router';
import { useEffect, useMemo } from 'react';
import { useScreen, type Look } from '@/data/screen';

export const VIEWS = ['month', 'week', 'day', 'agenda'] as const satisfies Look['view'][];
export type View = Look['view'];

export interface Looking {
  view: View;
  /** The day looked at, as a day number */
  day: number;
  group: Look['group'];
  span: Look['span'];
  filters: Filters;
  item: { id: string; recurrenceId: string } | null;
  /** Goes elsewhere; the way back leads here */
  go(to: Partial<Pick<Looking, 'view' | 'day'>>): void;
  /** Changes what is shown in place: no step of its own on the way back */
  change(to: Partial<Pick<Looking, 'group' | 'span' | 'filters'>>): void;
  open(id: string, recurrenceId: string): void;
  close(): void;
}

type Params = Partial<
  Record<
    'view' | 'day' | 'group' | 'span' | 'what' | 'state' | 'way' | 'text' | 'item' | 'recurrence',
    string
  >
>;
const CLEARED = { what: undefined, state: undefined, way: undefined, text: undefined };

/**
 * Days that can be looked at: what an address or a device says may be anything, and days beyond are written
 * otherwise.
 */
export const [FIRST_DAY, LAST_DAY] = [parseDate('1900-01-01'), parseDate('2199-12-31')];
export const isLookedAt = (day: number | null): day is number =>
  day !== null && day >= FIRST_DAY && day <= LAST_DAY;
const within = (day: number) => Math.min(LAST_DAY, Math.max(FIRST_DAY, day));

/**
 * How the calendar is looked at: as its address says, else as it was last looked at. All of it stands in the
 * address, so that a link or the way back restores exactly what was seen.
 */
export function useLook(today: number): Looking {
  const params = useGlobalSearchParams<Params>();
  const kept = useScreen((s) => s.look);
  const remember = useScreen((s) => s.remember);
  const view = VIEWS.find((v) => v === params.view) ?? kept.view;
  const day =
    [parseDate(params.day ?? ''), kept.seenOn === today ? kept.day : null].find(isLookedAt) ?? today;
  const group = (['day', 'course', 'kind'] as const).find((g) => g === params.group) ?? kept.group;
  const span = (['upcoming', 'past', 'all'] as const).find((s) => s === params.span) ?? kept.span;
  const { what, state, way, text } = params;
  const isSaid = what !== undefined || state !== undefined || way !== undefined || text !== undefined;
  const filters = useMemo(
    () => filtersFromQuery(isSaid ? { what, state, way, text } : kept.filters),
    [isSaid, what, state, way, text, kept.filters],
  );
  const query = JSON.stringify(filtersToQuery(filters));
  useEffect(() => {
    remember({ view, day, seenOn: today, group, span, filters: JSON.parse(query) as Record<string, string> });
  }, [remember, view, day, today, group, span, query]);

  const address = (changes: Params): Params => ({
    view,
    day: formatDate(day),
    group,
    span,
    ...(JSON.parse(query) as Params),
    ...changes,
  });
  return {
    view,
    day,
    group,
    span,
    filters,
    item: params.item ? { id: params.item, recurrenceId: params.recurrence ?? '' } : null,
    go: (to) =>
      router.push({
        pathname: '/calendar',
        params: address({
          ...(to.view ? { view: to.view } : {}),
          ...(to.day === undefined ? {} : { day: formatDate(within(to.day)) }),
        }),
      }),
    change: ({ filters: next, ...to }) => {
      // What is remembered must not bring a filter back that was just cleared.
      if (next) remember({ filters: filtersToQuery(next) });
      router.setParams({
        ...address(to),
        ...(next ? { ...CLEARED, ...filtersToQuery(next) } : {}),
      } as Params);
    },
    open: (id, recurrenceId) => {
      const to = { item: id, recurrence: recurrenceId };
      // One step back from an item is the view, however many were looked at from it.
      if (params.item) router.setParams(to);
      else router.push({ pathname: '/calendar', params: address(to) });
    },
    close: () =>
      router.canGoBack() ? router.back() : router.setParams({ item: undefined, recurrence: undefined }),
  };
}
