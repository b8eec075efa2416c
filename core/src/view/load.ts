import { keyOf, type OccurrenceView, readyBy } from '../item/occurrence.ts';
import { isWork } from '../item/kind.ts';
import { HOUR } from '../time/civil.ts';
import { localIn } from '../time/when.ts';
import type { Loads } from './settings.ts';
import { dueDay, type Viewer } from '../words/when.ts';

/** Words for how much a day or week asks for. */
export const LOAD_WORDS = ['calm', 'light', 'steady', 'strong', 'gale'] as const;
export type LoadWord = (typeof LOAD_WORDS)[number];

/** Upper bounds of the first four, in minutes of one day; a week has five working days' worth. */
const BOUNDS = [25, 60, 110, 180];
const WORKING_DAYS = 5;

export const dayWord = (minutes: number): LoadWord =>
  LOAD_WORDS[BOUNDS.findIndex((most) => minutes < most)] ?? 'gale';
export const weekWord = (minutes: number): LoadWord => dayWord(minutes / WORKING_DAYS);

/**
 * A wind barb's parts, as on a weather map: half a feather is half an hour, a feather one, a pennant five.
 */
export interface Barb {
  pennants: number;
  feathers: number;
  half: boolean;
}

export function barbOf(minutes: number): Barb {
  const halves = Math.round(minutes / 30);
  return {
    pennants: Math.floor(halves / 10),
    feathers: Math.floor((halves % 10) / 2),
    half: halves % 2 === 1,
  };
}

/** A stretch of work on one day for one piece of work. */
export interface LoadShare {
  day: number;
  calendarId: string;
  minutes: number;
}

/** Long work is spread, so many minutes a day at most, over so many days at most. */
const A_DAY = 60;
const MOST_DAYS = 7;

export interface LoadOptions {
  viewer: Viewer;
  loads: Loads;
  /** From this hour on, work due that day can still be done that day */
  shelfFrom: number;
  /** What has a run-up counts on the days of its sittings: these, by the key of its work */
  sittings?: ReadonlyMap<string, readonly { day: number; minutes: number }[]>;
}

/** Tells how long work takes before anything else is known: what the person says, else what is usual for what it is. */
export const usualMinutes = ({ kind, estimate }: OccurrenceView, loads: Loads): number =>
  estimate ?? loads[kind as keyof Loads] ?? 0;

/**
 * What each day before a due date is asked for, until the person plans otherwise: the person's estimate, else
 * the default by what it is, spread evenly over the days that end with the last evening before it is due (or
 * that very day, where it is due late). The shares of one piece of work add up to all of it.
 */
export function loadShares(
  occurrences: readonly OccurrenceView[],
  { viewer, loads, shelfFrom, sittings }: LoadOptions,
): LoadShare[] {
  const shares: LoadShare[] = [];
  for (const occurrence of occurrences) {
    const { kind, due, status, calendarId, aim, hidden } = occurrence;
    if (!isWork(kind) || !readyBy(occurrence) || status === 'cancelled' || hidden) continue;
    const planned = sittings?.get(keyOf(occurrence));
    if (planned) {
      shares.push(...planned.map(({ day, minutes }) => ({ day, calendarId, minutes })));
      continue;
    }
    // A test at its hours asks for what is planned before it, and for no evening else.
    const minutes = usualMinutes(occurrence, loads);
    if (!minutes || !due) continue;
    const day = dueDay(due, viewer);
    const late = due.kind === 'date' || localIn(due, viewer) - day * 24 * HOUR >= shelfFrom * HOUR;
    // Who aims to be finished earlier works earlier.
    const last = Math.min(late ? day : day - 1, aim ? dueDay(aim, viewer) : Infinity);
    const days = Math.max(1, Math.min(MOST_DAYS, Math.ceil(minutes / A_DAY)));
    for (let i = 0; i < days; i++) shares.push({ day: last - i, calendarId, minutes: minutes / days });
  }
  return shares;
}

/** Minutes by day. */
export function loadByDay(shares: readonly LoadShare[]): Map<number, number> {
  const days = new Map<number, number>();
  for (const { day, minutes } of shares) days.set(day, (days.get(day) ?? 0) + minutes);
  return days;
}

/** Minutes of some days in a row. */
export function loadOf(byDay: ReadonlyMap<number, number>, first: number, days: number): number {
  let sum = 0;
  for (let i = 0; i < days; i++) sum += byDay.get(first + i) ?? 0;
  return sum;
}
