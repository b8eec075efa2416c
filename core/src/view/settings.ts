import type { ItemKind } from '../item/kind.ts';

/** Time work takes by default, in minutes, by what it is. */
export type Loads = Record<
  Extract<ItemKind, 'assignment' | 'test' | 'discussion' | 'reading' | 'project' | 'practice'>,
  number
>;

/** Way in which one person likes to look at things. */
export interface Settings {
  hours: 12 | 24;
  /** ISO weekday a week begins on */
  firstDay: 1 | 6 | 7;
  /** The person's own zone; null for the learner's */
  zone: string | null;
  /** Naming of weeks: by the term's names, or by numbers in the year (ISO 8601) */
  weeks: 'term' | 'year';
  /** The hours a day shows at least */
  dayFrom: number;
  dayTo: number;
  /** From this hour on a deadline stands on the shelf “by end of day” */
  shelfFrom: number;
  /** Up to this hour, not included, a deadline belongs to the night before */
  nightUntil: number;
  theme: 'system' | 'light' | 'dark';
  /** Number of days ahead “next up” looks */
  ahead: number;
  loads: Loads;
}

export const DEFAULT_LOADS: Loads = {
  assignment: 45,
  test: 60,
  discussion: 30,
  reading: 40,
  project: 150,
  practice: 25,
};
export const DEFAULT_SETTINGS: Settings = {
  hours: 24,
  firstDay: 1,
  zone: null,
  weeks: 'term',
  dayFrom: 8,
  dayTo: 18,
  shelfFrom: 17,
  nightUntil: 4,
  theme: 'system',
  ahead: 7,
  loads: DEFAULT_LOADS,
};

/** A term entered by hand or taken from the school's calendar. Days inclusive, as `2026-08-31`. */
export interface Term {
  start: string;
  end: string;
  /** Names of weeks, by any day in them */
  names: { day: string; name: string }[];
  breaks: { from: string; to: string; name: string }[];
}
