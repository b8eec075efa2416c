import { QueryClientProvider } from '@tanstack/react-query';
import { act, render } from '@testing-library/react';
import type { ReactElement } from 'react';
import { useUndo } from '@/data/undo';
import { queryClient, useSession } from '@/data/queries';
import { useScreen } from '@/data/screen';

/** Stands for the frame: nothing is drawn before it is known who is there. */
function Signed({ children }: { children: ReactElement }) {
  return useSession().data ? children : null;
}

/**
 * Draws a place as it stands in the app, over whatever server stands in place of `fetch`, with what it asks
 * for at first. `untilSigned: false` draws it also while nobody is known to be there.
 */
export async function drawInside(place: ReactElement, { untilSigned = true } = {}): Promise<void> {
  queryClient.clear();
  useUndo.setState({ done: [], message: null });
  useScreen.setState({ learnerId: null, hidden: [], beforeJustOne: null });
  render(
    <QueryClientProvider client={queryClient}>
      {untilSigned ? <Signed>{place}</Signed> : place}
    </QueryClientProvider>,
  );
  // What is drawn after the first (`useDeferredValue`, or what waited for an answer) may ask for more.
  for (let quiet = 0; quiet < 3; quiet++) {
    const before = document.body.innerHTML;
    await act(() => waitUntilAnswered());
    if (before !== document.body.innerHTML || queryClient.isFetching()) quiet = 0;
  }
}

/** Waits until nothing is asked for any more. */
async function waitUntilAnswered(): Promise<void> {
  do await new Promise((done) => setTimeout(done));
  while (queryClient.isFetching());
}
