import { keyOf } from '../item/occurrence.ts';
import { parseDate, formatDate } from '../time/civil.ts';
import { minuteOfDay, today } from '../words/when.ts';
import { busySpans, type Schedule } from './ask.ts';
import { spansOn, without } from './evenings.ts';
import { hasGoneBy, inOrder, lastDayOf, minutesLeft, type PlannedSitting, type RunUpOf } from './run-up.ts';

/** What no longer holds of a run-up, in the order in which it is said. */
export type Trouble =
  | { kind: 'gone'; key: string }
  | { kind: 'tooLate'; key: string; sitting: PlannedSitting }
  | { kind: 'missed'; key: string; sitting: PlannedSitting }
  | { kind: 'busy'; key: string; sitting: PlannedSitting }
  | { kind: 'notFree'; key: string; sitting: PlannedSitting }
  /** More is to be done than is planned, by so many minutes */
  | { kind: 'short'; key: string; minutes: number };

/**
 * What no longer holds of what is planned: a date moved, something to be at came in, an evening was taken out, a sitting
 * went by. What was put there by hand only has to come before the work is due.
 */
export function troublesOf(schedule: Schedule): Trouble[] {
  const { now, viewer, occurrences, runUps } = schedule;
  const first = today(now, viewer);
  const minute = minuteOfDay(now, viewer);
  const byKey = new Map(occurrences.map((o) => [keyOf(o), o]));
  const ahead = runUps.flatMap((r) => r.sittings.map((s) => parseDate(s.day) - first));
  const busy = busySpans(schedule, first, Math.min(400, Math.max(0, ...ahead) + 1));
  return runUps.flatMap((r): Trouble[] => {
    const key = keyOf(r);
    const occurrence = byKey.get(key);
    const planned = inOrder(r.sittings).filter((s) => s.state === 'planned');
    if (!occurrence || occurrence.status === 'cancelled')
      return planned.length ? [{ kind: 'gone', key }] : [];
    if (occurrence.finished) return [];
    const last = lastDayOf(occurrence, viewer);
    const found = planned.flatMap((sitting): Trouble[] => {
      const kind = wrongWith(schedule, sitting, { first, minute, last, busy });
      return kind ? [{ kind, key, sitting }] : [];
    });
    const standing = planned.filter((s) => !found.some((f) => 'sitting' in f && f.sitting === s));
    const lacking = minutesLeft(r) - standing.reduce((sum, s) => sum + s.minutes, 0);
    // What is wrong with a sitting is said by itself; only what is beyond that is too little planned.
    const unsaid = lacking - found.reduce((sum, f) => sum + ('sitting' in f ? f.sitting.minutes : 0), 0);
    return unsaid > 0 && last >= first ? [...found, { kind: 'short', key, minutes: unsaid }] : found;
  });
}

function wrongWith(
  { settings }: Schedule,
  s: PlannedSitting,
  at: { first: number; minute: number; last: number; busy: { from: number; to: number }[][] },
): 'tooLate' | 'missed' | 'busy' | 'notFree' | null {
  const day = parseDate(s.day);
  if (hasGoneBy(s, at.first, at.minute)) return 'missed';
  if (day > at.last) return 'tooLate';
  if (s.pinned) return null;
  const taken = at.busy[day - at.first] ?? [];
  if (taken.some((b) => b.from < s.from + s.minutes && s.from < b.to)) return 'busy';
  const free = without(spansOn(settings, day, formatDate(day)), [], 0);
  return free.some((f) => f.from <= s.from && s.from + s.minutes <= f.to) ? null : 'notFree';
}

/** How many sittings of a run-up were missed one after the other, up to now. */
export function missedInARow({ sittings }: RunUpOf, schedule: Pick<Schedule, 'now' | 'viewer'>): number {
  const day = today(schedule.now, schedule.viewer);
  const minute = minuteOfDay(schedule.now, schedule.viewer);
  const past = inOrder(sittings).filter((s) => s.state !== 'planned' || hasGoneBy(s, day, minute));
  const kept = past.findLastIndex((s) => s.state === 'done');
  return past.length - 1 - kept;
}
