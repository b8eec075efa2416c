import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { forgetEarly } from './early';
import { keys, refreshLearner } from './queries';

/** How long after a refresh the next one may come, in milliseconds. */
const PAUSE = 1000;

/** Keeps what is on screen in step with what happens elsewhere: other windows, other people, checks that go by themselves. */
export function useLiveUpdates(learnerId: string | undefined): void {
  const client = useQueryClient();
  useEffect(() => {
    if (!learnerId) return;
    const source = new EventSource(`/api/learners/${encodeURIComponent(learnerId)}/live`);
    // Many changes in a row, a term's links read one after the other, are one refresh at the first and one at the end.
    let pause: ReturnType<typeof setTimeout> | undefined;
    let isMore = false;
    const refresh = () => {
      forgetEarly();
      void refreshLearner(client, learnerId);
      pause = setTimeout(() => {
        pause = undefined;
        if (isMore) refresh();
        isMore = false;
      }, PAUSE);
    };
    source.addEventListener('changed', () => (pause === undefined ? refresh() : (isMore = true)));
    source.addEventListener('checked', () => void client.invalidateQueries({ queryKey: keys.sources(learnerId) }));
    source.addEventListener('told', () => {
      forgetEarly();
      void client.invalidateQueries({ queryKey: ['notices'] });
      void import('./browser-notices').then((m) => m.showBrowserNotices());
    });
    // What came while no window was open.
    source.addEventListener('open', () => void import('./browser-notices').then((m) => m.showBrowserNotices()));
    return () => {
      clearTimeout(pause);
      source.close();
    };
  }, [client, learnerId]);
}
