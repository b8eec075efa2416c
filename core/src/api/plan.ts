// What a planner's question looks like from outside.
import { z } from 'zod';
import type { Question as Asked } from '../plan/question.ts';

/** So long a plan, and so much in it, is answered in time. */
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

/** A question to the planner, with sizes that it answers in time. */
export const Question = z.object({
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
}) satisfies z.ZodType<Asked>;
