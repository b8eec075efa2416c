import { z } from 'zod';
import { Id, Instant } from './schemas.ts';

/** One device somebody is signed in on. */
export const SessionView = z.object({
  id: Id,
  /** It is the one that asks */
  here: z.boolean(),
  /** As far as the browser says: `Firefox on Android` */
  device: z.string(),
  /** The address it was last used from */
  from: z.string(),
  since: Instant,
  lastUsed: Instant,
});
export type SessionView = z.infer<typeof SessionView>;

/** Passkeys and second step of an account whose password is set anew. */
export const ResetLook = z.object({
  passkeys: z.array(z.object({ id: Id, name: z.string(), since: Instant })),
  secondStep: z.boolean(),
});
export type ResetLook = z.infer<typeof ResetLook>;

/** One's own account, as one sees it. */
export const AccountView = z.object({
  name: z.string(),
  email: z.string(),
  confirmed: z.boolean(),
  /** True where mail goes out here: without, no forgotten password is helped by it */
  mail: z.boolean(),
  secondStep: z.boolean(),
  passkeys: z.array(z.object({ id: Id, name: z.string(), since: Instant })),
  sessions: z.array(SessionView),
  /** Schedules that would go with the account, and those that stay with somebody else */
  goes: z.array(z.string()),
  stays: z.array(z.string()),
});
export type AccountView = z.infer<typeof AccountView>;
