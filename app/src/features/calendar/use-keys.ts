import { useEffect, useRef } from 'react';
import { isOffKey } from '@/data/single-keys';

export interface KeyActions {
  back(): void;
  forward(): void;
  today(): void;
  closer(): void;
  further(): void;
  filters(): void;
  flag(index: number, just: boolean): void;
  help(): void;
  /** Moves the slip that has the focus by so many days */
  move(id: string, days: number): void;
}

const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|SELECT|TEXTAREA)$/.test(target.tagName));
/** Keys that a control with the focus has its own use for. */
const isUsed = (target: EventTarget | null) =>
  target instanceof HTMLElement && target.getAttribute('role') === 'radio';

/** Listens for the calendar's keys, but not while somebody types. */
export function useKeys(undo: KeyActions): void {
  const latest = useRef(undo);
  useEffect(() => {
    latest.current = undo;
  });
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (e.defaultPrevented || e.ctrlKey || e.metaKey || isTyping(e.target) || isOffKey(e)) return;
      const d = latest.current;
      if (e.altKey) {
        const by = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -7, ArrowDown: 7 }[e.key];
        const slip = (e.target as Element).closest<HTMLElement>('[data-slip]')?.dataset['slip'];
        if (by === undefined || slip === undefined) return;
        d.move(slip, by);
        e.preventDefault();
        return;
      }
      const digit = /^Digit([1-9])$/.exec(e.code)?.[1];
      if (e.key === 'ArrowLeft' && !isUsed(e.target)) d.back();
      else if (e.key === 'ArrowRight' && !isUsed(e.target)) d.forward();
      else if (e.key === '?') d.help();
      else if (e.key === '/') d.filters();
      else if (e.key === '+' || e.key === '=') d.closer();
      else if (e.key === '-') d.further();
      else if (e.key === '0') d.today();
      else if (digit) d.flag(Number(digit) - 1, e.shiftKey);
      else return;
      e.preventDefault();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
}
