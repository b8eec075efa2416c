import { KIND_WORDS } from '../item/words.ts';
import type { OccurrenceView } from '../item/occurrence.ts';
import { civilDate, dayNumber, formatDate, startOfWeek } from '../time/civil.ts';
import { agendaEntry, entryOrder, type AgendaEntry } from '../view/entry.ts';
import { monthWeeks } from '../view/days.ts';
import { slipDetail, slipTime } from '../view/slips.ts';
import { longDay, monthName, today, weekdayName, type Viewer } from '../words/when.ts';
import type { OutCalendar } from './going-out.ts';

/** A line of a page that goes out: nothing in it can be pressed. */
export interface PageLine {
  time: string;
  title: string;
  detail: string;
  calendarId: string;
  state: 'open' | 'finished' | 'calledOff';
  /** True where it is something to do, with a box to tick on paper */
  isWork: boolean;
}

export interface PageDay {
  /** A date */
  date: string;
  /** `Tuesday 6 October` */
  words: string;
  lines: PageLine[];
}

/** A month of what goes out, as weeks for a table and as days with something in them. */
export interface MonthPage {
  /** `October 2026` */
  title: string;
  /** `2026-09`, `2026-11` */
  before: string;
  after: string;
  /** A date, in whatever month it is */
  today: string;
  weekdays: string[];
  /** Day numbers as they stand in the month; null for the days of other months */
  weeks: (PageDay & { number: number | null; isToday: boolean })[][];
  days: PageDay[];
  calendars: OutCalendar[];
}

export interface PageOptions {
  now: number;
  viewer: Viewer;
  /** Weekday a week begins with, 1 for Monday */
  firstDay: number;
  calendars: readonly OutCalendar[];
}

const MONTH = /^(\d{4})-(\d\d)$/;

/** The month that is asked for, as year and month; the one of `now` where there is none such. */
export function monthAsked(
  text: string | undefined,
  now: number,
  viewer: Viewer,
): [year: number, month: number] {
  const [, year, month] = MONTH.exec(text ?? '') ?? [];
  if (year && Number(month) >= 1 && Number(month) <= 12) return [Number(year), Number(month)];
  const { year: y, month: m } = civilDate(today(now, viewer));
  return [y, m];
}

/** Entries by day, in order: what lasts several days stands on each of them. */
export function entriesByDay(
  dates: readonly OccurrenceView[],
  { now, viewer }: Pick<PageOptions, 'now' | 'viewer'>,
  first: number,
  count: number,
): Map<number, AgendaEntry[]> {
  const byDay = new Map<number, AgendaEntry[]>();
  for (const occurrence of dates) {
    if (occurrence.undated) continue;
    const entry = agendaEntry(occurrence, now, viewer);
    for (let day = Math.max(entry.day, first); day <= Math.min(entry.lastDay, first + count - 1); day++) {
      const list = byDay.get(day);
      if (list) list.push(entry);
      else byDay.set(day, [entry]);
    }
  }
  const order = entryOrder(viewer);
  for (const entries of byDay.values()) entries.sort(order);
  return byDay;
}

/** An entry as a line of a page. */
export function lineOf(entry: AgendaEntry, viewer: Viewer): PageLine {
  const { occurrence, urgency } = entry;
  return {
    time: urgency !== null && occurrence.due?.kind === 'date' ? '' : slipTime(entry, viewer),
    title: occurrence.title,
    detail: occurrence.busy ? '' : slipDetail(entry, viewer) || KIND_WORDS[occurrence.kind],
    calendarId: occurrence.calendarId,
    state: occurrence.status === 'cancelled' ? 'calledOff' : occurrence.finished ? 'finished' : 'open',
    isWork: urgency !== null,
  };
}

/** A month of what goes out. */
export function monthPage(
  dates: readonly OccurrenceView[],
  [year, month]: readonly [number, number],
  options: PageOptions,
): MonthPage {
  const { now, viewer, firstDay } = options;
  const { first, weeks } = monthWeeks(year, month, firstDay);
  const lines = new Map(
    [...entriesByDay(dates, options, first, weeks * 7)].map(([day, entries]) => [
      day,
      entries.map((entry) => lineOf(entry, viewer)),
    ]),
  );
  const thisDay = today(now, viewer);
  const dayOf = (day: number): PageDay => ({
    date: formatDate(day),
    words: longDay(day),
    lines: lines.get(day) ?? [],
  });
  const all = Array.from({ length: weeks * 7 }, (_, n) => first + n);
  const isIn = (day: number) => civilDate(day).month === month;
  const near = (by: number) => formatDate(dayNumber(year, month + by, 1)).slice(0, 7);
  return {
    title: `${monthName(month)} ${year}`,
    before: near(-1),
    after: near(1),
    today: formatDate(thisDay),
    weekdays: Array.from({ length: 7 }, (_, n) => weekdayName(startOfWeek(first, firstDay) + n)),
    weeks: Array.from({ length: weeks }, (_, w) =>
      all.slice(w * 7, w * 7 + 7).map((day) => ({
        ...dayOf(day),
        number: isIn(day) ? civilDate(day).day : null,
        isToday: day === thisDay,
      })),
    ),
    days: all.filter((day) => isIn(day) && lines.has(day)).map(dayOf),
    calendars: [...options.calendars],
  };
}
