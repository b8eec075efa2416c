import { useEffect, useRef, type RefObject } from 'react';

/** What Escape closes, what was opened last at the end. */
const open: RefObject<() => void>[] = [];

function onKey(e: KeyboardEvent): void {
  const last = open.at(-1);
  if (e.key !== 'Escape' || e.defaultPrevented || !last) return;
  e.preventDefault();
  last.current();
}

/**
 * While something is open, Escape closes it, from a field in it as well; of several, what was opened last.
 */
export function useEscape(close: () => void, isOpen = true): void {
  const latest = useRef(close);
  useEffect(() => {
    latest.current = close;
  });
  useEffect(() => {
    if (!isOpen) return;
    if (!open.length) window.addEventListener('keydown', onKey);
    open.push(latest);
    return () => {
      open.splice(open.indexOf(latest), 1);
      if (!open.length) window.removeEventListener('keydown', onKey);
    };
  }, [isOpen]);
}
