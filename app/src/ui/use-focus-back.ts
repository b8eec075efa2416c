import { useEffect, useState } from 'react';
import { followSlip, lastSlipId, slipIdOf } from './slip-focus';

/**
 * Gives the focus back to what had it, when what took it since has gone away with it. A slip may have been drawn
 * anew meanwhile, or be drawn only now that there is room for it again.
 */
export function useFocusBack(): void {
  // As it was before anything here could take it.
  const [before] = useState(() => {
    const element = document.activeElement as HTMLElement | null;
    // What was pressed may be gone with the place that it stood in.
    return { element, slip: element === document.body ? lastSlipId() : slipIdOf(element) };
  });
  useEffect(
    () => () => {
      if (document.activeElement !== document.body) return;
      if (before.element?.isConnected) before.element.focus({ preventScroll: true });
      // It may be gone, or stand in a place that is not in sight yet.
      if (document.activeElement === document.body && before.slip !== null) followSlip([before.slip]);
    },
    [before],
  );
}
