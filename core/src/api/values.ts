import { z } from 'zod';
import { COLOURS, FLAG_PATTERNS, FLAG_SHAPES, type Flag as FlagType } from '../item/flag.ts';
import type { Passage as PassageType } from '../item/passage.ts';
import { CALENDAR_KINDS, HAND_IN_WAYS, ITEM_KINDS } from '../item/kind.ts';
import { parseDate, parseInstant, parseLocal } from '../time/civil.ts';
import type { When as WhenType } from '../time/when.ts';
import { ianaZone } from '../time/zone.ts';
import type { Settings as SettingsType, Term as TermType } from '../view/settings.ts';

/**
 * Signs that no line of text needs: control characters, line separators, and what turns the direction of the words
 * around it (Unicode 23.1, 23.2). They would forge lines of a mail's head, of a table or of a log.
 */
const CONTROLS = /[\u0000-\u001f\u007f-\u009f\u2028\u2029\u202a-\u202e\u2066-\u2069]/g;

/** One line of text that a person has typed: a name, a title, a place. Controls in it become spaces. */
export const line = (): z.ZodString =>
  z
    .string()
    .overwrite((text) => text.replace(CONTROLS, ' '))
    .trim();

/** What is said of a field whose check has no words of its own: the library’s are for who writes code. */
z.config({
  customError: ({ code, expected, input }) => {
    if (code === 'invalid_type' && input === undefined) return 'This is missing.';
    if (code === 'invalid_type')
      return expected === 'number' || expected === 'int' ? 'Enter a number.' : 'That cannot be read.';
    if (code === 'invalid_value') return 'Choose one of those that are offered.';
    return undefined;
  },
});

/**
 * The checks of what comes in from outside, for the types of the same names. They stand apart from these so
 * that a page that only shows things need not load the checker.
 */
export const ItemKind = z.enum(ITEM_KINDS);
export const HandInWay = z.enum(HAND_IN_WAYS);
export const CalendarKind = z.enum(CALENDAR_KINDS);
export const Colour = z.enum(COLOURS);
export const Flag = z.object({
  shape: z.enum(FLAG_SHAPES),
  pattern: z.enum(FLAG_PATTERNS),
  letters: z
    .string()
    .trim()
    .min(1, 'Give the flag one to three letters.')
    .max(3, 'Give the flag at most three letters.'),
}) satisfies z.ZodType<FlagType>;
export type Flag = FlagType;

/** A day as `2026-10-06`. */
export const Day = z.string().refine((text) => !Number.isNaN(parseDate(text)), 'There is no such day.');
export const ZoneName = z
  .string()
  .max(100)
  .refine((name) => ianaZone(name) !== undefined, 'There is no time zone of that name.');

export const When = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('date'), date: Day }),
  z.object({
    kind: z.literal('floating'),
    local: z
      .string()
      .refine((text) => !text.endsWith('Z') && !Number.isNaN(parseLocal(text)), 'There is no such time.'),
  }),
  z.object({
    kind: z.literal('instant'),
    at: z.string().refine((text) => !Number.isNaN(parseInstant(text)), 'There is no such moment.'),
    zone: z.string().max(100),
  }),
]) satisfies z.ZodType<WhenType>;

const Run = z.object({
  text: z.string(),
  bold: z.boolean().optional(),
  italic: z.boolean().optional(),
  href: z.string().optional(),
});
export const Passage = z.object({
  kind: z.enum(['paragraph', 'heading', 'bullet', 'numbered']),
  number: z.number().optional(),
  runs: z.array(Run),
}) satisfies z.ZodType<PassageType>;

/** Minutes of work. */
export const Minutes = z
  .number()
  .int()
  .min(0, 'That cannot be less than nothing.')
  .max(1200, 'Keep it under 20 hours.');
const Loads = z.object({
  assignment: Minutes,
  test: Minutes,
  discussion: Minutes,
  reading: Minutes,
  project: Minutes,
  practice: Minutes,
});

export const Settings = z
  .object({
    hours: z.union([z.literal(24), z.literal(12)]),
    firstDay: z.union([z.literal(1), z.literal(6), z.literal(7)]),
    zone: ZoneName.nullable(),
    weeks: z.enum(['term', 'year']),
    dayFrom: z.number().int().min(0).max(23),
    dayTo: z.number().int().min(1).max(24),
    shelfFrom: z.number().int().min(0).max(24),
    nightUntil: z.number().int().min(0).max(6),
    theme: z.enum(['system', 'light', 'dark']),
    ahead: z.number().int().min(1, 'At least one day.').max(60, 'At most 60 days.'),
    loads: Loads,
  })
  .refine((s) => s.dayFrom < s.dayTo, {
    path: ['dayTo'],
    message: 'The last hour comes after the first.',
  }) satisfies z.ZodType<SettingsType>;
export type Settings = SettingsType;

export const Term = z
  .object({
    start: Day,
    end: Day,
    names: z
      .array(z.object({ day: Day, name: z.string().trim().min(1, 'Give the week a name.').max(40) }))
      .max(60),
    breaks: z.array(z.object({ from: Day, to: Day, name: z.string().trim().max(60) })).max(30),
  })
  .refine((t) => t.start <= t.end, { path: ['end'], message: 'The term ends after it begins.' })
  .refine((t) => parseDate(t.end) - parseDate(t.start) <= 400, {
    path: ['end'],
    message: 'A term is at most a year.',
  }) satisfies z.ZodType<TermType>;
export type Term = TermType;
