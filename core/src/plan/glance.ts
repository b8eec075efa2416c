import { isWork } from '../item/kind.ts';
import type { OccurrenceView } from '../item/occurrence.ts';
import { deadlineOf } from '../item/urgency.ts';
import { DAY } from '../time/civil.ts';
import { dayIn, instantOf, type When } from '../time/when.ts';
import { loadByDay, loadOf, loadShares, type LoadOptions } from '../view/load.ts';
import { plural } from '../words/text.ts';
import { today, weekdayName, shortDay } from '../words/when.ts';
import type { PlanSettings } from './evenings.ts';
import { sittingDays, type RunUpOf } from './run-up.ts';
import { workOf } from '../view/work.ts';
import { brokenPlans, troublesOf } from './standing.ts';

/** Way in which one learner stands, at a glance: what a support teacher looks for, in numbers. */
export interface Glance {
  /** Minutes of work of each week that is looked at */
  weeks: number[];
  pastDue: number;
  /** Its date has passed, and nobody has said whether it happened */
  unsettled: number;
  /** Open work of the next seven days that nobody of theirs has opened */
  notOpened: number;
  /** Run-ups that no longer hold */
  behind: number;
  /** Due within a week, and open */
  dueSoon: number;
  /** The day on which something was ticked off last, where two or more pieces of work were due since; null else */
  quietSince: number | null;
  next: { itemId: string; recurrenceId: string; calendarId: string; title: string; due: When } | null;
}

export interface GlanceOptions extends LoadOptions {
  /** An instant in milliseconds */
  now: number;
  /** Day number of the first week's first day, and how many weeks are looked at */
  firstWeek: number;
  weeks: number;
  runUps: readonly RunUpOf[];
  settings: PlanSettings;
  /** Items that somebody of theirs has opened; null where there is nobody who could */
  opened: ReadonlySet<string> | null;
}

/** So far ahead it is looked whether work was opened, and so soon is soon. */
const SOON = 7 * DAY;
/** Nothing ticked off for so many days, while work was due, is worth a word. */
const QUIET_DAYS = 4;
const DUE_MEANWHILE = 2;

export function glanceAt(occurrences: readonly OccurrenceView[], options: GlanceOptions): Glance {
  const { now, viewer, firstWeek, weeks, runUps, opened } = options;
  const byDay = loadByDay(loadShares(occurrences, { ...options, sittings: sittingDays(runUps) }));
  const work = workOf(
    occurrences.filter((o) => !o.hidden),
    { now, viewer },
  );
  let dueSoon = 0;
  const unopened = new Set<string>();
  let next: { at: number; of: OccurrenceView; due: When } | null = null;
  let lastTick: number | null = null;
  const dues: number[] = [];
  for (const o of occurrences) {
    if (!isWork(o.kind) || !o.due || o.status === 'cancelled' || o.hidden) continue;
    const at = deadlineOf(o.due, viewer);
    if (o.finishedAt) lastTick = Math.max(lastTick ?? 0, Date.parse(o.finishedAt));
    if (o.finished) continue;
    if (at <= now && at > now - 14 * DAY && o.handIn !== 'nothing') dues.push(at);
    if (at <= now) continue;
    if (at <= now + SOON) dueSoon++;
    if (at <= now + SOON && opened && !opened.has(o.itemId)) unopened.add(o.itemId);
    if (!next || at < next.at) next = { at, of: o, due: o.due };
  }
  const since = lastTick === null ? null : dayIn(instantOf(lastTick), viewer);
  const isQuiet =
    since !== null &&
    today(now, viewer) - since >= QUIET_DAYS &&
    dues.filter((at) => at > lastTick!).length >= DUE_MEANWHILE;
  return {
    pastDue: work.pastDue.length,
    unsettled: work.toSettle.length,
    dueSoon,
    notOpened: unopened.size,
    behind: runUps.length ? brokenPlans(troublesOf({ ...options, occurrences, runUps })) : 0,
    weeks: Array.from({ length: weeks }, (_, i) => Math.round(loadOf(byDay, firstWeek + i * 7, 7))),
    quietSince: isQuiet ? since : null,
    next: next && {
      itemId: next.of.itemId,
      recurrenceId: next.of.recurrenceId,
      calendarId: next.of.calendarId,
      title: next.of.title,
      due: next.due,
    },
  };
}

/** From how much on somebody stands among those who need help first. */
export const HELP_FIRST = 7;

/** Reason why somebody needs help, the weightiest first, in words; and how much. */
export interface Need {
  score: number;
  reasons: string[];
}

/** So much not opened is worth a word, and so much is reason enough to look. */
const MANY_UNOPENED = 4;
const MOST_UNOPENED = 6;

/**
 * How much somebody needs help, and why, in words. What is past due weighs most, then a plan that no longer holds and
 * days without a tick, then work that nobody has opened, then questions that are open.
 * @param day today's day number
 */
export function needOf(glance: Glance, unread: number, day: number): Need {
  const { pastDue, unsettled, notOpened, behind, quietSince } = glance;
  const reasons: [score: number, words: string][] = [];
  if (pastDue) reasons.push([10 * pastDue, `${pastDue} past due`]);
  if (quietSince !== null)
    reasons.push([
      8,
      `nothing ticked off since ${day - quietSince < 7 ? weekdayName(quietSince) : shortDay(quietSince)}`,
    ]);
  if (behind)
    reasons.push([7 * behind, `${plural(behind, 'plan')} no longer ${behind === 1 ? 'holds' : 'hold'}`]);
  if (notOpened >= MANY_UNOPENED)
    reasons.push([notOpened >= MOST_UNOPENED ? HELP_FIRST : MANY_UNOPENED, `${notOpened} not opened`]);
  if (unsettled > 1) reasons.push([unsettled, `${unsettled} to settle`]);
  if (unread) reasons.push([unread, plural(unread, 'unread note')]);
  reasons.sort((a, b) => b[0] - a[0]);
  return {
    score: reasons.reduce((sum, [score]) => sum + score, 0),
    reasons: reasons.map(([, words]) => words),
  };
}
