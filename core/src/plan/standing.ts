import { keyOf } from '../item/occurrence.ts';
import { parseDate } from '../time/civil.ts';
import { minuteOfDay, today } from '../words/when.ts';
import { plural } from '../words/text.ts';
import { MOST_DAYS, busySpans, ownSpans, type Schedule } from './ask.ts';
import type { Span } from './evenings.ts';
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
  const farthest = runUps.reduce(
    (far, r) => r.sittings.reduce((f, s) => Math.max(f, parseDate(s.day) - first), far),
    0,
  );
  const days = Math.min(MOST_DAYS, farthest + 1);
  const at = { first, minute, busy: busySpans(schedule, first, days), own: ownSpans(schedule, first, days) };
  return runUps.flatMap((r): Trouble[] => {
    const key = keyOf(r);
    const occurrence = byKey.get(key);
    const planned = inOrder(r.sittings).filter((s) => s.state === 'planned');
    // What is not there is nowhere shown, its sittings neither: there is nothing to say of it.
    if (!occurrence) return [];
    if (occurrence.status === 'cancelled') return planned.length ? [{ kind: 'gone', key }] : [];
    if (occurrence.finished) return [];
    const last = lastDayOf(occurrence, viewer);
    const found = planned.flatMap((sitting): Trouble[] => {
      const kind = wrongWith(sitting, last, at);
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
  s: PlannedSitting,
  last: number,
  { first, minute, busy, own }: { first: number; minute: number; busy: Span[][]; own: Span[][] },
): 'tooLate' | 'missed' | 'busy' | 'notFree' | null {
  const day = parseDate(s.day);
  if (hasGoneBy(s, first, minute)) return 'missed';
  if (day > last) return 'tooLate';
  if (s.pinned) return null;
  const end = s.from + s.minutes;
  if (busy[day - first]?.some((b) => b.from < end && s.from < b.to)) return 'busy';
  return own[day - first]?.some((f) => f.from <= s.from && end <= f.to) ? null : 'notFree';
}

/** Counts the plans of which something no longer holds; one that is only too short is none of them. */
export const brokenPlans = (troubles: readonly Trouble[]): number =>
  new Set(troubles.filter((t) => t.kind !== 'short').map((t) => t.key)).size;

/** Says above all that is wrong whether plans do not hold any more, or are only too short. */
export const standingTitle = (troubles: readonly Trouble[]): string => {
  const count = brokenPlans(troubles);
  return count
    ? `${plural(count, 'plan')} no longer ${count === 1 ? 'holds' : 'hold'}`
    : 'Not all of it is planned';
};

/** Counts how many sittings of a run-up were missed one after the other, up to now. */
export function missedInARow({ sittings }: RunUpOf, schedule: Pick<Schedule, 'now' | 'viewer'>): number {
  const day = today(schedule.now, schedule.viewer);
  const minute = minuteOfDay(schedule.now, schedule.viewer);
  const past = inOrder(sittings).filter((s) => s.state !== 'planned' || hasGoneBy(s, day, minute));
  const kept = past.findLastIndex((s) => s.state === 'done');
  return past.length - 1 - kept;
}
