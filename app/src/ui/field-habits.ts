import { createContext } from 'react';

/** Way in which the person writes hours, and on which weekday (1 is Monday) their weeks begin. */
export interface Habits {
  hours: 12 | 24;
  firstDay: 1 | 6 | 7;
  /** The day it is, as `2026-10-06`, which the device may not know */
  today?: string;
}

/** The habits that fields of days and hours follow. */
export const FieldHabits = createContext<Habits>({ hours: 24, firstDay: 1 });
