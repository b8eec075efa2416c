import type { FeedItem } from '../ical/feed-item.ts';
import { dueOf } from '../item/dates.ts';
import type { ItemKind } from '../item/kind.ts';
import { DAY, parseDate, parseInstant, parseLocal } from '../time/civil.ts';
import { dateOf, floatingOf, instantOf, recurrenceIdOf, type When } from '../time/when.ts';

interface Work {
  kind: ItemKind;
  title: string;
  ofDeadlines: boolean;
}

/** Tells when an entry ends, also where it only says how long it takes. */
export function endOf({ start, end, length }: FeedItem): When | null {
  if (end || !start || !length) return end;
  const ms = length.days * DAY + length.ms;
  if (start.kind === 'date') return dateOf(parseDate(start.date) + Math.ceil(ms / DAY));
  if (start.kind === 'floating') return floatingOf(parseLocal(start.local) + ms);
  return instantOf(parseInstant(start.at) + ms, start.zone);
}

const dueFrom = (face: FeedItem, { kind, title, ofDeadlines }: Work): When | null =>
  face.start
    ? dueOf({ start: face.start, end: endOf(face), due: face.due }, kind, title, ofDeadlines)
    : face.due;

/** Tells whether an entry has a deadline; a test at its hours is somewhere to be, and work without a date is not due. */
export const isDeadline = (face: FeedItem, work: Work): boolean => dueFrom(face, work) !== null;

/**
 * A piece of work as a to-do (RFC 5545 3.6.2): due when it is due; its start is where it opens, or where its repeats
 * are counted from (3.8.5.3). What has no deadline stays as it is.
 */
export function asTodo(face: FeedItem, work: Work): FeedItem {
  const due = dueFrom(face, work);
  if (!due) return face;
  const opens =
    face.start && recurrenceIdOf(face.start) !== recurrenceIdOf(due) && face.start.kind === due.kind;
  const start = face.repeat || face.recurrenceId ? (face.start ?? due) : opens ? face.start : null;
  return { ...face, component: 'VTODO', start, due, end: null, length: null };
}
