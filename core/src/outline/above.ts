import type { Hint, Raw } from './found.ts';
import type { DateSaid } from './said.ts';
import type { Reader } from './spans.ts';
import type { TimeSaid } from './times.ts';
import type { Unit } from './units.ts';
import type { Weeks } from './weeks.ts';

/** What stands above a line and holds for it. */
export interface Above {
  /** A date by itself, and how far in it stood */
  day: { said: DateSaid; indent: number; level: number } | null;
  /** Any day of a week, by its number or by a day of it */
  week: { said: DateSaid; indent: number; level: number } | null;
  /** A month by itself, under which days stand by their numbers */
  month: number | null;
  hint: Hint | null;
  /** Minute of the day at which all work below a heading is due: `Problem sets are due at 10 pm` */
  hour: number | null;
  /** The heading, or the line that names something, that was read last */
  title: string;
  /** Something of it has been told already: the next line by itself names something else */
  isTold: boolean;
  /** The rows of the last line with a date, which the lines below may tell more of */
  open: Raw[];
  /** The stretch of the page: from a heading on, or where dates begin to stand otherwise in their lines */
  group: string;
  shape: string;
}

/** Nothing stands above. */
export const nothingAbove = (group: string, hint: Hint | null = null): Above => ({
  ...{
    day: null,
    week: null,
    month: null,
    hint,
    hour: null,
    title: '',
    isTold: false,
    open: [],
    group,
    shape: '',
  },
});

export interface Lines {
  reader: Reader;
  weeks: Weeks;
  /** So many lines begin with a date in numbers: from three on it is a list of them */
  shortFirst: number;
  shortLast: number;
}

export interface Sentence {
  text: string;
  /** Place where it begins in its unit */
  at: number;
  unit: Unit;
  /** One of several, or a long one */
  isLoose: boolean;
}

/** Makes a raw row of a sentence: its title, and what is known of it. */
export type Whole = (title: string, more: Partial<Raw>) => Raw;

/** A row of which nothing is known. */
export const EMPTY = {
  ...{ date: null, day: null, lastDay: null, lastKnown: null, weekday: null, minute: null, until: null },
  ...{ hour: null, hint: null, sort: '', place: '', details: '', weekly: null, dateAt: null },
} as const;

export const clockOf = (time: TimeSaid | undefined) => ({
  minute: time?.minute ?? null,
  until: time?.until ?? null,
});

/** Times from a letter on, by where they stand behind it. */
export const timesBehind = (times: readonly TimeSaid[], at: number) =>
  times.filter((t) => t.from >= at).map(({ from, to }) => ({ from: from - at, to: to - at }));
