import type { CalendarKind } from '../item/kind.ts';
import type { OccurrenceView } from '../item/occurrence.ts';
import { civilDate, firstWeekOfYear, formatDate, parseDate, startOfWeek } from '../time/civil.ts';
import type { Term } from './settings.ts';

export interface TermWeek {
  /** Day number of its first day */
  start: number;
  /** `week 7`, `Studio week`, `break` */
  name: string;
  isBreak: boolean;
}

const BEGINS =
  /\b(term|semester|school|trimester) (begins|starts)\b|\b(first day|start|beginning) of (the )?(term|semester|school|trimester)\b/i;
const ENDS =
  /\b(term|semester|school|trimester) ends\b|\b(last day|end) of (the )?(term|semester|school|trimester)\b/i;
/** Time off at least this long ends a term where nothing says so. */
const LONG_BREAK = 10;

/** The term as the calendars of a school say it, for somebody on day `today`; null where none is near. */
export function schoolTerm(
  occurrences: readonly OccurrenceView[] = [],
  calendars: readonly { id: string; kind: CalendarKind }[] = [],
  today: number,
): Term | null {
  const schools = new Set(calendars.filter((c) => c.kind === 'school').map((c) => c.id));
  return termFrom(
    occurrences.filter((o) => schools.has(o.calendarId)),
    today,
  );
}

/**
 * The term the school's own entries tell of, for somebody on day `today`: its first and last day, weeks with
 * names, breaks. Null where they tell of none that is near.
 */
export function termFrom(school: readonly OccurrenceView[], today: number): Term | null {
  const days = school
    .filter((o) => o.start.kind === 'date' && o.status !== 'cancelled')
    .map((o) => ({ ...o, first: firstDay(o), last: lastDay(o) }));
  const starts = days
    .filter((d) => BEGINS.test(d.title))
    .map((d) => d.first)
    .sort((a, b) => a - b);
  const start = starts.findLast((d) => d <= today + 14) ?? starts[0];
  if (start === undefined) return null;
  const off = days.filter((d) => d.kind === 'dayOff');
  const ends = [
    ...days.filter((d) => ENDS.test(d.title)).map((d) => d.last),
    ...off.filter((d) => d.last - d.first + 1 >= LONG_BREAK).map((d) => d.first - 1),
  ];
  const end = ends.filter((d) => d > start).sort((a, b) => a - b)[0] ?? start + 16 * 7 - 3;
  if (end - start > 400) return null;
  const inside = (d: { first: number; last: number }) => d.last >= start && d.first <= end;
  return {
    start: formatDate(start),
    end: formatDate(end),
    names: days
      .filter((d) => /\bweek$/i.test(d.title) && d.last > d.first && inside(d))
      .map((d) => ({ day: formatDate(d.first), name: d.title.slice(0, 40) })),
    breaks: off
      .filter((d) => d.last - d.first >= 2 && inside(d))
      .map((d) => ({ from: formatDate(d.first), to: formatDate(d.last), name: d.title.slice(0, 60) })),
  };
}

const firstDay = ({ start }: OccurrenceView) => (start.kind === 'date' ? parseDate(start.date) : 0);
const lastDay = (o: OccurrenceView) =>
  o.end?.kind === 'date' ? Math.max(firstDay(o), parseDate(o.end.date) - 1) : firstDay(o);

/**
 * The weeks of a term, numbered from 1 and breaks counted along; without a term, the weeks around `today`.
 */
export function termWeeks(term: Term | null, firstDayOfWeek: number, today: number): TermWeek[] {
  const first = startOfWeek(term ? parseDate(term.start) : today - 28, firstDayOfWeek);
  const last = term ? parseDate(term.end) : today + 12 * 7;
  const weeks: TermWeek[] = [];
  for (let start = first; start <= last; start += 7)
    weeks.push({ start, ...nameOf(start, (start - first) / 7 + 1, term) });
  return weeks;
}

function nameOf(start: number, number: number, term: Term | null): Pick<TermWeek, 'name' | 'isBreak'> {
  if (!term) return { name: `week ${isoWeek(start)}`, isBreak: false };
  // A break that takes three working days or more makes the week a break.
  const isBreak = term.breaks.some(
    (b) => Math.min(start + 6, parseDate(b.to)) - Math.max(start, parseDate(b.from)) >= 2,
  );
  const given = term.names.find(({ day }) => parseDate(day) >= start && parseDate(day) < start + 7);
  return { name: given?.name ?? (isBreak ? 'break' : `week ${number}`), isBreak };
}

/** Number of the week in its year, as ISO 8601 counts. */
export function isoWeek(day: number): number {
  const monday = startOfWeek(day, 1);
  const { year } = civilDate(monday + 3);
  return (monday - firstWeekOfYear(year, 1)) / 7 + 1;
}

/** Gives what a week is called that begins on `start`. */
export function weekName(start: number, weeks: readonly TermWeek[], by: 'term' | 'year'): string {
  const week = by === 'term' ? weeks.find((w) => w.start === start) : undefined;
  return week?.name ?? `week ${isoWeek(start)}`;
}
