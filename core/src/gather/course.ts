import type { FeedItem } from '../ical/feed-item.ts';
import { LABELS } from '../item/classify.ts';

/** A course's code, at the beginning of a text */
export const CODE = /^[A-Z]{2,5}[ -]?\d{2,4}[A-Z]?\b/;
/** Tells whether a word says what a thing is and not which course it belongs to */
export const isKindWord = (category: string): boolean =>
  LABELS.some((r) => r.category?.test(category)) && !CODE.test(category);

/**
 * The course an item says it belongs to: a category that is not a word for what it is, else a tag at the end
 * of its title (in brackets) or a course code at its beginning. Null where it says none; then the calendar's
 * name stands.
 */
export function courseOf(item: Pick<FeedItem, 'categories' | 'title'>): string | null {
  const categories = item.categories.filter((c) => !isKindWord(c));
  const coded = categories.find((c) => CODE.test(c)) ?? categories[0];
  if (coded) return coded;
  const tag = /\[([^[\]]{2,60})\]\s*$/.exec(item.title)?.[1];
  return tag?.trim() ?? CODE.exec(item.title)?.[0] ?? null;
}
