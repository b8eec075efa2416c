import type { CalendarView, OccurrenceView } from '@zephyrfield/core/api/schemas';
import { plain } from '@zephyrfield/core/lib/plain';
import { useQuery } from '@tanstack/react-query';
import { useDeferredValue, useMemo } from 'react';
import { useTexts } from '@/data/queries';

/**
 * Ids of the items a text finds, by title, course, place and description, a slip of the finger forgiven; null
 * where nothing is looked for.
 */
export function useSearch(
  learnerId: string,
  occurrences: readonly OccurrenceView[],
  calendars: readonly CalendarView[] | undefined,
  text: string,
): ReadonlySet<string> | null {
  const wanted = useDeferredValue(text.trim());
  const isWanted = wanted !== '';
  const texts = useTexts(learnerId, isWanted);
  const { data: MiniSearch } = useQuery({
    queryKey: ['search'],
    queryFn: () => import('minisearch').then((m) => m.default),
    enabled: isWanted,
    staleTime: Infinity,
  });
  // The index serves every text; it is made when the first is typed.
  const index = useMemo(() => {
    if (!isWanted || !MiniSearch) return null;
    const names = new Map(calendars?.map((c) => [c.id, c.name]));
    const descriptions = new Map(texts.data?.map((t) => [t.itemId, t.text]));
    const search = new MiniSearch({
      fields: ['title', 'course', 'place', 'text'],
      processTerm: (term) => plain(term) || null,
    });
    const items = new Map<
      string,
      { id: string; title: string; course: string; place: string; text: string }
    >();
    for (const { itemId, title, calendarId, place } of occurrences) {
      const item = items.get(itemId);
      // Dates of one item may be called differently; all of it is found by each.
      if (item) item.title += item.title.includes(title) ? '' : ` ${title}`;
      else
        items.set(itemId, {
          id: itemId,
          title,
          course: names.get(calendarId) ?? '',
          place,
          text: descriptions.get(itemId) ?? '',
        });
    }
    search.addAll([...items.values()]);
    return search;
  }, [isWanted, MiniSearch, occurrences, calendars, texts.data]);
  return useMemo(() => {
    if (!index) return null;
    const found = index.search(wanted, {
      prefix: true,
      fuzzy: (term) => (term.length > 3 ? 0.2 : false),
      combineWith: 'AND',
    });
    return new Set(found.map((r) => r.id as string));
  }, [index, wanted]);
}
