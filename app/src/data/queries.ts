import { keyOf } from '@zephyrfield/core/item/occurrence';
import type {
  CalendarView,
  ChangeView,
  ItemView,
  OccurrenceView,
  Session,
  SourceView,
  TimerView,
} from '@zephyrfield/core/api/schemas';
import {
  QueryClient,
  useQueries,
  useQuery,
  type Query,
  type QueryKey,
  type UseQueryResult,
} from '@tanstack/react-query';
import { useMemo } from 'react';
import { begun, call } from './client';
import { prefetchedValue, whenCame } from './prefetch';
import { REACH, between, nearDays } from '@zephyrfield/core/view/near';
import { keepFor } from './forget';
import { setServerNow } from './now';
import { itemWithKept, withKept } from './outbox';
import { pathOf } from './path';

export const queryClient = new QueryClient({
  defaultOptions: { queries: { staleTime: 15_000, retry: 1, refetchOnWindowFocus: true } },
});

export const keys = {
  session: ['session'] as const,
  calendars: (learnerId: string) => ['learner', learnerId, 'calendars'] as const,
  sources: (learnerId: string) => ['learner', learnerId, 'sources'] as const,
  changes: (learnerId: string) => ['learner', learnerId, 'changes'] as const,
  occurrences: (learnerId: string) => ['learner', learnerId, 'occurrences'] as const,
  undated: (learnerId: string) => ['learner', learnerId, 'undated'] as const,
  plan: (learnerId: string) => ['learner', learnerId, 'plan'] as const,
  timer: (learnerId: string) => ['learner', learnerId, 'timer'] as const,
  crew: (learnerId: string) => ['learner', learnerId, 'crew'] as const,
  item: (id: string, recurrenceId: string) => ['item', id, recurrenceId] as const,
};

/** Takes over who is there, and what time the server had when it said so. */
function takeOver(session: Session, cameAt: number): Session {
  setServerNow(session.now, cameAt);
  if (session.person) keepFor(session.person.id);
  return session;
}

// A reply that is there before the page tells the time already: what is drawn first depends on it.
const session = prefetchedValue(pathOf('session')) as Session | undefined;
if (session) takeOver(session, whenCame(pathOf('session'))(session));

export const useSession = () =>
  useQuery<Session>({
    queryKey: keys.session,
    queryFn: async () => {
      const when = whenCame(pathOf('session'));
      const session = await call('session');
      return takeOver(session, when(session));
    },
    staleTime: 60_000,
    ...begun('session'),
  });

export const useCalendars = (learnerId: string) =>
  useQuery<CalendarView[]>({
    queryKey: keys.calendars(learnerId),
    queryFn: () => call('calendars', { params: { learnerId } }),
    ...begun('calendars', { params: { learnerId } }),
  });

export const useSources = (learnerId: string) =>
  useQuery<SourceView[]>({
    queryKey: keys.sources(learnerId),
    queryFn: () => call('sources', { params: { learnerId } }),
  });

export const useTimer = (learnerId: string) =>
  useQuery<TimerView | null>({
    queryKey: keys.timer(learnerId),
    queryFn: () => call('timer', { params: { learnerId } }),
  });

export const useChanges = (learnerId: string) =>
  useQuery<ChangeView[]>({
    queryKey: keys.changes(learnerId),
    queryFn: () => call('changes', { params: { learnerId } }),
    ...begun('changes', { params: { learnerId } }),
  });

/**
 * Everything in a learner's schedule around `now` (instant, milliseconds), by whole days so that it is asked
 * for once; and what lies between two day numbers further off.
 */
export function useOccurrences(learnerId: string, now: number, days?: { first: number; last: number }) {
  const around = nearDays(now);
  const ask = (first: number, last: number) => ({
    queryKey: [...keys.occurrences(learnerId), first, last],
    queryFn: async () =>
      (await call('occurrences', { params: { learnerId }, query: between(first, last) })).map(withKept),
    ...begun('occurrences', { params: { learnerId }, query: between(first, last) }),
  });
  const pieces: number[] = [];
  const { piece } = REACH;
  if (days && (days.first < around.first || days.last > around.last)) {
    for (let p = Math.floor(days.first / piece); p <= Math.floor(days.last / piece); p++) {
      const isThere = p * piece >= around.first && (p + 1) * piece <= around.last;
      if (!isThere) pieces.push(p);
    }
  }
  const near = useQuery<OccurrenceView[]>(ask(around.first, around.last));
  const far = useQueries({ queries: pieces.map((p) => ask(p * piece, (p + 1) * piece)), combine: joined });
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
  const all = new Map(near.map((o) => [keyOf(o), o]));
  for (const o of far) all.set(keyOf(o), o);
  return [...all.values()];
}

/** The beginnings of descriptions, for searching; asked for once somebody searches. */
export const useTexts = (learnerId: string, wanted: boolean) =>
  useQuery({
    queryKey: ['learner', learnerId, 'texts'],
    queryFn: () => call('texts', { params: { learnerId } }),
    enabled: wanted,
    staleTime: 300_000,
  });

export const useItem = (id: string, recurrenceId: string) =>
  useQuery<ItemView>({
    queryKey: keys.item(id, recurrenceId),
    queryFn: async () => itemWithKept(await call('item', { params: { id }, query: { recurrenceId } })),
  });

/** Work without a date. */
export const useUndated = (learnerId: string) =>
  useQuery<OccurrenceView[]>({
    queryKey: keys.undated(learnerId),
    queryFn: async () => (await call('undated', { params: { learnerId } })).map(withKept),
  });

/**
 * Says that what is known under a key is true no more: it is asked for anew where it is in sight, otherwise
 * when it is wanted again. What is still on its way for something that has gone out of sight was asked for
 * before, and would be taken for what is true now; it is let go.
 */
export async function refresh(queryKey: QueryKey, client = queryClient): Promise<void> {
  await client.cancelQueries({ queryKey, type: 'inactive' });
  await client.invalidateQueries({ queryKey });
}

/**
 * After something was changed and is shown as it then is: what was asked for before and is still on its way
 * would show it as it was, and is asked for anew.
 */
export async function askAnewOnTheWay(queryKey: QueryKey): Promise<void> {
  const onTheWay = { queryKey, predicate: (q: Query) => q.state.fetchStatus === 'fetching' };
  const hashes = new Set(
    queryClient
      .getQueryCache()
      .findAll(onTheWay)
      .map((q) => q.queryHash),
  );
  if (!hashes.size) return;
  const those = { predicate: (q: Query) => hashes.has(q.queryHash) };
  await queryClient.cancelQueries(those);
  await queryClient.invalidateQueries(those);
}

/** Forgets what was known of a learner's schedule, so that it is asked for anew. */
export const refreshLearner = (client: QueryClient, learnerId: string) =>
  Promise.all([refresh(['learner', learnerId], client), refresh(['item'], client)]);
