import type { Occurrence } from '../recurrence/series.ts';
import { parseDate } from '../time/civil.ts';
import type { When } from '../time/when.ts';
import { isWork, type ItemKind } from './kind.ts';

/**
 * When an occurrence is due. A to-do says so; for an event that is work it is its end where it has an open
 * and a close, else the moment or day it stands at. Null for what is not work and for what only opens.
 */
export function dueOf(
  occurrence: Pick<Occurrence<unknown>, 'start' | 'end' | 'due'>,
  kind: ItemKind,
  title: string,
): When | null {
  if (occurrence.due) return occurrence.due;
  if (!isWork(kind) || /\b(opens|available from)\s*$/i.test(title)) return null;
  const { start, end } = occurrence;
  if (start.kind === 'date') return lastDay(start, end);
  return end ?? start;
}

/** The last day of an all-day span (an all-day end is exclusive, RFC 5545 3.6.1). */
export function lastDay(start: When, end: When | null): When {
  if (start.kind !== 'date' || end?.kind !== 'date') return start;
  const last = Math.max(parseDate(start.date), parseDate(end.date) - 1);
  return { kind: 'date', date: new Date(last * 86_400_000).toISOString().slice(0, 10) };
}
