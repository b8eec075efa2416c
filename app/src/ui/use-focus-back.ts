import { useEffect, useState } from 'react';

/** Gives the focus back to what had it, when what took it since has gone away with it. */
export function useFocusBack(): void {
  // As it was before anything here could take it.
  const [before] = useState(() => document.activeElement as HTMLElement | null);
  useEffect(
    () => () => {
      if (document.activeElement === document.body && before?.isConnected)
        before.focus({ preventScroll: true });
    },
    [before],
  );
}
