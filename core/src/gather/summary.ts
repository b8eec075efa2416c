import { isWork } from '../item/kind.ts';
import { formatDate } from '../time/civil.ts';
import { dayIn, instantIn, type When } from '../time/when.ts';
import type { Zone } from '../time/zone.ts';
import type { Entry, EntryOccurrence } from './entries.ts';

export interface ReadingSummary {
  entries: number;
  /** Number of them that are work with a due date */
  work: number;
  /** First and last day on which anything stands, for somebody in `viewer`; null where nothing does */
  first: string | null;
  last: string | null;
  courses: { name: string; count: number }[];
  /** The next few things, to recognise it by */
  sample: { title: string; start: When; kind: Entry['kind'] }[];
}

/** Gives what a preview says of a reading before anything is saved. `now` in milliseconds. */
export function summarise(
  entries: readonly (Pick<Entry, 'course' | 'kind'> & { occurrences: EntryOccurrence[] })[],
  now: number,
  viewer: Zone,
): ReadingSummary {
  let first = Infinity;
  let last = -Infinity;
  const courses = new Map<string, number>();
  const upcoming: { title: string; start: When; kind: Entry['kind']; at: number }[] = [];
  for (const entry of entries) {
    if (entry.course) courses.set(entry.course, (courses.get(entry.course) ?? 0) + 1);
    for (const { start, due, title, kind } of entry.occurrences) {
      const shown = due ?? start;
      const day = dayIn(shown, viewer);
      first = Math.min(first, day);
      last = Math.max(last, day);
      const at = instantIn(shown, viewer);
      if (at >= now) upcoming.push({ title, start: shown, kind, at });
    }
  }
  return {
    entries: entries.length,
    work: entries.filter((e) => isWork(e.kind)).length,
    first: first === Infinity ? null : formatDate(first),
    last: last === -Infinity ? null : formatDate(last),
    courses: [...courses]
      .map(([name, count]) => ({ name, count }))
      .sort((a, b) => b.count - a.count)
      .slice(0, 12),
    sample: upcoming
      .sort((a, b) => a.at - b.at)
      .slice(0, 4)
      .map(({ title, start, kind }) => ({ title, start, kind })),
  };
}
