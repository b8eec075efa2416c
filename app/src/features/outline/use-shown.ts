import { useEffect, type RefObject } from 'react';
import type { View } from 'react-native';
import { elementOf } from '@/ui/element';

/** Brings the row that is looked at into sight, within the box of all rows. */
export function useShown(box: RefObject<View | null>, shown: string | null): void {
  useEffect(() => {
    if (shown === null) return;
    const line = elementOf(box.current)?.querySelector(`[data-line="${CSS.escape(shown)}"]`);
    line?.scrollIntoView({ block: 'nearest' });
  }, [box, shown]);
}
