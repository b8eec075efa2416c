import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { PAGE } from './client';
import { followStream } from './live-stream';
import { forgetPrefetched } from './prefetch';
import { keys, refresh, refreshLearner } from './queries';

/**
 * Keeps what is on screen in step with what happens elsewhere: other windows, other people, checks that go by
 * themselves. Whatever happens to the connection, it comes back, and what changed meanwhile is asked for.
 */
export function useLiveUpdates(learnerId: string | undefined): void {
  const client = useQueryClient();
  useEffect(() => {
    if (!learnerId) return;
    const changed = () => {
      forgetPrefetched();
      void refreshLearner(client, learnerId);
    };
    const notices = () => {
      forgetPrefetched();
      void refresh(['notices'], client);
      void refresh(['notes'], client);
      showNotices();
    };
    // What came while no window was open.
    const showNotices = () => void import('./browser-notices').then((m) => m.showBrowserNotices());
    return followStream(`/api/learners/${encodeURIComponent(learnerId)}/live?page=${PAGE}`, {
      on: {
        changed,
        checked: () => void refresh(keys.sources(learnerId), client),
        notices,
        // All learners together may be looked at; what is not in sight is asked for when it is.
        others: () =>
          void client.invalidateQueries({
            predicate: ({ queryKey }) =>
              queryKey[0] === 'item' ||
              queryKey[0] === 'table' ||
              (queryKey[0] === 'learner' && queryKey[1] !== learnerId),
          }),
        // What one may do, or whose schedules one sees, has changed.
        access: () => {
          changed();
          void refresh(keys.session, client);
        },
      },
      opened: showNotices,
      cameBack() {
        void refresh(['learner'], client);
        changed();
        notices();
      },
      // Its session may have ended meanwhile.
      refused: () => void refresh(keys.session, client),
    });
  }, [client, learnerId]);
}
