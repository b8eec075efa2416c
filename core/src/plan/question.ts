/** A stretch one could work in, in minutes of its day. */
export interface Stretch {
  /** Counted from the first day of the plan */
  day: number;
  from: number;
  to: number;
}

/** A piece of work that is to be split into sittings. All lengths in minutes. */
export interface Work {
  id: string;
  /** Still to be done */
  minutes: number;
  /** Of one sitting */
  shortest: number;
  longest: number;
  /** The first and the last day that sittings may lie on */
  firstDay: number;
  lastDay: number;
  /** Most sittings on one day */
  perDay: number;
  /** A sitting on the last day is wanted */
  polish: boolean;
}

/** One stretch of work on a piece of work. */
export interface Sitting {
  work: string;
  day: number;
  /** Minute of the day */
  from: number;
  minutes: number;
}

/**
 * Question to the planner. It knows no zone: days are counted from the first of the plan, times are minutes of
 * their day.
 */
export interface Question {
  /** Number of days the plan covers */
  days: number;
  /** Every length is a multiple of this */
  step: number;
  /** Between two sittings in one stretch */
  pause: number;
  /** Of each day, the minutes that stand already */
  fixed: readonly number[];
  /** None of them overlap */
  free: readonly Stretch[];
  works: readonly Work[];
  /** Sittings of the last plan, to be disturbed as little as may be */
  keep: readonly Sitting[];
}

/** Shortcomings of a plan, in the order in which it counts; `kept` is the more the better. */
export interface Score {
  /** Minutes left out, over all works */
  unplaced: number;
  /** Works that want a sitting on their last day and have none */
  unpolished: number;
  /** The sum over all days of the square of what stands there, in steps: the smaller, the evener */
  evenness: number;
  /** Number of kept sittings that have at least half of their minutes on their day */
  kept: number;
}

/** An answer of the planner. */
export interface Plan {
  sittings: Sitting[];
  /** Work that found no place, of each work that has some */
  unplaced: { work: string; minutes: number }[];
  score: Score;
  /** Nothing can be better in the first three of the score */
  proved: boolean;
}

/** The shortest sitting of a work: of one that is shorter as a whole, all of it. */
export const shortestOf = (work: Work): number => Math.min(work.shortest, work.minutes);
