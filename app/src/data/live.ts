import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { PAGE } from './client';
import { forgetPrefetched } from './prefetch';
import { keys, refresh, refreshLearner } from './queries';

/**
 * Keeps what is on screen in step with what happens elsewhere: other windows, other people, checks that go by
 * themselves.
 */
export function useLiveUpdates(learnerId: string | undefined): void {
  const client = useQueryClient();
  useEffect(() => {
    if (!learnerId) return;
    const source = new EventSource(`/api/learners/${encodeURIComponent(learnerId)}/live?page=${PAGE}`);
    source.addEventListener('changed', () => {
      forgetPrefetched();
      void refreshLearner(client, learnerId);
    });
    source.addEventListener('checked', () => void refresh(keys.sources(learnerId), client));
    source.addEventListener('notices', () => {
      forgetPrefetched();
      void refresh(['notices'], client);
      void import('./browser-notices').then((m) => m.showBrowserNotices());
    });
    // What came while no window was open.
    source.addEventListener(
      'open',
      () => void import('./browser-notices').then((m) => m.showBrowserNotices()),
    );
    return () => source.close();
  }, [client, learnerId]);
}
