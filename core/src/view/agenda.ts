import type { OccurrenceView } from '../item/occurrence.ts';
import { agendaEntry, entryOrder, isHidden, stands, stillCounts, type AgendaEntry } from './entry.ts';
import { today, type Viewer } from '../words/when.ts';

export interface AgendaDay {
  day: number;
  entries: AgendaEntry[];
}

export interface Agenda {
  /** Work past due and open, oldest first, wherever it stands */
  pastDue: AgendaEntry[];
  /** Days before today, then today (always there) and after, ascending */
  earlier: AgendaDay[];
  days: AgendaDay[];
  /** What hidden calendars hold back from today on, and how much of it is hidden by itself */
  hidden: { due: number; other: number; single: number };
  /** Open work from today on, per calendar; hidden ones counted too */
  open: Map<string, number>;
}

export interface AgendaOptions {
  now: number;
  viewer: Viewer;
  hidden: ReadonlySet<string>;
  /** Gives what else is to be left out; not counted as hidden, since what filters stands in sight */
  keep?: (entry: AgendaEntry) => boolean;
}

/** Tells whether something counts as open work: it is there to be done, or past due. */
const isOpenWork = ({ urgency }: AgendaEntry): boolean =>
  urgency === 'pastDue' || urgency === 'soon' || urgency === 'coming';

/**
 * The agenda of a learner: every occurrence stands in it once, or is counted as hidden.
 * A long item that is under way stands under today.
 */
export function agenda(
  occurrences: readonly OccurrenceView[],
  { now, viewer, hidden, keep = () => true }: AgendaOptions,
): Agenda {
  const now0 = today(now, viewer);
  const byDay = new Map<number, AgendaEntry[]>([[now0, []]]);
  const pastDue: AgendaEntry[] = [];
  const held = { due: 0, other: 0, single: 0 };
  const open = new Map<string, number>();
  const endless = new Set<string>();
  for (const occurrence of occurrences) {
    const entry = agendaEntry(occurrence, now, viewer);
    if (!stands(entry, now0)) continue;
    // What repeats for ever is one thing to do, whatever date of it comes next.
    const isCounted = occurrence.endless && entry.urgency !== 'pastDue' && endless.has(occurrence.itemId);
    const isOpen = !isCounted && isOpenWork(entry);
    if (isOpen && occurrence.endless && entry.urgency !== 'pastDue') endless.add(occurrence.itemId);
    if (isOpen) open.set(occurrence.calendarId, (open.get(occurrence.calendarId) ?? 0) + 1);
    if (isHidden(occurrence, hidden)) {
      const isAhead = entry.lastDay >= now0 && entry.urgency === null;
      if (occurrence.hidden) held.single += Number(isOpen || isAhead);
      else if (isOpen) held.due++;
      else if (isAhead) held.other++;
      continue;
    }
    if (!keep(entry)) continue;
    if (entry.urgency === 'pastDue' && stillCounts(entry, now0)) pastDue.push(entry);
    else {
      const day = entry.day < now0 && entry.lastDay >= now0 ? now0 : entry.day;
      const list = byDay.get(day);
      if (list) list.push(entry);
      else byDay.set(day, [entry]);
    }
  }
  const compare = entryOrder(viewer);
  const all = [...byDay]
    .sort((a, b) => a[0] - b[0])
    .map(([day, entries]) => ({ day, entries: entries.sort(compare) }));
  return {
    pastDue: pastDue.sort((a, b) => a.day - b.day || compare(a, b)),
    earlier: all.filter((d) => d.day < now0),
    days: all.filter((d) => d.day >= now0),
    hidden: held,
    open,
  };
}

/**
 * The agenda from a day on, whichever it is: days that hold something, with what is past due under its own
 * day like the rest.
 */
export function agendaFrom({ pastDue, earlier, days }: Agenda, from: number, viewer: Viewer): AgendaDay[] {
  const byDay = new Map([...earlier, ...days].filter((d) => d.entries.length).map((d) => [d.day, d.entries]));
  for (const entry of pastDue) byDay.set(entry.day, [...(byDay.get(entry.day) ?? []), entry]);
  const compare = entryOrder(viewer);
  return [...byDay]
    .filter(([day]) => day >= from)
    .sort((a, b) => a[0] - b[0])
    .map(([day, entries]) => ({ day, entries: [...entries].sort(compare) }));
}

export interface AgendaGroup {
  id: string;
  entries: AgendaEntry[];
}

/**
 * An agenda's entries by calendar or by what they are, in date order within each; groups in the order they
 * first come.
 */
export function grouped(
  { pastDue, earlier, days }: Agenda,
  by: 'course' | 'kind',
  span: 'upcoming' | 'past' | 'all',
): AgendaGroup[] {
  const lists = [
    ...(span === 'upcoming' ? [] : earlier.map((d) => d.entries)),
    ...(span === 'past' ? [] : [pastDue, ...days.map((d) => d.entries)]),
  ];
  const groups = new Map<string, AgendaEntry[]>();
  for (const entry of lists.flat()) {
    const id = by === 'course' ? entry.occurrence.calendarId : entry.occurrence.kind;
    const group = groups.get(id);
    if (group) group.push(entry);
    else groups.set(id, [entry]);
  }
  return [...groups].map(([id, entries]) => ({ id, entries }));
}
