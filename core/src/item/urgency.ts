import { DAY, HOUR } from '../time/civil.ts';
import { instantIn, type When } from '../time/when.ts';
import type { Zone } from '../time/zone.ts';
import type { HandInWay } from './kind.ts';

/**
 * Standing of a piece of work. `unsettled`: its date has passed and nobody has said what became of it, but
 * nothing could have been seen of it either (paper, in class, nothing to hand in), so it does not count as
 * past due. `closed`: it was not handed in, and cannot be any more.
 */
export type Urgency = 'finished' | 'coming' | 'soon' | 'pastDue' | 'unsettled' | 'closed';

const SOON = 48 * HOUR;

/** The last moment that still counts as in time: an all-day due date lasts until that day ends. */
export function deadlineOf(due: When, viewer: Zone): number {
  return due.kind === 'date'
    ? instantIn({ kind: 'date', date: nextDay(due.date) }, viewer)
    : instantIn(due, viewer);
}

const nextDay = (date: string) => new Date(Date.parse(date + 'T00:00:00Z') + DAY).toISOString().slice(0, 10);

export function urgencyOf(
  work: { due: When; closes?: When | null; finished: boolean; handIn: HandInWay; stillToDo?: boolean },
  now: number,
  viewer: Zone,
): Urgency {
  if (work.finished) return 'finished';
  const left = deadlineOf(work.due, viewer) - now;
  if (left >= SOON) return 'coming';
  if (left >= 0) return 'soon';
  if (work.closes && !work.stillToDo && deadlineOf(work.closes, viewer) < now) return 'closed';
  // Nothing can be seen of paper; but where a person has said that it is still to do, it is past due like the
  // rest.
  return work.stillToDo || work.handIn === 'online' || work.handIn === 'mail' || work.handIn === 'unknown'
    ? 'pastDue'
    : 'unsettled';
}
