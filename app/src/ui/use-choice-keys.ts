import { useEffect } from 'react';

const STEPS: Readonly<Record<string, number>> = {
  ArrowRight: 1,
  ArrowDown: 1,
  ArrowLeft: -1,
  ArrowUp: -1,
};

/**
 * Has keys do to what is drawn as a choice what they do to a native one: Space presses a box, a switch and a choice,
 * and arrows go on to the next of a group and choose it (ARIA Authoring Practices, radio group).
 */
export function useChoiceKeys(): void {
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      const on = e.target as HTMLElement;
      if (!on.matches?.('[role=radio],[role=checkbox],[role=switch]')) return;
      const step = on.matches('[role=radio]') ? STEPS[e.key] : undefined;
      if (e.key !== ' ' && step === undefined) return;
      e.preventDefault();
      // A place’s own keys are meant for when nothing of this kind has the focus.
      e.stopPropagation();
      if (step === undefined) return on.click();
      const all = [
        ...(on.closest('[role=radiogroup]')?.querySelectorAll<HTMLElement>('[role=radio]') ?? [on]),
      ];
      const next = all[(all.indexOf(on) + step + all.length) % all.length]!;
      next.focus();
      next.click();
    };
    document.addEventListener('keydown', press, true);
    return () => document.removeEventListener('keydown', press, true);
  }, []);
}
