import { addDigests } from '../ical/digest.ts';
import type { FeedItem } from '../ical/feed-item.ts';
import { edgeIn } from '../item/edge.ts';
import { instantIn, type When } from '../time/when.ts';
import { UTC } from '../time/zone.ts';
import { courseOf } from './course.ts';

interface Edge {
  item: FeedItem;
  at: number;
  base: string;
  /** It says when it is due, and not when it closes */
  isDue: boolean;
}

function edgeOf(item: FeedItem): (Edge & { opening: boolean }) | null {
  if (item.repeat || item.recurrenceId || item.status === 'cancelled') return null;
  const said = edgeIn(item.title.trim());
  const when = item.due ?? item.start;
  if (!said || !when) return null;
  return {
    item,
    at: instantIn(when, UTC),
    base: said.of,
    opening: said.isOpening,
    isDue: said.isDue,
  };
}

export interface Windows {
  items: FeedItem[];
  /** UIDs of the openings found, joined or not */
  openings: string[];
  /**
   * UIDs of all edges, where there is an opening at all: whether they are joined depends on what else is in
   * the feed
   */
  edges: string[];
}

/**
 * One piece of work may have three dates: opens, due, closes. Entries that are the edges of one window
 * ("Sampling quiz opens", "Sampling quiz closes") become one item that starts when it opens and is due when
 * it closes, and keeps both in `windowOf`; where it closes some time after it is due, that is the third.
 * Only edges of the same course are joined, each opening with the first closing after it; what finds no
 * partner stays as it is, and so do the closings in `apart`.
 */
export function joinWindows(items: readonly FeedItem[], apart: readonly string[] = []): Windows {
  const openings = new Map<string, Edge[]>();
  const closings: Edge[] = [];
  for (const item of items) {
    const edge = edgeOf(item);
    if (!edge) continue;
    if (edge.opening) {
      const key = keyOf(edge);
      const list = openings.get(key);
      if (list) list.push(edge);
      else openings.set(key, [edge]);
    } else closings.push(edge);
  }
  if (!openings.size) return { items: [...items], openings: [], edges: [] };

  const all = [...openings.values()].flat();
  const found = { openings: all.map((e) => e.item.uid), edges: [...all, ...closings].map((e) => e.item.uid) };
  const joined = new Map<FeedItem, FeedItem>();
  const taken = new Set<FeedItem>();
  closings.sort((a, b) => a.at - b.at);
  const nextOf = following(closings);
  const isApart = new Set(apart);
  // Both are gone through once, in the order of time: what has opened and found no closing yet lies on a stack.
  const waiting = new Map<string, { ahead: Edge[]; open: Edge[] }>();
  for (const [key, list] of openings) {
    list.sort((a, b) => b.at - a.at);
    waiting.set(key, { ahead: list, open: [] });
  }
  for (const closing of closings) {
    if (isApart.has(closing.item.uid) || taken.has(closing.item)) continue;
    const of = waiting.get(keyOf(closing));
    while (of?.ahead.length && of.ahead.at(-1)!.at <= closing.at) of.open.push(of.ahead.pop()!);
    const opening = of?.open.pop();
    if (!opening) continue;
    taken.add(opening.item);
    const next = nextOf.get(closing);
    const isLater = next && closing.isDue && !next.isDue && !isApart.has(next.item.uid);
    const later = isLater ? next : undefined;
    if (later) taken.add(later.item);
    joined.set(closing.item, join(opening, closing, later));
  }
  return { items: items.filter((i) => !taken.has(i)).map((i) => joined.get(i) ?? i), ...found };
}

/** The closing that comes next of the same thing, for each of some closings in order. */
function following(closings: readonly Edge[]): Map<Edge, Edge> {
  const last = new Map<string, Edge>();
  const next = new Map<Edge, Edge>();
  for (const edge of closings) {
    const before = last.get(keyOf(edge));
    if (before) next.set(before, edge);
    last.set(keyOf(edge), edge);
  }
  return next;
}

/** The entries that items were made of: what `joinWindows` has joined stands apart again. */
export const unjoin = (items: readonly FeedItem[]): FeedItem[] =>
  items.flatMap((i) => (i.windowOf ? i.windowOf : [i]));

const keyOf = ({ item, base }: Edge) =>
  `${base.toLowerCase()}\n${courseOf({ categories: item.categories, title: base }) ?? ''}`;

function join(opening: Edge, closing: Edge, later: Edge | undefined): FeedItem {
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
    digest: [opening, ...(later ? [later] : [])].reduce(
      (sum, e) => addDigests(sum, e.item.digest),
      item.digest,
    ),
    windowOf: [opening.item, item, ...(later ? [later.item] : [])],
    links: [
      ...item.links,
      ...opening.item.links.filter((l) => !item.links.some((own) => own.href === l.href)),
    ],
  };
}
