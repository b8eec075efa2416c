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

/** Makes an account; the first one needs the set-up word, others an invitation where strangers may not come. @throws Refusal */
export async function signUp(
  name: string,
  email: string,
  password: string,
  by: { setUpWord: string } | { invitation: string },
): Promise<void> {
  await call('signUp', { body: { name, email, password, ...by } });
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
