import { isWork } from '../item/kind.ts';
import { keyOf, type OccurrenceView } from '../item/occurrence.ts';
import { DAY, startOfWeek } from '../time/civil.ts';
import { dayIn, instantIn } from '../time/when.ts';
import type { Loads } from '../view/settings.ts';
import { dueDay, type Viewer } from '../words/when.ts';
import { usualMinutes } from '../view/load.ts';
import { hasGoneBy, type RunUpOf } from './run-up.ts';

/** Outcome of the work that was due in some week, or of some course. */
export interface Progress {
  finished: number;
  open: number;
  /** Of the finished, those that were finished in time, and later */
  onTime: number;
  late: number;
  /** Minutes that all of it was said to take, and that it took, of what both is known of */
  said: number;
  took: number;
}

export interface ProgressOptions {
  viewer: Viewer;
  loads: Loads;
  /** ISO weekday a week begins on */
  firstDay: number;
  /** Day numbers, both included */
  from: number;
  to: number;
  /** Minutes each piece of work took, by its key */
  took: ReadonlyMap<string, number>;
}

const NOTHING: Progress = { finished: 0, open: 0, onTime: 0, late: 0, said: 0, took: 0 };

/** Gives what became of work by the week it was due in (its first day) and by course (its calendar). */
export function progressOf(
  occurrences: readonly OccurrenceView[],
  { viewer, loads, firstDay, from, to, took }: ProgressOptions,
): { weeks: Map<number, Progress>; courses: Map<string, Progress> } {
  const weeks = new Map<number, Progress>();
  for (let week = startOfWeek(from, firstDay); week <= to; week += 7) weeks.set(week, { ...NOTHING });
  const courses = new Map<string, Progress>();
  for (const o of occurrences) {
    if (!isWork(o.kind) || !o.due || o.status === 'cancelled' || o.hidden) continue;
    const day = dueDay(o.due, viewer);
    if (day < from || day > to) continue;
    const course = courses.get(o.calendarId) ?? { ...NOTHING };
    courses.set(o.calendarId, course);
    for (const progress of [weeks.get(startOfWeek(day, firstDay))!, course])
      count(progress, o, viewer, usualMinutes(o, loads), took.get(keyOf(o)) ?? 0);
  }
  return { weeks, courses };
}

function count(progress: Progress, o: OccurrenceView, viewer: Viewer, said: number, took: number): void {
  if (!o.finished) {
    progress.open++;
    return;
  }
  progress.finished++;
  if (o.finishedAt !== null && o.due) {
    // All of the day it is due counts, where it says no hour.
    const until =
      o.due.kind === 'date' ? viewer.toInstant((dayIn(o.due, viewer) + 1) * DAY) : instantIn(o.due, viewer);
    if (Date.parse(o.finishedAt) <= until) progress.onTime++;
    else progress.late++;
  }
  if (took > 0) {
    progress.said += said;
    progress.took += took;
  }
}

/** Counts how many sittings were kept, of those whose time has come. */
export function sittingsKept(
  runUps: readonly RunUpOf[],
  day: number,
  minute: number,
): { kept: number; of: number } {
  const past = runUps
    .flatMap((r) => r.sittings)
    .filter((s) => s.state !== 'planned' || hasGoneBy(s, day, minute));
  return { kept: past.filter((s) => s.state === 'done').length, of: past.length };
}
