import { z } from 'zod';
import { ACCESS_EVENTS, INVITE_WAYS } from '../item/crew.ts';
import { Email } from './account.ts';
import { claim } from './claims.ts';
import { Access, Id, Instant } from './schemas.ts';

// The people around a learner, and how they come in.

/** Somebody in a learner's crew. */
export const MemberView = z.object({
  id: Id,
  personId: Id,
  name: z.string(),
  access: Access,
  /** True where it is their own schedule */
  isSelf: z.boolean(),
  since: Instant,
});
export type MemberView = z.infer<typeof MemberView>;

/** An invitation as who keeps the schedule sees it; its secret is told once, when it is made. */
export const InvitationView = z.object({
  id: Id,
  way: z.enum(INVITE_WAYS),
  /** Place where it was sent */
  email: z.string().nullable(),
  access: Access,
  asLearner: z.boolean(),
  by: z.string(),
  usesLeft: z.number(),
  used: z.number(),
  created: Instant,
  expires: Instant,
  state: z.enum(['open', 'used', 'runOut', 'takenBack']),
});
export type InvitationView = z.infer<typeof InvitationView>;

export const AccessEventView = z.object({
  at: Instant,
  kind: z.enum(ACCESS_EVENTS),
  by: z.string(),
  about: z.string(),
  access: Access.nullable(),
});
export type AccessEventView = z.infer<typeof AccessEventView>;

export const CrewView = z.object({
  members: z.array(MemberView),
  /** Empty for who may not invite, as is what happened */
  invitations: z.array(InvitationView),
  history: z.array(AccessEventView),
});
export type CrewView = z.infer<typeof CrewView>;

export const NewInvitation = z
  .object({
    learnerIds: z.array(claim('learner')).min(1, 'Choose a schedule.').max(40),
    way: z.enum(INVITE_WAYS),
    email: Email.optional(),
    access: Access,
    /** Whoever takes it is the learner themself */
    asLearner: z.boolean().default(false),
    days: z.number().int().min(1, 'At least a day.').max(90, 'At most 90 days.'),
    uses: z.number().int().min(1, 'At least once.').max(500, 'At most 500 times.'),
  })
  .refine((i) => i.way !== 'mail' || i.email !== undefined, {
    message: 'Type a mail address.',
    path: ['email'],
  })
  .refine((i) => !i.asLearner || i.learnerIds.length === 1, {
    message: 'A learner has one schedule: choose whose it is.',
    path: ['learnerIds'],
  });

/** A code or a link's token, as it was typed or came. */
export const InvitationSecret = z.object({ secret: z.string().trim().min(1, 'Type the code.').max(100) });

/** Invitation as it is told to whoever comes by it. */
export const InvitationLook = z.object({
  by: z.string(),
  learners: z.array(z.string()),
  access: Access,
  asLearner: z.boolean(),
  expires: Instant,
  /** The address it is for alone, as far as it may be told; null where it is for anybody */
  email: z.string().nullable(),
});
export type InvitationLook = z.infer<typeof InvitationLook>;

export const AudienceChange = z.object({
  audience: z
    .object({ members: z.array(claim('member')).max(200), others: z.enum(['busy', 'nothing']) })
    .nullable(),
});
