import type { OccurrenceView } from '../item/occurrence.ts';

/** Number of a calendar's entries that are shown as part of what another one has. */
export interface Elsewhere {
  calendarId: string;
  count: number;
}

/** Counts for each calendar what of it is shown in others, since the same thing stands once; repeats count as one. */
export function shownElsewhere(
  occurrences: readonly Pick<OccurrenceView, 'itemId' | 'calendarId' | 'alsoIn'>[],
): Map<string, Elsewhere[]> {
  const seen = new Set<string>();
  const found = new Map<string, Elsewhere[]>();
  for (const { itemId, calendarId, alsoIn } of occurrences) {
    if (!alsoIn.length || seen.has(itemId)) continue;
    seen.add(itemId);
    for (const other of alsoIn) {
      const list = found.get(other) ?? [];
      const known = list.find((e) => e.calendarId === calendarId);
      if (known) known.count += 1;
      else found.set(other, [...list, { calendarId, count: 1 }]);
    }
  }
  return found;
}
