import type { OccurrenceView } from '../item/occurrence.ts';
import { HOUR } from '../time/civil.ts';
import { instantIn } from '../time/when.ts';
import { CLOSED_STAYS, workOf } from './work.ts';
import { agendaEntry, entryOrder, stands, type AgendaEntry } from './entry.ts';
import { today, type Viewer } from '../words/when.ts';

export interface TodayView {
  day: number;
  /** The place to be next, or now; null where nothing comes soon. It stands in `places` too, where it is today's */
  next: { entry: AgendaEntry; at: number; isUnderWay: boolean } | null;
  /** Where to be today, in order of time, what is over left out */
  places: AgendaEntry[];
  /** What lasts days and today is one of them: said once, at the head of the day */
  spans: AgendaEntry[];
  /** What is only to know today */
  notes: AgendaEntry[];
  /** Due before the night is over: open ones first, then those of today that are finished */
  due: AgendaEntry[];
  /** Past due and open, oldest first */
  pastDue: AgendaEntry[];
  /** Only a person can say whether it happened; oldest first */
  toSettle: AgendaEntry[];
  /** Closed within the last days without being handed in; the latest first */
  closed: AgendaEntry[];
  /** What comes after today, in date order, so many days ahead */
  upcoming: AgendaEntry[];
}

/** A day as one looks at it at 16:10: what is next, where to be, what is due by tonight, what comes. */
export function todayView(
  occurrences: readonly OccurrenceView[],
  { now, viewer, ahead }: { now: number; viewer: Viewer; ahead: number },
): TodayView {
  const day = today(now, viewer);
  const all = occurrences.map((o) => agendaEntry(o, now, viewer)).filter((e) => stands(e, day));
  const { tonight, finished, pastDue, toSettle, closed } = workOf(occurrences, { now, viewer });
  const compare = entryOrder(viewer);
  const view: TodayView = {
    day,
    next: null,
    places: [],
    spans: [],
    notes: [],
    due: [...tonight, ...finished.filter((e) => e.day === day)],
    pastDue,
    toSettle,
    closed: closed.filter((e) => e.day >= day - CLOSED_STAYS),
    upcoming: [],
  };
  for (const entry of all) {
    const { occurrence, urgency } = entry;
    if (urgency !== null) {
      if (entry.day > day && entry.day <= day + ahead && urgency !== 'finished') view.upcoming.push(entry);
    } else if (entry.day <= day && entry.lastDay >= day) {
      if (entry.lastDay > entry.day && !occurrence.place && occurrence.status !== 'cancelled')
        view.spans.push(entry);
      else if (occurrence.start.kind === 'date' || entry.shape === 'note') view.notes.push(entry);
      else if (endOf(occurrence, viewer) > now) view.places.push(entry);
    } else if (entry.day > day && entry.day <= day + ahead) view.upcoming.push(entry);
  }
  view.places.sort((a, b) => instantIn(a.occurrence.start, viewer) - instantIn(b.occurrence.start, viewer));
  view.upcoming.sort((a, b) => a.day - b.day || compare(a, b));
  view.next = nextOf(all, now, viewer);
  return view;
}

/** All that stands on a Today, each once. */
export const allOf = ({
  spans,
  notes,
  places,
  due,
  pastDue,
  toSettle,
  closed,
  upcoming,
}: TodayView): AgendaEntry[] => [
  ...spans,
  ...notes,
  ...places,
  ...due,
  ...pastDue,
  ...toSettle,
  ...closed,
  ...upcoming,
];

const endOf = ({ start, end }: OccurrenceView, viewer: Viewer) => instantIn(end ?? start, viewer);

/** So long before it begins, where to be is the next thing, in milliseconds. */
const SOON = HOUR;

/** Finds where to be within the hour, or now, until it is over. */
function nextOf(all: readonly AgendaEntry[], now: number, viewer: Viewer): TodayView['next'] {
  let best: TodayView['next'] = null;
  for (const entry of all) {
    const { occurrence, urgency } = entry;
    if (urgency !== null || occurrence.status === 'cancelled') continue;
    if (entry.shape === 'note' || occurrence.start.kind === 'date') continue;
    const at = instantIn(occurrence.start, viewer);
    const isUnderWay = at <= now && endOf(occurrence, viewer) > now;
    if ((at <= now && !isUnderWay) || at > now + SOON) continue;
    if (!best || at < best.at) best = { entry, at, isUnderWay };
  }
  return best;
}
