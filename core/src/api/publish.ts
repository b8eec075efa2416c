import { z } from 'zod';
import { claim } from './claims.ts';
import { OwnItem } from './own.ts';
import { Id, Instant, NewOwnCalendar } from './schemas.ts';
import { CalendarKind, Colour, Flag, When } from './values.ts';

// Calendars that somebody keeps for others: offered to schedules, taken in there, and followed from then on.

/** Which schedules a calendar is offered to: all of them, those to come and those it is taken back from. */
export const OffersChange = z.object({
  learnerIds: z.array(claim('learner')).max(200, 'At most 200 at once.'),
});

/** Way in which an offered calendar stands in one schedule, for who offers it. */
export const OfferedTo = z.object({
  learnerId: Id,
  name: z.string(),
  state: z.enum(['open', 'taken', 'declined']),
});
export type OfferedTo = z.infer<typeof OfferedTo>;

/** A calendar of a schedule that is offered to others. */
export const Publication = z.object({
  calendarId: Id,
  to: z.array(OfferedTo),
  /** So many follow it whose schedules one does not see any more */
  unseen: z.number(),
});
export type Publication = z.infer<typeof Publication>;

/** A calendar that is offered to a schedule and waits for an answer. */
export const OfferView = z.object({
  id: Id,
  by: z.string(),
  name: z.string(),
  kind: CalendarKind,
  colour: Colour,
  flag: Flag,
  /** Number of items in it, and the next of their dates */
  count: z.number(),
  next: z.array(z.object({ title: z.string(), when: When })),
  at: Instant,
});
export type OfferView = z.infer<typeof OfferView>;

export const OfferAnswer = z.object({
  take: z.boolean(),
  /** True where the reminders that its author suggests count */
  reminders: z.boolean().default(true),
});

/** All items of a calendar made by hand, as they may be written elsewhere. */
export const OwnItemsView = z.array(
  z.object({ id: Id, item: OwnItem, brief: z.boolean(), files: z.number() }),
);

/** Items of one calendar laid over another term, in a calendar of their own. */
export const Carried = z.object({
  calendar: NewOwnCalendar,
  items: z
    .array(
      z.object({
        from: claim('item'),
        item: OwnItem,
        /** Which of its dates has become which, for what single dates carry: recurrence-ids */
        dates: z.array(z.object({ was: z.string().max(64), is: z.string().max(64) })).max(400),
      }),
    )
    .min(1, 'Choose something to carry forward.')
    .max(500, 'At most 500 items at once.'),
});
