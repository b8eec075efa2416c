import type { OccurrenceView } from '../item/occurrence.ts';
import { plural } from '../words/text.ts';
import { isHidden } from './entry.ts';

/** Number of entries that are hidden of what would be in sight: with its calendar, by the calendar's id, or by itself. */
export interface HiddenCount {
  calendars: ReadonlyMap<string, number>;
  single: number;
}

/**
 * Parts what is shown from what is hidden.
 * @param hidden ids of the calendars that are hidden on this device
 */
export function partHidden(
  occurrences: readonly OccurrenceView[],
  hidden: ReadonlySet<string>,
): { shown: OccurrenceView[]; held: OccurrenceView[] } {
  const parts = { shown: [] as OccurrenceView[], held: [] as OccurrenceView[] };
  for (const o of occurrences) (isHidden(o, hidden) ? parts.held : parts.shown).push(o);
  return parts;
}

/** Counts what is hidden; each thing once, as hidden by itself where it is both. */
export function countHidden(held: readonly OccurrenceView[]): HiddenCount {
  const calendars = new Map<string, number>();
  let single = 0;
  for (const { hidden, calendarId } of held)
    if (hidden) single++;
    else calendars.set(calendarId, (calendars.get(calendarId) ?? 0) + 1);
  return { calendars, single };
}

/** `16 of Boatbuilding and 2 single items are hidden here`; empty where nothing is. */
export function hiddenWords({ calendars, single }: HiddenCount, nameOf: (id: string) => string): string {
  const sum = [...calendars.values()].reduce((a, b) => a + b, 0);
  const ofCalendars =
    calendars.size > 2
      ? [`${sum} of ${calendars.size} calendars`]
      : [...calendars].map(([id, count]) => `${count} of ${nameOf(id)}`);
  const parts = [...ofCalendars, ...(single ? [plural(single, 'single item')] : [])];
  if (!parts.length) return '';
  const list = parts.length > 2 ? `${parts[0]}, ${parts[1]} and ${parts[2]}` : parts.join(' and ');
  return `${list} ${sum + single === 1 ? 'is' : 'are'} hidden here`;
}
