import type { FeedItem } from '../ical/feed-item.ts';
import { instantIn, type When } from '../time/when.ts';
import { UTC } from '../time/zone.ts';
import { courseOf } from './course.ts';

const EDGE = /^(.*?)[\s:,–—-]*\(?\b(opens|open|opening|available|begins|closes|close|closing|due|ends|deadline)\)?$/i;
const OPENING = /^(open|opens|opening|available|begins)$/i;

interface Edge {
  item: FeedItem;
  at: number;
  base: string;
}

function edgeOf(item: FeedItem): (Edge & { opening: boolean }) | null {
  if (item.repeat || item.recurrenceId || item.status === 'cancelled') return null;
  const m = EDGE.exec(item.title.trim());
  const when = item.due ?? item.start;
  if (!m?.[1]?.trim() || !when) return null;
  return { item, at: instantIn(when, UTC), base: m[1].trim(), opening: OPENING.test(m[2]!) };
}

/**
 * One piece of work may have three dates: opens, due, closes. Entries that are the edges of one window ("Sampling quiz
 * opens", "Sampling quiz closes") become one item that starts when it opens and is due when it closes. Only edges of the
 * same course are joined, each opening with the first closing after it; what finds no partner stays as it is.
 */
export function joinWindows(items: readonly FeedItem[]): FeedItem[] {
  const openings = new Map<string, Edge[]>();
  const closings: Edge[] = [];
  for (const item of items) {
    const edge = edgeOf(item);
    if (!edge) continue;
    if (edge.opening) {
      const key = keyOf(edge);
      openings.set(key, [...(openings.get(key) ?? []), edge]);
    } else closings.push(edge);
  }
  if (!openings.size || !closings.length) return [...items];

  const joined = new Map<FeedItem, FeedItem>();
  const taken = new Set<FeedItem>();
  for (const closing of closings.sort((a, b) => a.at - b.at)) {
    const candidates = (openings.get(keyOf(closing)) ?? []).filter((o) => !taken.has(o.item) && o.at <= closing.at);
    const opening = candidates.sort((a, b) => b.at - a.at)[0];
    if (!opening) continue;
    taken.add(opening.item);
    joined.set(closing.item, join(opening, closing));
  }
  return items.filter((i) => !taken.has(i)).map((i) => joined.get(i) ?? i);
}

const keyOf = ({ item, base }: Edge) => `${base.toLowerCase()}\n${courseOf({ categories: item.categories, title: base }) ?? ''}`;

function join(opening: Edge, closing: Edge): FeedItem {
  const opens: When = opening.item.start ?? opening.item.due!;
  const { item } = closing;
  return {
    ...item,
    title: closing.base,
    start: opens,
    end: null,
    length: null,
    due: item.due ?? item.start,
    description: item.description || opening.item.description,
    links: [...item.links, ...opening.item.links.filter((l) => !item.links.some((own) => own.href === l.href))],
  };
}
