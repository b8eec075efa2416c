import { takesTime } from '../item/busy.ts';
import { keyOf, type OccurrenceView, readyBy } from '../item/occurrence.ts';
import { HOUR, MINUTE, formatDate, parseDate } from '../time/civil.ts';
import { dayIn, localIn } from '../time/when.ts';
import { loadByDay, loadShares, type LoadOptions } from '../view/load.ts';
import { dueDay, minuteOfDay, today } from '../words/when.ts';
import { atMost, spansOn, without, type PlanSettings, type Span } from './evenings.ts';
import type { Plan, Question, Sitting, Stretch, Work } from './question.ts';
import {
  hasGoneBy,
  isOpen,
  lastDayOf,
  minutesLeft,
  sittingDays,
  type PlannedSitting,
  type RunUpOf,
} from './run-up.ts';

/** Every length is a multiple of this many minutes. */
export const STEP = 5;
const A_DAY = 24 * 60;
/** Something to be at that says no end takes so long. */
const NO_END = HOUR;

/** Material of a question: a schedule as it stands. */
export interface Schedule extends LoadOptions {
  /** An instant in milliseconds */
  now: number;
  settings: PlanSettings;
  occurrences: readonly OccurrenceView[];
  runUps: readonly RunUpOf[];
}

/** A question, and what its days are. */
export interface Asked {
  question: Question;
  /** Day number of its first day, and the minute of that day it is */
  firstDay: number;
  minute: number;
  /** What is planned, by its key; and what cannot be, since it is due before tonight */
  planned: ReadonlySet<string>;
  tooLate: string[];
}

/**
 * Turns a schedule into a question: when there is time, what is to be done, what stands. Days are the learner's own, and
 * times are of their wall clock, so that a change of clocks moves nothing.
 * @param which the run-ups to be planned, by their keys; the sittings of all others stand
 */
export function ask(schedule: Schedule, which: ReadonlySet<string>): Asked {
  const { now, viewer, settings, occurrences, runUps } = schedule;
  const first = today(now, viewer);
  const minute = minuteOfDay(now, viewer);
  const byKey = new Map(occurrences.map((o) => [keyOf(o), o]));
  const planned = runUps.filter((r) => which.has(keyOf(r)) && byKey.has(keyOf(r)));
  // Of work that is finished or called off, or not there any more, nothing stands.
  const others = runUps.filter((r) => !which.has(keyOf(r)) && isOpen(byKey.get(keyOf(r))));
  const lastOf = (r: RunUpOf) => lastDayOf(byKey.get(keyOf(r))!, viewer) - first;
  const tooLate = planned.filter((r) => lastOf(r) < 0).map(keyOf);
  const inTime = planned.filter((r) => lastOf(r) >= 0);
  const days = Math.min(MOST_DAYS, inTime.reduce((last, r) => Math.max(last, lastOf(r)), 0) + 1);

  const isAhead = (s: PlannedSitting) => s.state === 'planned' && !hasGoneBy(s, first, minute);
  const pinned = inTime.flatMap((r) => r.sittings.filter((s) => s.pinned && isAhead(s)));
  const standing = [...pinned, ...others.flatMap((r) => r.sittings.filter(isAhead))];
  const works = inTime.map((r) => workOf(r, first, minute, lastOf(r), settings));
  const keep = inTime.flatMap((r) =>
    r.sittings
      .filter((s) => !s.pinned && isAhead(s))
      .map((s) => ({
        work: keyOf(r),
        day: parseDate(s.day) - first,
        from: s.from,
        minutes: s.minutes,
      })),
  );
  const fixed = standingLoad(
    { ...schedule, runUps: others },
    new Set(inTime.map(keyOf)),
    pinned,
    first,
    days,
  );
  return {
    question: {
      days,
      step: STEP,
      pause: settings.pause,
      fixed,
      free: freeStretches(schedule, standing, fixed, first, days),
      works: works.filter((w) => w.minutes > 0),
      keep: keep.filter((k) => k.day >= 0 && k.day < days),
    },
    firstDay: first,
    minute,
    planned: new Set(inTime.map(keyOf)),
    tooLate,
  };
}
/** So far ahead is planned at most. */
export const MOST_DAYS = 400;

function workOf(r: RunUpOf, first: number, minute: number, lastDay: number, settings: PlanSettings): Work {
  const ahead = r.sittings.filter((s) => s.state === 'planned' && s.pinned && !hasGoneBy(s, first, minute));
  const minutes = minutesLeft(r) - ahead.reduce((sum, s) => sum + s.minutes, 0);
  const shortest = roundUp(r.shortest ?? settings.shortest);
  return {
    id: keyOf(r),
    minutes: roundUp(Math.max(0, minutes)),
    shortest,
    longest: Math.max(shortest, roundUp(r.longest ?? settings.longest)),
    firstDay: Math.min(lastDay, Math.max(0, parseDate(r.firstDay) - first)),
    lastDay,
    perDay: r.perDay,
    // One that was put there by hand is a polish as well.
    polish: r.polish && !ahead.some((s) => parseDate(s.day) - first === lastDay),
  };
}
const roundUp = (minutes: number) => Math.ceil(minutes / STEP) * STEP;
const roundDown = (minutes: number) => Math.floor(minutes / STEP) * STEP;

/** Minutes that stand on each day: all that is not asked about, and what was put somewhere by hand. */
function standingLoad(
  { occurrences, runUps, ...options }: Schedule,
  asked: ReadonlySet<string>,
  pinned: readonly PlannedSitting[],
  first: number,
  days: number,
): number[] {
  const open = occurrences.filter((o) => !o.finished && !asked.has(keyOf(o)));
  const load = loadByDay(loadShares(open, { ...options, sittings: sittingDays(runUps) }));
  const fixed = Array.from({ length: days }, (_, d) => Math.round(load.get(first + d) ?? 0));
  for (const s of pinned) {
    const day = parseDate(s.day) - first;
    if (day < days) fixed[day]! += s.minutes;
  }
  return fixed;
}

/** Where one could work: what was said of each day, without what one has to be at, and what has gone by. */
function freeStretches(
  schedule: Schedule,
  standing: readonly PlannedSitting[],
  fixed: readonly number[],
  first: number,
  days: number,
): Stretch[] {
  const { now, viewer, settings } = schedule;
  const taken = busySpans(schedule, first, days);
  taken[0]!.push({ from: -A_DAY, to: minuteOfDay(now, viewer) });
  for (const s of standing) {
    const { pause } = settings;
    taken[parseDate(s.day) - first]?.push({ from: s.from - pause, to: s.from + s.minutes + pause });
  }
  return ownSpans(schedule, first, days).flatMap((own, day) => {
    const whole = without(own, taken[day]!, STEP)
      .map(({ from, to }) => ({ from: roundUp(from), to: roundDown(to) }))
      .filter((s) => s.to > s.from);
    const most = roundDown(Math.max(0, settings.mostADay - fixed[day]!));
    return atMost(whole, most).map((s) => ({ day, ...s }));
  });
}

/** Gives what one has to be at on each of some days, with the ways there and back, in minutes of the day. */
export function busySpans(
  { viewer, settings, occurrences }: Pick<Schedule, 'viewer' | 'settings' | 'occurrences'>,
  first: number,
  days: number,
): Span[][] {
  const taken: Span[][] = Array.from({ length: days }, () => []);
  /** Puts a span of the wall clock on each day it reaches, and on evenings of the day before that end after midnight. */
  const put = (from: number, to: number) => {
    const last = Math.min(days - 1, Math.floor(to / A_DAY));
    for (let day = Math.max(0, Math.floor(from / A_DAY) - 1); day <= last; day++)
      taken[day]!.push({ from: from - day * A_DAY, to: to - day * A_DAY });
  };
  const minuteOf = (local: number) => Math.floor(local / MINUTE) - first * A_DAY;
  for (const o of occurrences) {
    if (o.undated || !takesTime(o)) continue;
    if (o.start.kind === 'date') {
      const day = dayIn(o.start, viewer);
      const end = o.end ? Math.max(dayIn(o.end, viewer), day + 1) : day + 1;
      put((day - first) * A_DAY, (end - first) * A_DAY);
      continue;
    }
    const start = localIn(o.start, viewer);
    const end = o.end && o.end.kind !== 'date' ? Math.max(localIn(o.end, viewer), start) : start + NO_END;
    const way = settings.travel[o.calendarId] ?? { before: 0, after: 0 };
    put(minuteOf(start) - way.before, minuteOf(end) + way.after);
  }
  return taken;
}

/** On the eves of tests, the time from which nothing is worked. */
function eveSpans(
  { viewer, settings, occurrences }: Pick<Schedule, 'viewer' | 'settings' | 'occurrences'>,
  first: number,
  days: number,
): Span[][] {
  const eves: Span[][] = Array.from({ length: days }, () => []);
  if (settings.beforeTest === null) return eves;
  for (const o of occurrences) {
    if (o.kind !== 'test' || !isOpen(o) || o.undated) continue;
    const day = dueDay(readyBy(o)!, viewer);
    eves[day - 1 - first]?.push({ from: settings.beforeTest, to: 2 * A_DAY });
  }
  return eves;
}

/** Tells when there is time on each of some days, as it was said: in minutes of the day, by weekday or of that very day. */
export function ownSpans(
  schedule: Pick<Schedule, 'viewer' | 'settings' | 'occurrences'>,
  first: number,
  days: number,
): Span[][] {
  const { settings } = schedule;
  return eveSpans(schedule, first, days).map((eve, n) =>
    without(spansOn(settings, first + n, formatDate(first + n)), eve, STEP),
  );
}

/**
 * What a plan makes of its run-ups: what was done, missed or pinned stays, what went by without a word was missed, all
 * else is as the plan says. A sitting that stays on its day stays the same one.
 * @param newKey gives keys that are not used yet
 */
export function withPlan(
  { planned: keys, firstDay, minute }: Asked,
  plan: Pick<Plan, 'sittings'>,
  runUps: readonly RunUpOf[],
  newKey: () => string,
): RunUpOf[] {
  const byWork = new Map<string, Sitting[]>();
  for (const s of plan.sittings) byWork.set(s.work, [...(byWork.get(s.work) ?? []), s]);
  return runUps
    .filter((r) => keys.has(keyOf(r)))
    .map((r) => {
      const goneBy = (p: PlannedSitting) => hasGoneBy(p, firstDay, minute);
      const before = r.sittings.filter((p) => p.state === 'planned' && !p.pinned && !goneBy(p));
      const settled = r.sittings
        .filter((p) => !before.includes(p))
        .map((p) => (goneBy(p) ? { ...p, state: 'missed' as const } : p));
      const same = new Map(before.map((s) => [s.day, s]));
      const planned = (byWork.get(keyOf(r)) ?? []).map((s) => plannedOf(s, firstDay, same, newKey));
      return { ...r, sittings: [...settled, ...planned] };
    });
}

function plannedOf(
  { day, from, minutes }: Sitting,
  firstDay: number,
  same: Map<string, PlannedSitting>,
  newKey: () => string,
): PlannedSitting {
  const date = formatDate(firstDay + day);
  const key = same.get(date)?.key ?? newKey();
  same.delete(date);
  return { key, day: date, from, minutes, state: 'planned', took: null, pinned: false };
}
