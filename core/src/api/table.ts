import { z } from 'zod';
import { claim, lenientClaim } from './claims.ts';
import { Id } from './schemas.ts';
import { Colour, Day, Flag, ItemKind, When, line } from './values.ts';

// All learners somebody looks after, in one table.

/** Number of weeks that can be looked at. */
export const TABLE_WEEKS = ['5', '10'] as const;

/** Learners that somebody looks at together. */
export const Group = z.object({
  name: line().min(1, 'Give it a name.').max(60, 'Keep the name under 60 characters.'),
  learnerIds: z.array(Id).max(200),
});
export type Group = z.infer<typeof Group>;
export const GroupsChange = z.object({
  groups: z
    .array(Group.extend({ learnerIds: z.array(lenientClaim('learner')).max(200) }))
    .max(30, 'At most 30 groups.'),
});

/** Way in which one learner stands. */
export const LearnerRow = z.object({
  learnerId: Id,
  name: z.string(),
  /** Minutes of work of each week */
  weeks: z.array(z.number()),
  pastDue: z.number(),
  unsettled: z.number(),
  notOpened: z.number(),
  behind: z.number(),
  dueSoon: z.number(),
  /** Notes that whoever asks has not read */
  unread: z.number(),
  next: z
    .object({
      itemId: Id,
      recurrenceId: z.string(),
      title: z.string(),
      due: When,
      calendar: z.string(),
    })
    .nullable(),
  /** How much they need help, and why, in words; the weightiest first */
  score: z.number(),
  reasons: z.array(z.string()),
});
export type LearnerRow = z.infer<typeof LearnerRow>;

export const LearnersTable = z.object({
  /** First days, and what each is called */
  weeks: z.array(z.object({ start: Day, name: z.string() })),
  groups: z.array(Group),
  rows: z.array(LearnerRow),
});
export type LearnersTable = z.infer<typeof LearnersTable>;

/** Entries in the schedules of several learners on some days. */
export const DaysQuery = z.object({
  learnerIds: z
    .string()
    .max(16_000)
    .transform((text) => text.split(',').filter(Boolean))
    .pipe(z.array(claim('learner')).min(1).max(60)),
  from: Day,
  count: z.coerce.number().int().min(1).max(21),
});
export const LearnersDays = z.array(
  z.object({
    day: Day,
    learners: z.array(
      z.object({
        learnerId: Id,
        /** Minutes of work that the day asks for */
        minutes: z.number(),
        items: z.array(
          z.object({
            itemId: Id,
            recurrenceId: z.string(),
            title: z.string(),
            kind: ItemKind,
            when: When,
            finished: z.boolean(),
            calendar: z.object({ name: z.string(), colour: Colour, flag: Flag }),
          }),
        ),
      }),
    ),
  }),
);
export type LearnersDays = z.infer<typeof LearnersDays>;
