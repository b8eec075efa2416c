import { call } from './client';
import { forgetPerson } from './forget';
import { queryClient } from './queries';

/** After somebody else is there, or nobody: nothing that was asked for before is theirs. */
export async function beginAnew(): Promise<void> {
  queryClient.removeQueries({ type: 'inactive' });
  await queryClient.resetQueries();
}

/** Signs in. @returns whether a second step is to be taken first @throws Refusal */
export async function signIn(email: string, password: string): Promise<boolean> {
  const { secondStep } = await call('signIn', { body: { email, password } });
  if (!secondStep) await beginAnew();
  return secondStep;
}

/** Takes the second step. @throws Refusal */
export async function takeSecondStep(code: string): Promise<void> {
  await call('takeSecondStep', { body: { code } });
  await beginAnew();
}

/**
 * Makes an account: the first one by the set-up word, others by an invitation or where anybody may come.
 * @returns whether it waits for the link in a mail @throws Refusal
 */
export async function signUp(
  typed: { name: string; email: string; password: string },
  by: { setUpWord?: string; invitation?: string } = {},
): Promise<boolean> {
  const { waits } = await call('signUp', { body: { ...typed, ...by } });
  if (!waits) await beginAnew();
  return waits;
}

/** Makes the account whose link was opened, and signs in. @throws Refusal */
export async function beginAccount(token: string, password: string): Promise<void> {
  await call('beginAccount', { body: { token, password } });
  await beginAnew();
}

/** Signs out, and forgets all that this device has kept. @throws Refusal */
export async function signOut(): Promise<void> {
  await call('signOut');
  forgetPerson();
  await beginAnew();
}

/** Confirms a mail address by the secret of the link that was sent to it. @throws Refusal */
export const confirmAddress = (token: string) => call('confirmAddress', { body: { token } });
