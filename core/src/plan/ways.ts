import { keyOf, type OccurrenceView } from '../item/occurrence.ts';
import { formatDate, weekday } from '../time/civil.ts';
import { today } from '../words/when.ts';
import { ask, type Schedule } from './ask.ts';
import { spansOn, type PlanSettings, type Span } from './evenings.ts';
import { planAll } from './planner.ts';
import { lastDayOf, type RunUpOf } from './run-up.ts';

/** Changes that may make something fit. */
export type WayDraft =
  | { kind: 'day'; day: number; span: Span }
  | { kind: 'more'; minutes: number }
  | { kind: 'twice' }
  | { kind: 'longer'; minutes: number }
  /** It would have to be due so many days later */
  | { kind: 'later'; days: number }
  /** What it would take to be finished by a day, some before */
  | { kind: 'aim'; day: number };
/** A way to make something fit, with the minutes that would still not fit of it then. */
export type Way = WayDraft & { left: number };

/** Number of moves that are enough to know what a way is worth. */
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
  const { settings } = schedule;
  const leftIf = (changed: Partial<Schedule>): number => {
    const asked = ask({ ...schedule, ...changed }, which);
    const { unplaced } = planAll(asked.question, MOVES);
    return unplaced.reduce((sum, u) => sum + (u.work === key ? u.minutes : 0), 0);
  };
  const dated = (change: Partial<OccurrenceView>) => ({
    occurrences: schedule.occurrences.map((o) => (o === occurrence ? { ...o, ...change } : o)),
  });
  const date = (day: number) => ({ kind: 'date' as const, date: formatDate(day) });
  const last = lastDayOf(occurrence, schedule.viewer);
  const worth = (way: WayDraft): Way => ({
    ...way,
    left: leftIf(
      way.kind === 'later'
        ? dated({ aim: null, due: date(last + way.days + 1) })
        : way.kind === 'aim'
          ? dated({ aim: date(way.day) })
          : {
              settings: settingsWith(settings, way),
              runUps: schedule.runUps.map((r) => (r === runUp ? runUpWith(r, way) : r)),
            },
    ),
  });

  const now = leftIf({});
  const firstDay = today(schedule.now, schedule.viewer);
  const unused: number[] = [];
  for (let day = last; day >= firstDay && unused.length < 4; day--)
    if (!spansOn(settings, day, formatDate(day)).length) unused.push(day);
  const groups: WayDraft[][] = [
    unused.map((day) => ({ kind: 'day', day, span: weekday(day) > 5 ? WEEKEND : WEEKDAY })),
    [15, 30, 60].map((minutes) => ({ kind: 'more', minutes })),
    [{ kind: 'twice' }],
    [{ kind: 'longer', minutes: (runUp.longest ?? settings.longest) + 20 }],
    [1, 2, 4, 7].map((days) => ({ kind: 'later', days })),
  ];
  const helping = groups.flatMap((ways) => best(ways.map(worth), now));
  const sooner = last - 2 > firstDay ? [worth({ kind: 'aim', day: last - 1 })] : [];
  // It says nothing where as much is left out as it is.
  const aim = sooner.filter((way) => way.left > now);
  return [...helping.sort((a, b) => a.left - b.left), ...aim];
}

/** Tells when there is time, as a way out has it. */
export function settingsWith(settings: PlanSettings, way: WayDraft): PlanSettings {
  if (way.kind === 'day')
    return { ...settings, days: { ...settings.days, [formatDate(way.day)]: [way.span] } };
  if (way.kind !== 'more') return settings;
  // A day may take more, and its evening is longer by as much.
  const later = (spans: readonly Span[]) =>
    spans.map((s, n) => (n === spans.length - 1 ? { ...s, to: s.to + way.minutes } : s));
  return {
    ...settings,
    mostADay: settings.mostADay + way.minutes,
    week: settings.week.map(later),
    days: Object.fromEntries(Object.entries(settings.days).map(([date, spans]) => [date, later(spans)])),
  };
}

/** Tells how the work is worked on, as a way out has it. */
export const runUpWith = <R extends Pick<RunUpOf, 'perDay' | 'longest'>>(runUp: R, way: WayDraft): R =>
  way.kind === 'twice'
    ? { ...runUp, perDay: runUp.perDay + 1 }
    : way.kind === 'longer'
      ? { ...runUp, longest: way.minutes }
      : runUp;

/** Of ways from the least to the most, the first that does it, else the one that does most of it. */
function best(ways: readonly Way[], now: number): Way[] {
  const most = ways.reduce<Way | null>((a, b) => (!a || b.left < a.left ? b : a), null);
  return most && most.left < now ? [most] : [];
}
