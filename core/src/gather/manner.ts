import type { FeedItem } from '../ical/feed-item.ts';
import { MOMENT, statedLength } from '../item/classify.ts';

/** So few entries say nothing of their feed. */
const FEWEST = 3;

/** Tells whether an entry stands at a moment, as a deadline does: a minute is the least that some calendars can write. */
export const isMoment = (item: FeedItem): boolean =>
  item.component === 'VEVENT' && item.start?.kind !== 'date' && (statedLength(item) ?? 0) <= MOMENT;

/**
 * Whether a feed is one of deadlines: four of five entries that stand once at an hour stand at a moment, or say when
 * they are due. Only what its entries look like together tells a deadline from a reminder.
 */
export function isOfDeadlines(items: readonly FeedItem[]): boolean {
  const once = items.filter((i) => !i.repeat && i.start?.kind !== 'date' && i.status !== 'cancelled');
  const deadlines = once.filter((i) => i.due || isMoment(i)).length;
  return deadlines >= FEWEST && deadlines * 5 >= once.length * 4;
}
