import { keyOf, type OccurrenceView } from '../item/occurrence.ts';
import { isWork, shapeOf, type Shape } from '../item/kind.ts';
import { urgencyOf, type Urgency } from '../item/urgency.ts';
import { DAY, parseDate } from '../time/civil.ts';
import { dayIn, instantIn, localIn } from '../time/when.ts';
import { REACH } from './near.ts';
import { dueDay, today, type Viewer } from '../words/when.ts';

/** An occurrence with what a view needs to draw it. */
export interface AgendaEntry {
  occurrence: OccurrenceView;
  shape: Shape;
  /** Null for what is not work */
  urgency: Urgency | null;
  /** Day number it is listed under */
  day: number;
  /** Last day of a long item, else the same day */
  lastDay: number;
  /** It stands for the person's own aim, on the day of that, and not for the due date */
  isAim?: boolean;
}

/** Tells whether an occurrence is hidden itself, or every calendar that has it is. */
export const isHidden = (
  { calendarId, alsoIn, hidden: itself }: OccurrenceView,
  hidden: ReadonlySet<string>,
): boolean => itself || (hidden.has(calendarId) && alsoIn.every((id) => hidden.has(id)));

/** Days back up to which open work counts: in every view, sheet, table and file alike. */
export const COUNTS_BACK = REACH.back;

/** Tells whether something is not so long ago that it counts no more. */
export const stillCounts = (entry: AgendaEntry, day: number): boolean => day - entry.day <= COUNTS_BACK;

/** Tells whether something stands in its place at all: what was called off does, struck through, until its day is over. */
export const stands = ({ occurrence, lastDay }: AgendaEntry, day: number): boolean =>
  occurrence.status !== 'cancelled' || lastDay >= day;

/** Names an entry among all that are drawn: its occurrence’s key, with a word for an aim, which stands beside its due date. */
export const entryId = ({ occurrence, isAim }: AgendaEntry): string =>
  `${keyOf(occurrence)}${isAim ? ' aim' : ''}`;

/** Places one occurrence: its shape, how it stands, and the day it is listed under. */
export function agendaEntry(occurrence: OccurrenceView, now: number, viewer: Viewer): AgendaEntry {
  const { start, end, due } = occurrence;
  const first = dayIn(start, viewer);
  // An all-day end is exclusive; a timed end at midnight belongs to the day before.
  const last = end
    ? Math.max(
        first,
        end.kind === 'date' ? parseDate(end.date) - 1 : Math.floor((localIn(end, viewer) - 1) / DAY),
      )
    : first;
  const work = isWork(occurrence.kind) && (due !== null || occurrence.undated);
  const urgency = urgencyIn(occurrence, now, viewer);
  const isAhead = urgency === 'soon' || urgency === 'coming';
  // In the small hours, what is due before the night is over is due on the day that has begun.
  const night = work && due ? dueDay(due, viewer) : first;
  const day = isAhead && due && night < dayIn(due, viewer) ? Math.max(night, today(now, viewer)) : night;
  return {
    occurrence,
    shape: occurrence.sitting
      ? 'sitting'
      : shapeOf({
          // A test at its hours is somewhere to be.
          kind: occurrence.kind === 'test' && !due ? 'meeting' : occurrence.kind,
          handIn: occurrence.handIn,
          allDay: start.kind === 'date',
          days: last - first + 1,
        }),
    urgency,
    day,
    lastDay: work ? day : Math.max(day, last),
  };
}

function urgencyIn(occurrence: OccurrenceView, now: number, viewer: Viewer): Urgency | null {
  const { kind, due, closes, finished, handIn, stillToDo, undated, status } = occurrence;
  if (!isWork(kind) || status === 'cancelled') return null;
  if (undated) return finished ? 'finished' : 'coming';
  return due ? urgencyOf({ due, closes, finished, handIn, stillToDo }, now, viewer) : null;
}

/**
 * Where a piece of work stands by its aim, as long as it is open and the aim is on another day than it is
 * due.
 */
export function aimEntry(entry: AgendaEntry, viewer: Viewer): AgendaEntry | null {
  const { aim } = entry.occurrence;
  if (!aim || entry.urgency === null || entry.urgency === 'finished') return null;
  const day = dueDay(aim, viewer);
  return day === entry.day ? null : { ...entry, day, lastDay: day, isAim: true };
}

/**
 * Days on end first, then what is to hand in or do, so that a deadline at 23:59 is not lost below the
 * lessons, then what is only to know all day, then by the clock where to be and what to know at an hour.
 * Within each, whole days before times, then by time and title.
 */
export function entryOrder(viewer: Viewer): (a: AgendaEntry, b: AgendaEntry) => number {
  // A kind asks for the same entries again and again.
  const places = new Map<AgendaEntry, [rank: number, time: number]>();
  const placeOf = (e: AgendaEntry): [rank: number, time: number] => {
    let place = places.get(e);
    if (!place)
      places.set(
        e,
        (place = [rankOf(e), whenOf(e).kind === 'date' ? -Infinity : instantIn(whenOf(e), viewer)]),
      );
    return place;
  };
  return (a: AgendaEntry, b: AgendaEntry) => {
    const [rankA, timeA] = placeOf(a);
    const [rankB, timeB] = placeOf(b);
    return (
      rankA - rankB ||
      (timeA === timeB ? 0 : timeA - timeB) ||
      titles.compare(a.occurrence.title, b.occurrence.title)
    );
  };
}

/** A collator made once is many times as quick as `localeCompare`. */
const titles = new Intl.Collator('en', { numeric: true });
const rankOf = (e: AgendaEntry) =>
  e.shape === 'ribbon' ? 0 : e.urgency !== null ? 1 : e.shape === 'note' && whenOf(e).kind === 'date' ? 2 : 3;
const whenOf = ({ occurrence, urgency }: AgendaEntry) => (urgency && occurrence.due) || occurrence.start;

/** Parts occurrences into work that is due, and what one is at or should know: a test at its hours, and work that is called off. */
export function partWork(
  occurrences: readonly OccurrenceView[],
  now: number,
  viewer: Viewer,
): { due: OccurrenceView[]; placed: OccurrenceView[] } {
  const due: OccurrenceView[] = [];
  const placed: OccurrenceView[] = [];
  for (const o of occurrences) (urgencyIn(o, now, viewer) === null ? placed : due).push(o);
  return { due, placed };
}
