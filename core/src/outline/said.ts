/** A day as it is written. In numbers, which one is the month may be open. */
export interface DayParts {
  /** null where none is told */
  year: number | null;
  /** 0 where none is told: `Monday the 14th` */
  month: number;
  day: number;
  /** Written in numbers with the day or the month first: `month` is the first one of them as it stands */
  isOpen: boolean;
}

/** A date, or the days from one to another, as a text says it. */
export interface DateSaid {
  from: number;
  to: number;
  first: DayParts;
  last: DayParts | null;
  /** ISO weekday that is told beside it */
  weekday: number | null;
  /** `short`: two numbers and no more (`10/12`), which may be something else */
  form: 'words' | 'iso' | 'full' | 'short';
  /** Week of the outline's own numbering, where no date is told: `Friday of week 7` */
  week: number | null;
  /** So many weeks from that one on: `weeks 7 and 8` */
  weeks?: number | undefined;
}

/** Takes a date that was found; a stretch that is taken already is left alone. */
export type Add = (said: Omit<DateSaid, 'last' | 'weekday' | 'week'> & Partial<DateSaid>) => void;

/** A day of a week by its number; null for a weekday means any of its days. */
export const inWeek = (week: number, weekday: number | null, from = 0, to = 0): DateSaid => ({
  ...{ from, to, form: 'words', last: null, week, weekday },
  first: { year: null, month: 1, day: 1, isOpen: false },
});

/** Beginnings of the months’ English names, in order. */
export const MONTHS = 'jan feb mar apr may jun jul aug sep oct nov dec'.split(' ');
