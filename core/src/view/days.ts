import type { OccurrenceView } from '../item/occurrence.ts';
import { DAY, MINUTE, dayNumber, startOfWeek } from '../time/civil.ts';
import { localIn } from '../time/when.ts';
import { agendaEntry, aimEntry, entryOrder, stands, type AgendaEntry } from './entry.ts';
import { lanes, pack, type Packed } from './lanes.ts';
import { today, type Viewer } from '../words/when.ts';

export interface DaysOptions {
  now: number;
  viewer: Viewer;
  /** Hour from which on a deadline stands on the shelf */
  shelfFrom: number;
}

/** A stretch of days in a row of days, cut to it. */
export interface SpanPiece {
  entry: AgendaEntry;
  /** First and last column it covers */
  from: number;
  to: number;
  lane: number;
  /** It began before this row, or goes on after it */
  before: boolean;
  after: boolean;
}

/** Something with an hour, on one day, in minutes from midnight. */
export interface TimedPiece {
  entry: AgendaEntry;
  from: number;
  to: number;
}

export interface DayColumn {
  day: number;
  /** What has no hour of its own or is due late: the “by end of day” shelf, in order of what matters */
  shelf: AgendaEntry[];
  timed: Packed<TimedPiece>[];
  /** All that stands on this day but for long ones, in order of what matters */
  entries: AgendaEntry[];
}

export interface DayRow {
  first: number;
  days: DayColumn[];
  spans: SpanPiece[];
  /** Number of lanes its spans take */
  lanes: number;
}

/** A deadline before the evening is drawn this long, in minutes, so that there is something to see. */
const MOMENT = 30;

/**
 * Rows of so many days each, from day `first` on: what a month (weeks), a week and a day show. Everything
 * visible stands in each day it touches, as a span, on the shelf or at its hours; nothing is lost.
 */
export function dayRows(
  occurrences: readonly OccurrenceView[],
  first: number,
  rows: number,
  columns: number,
  { now, viewer, shelfFrom }: DaysOptions,
): DayRow[] {
  const entries = occurrences.flatMap((o) => {
    const entry = agendaEntry(o, now, viewer);
    if (o.status === 'cancelled') return stands(entry, today(now, viewer)) ? [entry] : [];
    const aim = aimEntry(entry, viewer);
    return aim ? [entry, aim] : [entry];
  });
  const last = first + rows * columns - 1;
  const days = new Map<number, { shelf: AgendaEntry[]; timed: TimedPiece[]; entries: AgendaEntry[] }>();
  const at = (day: number) => {
    let found = days.get(day);
    if (!found) days.set(day, (found = { shelf: [], timed: [], entries: [] }));
    return found;
  };
  const long: { entry: AgendaEntry; from: number; to: number }[] = [];
  for (const entry of entries) {
    if (entry.lastDay < first || entry.day > last) continue;
    if (isLong(entry)) {
      long.push({ entry, from: entry.day, to: entry.lastDay });
      continue;
    }
    for (const { day, piece } of piecesOf(entry, viewer, shelfFrom)) {
      if (day < first || day > last) continue;
      at(day).entries.push(entry);
      if (piece) at(day).timed.push(piece);
      else at(day).shelf.push(entry);
    }
  }
  const compare = entryOrder(viewer);
  const placed = lanes(long);
  return Array.from({ length: rows }, (_, r) => {
    const start = first + r * columns;
    const end = start + columns - 1;
    const spans = long
      .filter((s) => s.to >= start && s.from <= end)
      .map((s) => ({
        entry: s.entry,
        from: Math.max(0, s.from - start),
        to: Math.min(columns - 1, s.to - start),
        lane: placed.get(s)!,
        before: s.from < start,
        after: s.to > end,
      }));
    return {
      first: start,
      spans,
      lanes: Math.max(0, ...spans.map((s) => s.lane + 1)),
      days: Array.from({ length: columns }, (_x, c) => {
        const { shelf = [], timed = [], entries: all = [] } = days.get(start + c) ?? {};
        return { day: start + c, shelf: shelf.sort(compare), timed: pack(timed), entries: all.sort(compare) };
      }),
    };
  });
}

/** Days on end without hours. What merely goes past midnight is not long. */
const isLong = ({ shape, day, lastDay, occurrence }: AgendaEntry) =>
  lastDay > day && (shape === 'ribbon' || occurrence.start.kind === 'date' || lastDay - day > 1);

/** Finds where an entry stands on each day it touches: at its hours, or (null) on the shelf. */
function piecesOf(
  entry: AgendaEntry,
  viewer: Viewer,
  shelfFrom: number,
): { day: number; piece: TimedPiece | null }[] {
  const { occurrence, urgency, day } = entry;
  const { start, end, due } = occurrence;
  const minute = (local: number, of: number) => Math.round((local - of * DAY) / MINUTE);
  if (entry.isAim) return [{ day, piece: null }];
  if (urgency !== null) {
    if (!due || due.kind === 'date') return [{ day, piece: null }];
    const until = minute(localIn(due, viewer), day);
    if (until >= shelfFrom * 60) return [{ day, piece: null }];
    return [{ day, piece: { entry, from: Math.max(0, until - MOMENT), to: Math.max(MOMENT, until) } }];
  }
  if (start.kind === 'date') return [{ day, piece: null }];
  const from = localIn(start, viewer);
  const to = Math.max(from, end ? localIn(end, viewer) : from);
  const pieces: { day: number; piece: TimedPiece }[] = [];
  for (let d = day; d <= entry.lastDay; d++) {
    const begin = Math.max(0, minute(from, d));
    const stop = Math.min(1440, minute(to, d));
    pieces.push({
      day: d,
      piece: {
        entry,
        from: Math.min(begin, 1440 - MOMENT),
        to: Math.max(stop, Math.min(begin, 1440 - MOMENT) + MOMENT),
      },
    });
  }
  return pieces;
}

/** First day and number of weeks of the month a day is in, whole weeks. */
export function monthWeeks(year: number, month: number, firstDay: number): { first: number; weeks: number } {
  const first = startOfWeek(dayNumber(year, month, 1), firstDay);
  const last = dayNumber(year, month + 1, 1) - 1;
  return { first, weeks: Math.ceil((last - first + 1) / 7) };
}

/** The hours to show: at least those the person likes, more where something stands outside them. */
export function hoursOf(
  columns: readonly DayColumn[],
  dayFrom: number,
  dayTo: number,
): { from: number; to: number } {
  let [from, to] = [dayFrom, dayTo];
  for (const { timed } of columns) {
    for (const { block } of timed) {
      from = Math.min(from, Math.floor(block.from / 60));
      to = Math.max(to, Math.ceil(block.to / 60));
    }
  }
  return { from, to: Math.max(to, from + 1) };
}
