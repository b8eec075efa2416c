import { suffices } from '@zephyrfield/core/item/access';
import type { Learner } from '@zephyrfield/core/api/schemas';
import { useGlobalSearchParams } from '@/router';
import { useEffect, useRef } from 'react';
import { useUndo } from '@/data/undo';
import { useDraft } from '@/data/draft';
import { isOffKey } from '@/data/single-keys';

const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|SELECT|TEXTAREA)$/.test(target.tagName));

/** Keys that work in every place: `w` writes something down, `u` (or the platform’s own) undoes. */
export function useUndoKeys(learner: Learner | undefined): void {
  const { day } = useGlobalSearchParams<{ day?: string }>();
  const at = useRef({ day, learner });
  useEffect(() => {
    at.current = { day, learner };
  });
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (e.defaultPrevented || isTyping(e.target) || isOffKey(e)) return;
      const withControl = e.ctrlKey || e.metaKey;
      if ((e.key === 'u' && !withControl && !e.altKey) || (e.key === 'z' && withControl && !e.shiftKey))
        void useUndo.getState().undo();
      else if (
        e.key === 'w' &&
        !withControl &&
        !e.altKey &&
        suffices(at.current.learner?.access ?? 'look', 'edit')
      )
        useDraft.getState().begin(at.current.learner!.id, { day: at.current.day ?? '' });
      else return;
      e.preventDefault();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
}
