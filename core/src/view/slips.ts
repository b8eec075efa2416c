import { HANDED_IN_WORDS, HAND_IN_WORDS, KIND_WORDS } from '../item/words.ts';
import type { Colour, Flag } from '../item/flag.ts';
import type { OccurrenceView } from '../item/occurrence.ts';
import type { Urgency } from '../item/urgency.ts';
import { dayIn, recurrenceIdOf } from '../time/when.ts';
import { entryId, type AgendaEntry } from './entry.ts';
import { capital } from '../words/text.ts';
import {
  clockTime,
  daysAway,
  dueDay,
  longDay,
  nightOf,
  shortDay,
  spanWords,
  today as dayOf,
  weekdayName,
  type Viewer,
} from '../words/when.ts';

export const URGENCY_WORDS: Record<Urgency, string> = {
  finished: 'finished',
  coming: 'coming',
  soon: 'soon',
  pastDue: 'past due',
  unsettled: 'date has passed',
  closed: 'closed, not handed in',
};

/** Tells when a slip stands, in the few words that fit on it. */
export function slipTime({ occurrence, urgency, day }: AgendaEntry, viewer: Viewer): string {
  if (urgency !== null && occurrence.due)
    return occurrence.due.kind === 'date' ? shortDay(day).slice(4) : clockTime(occurrence.due, viewer);
  return spanWords(occurrence.start, occurrence.end, viewer);
}

/**
 * Tells when a slip of a month stands, in one word beside its title: its hour; of paper that is due in a lesson, that
 * it is paper; nothing of what has no hour.
 */
export function monthTime({ occurrence, urgency, isAim }: AgendaEntry, viewer: Viewer): string {
  if (isAim) return '';
  const at = urgency !== null && occurrence.due ? occurrence.due : occurrence.start;
  if (at.kind !== 'date') return clockTime(at, viewer);
  return urgency !== null && occurrence.handIn === 'paper' ? 'paper' : '';
}

/**
 * The same with its day, for where no heading says it: `Thursday 8 October, 16:00`. What lasts days says
 * those alone.
 */
export function slipWhen(entry: AgendaEntry, viewer: Viewer): string {
  const { occurrence, urgency, day, lastDay } = entry;
  if (urgency !== null)
    return `due ${nightIn(entry, viewer)}${longDay(day)}${occurrence.due?.kind === 'date' ? '' : `, ${slipTime(entry, viewer)}`}`;
  return lastDay > day ? slipTime(entry, viewer) : `${longDay(day)}, ${slipTime(entry, viewer)}`;
}

/** Tells how a deadline after midnight is led in, as long as it stands under the day before. */
const nightIn = ({ occurrence: { due }, day }: AgendaEntry, viewer: Viewer): string =>
  due && day < dayIn(due, viewer) ? nightOf(due, viewer) : '';

/**
 * The first line about a slip: when it stands, and how far off that is unless it lasts just now: `Due Tuesday
 * 6 October, 23:59 · today`.
 */
export function slipGist(entry: AgendaEntry, viewer: Viewer, now: number): string {
  const when = entry.isAim ? `Your aim ${longDay(entry.day)}` : capital(slipWhen(entry, viewer));
  const today = dayOf(now, viewer);
  return entry.day < today && entry.lastDay >= today ? when : `${when} · ${daysAway(entry.day, today)}`;
}

/** For work with a window: when it opens, if that is not the moment it is due. */
export function opensWords({ start, due }: OccurrenceView, viewer: Viewer): string | null {
  if (!due || recurrenceIdOf(start) === recurrenceIdOf(due)) return null;
  const sameDay = dayIn(start, viewer) === dayIn(due, viewer);
  if (start.kind === 'date') return sameDay ? null : `opens ${shortDay(dayIn(start, viewer))}`;
  return `opens ${sameDay ? '' : `${shortDay(dayIn(start, viewer))} `}${clockTime(start, viewer)}`;
}

/** Gives what it is, in a word. */
const kindWords = ({ sitting, kind, busy, status }: OccurrenceView): string =>
  status === 'cancelled' ? 'called off' : busy ? '' : sitting ? 'sitting' : KIND_WORDS[kind];

export function slipDetail({ occurrence, urgency }: AgendaEntry, viewer: Viewer): string {
  if (urgency === null)
    return (occurrence.status !== 'cancelled' && occurrence.place) || kindWords(occurrence);
  const opens = opensWords(occurrence, viewer);
  if (opens) return `${KIND_WORDS[occurrence.kind]} · ${opens}`;
  return [
    KIND_WORDS[occurrence.kind],
    occurrence.handIn === 'unknown' ? null : HAND_IN_WORDS[occurrence.handIn],
  ]
    .filter(Boolean)
    .join(' · ');
}

/**
 * The line on the stub under the time, as of the day number `today`. Under a day's heading the day itself
 * need not be said again, but how long what is past has been so; elsewhere the day is said of everything that
 * has one.
 */
export function slipNote(
  entry: AgendaEntry,
  viewer: Viewer,
  today: number,
  isUnderDay = true,
): string | undefined {
  const { occurrence, urgency, day } = entry;
  const isDate = occurrence.due?.kind === 'date';
  const isPast = urgency === 'pastDue' || urgency === 'unsettled' || urgency === 'closed';
  if (urgency !== 'finished' && nightIn(entry, viewer) && day >= today)
    return day === today ? 'tonight' : `${weekdayName(day).slice(0, 3)} night`;
  if (isUnderDay)
    return isPast || (urgency === 'soon' && day <= today + 1) ? daysAway(day, today) : undefined;
  if (isPast) return isDate ? daysAway(day, today) : shortDay(day);
  if (occurrence.undated) return undefined;
  if (day === today || day === today + 1) return daysAway(day, today);
  // A date stands above it already.
  return isDate ? weekdayName(day) : shortDay(day);
}

/** Owner of something, and the mark that says so in little room. */
export interface Whose {
  name: string;
  mark: string;
}

/** Facts that a slip needs of its calendar; undefined where that is not there. */
interface Flown {
  name: string;
  /** Owner, where several learners are shown together */
  whose?: Whose | undefined;
  colour: Colour;
  flag: Pick<Flag, 'shape' | 'pattern'>;
}

/** Gives what any slip shows of its entry, whatever its size. */
export function slipFace(entry: AgendaEntry, calendar: Flown | undefined, viewer: Viewer) {
  const { occurrence, shape, urgency, isAim = false } = entry;
  return {
    id: entryId(entry),
    shape,
    colour: occurrence.colour ?? calendar?.colour ?? ('slate' as const),
    flag: calendar?.flag ?? ({ shape: 'square', pattern: 'plain' } as const),
    isAim,
    title: isAim ? `aim: ${occurrence.title}` : occurrence.title,
    urgency,
    calledOff: occurrence.status === 'cancelled',
    whose: occurrence.sharedBy ?? calendar?.whose,
    spoken: spokenSlip(entry, occurrence.sharedBy?.calendar ?? calendar?.name, viewer),
  };
}

/** Gives what a slip of full size shows besides, as of the day number `today`. */
export function wholeSlip(
  entry: AgendaEntry,
  calendar: Flown | undefined,
  viewer: Viewer,
  { today, isUnderDay }: { today: number; isUnderDay: boolean },
) {
  const { occurrence, isAim } = entry;
  const { handedIn, undated, due } = occurrence;
  return {
    ...slipFace(entry, calendar, viewer),
    calendar: occurrence.sharedBy?.calendar ?? calendar?.name ?? '',
    detail: slipDetail(entry, viewer),
    time: isAim ? 'aim' : undated ? 'no date' : slipTime(entry, viewer),
    handedIn: handedIn ? HANDED_IN_WORDS[handedIn] : undefined,
    note: isAim && due ? `due ${shortDay(dueDay(due, viewer))}` : slipNote(entry, viewer, today, isUnderDay),
  };
}

/**
 * All of it in one sentence, for those who listen.
 * @param calendarName of the calendar it stands in; undefined where that is not known
 */
export function spokenSlip(entry: AgendaEntry, calendarName: string | undefined, viewer: Viewer): string {
  const { occurrence, urgency, day, isAim } = entry;
  const due = occurrence.due && !occurrence.undated ? dueDay(occurrence.due, viewer) : day;
  if (isAim)
    return `${occurrence.title}, ${calendarName ?? ''}, your aim ${longDay(day)}, due ${longDay(due)}`;
  const when = occurrence.undated ? 'no date' : slipWhen(entry, viewer);
  return [
    occurrence.title,
    calendarName,
    kindWords(occurrence),
    when,
    urgency !== null ? opensWords(occurrence, viewer) : null,
    urgency !== null ? HAND_IN_WORDS[occurrence.handIn] : occurrence.place,
    urgency && URGENCY_WORDS[urgency],
    occurrence.handedIn ? `handed in ${HANDED_IN_WORDS[occurrence.handedIn]}` : null,
    occurrence.aim && urgency !== 'finished' ? `your aim ${longDay(dueDay(occurrence.aim, viewer))}` : null,
  ]
    .filter(Boolean)
    .join(', ');
}
