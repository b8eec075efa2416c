import { startOfWeek } from '../time/civil.ts';
import type { DayParts } from './dates.ts';

/** The outline's own numbering of weeks: what it tells, and else counted from the beginning of the term. */
export class Weeks {
  private readonly told = new Map<number, { parts: DayParts | null; day: number | null }>();

  /** Notes that a week begins on a day, or holds it. The first that is told counts. */
  tell(week: number, parts: DayParts | null, day: number | null): void {
    if (!this.told.has(week)) this.told.set(week, { parts, day });
  }

  /** Monday of each week that is told, as day numbers. */
  resolve(dayOf: (parts: DayParts) => number | null): ReadonlyMap<number, number> {
    const found = new Map<number, number>();
    for (const [week, { parts, day }] of this.told) {
      const at = day ?? (parts && dayOf(parts));
      if (at !== null) found.set(week, startOfWeek(at, 1));
    }
    return found;
  }
}

/** Monday of a week by its number; counted on from the nearest one that is told, or from the term's beginning. */
export function mondayOf(week: number, told: ReadonlyMap<number, number>, termFrom: number): number {
  const known = told.get(week);
  if (known !== undefined) return known;
  const before = [...told.keys()].filter((n) => n < week).sort((a, b) => b - a)[0];
  if (before !== undefined) return told.get(before)! + (week - before) * 7;
  const after = [...told.keys()].filter((n) => n > week).sort((a, b) => a - b)[0];
  if (after !== undefined) return told.get(after)! - (after - week) * 7;
  return startOfWeek(termFrom, 1) + (week - 1) * 7;
}
