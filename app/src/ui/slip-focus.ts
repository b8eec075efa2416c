const slips = () => [...document.querySelectorAll<HTMLElement>('[data-slip]')];
const isSeen = (element: HTMLElement) => element.checkVisibility?.() ?? true;

/** The id of the slip that has this element; null where it is in none. */
export const slipIdOf = (element: Element | null): string | null =>
  element?.closest<HTMLElement>('[data-slip]')?.dataset['slip'] ?? null;

let last: string | null = null;
/** Gives the id of the slip that had the focus last, wherever it stood; null for none. */
export const lastSlipId = (): string | null => last;

/** Remembers from now on which slip has the focus; the returned function ends that. */
export function watchSlips(): () => void {
  const onFocus = ({ target }: FocusEvent) => {
    last = slipIdOf(target as Element) ?? last;
  };
  document.addEventListener('focusin', onFocus);
  return () => document.removeEventListener('focusin', onFocus);
}

/** Time to wait for a slip to be drawn, in milliseconds: then the focus stays where it is. */
const WAITED = 2_000;

let stop: () => void = () => {};

/** Has the focus go to the slip after one, or before it, when that one is drawn no more. */
export function followNext(id: string): void {
  const order = slips().flatMap((s) => s.dataset['slip'] ?? []);
  const at = order.indexOf(id);
  followSlip([...order.slice(at + 1), ...order.slice(0, Math.max(0, at)).reverse()], true);
}

/**
 * Has the focus follow a slip that is about to be drawn anew, or elsewhere.
 * @param ids of the slips it may go to, the one that is wanted most first; another one keeps it until that is there
 * @param isWhenLost true where what has the focus keeps it as long as it is drawn
 */
export function followSlip(ids: readonly string[], isWhenLost = false): void {
  stop();
  const began = document.activeElement;
  const look = () => {
    const { activeElement } = document;
    const isLost = activeElement === document.body;
    // Who has gone on meanwhile stays there.
    if (!isLost && activeElement !== began && !ids.includes(slipIdOf(activeElement) ?? '')) return stop();
    const all = slips();
    for (const [place, id] of ids.entries()) {
      const slip = all.find((s) => s.dataset['slip'] === id && isSeen(s));
      if (!slip) continue;
      // It may be drawn anew once more: it is followed until the time is over.
      if (isLost || (!isWhenLost && place === 0 && slip !== activeElement))
        slip.focus({ preventScroll: place > 0 });
      return;
    }
  };
  const watching = new MutationObserver(look);
  const timer = setTimeout(() => stop(), WAITED);
  stop = () => {
    watching.disconnect();
    clearTimeout(timer);
    stop = () => {};
  };
  watching.observe(document.body, {
    childList: true,
    subtree: true,
    attributes: true,
    attributeFilter: ['data-slip'],
  });
  look();
}
