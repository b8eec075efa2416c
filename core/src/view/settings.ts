import { z } from 'zod';
import { parseDate } from '../time/civil.ts';
import { ianaZone } from '../time/zone.ts';

const Minutes = z.number().int().min(0, 'That cannot be less than nothing.').max(1200, 'Keep it under 20 hours.');
const Day = z.string().refine((text) => !Number.isNaN(parseDate(text)), 'There is no such day.');

/** How long work takes by default, in minutes, by what it is. */
export const Loads = z.object({ assignment: Minutes, test: Minutes, discussion: Minutes, reading: Minutes, project: Minutes, practice: Minutes });
export type Loads = z.infer<typeof Loads>;

/** How one person likes to look at things. */
export const Settings = z
  .object({
    hours: z.union([z.literal(24), z.literal(12)]),
    /** ISO weekday a week begins on */
    firstDay: z.union([z.literal(1), z.literal(6), z.literal(7)]),
    /** The person's own zone; null for the learner's */
    zone: z.string().max(100).refine((name) => ianaZone(name) !== undefined, 'There is no time zone of that name.').nullable(), // prettier-ignore
    /** What weeks are called: by the term's names, or by their number in the year (ISO 8601) */
    weeks: z.enum(['term', 'year']),
    /** The hours a day shows at least */
    dayFrom: z.number().int().min(0).max(23),
    dayTo: z.number().int().min(1).max(24),
    /** From this hour on a deadline stands on the shelf “by end of day” */
    shelfFrom: z.number().int().min(0).max(24),
    theme: z.enum(['system', 'light', 'dark']),
    /** How many days ahead “next up” looks */
    ahead: z.number().int().min(1, 'At least one day.').max(60, 'At most 60 days.'),
    loads: Loads,
  })
  .refine((s) => s.dayFrom < s.dayTo, { path: ['dayTo'], message: 'The last hour comes after the first.' });
export type Settings = z.infer<typeof Settings>;

export const DEFAULT_LOADS: Loads = { assignment: 45, test: 60, discussion: 30, reading: 40, project: 150, practice: 25 };
export const DEFAULT_SETTINGS: Settings = { hours: 24, firstDay: 1, zone: null, weeks: 'term', dayFrom: 8, dayTo: 18, shelfFrom: 17, theme: 'system', ahead: 7, loads: DEFAULT_LOADS };

/** A term as it was typed or taken from the school's calendar. Days inclusive. */
export const Term = z
  .object({
    start: Day,
    end: Day,
    /** Names of weeks, by any day in them */
    names: z.array(z.object({ day: Day, name: z.string().trim().min(1, 'Give the week a name.').max(40) })).max(60),
    breaks: z.array(z.object({ from: Day, to: Day, name: z.string().trim().max(60) })).max(30),
  })
  .refine((t) => t.start <= t.end, { path: ['end'], message: 'The term ends after it begins.' })
  .refine((t) => parseDate(t.end) - parseDate(t.start) <= 400, { path: ['end'], message: 'A term is at most a year.' });
export type Term = z.infer<typeof Term>;
