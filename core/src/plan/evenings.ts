import { weekday } from '../time/civil.ts';

/** A span of a day, in minutes of its wall clock; one that ends after midnight ends after 1440. */
export interface Span {
  from: number;
  to: number;
}

/** When a learner can work, and how they like to. Lengths in minutes. */
export interface PlanSettings {
  /** From Monday to Sunday */
  week: Span[][];
  /** Single days that are other than their weekday, by date: none for a day that is taken out */
  days: Record<string, Span[]>;
  mostADay: number;
  /** Of one sitting */
  shortest: number;
  longest: number;
  pause: number;
  /** On the evening before a test, no work after this minute; null where that does not matter */
  beforeTest: number | null;
  /** The way to and from what is in a calendar, by its id */
  travel: Record<string, { before: number; after: number }>;
  /** Work finished before this date says nothing of the pace; null where all of it does */
  paceSince: string | null;
  /** A learner's own ways to split work */
  patterns: Pattern[];
}

/** A way to split work: what its sittings are for, each with its share of the whole. */
export interface Pattern {
  name: string;
  parts: Part[];
}
export interface Part {
  name: string;
  /** Beside the shares of the others */
  share: number;
}

const SCHOOL_DAY: Span[] = [{ from: 16 * 60 + 30, to: 20 * 60 }];
export const DEFAULT_PLAN: PlanSettings = {
  week: [
    ...Array.from({ length: 5 }, () => SCHOOL_DAY),
    [{ from: 10 * 60, to: 12 * 60 }],
    [{ from: 15 * 60, to: 17 * 60 + 30 }],
  ],
  days: {},
  mostADay: 150,
  shortest: 20,
  longest: 50,
  pause: 10,
  beforeTest: 20 * 60 + 30,
  travel: {},
  paceSince: null,
  patterns: [],
};

/** The spans one can work in on a day, as they are by its weekday or by what was said of that very day. */
export const spansOn = (settings: PlanSettings, day: number, date: string): readonly Span[] =>
  settings.days[date] ?? settings.week[weekday(day) - 1] ?? [];

/** Gives what is left of spans without some others, in their order; nothing shorter than `least`. */
export function without(spans: readonly Span[], others: readonly Span[], least: number): Span[] {
  const gone = others.filter((o) => o.from < o.to).sort((a, b) => a.from - b.from);
  return spans.flatMap(({ from, to }) => {
    const left: Span[] = [];
    let next = from;
    for (const other of gone) {
      if (other.from >= to) break;
      if (other.from > next) left.push({ from: next, to: other.from });
      next = Math.max(next, other.to);
    }
    left.push({ from: next, to });
    return left.filter((s) => s.to - s.from >= least);
  });
}

/** The first so many minutes of spans. */
export function atMost(spans: readonly Span[], minutes: number): Span[] {
  let left = minutes;
  return spans.flatMap(({ from, to }) => {
    const most = Math.max(0, Math.min(to - from, left));
    left -= most;
    return most ? [{ from, to: from + most }] : [];
  });
}
