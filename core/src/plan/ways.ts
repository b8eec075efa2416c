import { keyOf } from '../item/occurrence.ts';
import { formatDate, weekday } from '../time/civil.ts';
import { today } from '../words/when.ts';
import { ask, type Schedule } from './ask.ts';
import { spansOn, type Span } from './evenings.ts';
import { planAll } from './planner.ts';
import { lastDayOf, type RunUpOf } from './run-up.ts';

/** A way to make something fit, with what would still not fit of it then. */
export type Way = { left: number } & (
  | { kind: 'day'; day: number; span: Span }
  | { kind: 'more'; minutes: number }
  | { kind: 'twice' }
  | { kind: 'longer'; minutes: number }
  /** It would have to be due so many days later */
  | { kind: 'later'; days: number }
  /** What it would take to be finished by a day, some before */
  | { kind: 'aim'; day: number }
);

/** So many moves are enough to know what a way is worth. */
const MOVES = 12_000;
const WEEKEND: Span = { from: 14 * 60, to: 16 * 60 + 30 };
const WEEKDAY: Span = { from: 16 * 60 + 30, to: 18 * 60 + 30 };

/**
 * The ways out where a piece of work does not fit, each with its effect worked out; the ones that help come first, and
 * of one kind only the least that does it, or else the most.
 */
export function waysOut(schedule: Schedule, which: ReadonlySet<string>, key: string): Way[] {
  const occurrence = schedule.occurrences.find((o) => keyOf(o) === key);
  const runUp = schedule.runUps.find((r) => keyOf(r) === key);
  if (!occurrence || !runUp) return [];
  const leftIf = (changed: Partial<Schedule>): number => {
    const asked = ask({ ...schedule, ...changed }, which);
    return planAll(asked.question, MOVES).unplaced.reduce(
      (sum, u) => sum + (u.work === key ? u.minutes : 0),
      0,
    );
  };
  const now = leftIf({});
  const { settings } = schedule;
  const last = lastDayOf(occurrence, schedule.viewer);
  const firstDay = today(schedule.now, schedule.viewer);
  const runUpAs = (change: Partial<RunUpOf>) => ({
    runUps: schedule.runUps.map((r) => (r === runUp ? { ...r, ...change } : r)),
  });
  const aimedAt = (day: number) => ({
    occurrences: schedule.occurrences.map((o) =>
      o === occurrence ? { ...o, aim: { kind: 'date' as const, date: formatDate(day) } } : o,
    ),
  });
  const dueLater = (days: number) => ({
    occurrences: schedule.occurrences.map((o) =>
      o === occurrence
        ? { ...o, aim: null, due: { kind: 'date' as const, date: formatDate(last + days + 1) } }
        : o,
    ),
  });

  const unused: number[] = [];
  for (let day = last; day >= firstDay && unused.length < 4; day--)
    if (!spansOn(settings, day, formatDate(day)).length) unused.push(day);
  const days = unused.map((day): Way => {
    const span = weekday(day) > 5 ? WEEKEND : WEEKDAY;
    return {
      kind: 'day',
      day,
      span,
      left: leftIf({ settings: { ...settings, days: { ...settings.days, [formatDate(day)]: [span] } } }),
    };
  });
  const more = [15, 30, 60].map((minutes): Way => ({
    kind: 'more',
    minutes,
    left: leftIf({ settings: moreADay(settings, minutes) }),
  }));
  const twice: Way[] =
    runUp.perDay > 1 ? [] : [{ kind: 'twice', left: leftIf(runUpAs({ perDay: runUp.perDay + 1 })) }];
  const longest = runUp.longest ?? settings.longest;
  const longer: Way = {
    kind: 'longer',
    minutes: longest + 20,
    left: leftIf(runUpAs({ longest: longest + 20 })),
  };
  const later = [1, 2, 4, 7].map((days): Way => ({ kind: 'later', days, left: leftIf(dueLater(days)) }));
  const helping = [days, more, twice, [longer], later].flatMap((ways) => best(ways, now));
  const sooner: Way[] =
    last - 2 > firstDay ? [{ kind: 'aim', day: last - 1, left: leftIf(aimedAt(last - 1)) }] : [];
  // It says nothing where as much is left out as it is.
  const aim = sooner.filter((way) => way.left > now);
  return [...helping.sort((a, b) => a.left - b.left), ...aim];
}

/** A day may take more, and its evening is longer by as much. */
function moreADay(settings: Schedule['settings'], minutes: number): Schedule['settings'] {
  const later = (spans: readonly Span[]) =>
    spans.map((s, n) => (n === spans.length - 1 ? { ...s, to: s.to + minutes } : s));
  return {
    ...settings,
    mostADay: settings.mostADay + minutes,
    week: settings.week.map(later),
    days: Object.fromEntries(Object.entries(settings.days).map(([date, spans]) => [date, later(spans)])),
  };
}

/** Of ways from the least to the most, the first that does it, else the one that does most of it. */
function best(ways: readonly Way[], now: number): Way[] {
  const most = ways.reduce<Way | null>((a, b) => (!a || b.left < a.left ? b : a), null);
  return most && most.left < now ? [most] : [];
}
