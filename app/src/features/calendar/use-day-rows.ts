import type { OccurrenceView } from '@zephyrfield/core/api/schemas';
import { dayRows, type DayRow } from '@zephyrfield/core/view/days';
import type { Zone } from '@zephyrfield/core/time/zone';
import { useMemo } from 'react';

interface Options {
  now: number;
  viewer: Zone;
  shelfFrom: number;
}

/** Rows of days, worked out anew only when something they show has changed. */
export function useDayRows(
  shown: readonly OccurrenceView[],
  first: number,
  rows: number,
  columns: number,
  { now, viewer, shelfFrom }: Options,
): DayRow[] {
  return useMemo(
    () => dayRows(shown, first, rows, columns, { now, viewer, shelfFrom }),
    [shown, first, rows, columns, now, viewer, shelfFrom],
  );
}
