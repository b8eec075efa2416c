import { z } from 'zod';
import { claimedRecord, lenientClaim } from './claims.ts';
import { BRIEF_PARTS, NEWS, WAYS, type Matrix as MatrixType, type Telling as TellingType } from '../remind/telling.ts';
import type { DayBrief as DayBriefType } from '../remind/day-brief.ts';
import { REMIND_KINDS, type RemindRule as RuleType } from '../remind/rules.ts';
import { parseLocal } from '../time/civil.ts';

const Minute = z.number().int().min(0).max(1439);
const MOST_DAYS = 60;

/** The check of a reminder rule. */
export const RemindRule = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('ahead'),
    minutes: z
      .number()
      .int()
      .min(0, 'A reminder comes before, not after.')
      .max(MOST_DAYS * 1440, 'At most 60 days ahead.'),
  }),
  z.object({ kind: z.literal('day'), days: z.number().int().min(0, 'A reminder comes before, not after.').max(MOST_DAYS, 'At most 60 days ahead.'), minute: Minute }),
  z.object({ kind: z.literal('moment'), local: z.string().refine((text) => !text.endsWith('Z') && !Number.isNaN(parseLocal(text)), 'There is no such time.') }),
]) satisfies z.ZodType<RuleType>;
export type RemindRule = RuleType;

export const RemindRules = z.array(RemindRule).max(8, 'Eight reminders are the most.');
/** What is said of some kinds of items; the others are left to what holds otherwise. */
export const RemindSet = z.partialRecord(
  z.enum(REMIND_KINDS),
  RemindRules.refine((rules): boolean => rules.every((r) => r.kind !== 'moment'), 'A moment is for one item alone.'),
);

const Ways = z.array(z.enum(WAYS)).max(3);
export const Matrix = z.record(z.enum(NEWS), Ways) satisfies z.ZodType<MatrixType>;

const Quiet = z.object({ from: Minute, to: Minute }).refine((q) => q.from !== q.to, { path: ['to'], message: 'Quiet hours that never end would hold everything back: choose another end.' });
const Briefs = z.record(z.enum(BRIEF_PARTS), Minute.nullable());
const ids = (most: number) => z.array(z.string().max(64)).max(most);

/** What one person wants to be told. */
export const Telling = z.object({
  all: Matrix,
  learners: z.record(z.string().max(64), Matrix),
  quiet: Quiet.nullable(),
  briefs: Briefs,
  muted: z.object({ items: ids(500), calendars: ids(200) }),
}) satisfies z.ZodType<TellingType>;
export type Telling = TellingType;

/** The same as it comes in. What it names may be gone by now: that is left out. */
export const TellingChange = Telling.extend({
  learners: claimedRecord('learner', Matrix, 100),
  muted: z.object({ items: z.array(lenientClaim('item')).max(500), calendars: z.array(lenientClaim('calendar')).max(200) }),
});

const Instant = z.iso.datetime();

/** Something a person was told. */
export const NoticeView = z.object({
  id: z.number(),
  learnerId: z.string(),
  news: z.enum(NEWS),
  itemId: z.string().nullable(),
  key: z.string(),
  calendarId: z.string().nullable(),
  title: z.string(),
  line: z.string(),
  at: Instant,
  seen: z.boolean(),
  /** Its item is finished by now */
  finished: z.boolean(),
  /** When it is told again */
  again: Instant.nullable(),
  /** For a brief: which, and of what day */
  brief: z.object({ part: z.enum(BRIEF_PARTS), day: z.string() }).nullable(),
});
export type NoticeView = z.infer<typeof NoticeView>;

/** How a person is told, and what stands in the way. */
export const TellingView = z.object({
  telling: Telling,
  mail: z.object({
    /** A mail server is set up here */
    ready: z.boolean(),
    address: z.string(),
    /** The person has shown that the address is theirs; before that, nothing is sent to it */
    confirmed: z.boolean(),
    waiting: z.number(),
    /** What keeps mail from going out, since when, and what to do */
    trouble: z.object({ title: z.string(), remedy: z.string(), since: Instant }).nullable(),
  }),
});
export type TellingView = z.infer<typeof TellingView>;

const Line = z.object({ when: z.string(), title: z.string(), more: z.string(), calendarId: z.string(), itemId: z.string(), key: z.string() });
export const DayBrief = z.object({
  part: z.enum(BRIEF_PARTS),
  day: z.string(),
  title: z.string(),
  sections: z.array(z.object({ heading: z.string(), lines: z.array(Line) })),
}) satisfies z.ZodType<DayBriefType>;

/** The brief of a day for one learner, as it is read and as it is copied. */
export const BriefOfDay = z.object({ learnerId: z.string(), name: z.string(), brief: DayBrief, text: z.string() });
export type BriefOfDay = z.infer<typeof BriefOfDay>;
