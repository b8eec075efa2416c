import type { OccurrenceView } from '../item/occurrence.ts';
import { startOfWeek } from '../time/civil.ts';
import { instantIn } from '../time/when.ts';
import { nextOfEndless } from '../view/endless.ts';
import { CLOSED_WORDS, SETTLE_WORDS } from '../view/work.ts';
import { agendaEntry, entryOrder, stillCounts, type AgendaEntry } from '../view/entry.ts';
import { dueDay, today, type Viewer } from '../words/when.ts';

export const BUCKETS = [
  'pastDue',
  'settle',
  'today',
  'thisWeek',
  'nextWeek',
  'prepare',
  'later',
  'noDate',
  'closed',
  'finished',
] as const;
export type BucketName = (typeof BUCKETS)[number];

export const BUCKET_WORDS: Record<BucketName, string> = {
  pastDue: 'Past due',
  settle: SETTLE_WORDS,
  today: 'Today',
  thisWeek: 'This week',
  nextWeek: 'Next week',
  prepare: 'To prepare for',
  later: 'Later',
  noDate: 'No date',
  closed: CLOSED_WORDS,
  finished: 'Finished',
};

/** A piece of work as the to-do list orders it. */
export interface TodoEntry extends AgendaEntry {
  /** The day it is ordered by: the person's aim, else the day it is due; null without a date */
  by: number | null;
}

export interface Bucket {
  name: BucketName;
  entries: TodoEntry[];
}

export interface TodoOptions {
  now: number;
  viewer: Viewer;
  /** ISO weekday a week begins on */
  firstDay: number;
  show: 'open' | 'finished';
  calendarId: string | null;
}

/**
 * Work by when it is to be done. The aim orders it while it is still ahead of the due date; past due is what
 * is past its due date, never what merely missed an aim. Each piece of work stands in exactly one bucket;
 * finished work, where it is asked for, in one of its own, the latest first.
 */
export function todoBuckets(
  occurrences: readonly OccurrenceView[],
  { now, viewer, firstDay, show, calendarId }: TodoOptions,
): Bucket[] {
  const day = today(now, viewer);
  const weekEnd = startOfWeek(day, firstDay) + 6;
  const buckets = new Map<BucketName, TodoEntry[]>(BUCKETS.map((name) => [name, []]));
  const entries = occurrences
    .filter((o) => o.status !== 'cancelled' && (!calendarId || o.calendarId === calendarId))
    .map((o) => agendaEntry(o, now, viewer))
    .filter((e) => e.urgency !== null && (e.urgency === 'finished') === (show === 'finished'))
    .filter((e) => e.occurrence.undated || e.urgency === 'finished' || stillCounts(e, day));
  for (const entry of nextOfEndless(entries)) {
    const { occurrence } = entry;
    const by = occurrence.undated
      ? null
      : occurrence.aim
        ? Math.min(dueDay(occurrence.aim, viewer), entry.day)
        : entry.day;
    buckets.get(bucketOf(entry, by, day, weekEnd))!.push({ ...entry, by });
  }
  if (show === 'open') buckets.get('prepare')!.push(...toPrepare(occurrences, { now, viewer, calendarId }));
  const compare = entryOrder(viewer);
  const turn = show === 'finished' ? -1 : 1;
  const order = (a: TodoEntry, b: TodoEntry) =>
    place(a) - place(b) || turn * ((a.by ?? 0) - (b.by ?? 0)) || turn * (a.day - b.day) || compare(a, b);
  return BUCKETS.map((name) => ({ name, entries: buckets.get(name)!.sort(order) })).filter(
    (b) => b.entries.length,
  );
}

/** Days ahead up to which a test at its hours stands among what is to be prepared for. */
const PREPARE_AHEAD = 28;

/** Finds tests that are sat at their hours and are still to come: they are never due, and are to be prepared for. */
function toPrepare(
  occurrences: readonly OccurrenceView[],
  { now, viewer, calendarId }: Pick<TodoOptions, 'now' | 'viewer' | 'calendarId'>,
): TodoEntry[] {
  const day = today(now, viewer);
  return occurrences
    .filter((o) => o.kind === 'test' && !o.due && !o.undated && !o.finished && o.status !== 'cancelled')
    .filter((o) => (!calendarId || o.calendarId === calendarId) && instantIn(o.end ?? o.start, viewer) > now)
    .map((o) => agendaEntry(o, now, viewer))
    .filter((e) => e.day <= day + PREPARE_AHEAD)
    .map((e) => ({ ...e, by: e.day }));
}

/** Where a person has put it in its bucket; what was never moved comes after, in order of date. */
const place = ({ occurrence }: TodoEntry) => occurrence.position ?? Number.MAX_SAFE_INTEGER;

function bucketOf({ urgency }: AgendaEntry, by: number | null, day: number, weekEnd: number): BucketName {
  if (urgency === 'finished') return 'finished';
  if (by === null) return 'noDate';
  if (urgency === 'pastDue') return 'pastDue';
  if (urgency === 'unsettled') return 'settle';
  if (urgency === 'closed') return 'closed';
  if (by <= day) return 'today';
  return by <= weekEnd ? 'thisWeek' : by <= weekEnd + 7 ? 'nextWeek' : 'later';
}
