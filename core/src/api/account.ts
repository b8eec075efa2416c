import { z } from 'zod';
import { Name } from './schemas.ts';

/**
 * Length of a password, in characters (NIST SP 800-63B 3.1.1.2: length counts, composition does not).
 */
export const PASSWORD_LENGTH = { least: 10, most: 128 } as const;

export const Password = z
  .string()
  .min(PASSWORD_LENGTH.least, 'Ten characters or more.')
  .max(PASSWORD_LENGTH.most, `At most ${PASSWORD_LENGTH.most} characters.`);
export const Email = z
  .string()
  .trim()
  .max(254, 'That is too long for a mail address.')
  .pipe(z.email('Type a mail address.'));

/** The word the server prints at its start while it has no account yet, however it is typed. */
export const SetUpWord = z.string().trim().max(64);

export const SignUp = z.object({
  name: Name,
  email: Email,
  password: Password,
  setUpWord: SetUpWord.optional(),
  /** The secret of an invitation, which lets somebody in where nobody may come by themselves */
  invitation: z.string().trim().max(100).optional(),
});
/** Whatever was typed: only its size is bounded, so that nothing is told of what a password looks like. */
export const SignIn = z.object({
  email: Email,
  password: z.string().min(1, 'Type your password.').max(PASSWORD_LENGTH.most),
});
export const PasswordChange = z.object({
  currentPassword: z.string().min(1).max(PASSWORD_LENGTH.most),
  newPassword: Password,
});
/** The current password, where something is not done without it */
const CurrentPassword = z.string().min(1, 'Type your password.').max(PASSWORD_LENGTH.most);
export const NameChange = z.object({ name: Name });
export const EmailChange = z.object({ email: Email, password: CurrentPassword });
export const Forgotten = z.object({ email: Email });
export const ResetToken = z.object({ token: z.string().min(1).max(100) });
export const PasswordReset = ResetToken.extend({
  newPassword: Password,
  /** Which passkeys stay, and whether the second step does: what is not named was not made by its owner */
  passkeys: z.array(z.string().max(64)).max(100).default([]),
  secondStep: z.boolean().default(false),
});
/** The secret of the link that begins an account, and the password that was chosen for it */
export const Beginning = ResetToken.extend({ password: CurrentPassword });
export const WithPassword = z.object({ password: CurrentPassword });
/** Answer of a browser to a passkey’s challenge (Web Authentication, in JSON); better-auth checks what is in it */
const PasskeyResponse = z
  .record(z.string().max(64), z.unknown())
  .refine((r) => JSON.stringify(r).length <= 16_384, 'That is too much for a passkey.');
export const PasskeyMade = z.object({ response: PasskeyResponse, name: Name });
export const PasskeyShown = z.object({ response: PasskeyResponse });
/** Six digits of an app, or a recovery code */
export const StepCode = z.object({ code: z.string().trim().min(6, 'Six digits.').max(20) });

export const Confirmation = z.object({ token: z.string().min(1).max(100) });
