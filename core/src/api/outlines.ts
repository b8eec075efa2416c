import { z } from 'zod';
import { parseDate } from '../time/civil.ts';
import { claim } from './claims.ts';
import { Id, Instant } from './schemas.ts';
import { Day, HandInWay, ItemKind, line } from './values.ts';

// Course outlines: given, read, looked through, and kept with the calendar that they were added to.

/** The longest stretch that is taken for a term, in days. */
const A_YEAR = 400;
const TermAsked = z.object({
  from: Day,
  to: Day,
  /** Whether the day or the month comes first in numbers; left out, it is found */
  order: z.enum(['dmy', 'mdy']).optional(),
});
const isTerm = ({ from, to }: { from: string; to: string }) =>
  parseDate(to) >= parseDate(from) && parseDate(to) - parseDate(from) <= A_YEAR;
const NO_TERM = { path: ['to'], message: 'The last day is not before the first, and within a year of it.' };

export const OutlineQuery = TermAsked.extend({ name: line().min(1).max(200) }).refine(isTerm, NO_TERM);
export const OutlineTerm = TermAsked.refine(isTerm, NO_TERM);
export type OutlineTerm = z.output<typeof OutlineTerm>;

const Place = z.object({
  block: z.number().int().nonnegative(),
  row: z.number().int().nonnegative(),
  cell: z.number().int().nonnegative(),
  from: z.number().int().nonnegative(),
  to: z.number().int().nonnegative(),
});

const Cell = z.object({ text: z.string() });
/** A page as it is shown: lines and tables, with the words for where each stands. */
export const OutlinePage = z.object({
  blocks: z.array(
    z.discriminatedUnion('kind', [
      z.object({
        kind: z.literal('line'),
        where: z.string(),
        text: z.string(),
        level: z.number(),
        indent: z.number(),
        isItem: z.boolean(),
        isApart: z.boolean(),
      }),
      z.object({
        kind: z.literal('table'),
        where: z.string(),
        rows: z.array(z.object({ where: z.string(), cells: z.array(Cell) })),
      }),
    ]),
  ),
});
export type OutlinePage = z.infer<typeof OutlinePage>;

const Minute = z.number().int().min(0).max(1440);

/** Something found in an outline. Days are dates; hours are minutes of the day. */
export const OutlineRow = z.object({
  title: z.string(),
  kind: ItemKind,
  handIn: HandInWay,
  /** null where there is no such day */
  date: Day.nullable(),
  endDate: Day.nullable(),
  minute: Minute.nullable(),
  until: Minute.nullable(),
  /** Of what repeats: its dates, and its ISO weekdays */
  dates: z.array(Day),
  weekdays: z.array(z.number().int()),
  place: z.string(),
  details: z.string(),
  /** Only what a lesson is about: kept apart */
  isTopic: z.boolean(),
  doubts: z.array(z.string()),
  at: Place,
  dateAt: Place.nullable(),
});
export type OutlineRow = z.infer<typeof OutlineRow>;

/** Item that was added from an outline: the item that it became, and what the outline said of it. */
export const AddedRow = z.object({
  itemId: Id,
  title: z.string(),
  date: Day.nullable(),
  minute: Minute.nullable(),
  /** Its last day, of what lasts or repeats */
  last: Day.nullable(),
  at: Place,
});
export type AddedRow = z.infer<typeof AddedRow>;

export const OutlineHead = z.object({
  id: Id,
  name: z.string(),
  /** The calendar it was added to; null while it is only looked at */
  calendarId: Id.nullable(),
  readAt: Instant,
  /** Items that were added from it, as far as it is still there */
  items: z.array(AddedRow),
});
export type OutlineHead = z.infer<typeof OutlineHead>;

/** An outline with what was found in it. */
export const OutlineView = OutlineHead.extend({
  page: OutlinePage,
  rows: z.array(OutlineRow),
  term: z.object({ from: Day, to: Day }),
  order: z.enum(['dmy', 'mdy']).nullable(),
  /** Nothing says whether the day or the month comes first */
  isOrderOpen: z.boolean(),
  language: z.string(),
  notes: z.array(z.string()),
});
export type OutlineView = z.infer<typeof OutlineView>;

export const ofOutline = z.object({ id: claim('outline') });

/** Parts of an outline that are kept: its calendar, and what was added from where. */
export const KeepingOutline = z.object({
  calendarId: claim('calendar'),
  rows: z
    .array(
      z.object({
        /** The key that the item was written under */
        key: z.uuid().optional(),
        /** An item that is there already */
        item: claim('item').optional(),
        title: z.string().max(500),
        date: Day.nullable(),
        minute: Minute.nullable(),
        last: Day.nullable(),
        at: Place,
      }),
    )
    .max(2_000),
  /** The older one that this takes the place of */
  replaces: claim('outline').optional(),
});
