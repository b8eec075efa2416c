import { useEffect, useRef } from 'react';

/** Alt and the arrows carry the sitting that has the focus to another evening: by a day, or by a week. */
export function usePlanKeys(carry: (id: string, days: number) => void): void {
  const latest = useRef(carry);
  useEffect(() => {
    latest.current = carry;
  });
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (!e.altKey || e.ctrlKey || e.metaKey || e.defaultPrevented) return;
      const by = { ArrowUp: -1, ArrowDown: 1, ArrowLeft: -7, ArrowRight: 7 }[e.key];
      const id = (e.target as Element).closest<HTMLElement>('[data-sitting]')?.dataset['sitting'];
      if (by === undefined || id === undefined) return;
      latest.current(id, by);
      e.preventDefault();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
}
