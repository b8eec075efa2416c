import { useEffect, useState, type RefObject } from 'react';
import type { View } from 'react-native';
import { elementOf } from '@/ui/element';

/** So much has to be left to scroll, or what folds away would end the scrolling that folded it. */
const LEFT_TO_SCROLL = 240;
const BEGUN = 24;

/** Tells whether the days in a box are being scrolled through: what stands above them then gives way, until they are at their top. */
export function useFolded(box: RefObject<View | null>, mayFold: boolean): boolean {
  const [folded, setFolded] = useState(false);
  useEffect(() => {
    if (!mayFold) return;
    const follow = (e: Event) => {
      const { scrollTop, scrollHeight, clientHeight } = e.target as HTMLElement;
      if (!elementOf(box.current)?.contains(e.target as Node) || scrollHeight - clientHeight < LEFT_TO_SCROLL)
        return;
      setFolded((was) => (was ? scrollTop > 0 : scrollTop > BEGUN));
    };
    document.addEventListener('scroll', follow, { capture: true, passive: true });
    return () => document.removeEventListener('scroll', follow, { capture: true });
  }, [box, mayFold]);
  return folded && mayFold;
}
