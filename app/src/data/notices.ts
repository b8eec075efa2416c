import type {
  LearnerSheet,
  NoticeView,
  NoticeSettings,
  NoticeSettingsView,
} from '@zephyrfield/core/api/notify';
import type { SheetEdition } from '@zephyrfield/core/notify/settings';
import { useQuery } from '@tanstack/react-query';
import { begun, call } from './client';
import { useUndo } from './undo';
import { queryClient, refresh } from './queries';

const NOTICES = ['notices'] as const;
const NOTICE_SETTINGS = ['noticeSettings'] as const;

/** Gives what the person was told, latest first. */
export const useNotices = () =>
  useQuery({ queryKey: NOTICES, queryFn: () => call('notices'), ...begun('notices') });
export const refreshNotices = () => refresh(NOTICES);

/** Gives what the person wants to be told, and what stands in the way. */
export const useNoticeSettings = () =>
  useQuery<NoticeSettingsView>({ queryKey: NOTICE_SETTINGS, queryFn: () => call('noticeSettings') });

/** The sheet of a day, for each learner the person sees. */
export const useDaySheets = (edition: SheetEdition, day: string) =>
  useQuery<LearnerSheet[]>({
    queryKey: ['sheet', edition, day],
    queryFn: () => call('daySheet', { query: { edition, day } }),
    staleTime: 0,
  });

/** Saves what a person wants to be told: shown at once, taken back with a word where the server refuses. */
export async function changeNoticeSettings(next: NoticeSettings, words?: string): Promise<void> {
  const before = queryClient.getQueryData<NoticeSettingsView>(NOTICE_SETTINGS);
  queryClient.setQueryData<NoticeSettingsView>(
    NOTICE_SETTINGS,
    (view) => view && { ...view, noticeSettings: next },
  );
  try {
    queryClient.setQueryData(NOTICE_SETTINGS, await call('changeNoticeSettings', { body: next }));
    if (words && before)
      useUndo.getState().did({ words, undo: () => changeNoticeSettings(before.noticeSettings) });
    await refresh(['item']);
  } catch (error) {
    queryClient.setQueryData(NOTICE_SETTINGS, before);
    useUndo.getState().failed(error);
  }
}

/** Sends oneself a mail. */
export async function tryMail(): Promise<void> {
  try {
    await call('tryMail');
    useUndo.getState().say('A mail is on its way to you.');
    await refresh(NOTICE_SETTINGS);
  } catch (error) {
    useUndo.getState().failed(error);
  }
}

/** Has the link that confirms the person's address sent to it. */
export async function sendConfirmation(): Promise<void> {
  try {
    await call('sendConfirmation');
    useUndo.getState().say('A link is on its way to you. It is good for an hour.');
  } catch (error) {
    useUndo.getState().failed(error);
  }
  await refresh(NOTICE_SETTINGS);
}

/** Marks notices as seen. */
export async function seeNotices(ids: readonly number[]): Promise<void> {
  queryClient.setQueryData<{ notices: NoticeView[]; unseen: number }>(NOTICES, (all) => {
    if (!all) return all;
    const list = all.notices.map((n) => (ids.includes(n.id) ? { ...n, seen: true } : n));
    return { notices: list, unseen: list.filter((n) => !n.seen).length };
  });
  await call('seeNotices', { body: { ids: [...ids] } }).catch((error: unknown) =>
    useUndo.getState().failed(error),
  );
  await refreshNotices();
}

/**
 * Marks all news as seen that came up to a moment: notices, changes, notes.
 * @param upTo the moment of the latest that was in sight, as the server gave it
 */
export async function seeAllNews(upTo: string): Promise<void> {
  try {
    await call('seeNews', { body: { upTo } });
  } catch (error) {
    useUndo.getState().failed(error);
  }
  await Promise.all([refreshNotices(), refresh(['notes']), refreshChanges()]);
}

/** Asks for the changes of all schedules anew. */
const refreshChanges = () =>
  queryClient.invalidateQueries({ predicate: ({ queryKey }) => queryKey[2] === 'changes' });

/** Has a notice come again at a moment (instant, milliseconds). */
export async function snooze(notice: NoticeView, until: number, words: string): Promise<void> {
  try {
    await call('snoozeNotice', {
      params: { id: String(notice.id) },
      body: { until: new Date(until).toISOString() },
    });
    useUndo.getState().say(`${notice.title}: comes back ${words}`);
  } catch (error) {
    useUndo.getState().failed(error);
  }
  await refreshNotices();
}
