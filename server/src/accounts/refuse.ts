import { ProblemError } from '../http/problem.ts';
import { passwordFault, type PasswordFault } from './passwords.ts';

const FAULTS: Record<PasswordFault, string> = {
  common: 'That password is one of the first that are tried.',
  pattern: 'That password is a pattern that is easy to guess.',
  yours: 'That password is your own name or address.',
};
const BETTER = 'Choose another one. Three or four unrelated words work well.';

/** Refuses what stands in one field of a form. @param path the field's name */
export const wrongField = (path: string, message: string, remedy = 'Correct it and try again.') =>
  new ProblemError(422, 'invalid', message, { remedy, fields: [{ path, message }] });

/** Refuses a password that is easily guessed. @param own the person's name and mail address @throws ProblemError 422 */
export function refuseWeak(path: string, password: string, own: readonly string[]): void {
  const fault = passwordFault(password, own);
  if (fault) throw wrongField(path, FAULTS[fault], BETTER);
}
