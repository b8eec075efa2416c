// Today as the server draws it, with the same components as the page: `scripts/build.mjs` bundles it for
// Node, with `server-render/router` in the router's place.
import type { RenderToday } from '@zephyrfield/core/api/server-render';
import { between, nearDays } from '@zephyrfield/core/view/near';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { renderToString } from 'react-dom/server';
import { StyleSheet } from 'react-native';
import PlacesLayout from '@/app/(places)/_layout';
import { forgetPrefetched, lay } from '@/data/prefetch';
import { setServerNow } from '@/data/now';
import { pathOf } from '@/data/path';
import { useScreen } from '@/data/screen';

/** What react-native-web has for drawing on a server, beside React Native's own. */
const { getSheet } = StyleSheet as unknown as { getSheet(): { textContent: string } };

export const drawToday: RenderToday = ({ session, learnerId, calendars, occurrences, plan, look }) => {
  const { first, last } = nearDays(Date.parse(session.now));
  const replies: [string, unknown][] = [
    [pathOf('session'), session],
    [pathOf('calendars', { learnerId }), calendars],
    [pathOf('occurrences', { learnerId }, between(first, last)), occurrences],
    [pathOf('plan', { learnerId }), plan],
  ];
  // All of this is set and used within one turn, so that no two drawings meet.
  lay(replies, Date.now());
  setServerNow(session.now);
  // What a store is at first is what is drawn of it on a server.
  Object.assign(useScreen.getInitialState(), { learnerId, hidden: look.hidden ?? [] });
  try {
    const html = renderToString(
      <QueryClientProvider client={new QueryClient()}>
        <PlacesLayout />
      </QueryClientProvider>,
    );
    return { html, css: getSheet().textContent, replies };
  } finally {
    // However it went, nothing of one person's is there when the next one's is drawn.
    forgetPrefetched();
  }
};
