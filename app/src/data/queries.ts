import { marksOf } from '@zephyrfield/core/item/crew';
import { keyOf } from '@zephyrfield/core/item/occurrence';
import type {
  CalendarView,
  ChangeView,
  ItemView,
  Learner,
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
import type { Whose } from '@zephyrfield/core/view/slips';
import { REACH, between, nearDays } from '@zephyrfield/core/view/near';
import { firstName } from '@zephyrfield/core/words/text';
import { keepFor, keepForNobody } from './forget';
import { setServerNow } from './now';
import { itemWithKept, listWithKept } from './outbox';
import { pathOf } from './path';

export const queryClient = new QueryClient({
  defaultOptions: {
    // A worker beside the page may answer without a connection, and what is done then is kept.
    queries: {
      ...{ networkMode: 'always', staleTime: 15_000, retry: 1 },
      ...{ refetchOnWindowFocus: true, refetchOnReconnect: true },
    },
    mutations: { networkMode: 'always' },
  },
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
  shares: (learnerId: string) => ['learner', learnerId, 'shares'] as const,
  crew: (learnerId: string) => ['learner', learnerId, 'crew'] as const,
  publications: (learnerId: string) => ['learner', learnerId, 'publications'] as const,
  offers: (learnerId: string) => ['learner', learnerId, 'offers'] as const,
  item: (id: string, recurrenceId: string) => ['item', id, recurrenceId] as const,
};

/** Takes over who is there, and what time the server had when it said so. */
function takeOver(session: Session, cameAt: number): Session {
  setServerNow(session.now, cameAt);
  if (session.person) keepFor(session.person.id);
  else keepForNobody();
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

/** Stands for all learners together, where an id of one is asked for. */
export const EVERYBODY = 'everybody';

/** The learners an id stands for: itself, or all that one sees. */
function useLearnersOf(learnerId: string): readonly Pick<Learner, 'id' | 'name'>[] {
  const learners = useSession().data?.learners;
  return useMemo(
    () => (learnerId === EVERYBODY ? (learners ?? []) : [{ id: learnerId, name: '' }]),
    [learnerId, learners],
  );
}

/** Lists of several learners as one, once all of them are there. */
const together = <T>(results: UseQueryResult<T[]>[]) => ({
  data: results.every((r) => r.data)
    ? results.length === 1
      ? results[0]!.data
      : results.flatMap((r) => r.data!)
    : undefined,
  error: results.find((r) => r.error)?.error ?? null,
  isPending: results.some((r) => r.isPending),
});

/** A calendar as views draw it: with whose it is, where several learners are shown together. */
export type DrawnCalendar = CalendarView & { whose?: Whose | undefined; ownName?: string };

/** A learner’s calendars, and at the end what stands for hours that are kept from who looks: all that a view draws by. */
export function useDrawnCalendars(learnerId: string) {
  const learners = useLearnersOf(learnerId);
  const found = useQueries({
    queries: learners.map(({ id }) => ({
      queryKey: keys.calendars(id),
      queryFn: () => call('calendars', { params: { learnerId: id } }),
      ...begun('calendars', { params: { learnerId: id } }),
    })),
    combine: together<CalendarView>,
  });
  // Of several learners, each calendar says whose it is: its name, and its mark on every slip.
  const data = useMemo((): DrawnCalendar[] | undefined => {
    if (learnerId !== EVERYBODY) return found.data;
    const marks = marksOf(learners.map((l) => l.name));
    const of = new Map(learners.map(({ id, name }, n) => [id, { name, mark: marks[n]! }]));
    return found.data?.map((c) => {
      const whose = of.get(c.learnerId);
      return { ...c, whose, ownName: c.name, name: `${firstName(whose?.name ?? '')} · ${c.name}` };
    });
  }, [learnerId, learners, found.data]);
  return { ...found, data };
}

/** A learner’s calendars: those one has to do with. */
export function useCalendars(learnerId: string) {
  const drawn = useDrawnCalendars(learnerId);
  const data = useMemo(() => drawn.data?.filter((c) => !c.busy), [drawn.data]);
  return { ...drawn, data };
}

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

export function useChanges(learnerId: string) {
  return useQueries({
    queries: useLearnersOf(learnerId).map(({ id }) => ({
      queryKey: keys.changes(id),
      queryFn: () => call('changes', { params: { learnerId: id } }),
      ...begun('changes', { params: { learnerId: id } }),
    })),
    combine: together<ChangeView>,
  });
}

/**
 * Everything in a learner's schedule around `now` (instant, milliseconds), by whole days so that it is asked
 * for once; and what lies between two day numbers further off.
 */
export function useOccurrences(learnerId: string, now: number, days?: { first: number; last: number }) {
  const around = nearDays(now);
  const learners = useLearnersOf(learnerId);
  const ask = (first: number, last: number) =>
    learners.map(({ id }) => ({
      queryKey: [...keys.occurrences(id), first, last],
      queryFn: async () =>
        listWithKept(await call('occurrences', { params: { learnerId: id }, query: between(first, last) })),
      ...begun('occurrences', { params: { learnerId: id }, query: between(first, last) }),
    }));
  const pieces: number[] = [];
  const { piece } = REACH;
  if (days && (days.first < around.first || days.last > around.last)) {
    for (let p = Math.floor(days.first / piece); p <= Math.floor(days.last / piece); p++) {
      const isThere = p * piece >= around.first && (p + 1) * piece <= around.last;
      if (!isThere) pieces.push(p);
    }
  }
  const near = useQueries({ queries: ask(around.first, around.last), combine: together<OccurrenceView> });
  const far = useQueries({
    queries: pieces.flatMap((p) => ask(p * piece, (p + 1) * piece)),
    combine: joined,
  });
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
export function useTexts(learnerId: string, wanted: boolean) {
  return useQueries({
    queries: useLearnersOf(learnerId).map(({ id }) => ({
      queryKey: ['learner', id, 'texts'],
      queryFn: () => call('texts', { params: { learnerId: id } }),
      enabled: wanted,
      staleTime: 300_000,
    })),
    combine: together<{ itemId: string; text: string }>,
  });
}

export const useItem = (id: string, recurrenceId: string, wanted = true) =>
  useQuery<ItemView>({
    queryKey: keys.item(id, recurrenceId),
    queryFn: async () => itemWithKept(await call('item', { params: { id }, query: { recurrenceId } })),
    enabled: wanted,
  });

/** Work without a date. */
export function useUndated(learnerId: string) {
  return useQueries({
    queries: useLearnersOf(learnerId).map(({ id }) => ({
      queryKey: keys.undated(id),
      queryFn: async () => listWithKept(await call('undated', { params: { learnerId: id } })),
    })),
    combine: together<OccurrenceView>,
  });
}

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

/** Tells whose an occurrence is: of all learners together, the one in whose calendar it stands. */
export function learnerOf(learnerId: string, { calendarId }: Pick<OccurrenceView, 'calendarId'>): string {
  if (learnerId !== EVERYBODY) return learnerId;
  const known = queryClient.getQueryCache().findAll({
    predicate: ({ queryKey, state }) =>
      queryKey[2] === 'calendars' &&
      ((state.data as CalendarView[] | undefined) ?? []).some((c) => c.id === calendarId),
  });
  return (known[0]?.queryKey[1] as string | undefined) ?? learnerId;
}

/** Forgets what was known of a learner's schedule, so that it is asked for anew. */
export const refreshLearner = (client: QueryClient, learnerId: string) =>
  Promise.all([
    refresh(['learner', learnerId], client),
    refresh(['item'], client),
    refresh(['table'], client),
  ]);
