import type { Occurrence } from '../recurrence/series.ts';
import { DAY, HOUR, MINUTE, parseDate } from '../time/civil.ts';
import { instantIn, type When } from '../time/when.ts';
import { UTC } from '../time/zone.ts';
import { anyOf } from '../lib/patterns.ts';
import { edgeIn } from './edge.ts';
import { isWork, type ItemKind } from './kind.ts';

/**
 * When an occurrence is due. A to-do says so; for an event that is work it is its end where it has an open
 * and a close, else the moment or day it stands at. Null for what is not work, for what only opens, and for a
 * test that is sat at its hours.
 * @param ofDeadlines its feed is one of deadlines: then a minute is only how its calendar writes a moment
 */
export function dueOf(
  occurrence: Pick<Occurrence<unknown>, 'start' | 'end' | 'due'>,
  kind: ItemKind,
  title: string,
  ofDeadlines = false,
): When | null {
  if (occurrence.due) return occurrence.due;
  const { start, end } = occurrence;
  if (!isWork(kind) || (edgeIn(title.trim())?.isOpening && !isSpan(start, end))) return null;
  if (start.kind === 'date') return isStretchOfTests(kind, title, start, end) ? null : lastDay(start, end);
  if (isSat(kind, start, end, ofDeadlines ? MINUTE : 0)) return null;
  return end && !(ofDeadlines && lengthOf(start, end) <= MINUTE) ? end : start;
}

/** Names of tests in the plural, or of the week they are sat in. */
const TESTS = anyOf(
  'exams',
  'examinations',
  'tests',
  'mocks',
  'finals',
  'mid-?terms',
  'assessments',
  'week',
  'klausuren',
  'prüfungen',
  'klassenarbeiten',
  'woche',
  'examens',
  'épreuves',
  'partiels',
  'semaine',
  'exámenes',
  'pruebas',
  'semana',
  'prøver',
  'eksamener',
  'uke',
);
/** Days on which several tests are sat: none of them is due on the last. One test over days is open for so long. */
function isStretchOfTests(kind: ItemKind, title: string, start: When, end: When | null): boolean {
  if (kind !== 'test' || start.kind !== 'date' || end?.kind !== 'date') return false;
  return parseDate(end.date) - parseDate(start.date) > 1 && TESTS.test(title);
}

/** A test that lasts longer is open for so long, and is done some time in between. */
const LONGEST_SITTING = 5 * HOUR;

/** Tells whether it is a test at hours of its own: somewhere to be, and no deadline. */
export function isSat(kind: ItemKind, start: When, end: When | null, moment = 0): boolean {
  if (kind !== 'test' || !end || start.kind === 'date' || end.kind === 'date') return false;
  const length = lengthOf(start, end);
  return length > moment && length <= LONGEST_SITTING;
}

/** Tells whether something lasts: what is available from one moment to another is due at its end. */
const isSpan = (start: When, end: When | null): boolean =>
  end !== null && lengthOf(start, end) > (start.kind === 'date' ? DAY : MINUTE);

const lengthOf = (start: When, end: When) => instantIn(end, UTC) - instantIn(start, UTC);

/** The last day of an all-day span (an all-day end is exclusive, RFC 5545 3.6.1). */
export function lastDay(start: When, end: When | null): When {
  if (start.kind !== 'date' || end?.kind !== 'date') return start;
  const last = Math.max(parseDate(start.date), parseDate(end.date) - 1);
  return { kind: 'date', date: new Date(last * 86_400_000).toISOString().slice(0, 10) };
}
