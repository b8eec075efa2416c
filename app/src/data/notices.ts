import type { BriefOfDay, NoticeView, Telling, TellingView } from '@zephyrfield/core/api/remind';
import type { BriefPart } from '@zephyrfield/core/remind/telling';
import { useQuery } from '@tanstack/react-query';
import { begun, call } from './client';
import { useDeeds } from './deeds';
import { queryClient, refresh } from './queries';

const NOTICES = ['notices'] as const;
const TELLING = ['telling'] as const;

/** What the person was told, latest first. */
export const useNotices = () => useQuery({ queryKey: NOTICES, queryFn: () => call('notices'), ...begun('notices') });
export const refreshNotices = () => refresh(NOTICES);

/** What the person wants to be told, and what stands in the way. */
export const useTelling = () => useQuery<TellingView>({ queryKey: TELLING, queryFn: () => call('telling') });

/** The brief of a day, for each learner the person sees. */
export const useDayBrief = (part: BriefPart, day: string) => useQuery<BriefOfDay[]>({ queryKey: ['brief', part, day], queryFn: () => call('dayBrief', { query: { part, day } }), staleTime: 0 });

/** Saves what a person wants to be told: shown at once, taken back with a word where the server refuses. */
export async function changeTelling(next: Telling, words?: string): Promise<void> {
  const before = queryClient.getQueryData<TellingView>(TELLING);
  queryClient.setQueryData<TellingView>(TELLING, (view) => view && { ...view, telling: next });
  try {
    queryClient.setQueryData(TELLING, await call('changeTelling', { body: next }));
    if (words && before) useDeeds.getState().did({ words, undo: () => changeTelling(before.telling) });
    await refresh(['item']);
  } catch (error) {
    queryClient.setQueryData(TELLING, before);
    useDeeds.getState().failed(error);
  }
}

/** Sends oneself a mail. */
export async function tryMail(): Promise<void> {
  try {
    await call('tryMail');
    useDeeds.getState().say('A mail is on its way to you.');
    await refresh(TELLING);
  } catch (error) {
    useDeeds.getState().failed(error);
  }
}

/** Has the link that confirms the person's address sent to it. */
export async function sendConfirmation(): Promise<void> {
  try {
    await call('sendConfirmation');
    useDeeds.getState().say('A link is on its way to you. It is good for an hour.');
  } catch (error) {
    useDeeds.getState().failed(error);
  }
  await refresh(TELLING);
}

/** Marks notices as seen. */
export async function seeNotices(ids: readonly number[]): Promise<void> {
  queryClient.setQueryData<{ notices: NoticeView[]; unseen: number }>(NOTICES, (all) => {
    if (!all) return all;
    const list = all.notices.map((n) => (ids.includes(n.id) ? { ...n, seen: true } : n));
    return { notices: list, unseen: list.filter((n) => !n.seen).length };
  });
  await call('seeNotices', { body: { ids: [...ids] } }).catch((error: unknown) => useDeeds.getState().failed(error));
  await refreshNotices();
}

/** Has a notice come again at a moment (instant, milliseconds). */
export async function snooze(notice: NoticeView, until: number, words: string): Promise<void> {
  try {
    await call('snoozeNotice', { params: { id: String(notice.id) }, body: { until: new Date(until).toISOString() } });
    useDeeds.getState().say(`${notice.title}: told again ${words}`);
  } catch (error) {
    useDeeds.getState().failed(error);
  }
  await refreshNotices();
}

/** Where a notice leads to. */
export const noticePath = ({ brief, itemId, key }: Pick<NoticeView, 'brief' | 'itemId' | 'key'>): string =>
  brief ? `/brief?part=${brief.part}&day=${brief.day}` : itemId ? `/calendar?item=${encodeURIComponent(itemId)}&at=${encodeURIComponent(key)}` : '/notices';
