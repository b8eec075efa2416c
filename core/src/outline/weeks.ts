import { startOfWeek } from '../time/civil.ts';
import type { DayParts } from './said.ts';

/** The outline's own numbering of weeks: what it tells, and else counted from the beginning of the term. */
export class Weeks {
  private readonly skipped: DayParts[] = [];
  private readonly told = new Map<number, { parts: DayParts | null; day: number | null }>();

  /** Notes that a week begins on a day, or holds it. The first that is told counts. */
  tell(week: number, parts: DayParts | null, day: number | null): void {
    if (!this.told.has(week)) this.told.set(week, { parts, day });
  }

  /** Notes that the week of a day has no number. */
  skip(parts: DayParts): void {
    this.skipped.push(parts);
  }

  /** Monday of each week that is told, and Mondays of those without a number, as day numbers. */
  resolve(dayOf: (parts: DayParts) => number | null): ToldWeeks {
    const skipped = this.skipped.flatMap((parts) => dayOf(parts) ?? []).map((day) => startOfWeek(day, 1));
    const found = new Map<number, number>();
    for (const [week, { parts, day }] of this.told) {
      const at = day ?? (parts && dayOf(parts));
      if (at !== null) found.set(week, startOfWeek(at, 1));
    }
    return { mondays: found, skipped: new Set(skipped) };
  }
}

/** Mondays by the number of their week, and those of weeks without one. */
export interface ToldWeeks {
  mondays: ReadonlyMap<number, number>;
  skipped: ReadonlySet<number>;
}

/** Monday of a week by its number; counted on from the nearest one that is told, or from the term's beginning. */
export function mondayOf(week: number, { mondays, skipped }: ToldWeeks, termFrom: number): number {
  const known = mondays.get(week);
  if (known !== undefined) return known;
  const before = [...mondays.keys()].filter((n) => n < week).sort((a, b) => b - a)[0];
  if (before !== undefined) return counted(mondays.get(before)!, week - before, skipped);
  const after = [...mondays.keys()].filter((n) => n > week).sort((a, b) => a - b)[0];
  if (after !== undefined) return mondays.get(after)! - (after - week) * 7;
  return counted(startOfWeek(termFrom, 1), week - 1, skipped);
}

/** So many weeks with a number on from a Monday. */
function counted(monday: number, weeks: number, skipped: ReadonlySet<number>): number {
  if (weeks <= 0) return monday + weeks * 7;
  let at = monday;
  for (let n = 0; n < weeks; n++) {
    at += 7;
    while (skipped.has(at)) at += 7;
  }
  return at;
}
