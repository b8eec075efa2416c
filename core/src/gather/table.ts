import { dueOf } from '../item/dates.ts';
import type { FeedItem } from '../ical/feed-item.ts';
import type { Reading } from '../ical/reading.ts';
import { recurrenceIdOf, instantIn, type When } from '../time/when.ts';
import { formatInstant } from '../time/civil.ts';
import { courseOf } from './course.ts';
import { isOfDeadlines } from './manner.ts';
import { occurrencesOf, type OccurrenceOptions } from './occurrences.ts';
import { kindOf } from '../item/classify.ts';
import type { ItemKind } from '../item/kind.ts';

/** One occurrence as the reading command prints it: dates as `YYYY-MM-DD`, times as UTC instants. */
export interface ReadingRow {
  uid: string;
  recurrenceId: string | null;
  title: string;
  allDay: boolean;
  start: string;
  end: string | null;
  status: FeedItem['status'];
  due: string | null;
  completed: string | null;
  course: string | null;
  url: string | null;
}

/** Gives what a feed says inside a window, one row an occurrence. */
export function readingTable(reading: Reading, options: Omit<OccurrenceOptions, 'zones'>): ReadingRow[] {
  const text = (when: When) =>
    when.kind === 'date'
      ? when.date
      : when.kind === 'instant'
        ? when.at
        : formatInstant(instantIn(when, options.viewer));
  const ofDeadlines = isOfDeadlines(reading.items);
  // What an entry is, is the same on each of its dates.
  const known = new Map<FeedItem, { kind: ItemKind; course: string | null }>();
  const saidOf = (item: FeedItem) => {
    let said = known.get(item);
    if (!said)
      known.set(
        item,
        (said = { kind: kindOf(item, 'course', ofDeadlines), course: courseOf(item) ?? reading.name }),
      );
    return said;
  };
  return occurrencesOf(reading.items, { ...options, zones: reading.zones }).map(
    ({ item, recurrenceId, start, end, due, overridden }) => {
      const { kind, course } = saidOf(item);
      const isDue = dueOf({ start, end, due }, kind, item.title, ofDeadlines);
      return {
        uid: item.uid,
        recurrenceId: recurrenceId
          ? overridden && item.recurrenceId && !item.andFuture
            ? text(item.recurrenceId)
            : recurrenceIdText(recurrenceId, start, text)
          : null,
        title: item.title,
        allDay: start.kind === 'date',
        start: text(start),
        end: end ? text(end) : null,
        status: item.status,
        due: isDue ? text(isDue) : null,
        completed: item.completed ? text(item.completed) : null,
        course,
        url: item.url,
      };
    },
  );
}

function recurrenceIdText(recurrenceId: string, start: When, text: (when: When) => string): string {
  return recurrenceIdOf(start) === recurrenceId
    ? text(start)
    : recurrenceId.length === 19
      ? text({ kind: 'floating', local: recurrenceId })
      : recurrenceId;
}
