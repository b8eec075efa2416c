import { z } from 'zod';
import { claim } from './claims.ts';
import { Id, Instant } from './schemas.ts';
import { Day, line } from './values.ts';

// Times that somebody offers, one of which a learner takes; and "will you come?".

const Minute = z.number().int().min(0).max(1440);
const Word = z.string().trim().max(500, 'Keep it under 500 characters.').default('');

/** Times to be offered. */
export const NewOpenTimes = z
  .object({
    title: line().min(1, 'Say what it is for.').max(120),
    details: z.string().trim().max(2_000).default(''),
    place: line().max(300).default(''),
    firstDay: Day,
    lastDay: Day,
    /** ISO weekdays */
    weekdays: z.array(z.number().int().min(1).max(7)).min(1, 'Choose a weekday.').max(7),
    from: Minute,
    to: Minute,
    length: z.number().int().min(5, 'At least five minutes.').max(480),
    pause: z.number().int().min(0).max(240),
    places: z.number().int().min(1).max(60),
    each: z.number().int().min(1).max(60),
    namesShown: z.boolean(),
    /** Until so many minutes before it begins one can be taken or given back */
    until: z.number().int().min(0).max(20_160),
    /** For whom */
    learnerIds: z.array(claim('learner')).min(1, 'Choose whom it is for.').max(60),
    /** Days that are no school, which are left out */
    daysOff: z
      .array(z.object({ from: Day, to: Day }))
      .max(100)
      .default([]),
    key: z.uuid(),
  })
  .refine((t) => t.to > t.from, { path: ['to'], message: 'It ends after it begins.' })
  .refine((t) => t.lastDay >= t.firstDay, {
    path: ['lastDay'],
    message: 'The last day is not before the first.',
  });
export type NewOpenTimes = z.output<typeof NewOpenTimes>;

/** One of them, as who may take it sees it. */
export const OpenSlotView = z.object({
  id: Id,
  start: Instant,
  end: Instant,
  title: z.string(),
  details: z.string(),
  place: z.string(),
  by: z.string(),
  /** Places that are left */
  left: z.number(),
  /** Person who has taken it, where names are shown */
  names: z.array(z.string()),
  /** It is taken for this learner: by what name it can be given back */
  booking: Id.nullable(),
  /** Until when it can be taken or given back */
  until: Instant,
  /** It meets something that the learner has */
  clashes: z.boolean(),
});
export type OpenSlotView = z.infer<typeof OpenSlotView>;

/** Times that somebody offers, with what is taken by whom. */
export const OpenTimesView = z.object({
  id: Id,
  title: z.string(),
  place: z.string(),
  details: z.string(),
  ended: z.boolean(),
  places: z.number(),
  learners: z.array(z.string()),
  slots: z.array(
    z.object({
      id: Id,
      start: Instant,
      end: Instant,
      /** Whoever offers it has something else then: it cannot be taken until that is gone */
      withheld: z.boolean(),
      taken: z.array(
        z.object({ booking: Id, learner: z.string(), by: z.string(), word: z.string(), at: Instant }),
      ),
    }),
  ),
});
export type OpenTimesView = z.infer<typeof OpenTimesView>;

export const ofSlot = z.object({ id: claim('openSlot') });
export const ofBooking = z.object({ id: claim('booking') });
export const ofOpenTimes = z.object({ id: claim('openTime') });
export const Taking = z.object({ learner: claim('learner'), word: Word });
/** Given back, or moved to another one. */
export const GivingBack = z.object({ word: Word, to: claim('openSlot').optional() });

/** Outcome of taking one: it, or (where somebody was faster) the nearest that are left. */
export const Taken = z.object({
  taken: z.boolean(),
  nearest: z.array(OpenSlotView),
});
export type Taken = z.infer<typeof Taken>;

export const ANSWERS = ['yes', 'no', 'perhaps'] as const;
export const Reply = z.object({
  recurrenceId: z.string().max(64).default(''),
  answer: z.enum(ANSWERS),
  word: Word,
});

/** Answers to "will you come?". */
export const RepliesView = z.object({
  asked: z.boolean(),
  /** One’s own answer */
  own: z.enum(ANSWERS).nullable(),
  /** For who asks: how many of each, who has said what, and who has not answered */
  counts: z.record(z.enum(ANSWERS), z.number()),
  said: z.array(z.object({ name: z.string(), answer: z.enum(ANSWERS), word: z.string() })),
  open: z.array(z.string()),
  reminded: z.boolean(),
  mayAsk: z.boolean(),
});
export type RepliesView = z.infer<typeof RepliesView>;
