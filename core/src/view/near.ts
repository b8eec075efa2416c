import { DAY } from '../time/civil.ts';

/**
 * How far what is always there reaches, back and ahead of now, in days; what lies further off is asked for by
 * pieces.
 */
export const REACH = { back: 120, ahead: 400, piece: 120 } as const;

/** Gives what is asked for between two day numbers, the second not included. */
export const between = (first: number, last: number) => ({
  from: new Date(first * DAY).toISOString(),
  to: new Date(last * DAY).toISOString(),
});

/**
 * The day numbers of what is always there around `now` (milliseconds): by whole days, so that it is asked for
 * once.
 */
export function nearDays(now: number): { first: number; last: number } {
  const day = Math.floor(now / DAY);
  return { first: day - REACH.back, last: day + REACH.ahead };
}

/** The learner that is looked at: the one last chosen on this device, else the first. */
export const lookedAt = <L extends { id: string }>(
  learners: readonly L[],
  chosenId: string | null,
): L | undefined => learners.find((l) => l.id === chosenId) ?? learners[0];
