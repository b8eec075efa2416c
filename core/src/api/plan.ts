// The checks of what is said about run-ups, and of a planner's question.
import { z } from 'zod';
import type { PlanSettings as PlanSettingsType } from '../plan/evenings.ts';
import type { Question as Asked } from '../plan/question.ts';
import {
  SAID_BY,
  type PlannedSitting as PlannedSittingType,
  type RunUp as RunUpType,
} from '../plan/run-up.ts';
import { claim, claimedRecord } from './claims.ts';
import { Id } from './schemas.ts';
import { Day as DateText } from './values.ts';

/** Longest plan, and most in it, that is answered in time. */
const MOST_DAYS = 400;
const MOST_WORKS = 500;

const whole = z.number().int().min(0);
const Day = whole.max(MOST_DAYS);
/** A minute of the day; an evening may end after midnight */
const Minute = whole.max(2 * 24 * 60);
const Length = whole.min(1).max(100_000);

const Stretch = z
  .object({ day: Day, from: Minute, to: Minute })
  .refine((s) => s.from < s.to, 'A stretch ends after it begins.');
const Work = z
  .object({
    id: z.string().min(1).max(200),
    minutes: whole.max(100_000),
    shortest: Length,
    longest: Length,
    firstDay: Day,
    lastDay: Day,
    perDay: whole.min(1).max(24),
    polish: z.boolean(),
  })
  .refine((w) => w.shortest <= w.longest, 'The longest sitting is not shorter than the shortest.');
const Sitting = z.object({ work: z.string(), day: Day, from: Minute, minutes: Length });

/** Tells whether any two stretches of a day lie on each other. */
function overlap(free: readonly z.output<typeof Stretch>[]): boolean {
  const inOrder = [...free].sort((a, b) => a.day - b.day || a.from - b.from);
  return inOrder.some((f, n) => inOrder[n - 1]?.day === f.day && inOrder[n - 1]!.to > f.from);
}

/** A question to the planner, with sizes that it answers in time. */
export const Question = z
  .object({
    days: whole.min(1).max(MOST_DAYS),
    step: whole.min(1).max(60),
    pause: whole.max(24 * 60),
    fixed: z.array(whole).max(MOST_DAYS),
    free: z.array(Stretch).max(4 * MOST_DAYS),
    works: z
      .array(Work)
      .max(MOST_WORKS)
      .refine(
        (works) => new Set(works.map((w) => w.id)).size === works.length,
        'Each work has an id of its own.',
      ),
    keep: z.array(Sitting).max(5000).default([]),
  })
  .refine((q) => q.free.every((f) => f.day < q.days), {
    message: 'A stretch lies on a day of the plan.',
    path: ['free'],
  })
  .refine(({ free }) => !overlap(free), {
    message: 'Two stretches overlap.',
    path: ['free'],
  }) satisfies z.ZodType<Asked>;

const MinuteOfDay = z.number().int().min(0, 'Enter a time.').max(1440, 'Enter a time.');
/** A span of a day; an evening may end after midnight */
const Span = z
  .object({ from: MinuteOfDay, to: Minute })
  .refine((s) => s.from < s.to && s.to <= s.from + 1440, {
    message: 'The end comes after the beginning.',
    path: ['to'],
  });
const Spans = z
  .array(Span)
  .max(6, 'Six spans a day are enough.')
  .refine(
    (spans) => spans.every((s, n) => spans.every((o, m) => m === n || o.to <= s.from || s.to <= o.from)),
    'Two of these overlap.',
  );
const SittingLength = z.number().int().min(5, 'At least 5 minutes.').max(480, 'At most 8 hours.');
const PartName = z.string().trim().min(1, 'Give it a name.').max(120, 'Keep the name under 120 characters.');
const Part = z.object({ name: PartName, share: z.number().positive().max(1000) });
const Parts = z.array(Part).max(40, 'At most 40 parts.');

const plain = {
  week: z.array(Spans).length(7),
  days: z
    .record(DateText, Spans)
    .refine((days) => Object.keys(days).length <= 400, 'At most 400 single days.'),
  mostADay: z.number().int().min(5, 'At least 5 minutes.').max(1440, 'A day has 24 hours.'),
  shortest: SittingLength,
  longest: SittingLength,
  pause: z.number().int().min(0).max(240, 'At most 4 hours.'),
  beforeTest: MinuteOfDay.nullable(),
  paceSince: DateText.nullable(),
  patterns: z.array(z.object({ name: PartName, parts: Parts })).max(40, 'At most 40 patterns.'),
};
const Way = z.object({ before: z.number().int().min(0).max(480), after: z.number().int().min(0).max(480) });
const inRightOrder = (s: { shortest: number; longest: number }) => s.shortest <= s.longest;
const ORDER = { message: 'The longest sitting is not shorter than the shortest.', path: ['longest'] };

/** Times at which a learner can work: as it is told. */
export const PlanSettings = z
  .object({ ...plain, travel: z.record(Id, Way) })
  .refine(inRightOrder, ORDER) satisfies z.ZodType<PlanSettingsType>;
/** The same as it comes in, for calendars that are there. */
export const PlanSettingsChange = z
  .object({ ...plain, travel: claimedRecord('calendar', Way, 400) })
  .refine(inRightOrder, ORDER);

export const PlannedSitting = z.object({
  key: z.string().min(1).max(64),
  day: DateText,
  from: Minute,
  minutes: z.number().int().min(1).max(1440, 'A sitting is at most a day long.'),
  state: z.enum(['planned', 'done', 'missed']),
  took: z.number().int().min(0).max(1440, 'At most a day.').nullable(),
  pinned: z.boolean(),
}) satisfies z.ZodType<PlannedSittingType>;
/** A run-up of so many sittings at most: more than one a day for a year. */
const Sittings = z
  .array(PlannedSitting)
  .max(400, 'At most 400 sittings.')
  .refine((all) => new Set(all.map((s) => s.key)).size === all.length, 'Each sitting has a key of its own.');

export const RunUp = z
  .object({
    minutes: z.number().int().min(5, 'At least 5 minutes.').max(60_000, 'At most 1,000 hours.'),
    saidBy: z.enum(SAID_BY),
    firstDay: DateText,
    perDay: z.number().int().min(1).max(12),
    polish: z.boolean(),
    shortest: SittingLength.nullable(),
    longest: SittingLength.nullable(),
    parts: Parts,
    sittings: Sittings,
  })
  .refine(
    (r) => r.shortest === null || r.longest === null || r.shortest <= r.longest,
    ORDER,
  ) satisfies z.ZodType<RunUpType>;

const ofDate = { recurrenceId: z.string().max(64).default('') };
const Version = z.number().int().min(0);
/** A run-up as it is to be, null for none; `version` is the one it was made on, 0 where there was none. */
export const RunUpWrite = z.object({
  itemId: claim('item'),
  ...ofDate,
  version: Version,
  runUp: RunUp.nullable(),
});
export const SittingTold = z.object({
  ...ofDate,
  sitting: z.string().min(1).max(64),
  state: z.enum(['planned', 'done', 'missed']),
  took: z.number().int().min(0).max(1440, 'At most a day.').nullable(),
  version: Version,
});

/** A run-up as it stands. */
export const RunUpView = z.object({
  itemId: Id,
  recurrenceId: z.string(),
  /** 0 where there is none any more */
  version: z.number(),
  runUp: RunUp.nullable(),
});
export type RunUpView = z.infer<typeof RunUpView>;

/** All that is planned in a schedule. */
export const PlanView = z.object({
  settings: PlanSettings,
  /** 0 where nobody has said yet when there is time */
  version: z.number(),
  runUps: z.array(RunUpView),
  /** Minutes that work took, of which that is known */
  took: z.array(z.object({ itemId: Id, recurrenceId: z.string(), minutes: z.number() })),
});
export type PlanView = z.infer<typeof PlanView>;
