import { z } from 'zod';
import { PAPERS, PRINTED, TURNS } from '../out/paper-size.ts';
import { TABLES } from '../out/columns.ts';
import { DETAILS, SHARE_KINDS, WORK_FORMS } from '../out/share.ts';
import { claim } from './claims.ts';
import { Id, Instant } from './schemas.ts';
import { Day, line } from './values.ts';

// What goes out by links that need no account, and as files.

const rules = {
  kinds: z.array(z.enum(SHARE_KINDS)).min(1, 'Choose something that goes out.').max(SHARE_KINDS.length),
  finished: z.boolean(),
  detail: z.enum(DETAILS),
  workAs: z.enum(WORK_FORMS),
  reminders: z.boolean(),
  aims: z.boolean(),
  sittings: z.boolean(),
};

/** Settings of what goes out by a link, as it comes in: calendars are claims. */
export const ShareRulesInput = z.object({
  ...rules,
  calendars: z.array(claim('calendar')).min(1, 'Choose a calendar.').max(100).nullable(),
});

export const ShareInput = z.object({
  name: line().min(1, 'Give it a name.').max(80, 'At most 80 letters.'),
  rules: ShareRulesInput,
  /** True where there is a page for anyone with the link, beside the calendar */
  page: z.boolean(),
  /** The last day on which it goes out, a date; null for as long as it stands */
  until: Day.nullable(),
});
export const ShareChange = ShareInput.partial().extend({ paused: z.boolean().optional() });

/** A link as who made it or keeps the schedule sees it; its address is told once, when it is made. */
export const ShareView = z.object({
  id: Id,
  name: z.string(),
  rules: z.object({ ...rules, calendars: z.array(Id).nullable() }),
  page: z.boolean(),
  until: Day.nullable(),
  paused: z.boolean(),
  by: z.string(),
  /** True where it is of whoever asks: others' can be paused or deleted, and not changed */
  own: z.boolean(),
  created: Instant,
  /** Number of times it was fetched, and when last; by whom nobody knows */
  fetched: z.number(),
  lastFetched: Instant.nullable(),
  /** True where whoever made it may still share the schedule: else nothing goes out by it */
  stands: z.boolean(),
});
export type ShareView = z.infer<typeof ShareView>;

/** The secret of a link's address, told this once. */
export const ShareMade = z.object({ share: ShareView, secret: z.string() });

/** Preview of what others see by a link, before they do. */
export const ShareLook = z.object({
  count: z.number(),
  /** The next ones, as far as they are seen */
  next: z.array(z.object({ title: z.string(), when: z.string(), place: z.string() })),
});
export type ShareLook = z.infer<typeof ShareLook>;

/** A list in an address: parts between commas. */
const parts = z
  .string()
  .max(8_000)
  .transform((text) => text.split(',').filter(Boolean));

/** Content that a file is to have: these calendars, from one day to another, both included. */
export const FileQuery = z.object({
  calendars: parts.pipe(z.array(claim('calendar')).max(100)).optional(),
  from: Day.optional(),
  to: Day.optional(),
});
export const PaperQuery = z.object({
  of: z.enum(PRINTED),
  size: z.enum(PAPERS),
  turn: z.enum(TURNS),
  day: Day.optional(),
  /** True where briefs are printed after what they are of */
  briefs: z.enum(['0', '1']).default('0'),
  /** Other learners, each on pages of their own */
  others: parts.pipe(z.array(claim('learner')).max(40)).optional(),
});
export const TableQuery = FileQuery.extend({
  of: z.enum(TABLES),
  columns: parts.pipe(z.array(z.string().max(20)).max(20)).optional(),
});
