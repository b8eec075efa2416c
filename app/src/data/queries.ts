import type { CalendarView, ChangeView, ItemView, OccurrenceView, Session, SourceView } from '@zephyrfield/core/api/schemas';
import { DAY } from '@zephyrfield/core/time/civil';
import { QueryClient, useQueries, useQuery, type UseQueryResult } from '@tanstack/react-query';
import { useMemo } from 'react';
import { call } from './client';
import { setServerNow } from './now';

export const queryClient = new QueryClient({ defaultOptions: { queries: { staleTime: 15_000, retry: 1, refetchOnWindowFocus: true } } });

export const keys = {
  session: ['session'] as const,
  calendars: (learnerId: string) => ['learner', learnerId, 'calendars'] as const,
  sources: (learnerId: string) => ['learner', learnerId, 'sources'] as const,
  changes: (learnerId: string) => ['learner', learnerId, 'changes'] as const,
  occurrences: (learnerId: string) => ['learner', learnerId, 'occurrences'] as const,
  undated: (learnerId: string) => ['learner', learnerId, 'undated'] as const,
  item: (id: string, key: string) => ['item', id, key] as const,
};

export const useSession = () =>
  useQuery<Session>({
    queryKey: keys.session,
    queryFn: async () => {
      const session = await call('session');
      setServerNow(session.now);
      return session;
    },
    staleTime: 60_000,
  });

export const useCalendars = (learnerId: string) => useQuery<CalendarView[]>({ queryKey: keys.calendars(learnerId), queryFn: () => call('calendars', { params: { learnerId } }) });

export const useSources = (learnerId: string) => useQuery<SourceView[]>({ queryKey: keys.sources(learnerId), queryFn: () => call('sources', { params: { learnerId } }) });

export const useChanges = (learnerId: string) => useQuery<ChangeView[]>({ queryKey: keys.changes(learnerId), queryFn: () => call('changes', { params: { learnerId } }) });

/** How far what is always there reaches, back and ahead of now, in days; what lies further off is asked for by pieces. */
export const REACH = { back: 120, ahead: 400, piece: 120 } as const;
const { back: BACK, ahead: AHEAD, piece: PIECE } = REACH;

/**
 * Everything in a learner's schedule around `now` (instant, milliseconds), by whole days so that it is asked for once;
 * and what lies between two day numbers further off.
 */
export function useOccurrences(learnerId: string, now: number, days?: { first: number; last: number }) {
  const day = Math.floor(now / DAY);
  const ask = (first: number, last: number) => ({
    queryKey: [...keys.occurrences(learnerId), first, last],
    queryFn: () => call('occurrences', { params: { learnerId }, query: { from: new Date(first * DAY).toISOString(), to: new Date(last * DAY).toISOString() } }),
  });
  const pieces: number[] = [];
  if (days && (days.first < day - BACK || days.last > day + AHEAD)) {
    for (let p = Math.floor(days.first / PIECE); p <= Math.floor(days.last / PIECE); p++) {
      const isThere = p * PIECE >= day - BACK && (p + 1) * PIECE <= day + AHEAD;
      if (!isThere) pieces.push(p);
    }
  }
  const near = useQuery<OccurrenceView[]>(ask(day - BACK, day + AHEAD));
  const far = useQueries({ queries: pieces.map((p) => ask(p * PIECE, (p + 1) * PIECE)), combine: joined });
  const data = useMemo(() => merge(near.data, far.data), [near.data, far.data]);
  return { data, error: near.error ?? far.error, isPending: near.isPending, isFarPending: far.isPending };
}

const joined = (results: UseQueryResult<OccurrenceView[]>[]) => ({
  data: results.flatMap((r) => r.data ?? []),
  error: results.find((r) => r.error)?.error ?? null,
  isPending: results.some((r) => r.isPending),
});

/** Occurrences of both, each once. */
function merge(near: OccurrenceView[] | undefined, far: OccurrenceView[]): OccurrenceView[] | undefined {
  if (!near || !far.length) return near;
  const all = new Map(near.map((o) => [`${o.itemId} ${o.key}`, o]));
  for (const o of far) all.set(`${o.itemId} ${o.key}`, o);
  return [...all.values()];
}

/** The beginnings of descriptions, for searching; asked for once somebody searches. */
export const useTexts = (learnerId: string, wanted: boolean) =>
  useQuery({ queryKey: ['learner', learnerId, 'texts'], queryFn: () => call('texts', { params: { learnerId } }), enabled: wanted, staleTime: 300_000 });

export const useItem = (id: string, key: string) => useQuery<ItemView>({ queryKey: keys.item(id, key), queryFn: () => call('item', { params: { id }, query: { key } }) });

/** Work without a date. */
export const useUndated = (learnerId: string) => useQuery<OccurrenceView[]>({ queryKey: keys.undated(learnerId), queryFn: () => call('undated', { params: { learnerId } }) });

/** Forgets what was known of a learner's schedule, so that it is asked for anew. */
export const refreshLearner = (client: QueryClient, learnerId: string) =>
  Promise.all([client.invalidateQueries({ queryKey: ['learner', learnerId] }), client.invalidateQueries({ queryKey: ['item'] })]);
