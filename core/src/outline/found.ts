import type { HandInWay, ItemKind } from '../item/kind.ts';
import type { DateSaid } from './said.ts';
import type { Place } from './page.ts';

/** Statement of a column or a heading of what stands under it. */
export type Hint = 'work' | 'test' | 'place' | 'off' | 'topic' | 'reading';

/** The days of a week on which something repeats, with what a text says of it. */
export interface Weekly {
  /** ISO weekdays */
  weekdays: number[];
  /** 2 for every other week */
  interval: number;
  /** Which one of its month, from 1 on, -1 for the last; null for each */
  nth: number | null;
  /** Dates from and until which it goes; null for those of the term */
  from: DateSaid | null;
  until: DateSaid | null;
  except: DateSaid[];
  /** The month that it is in alone; null for any */
  month: number | null;
  /** What else it leaves out, in words: `reading week` */
  exceptWords: string;
}

/** Something that a page says about a day, before it is known which year, order or week is meant. */
export interface Raw {
  title: string;
  /** null for what repeats, and where the file itself knows the day */
  date: DateSaid | null;
  /** Day number that the file itself knows */
  day: number | null;
  /** Last day, where two columns tell a span; the day number where the file knows it */
  lastDay: DateSaid | null;
  lastKnown: number | null;
  /** ISO weekday from a column of its own */
  weekday: number | null;
  minute: number | null;
  until: number | null;
  /** Moment when all work of its part of the page is due, where that is told */
  hour: number | null;
  hint: Hint | null;
  /** Words of a column of kinds */
  sort: string;
  place: string;
  details: string;
  weekly: Weekly | null;
  /** Which stretch of the page it belongs to; what is outside of the term counts only beside what is in it */
  group: string;
  /** `firm` for a row or a line of a list, `loose` for a sentence */
  manner: 'firm' | 'loose';
  at: Place;
  dateAt: Place | null;
}

/** Doubt about a row, in a word for programs and in words for people. */
export interface Doubt {
  kind: 'weekday' | 'outside' | 'impossible' | 'order' | 'twice' | 'break';
  words: string;
}

/** Something found in an outline. */
export interface Found {
  title: string;
  kind: ItemKind;
  handIn: HandInWay;
  /** Day number; null where there is no such day */
  day: number | null;
  lastDay: number | null;
  /** Minute of the day */
  minute: number | null;
  until: number | null;
  /** Day numbers of what repeats; empty for what stands once */
  days: number[];
  /** ISO weekdays of what repeats */
  weekdays: number[];
  place: string;
  details: string;
  /** Only what a lesson is about, or what to read for it: kept apart */
  isTopic: boolean;
  doubts: Doubt[];
  at: Place;
  dateAt: Place | null;
}

export interface OutlineOptions {
  /** The term's first and last day (day numbers) */
  from: number;
  to: number;
  /** Order of day and month that the person gives; null to find it from the page */
  order: 'dmy' | 'mdy' | null;
}

export interface OutlineReading {
  found: Found[];
  /** Which order dates in numbers were read in; null where there are none */
  order: 'dmy' | 'mdy' | null;
  /** Nothing says which: the person should be asked */
  isOrderOpen: boolean;
  language: string;
  /** Parts that could not be read, in words */
  notes: string[];
}
