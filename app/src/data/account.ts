import type { AccountView } from '@zephyrfield/core/api/account-view';
import { useQuery } from '@tanstack/react-query';
import { beginAnew } from './auth';
import { call } from './client';
import { forgetPerson } from './forget';
import { letAllGo } from './outbox-settle';
import { keys, refresh } from './queries';

const KEY = ['account'] as const;

/** One’s own account. */
export const useAccount = () => useQuery<AccountView>({ queryKey: KEY, queryFn: () => call('account') });

/** After something of the account was changed. */
export const accountChanged = () => Promise.all([refresh(KEY), refresh(keys.session)]);

/** @throws Refusal */
export async function changeName(name: string): Promise<void> {
  await call('changeName', { body: { name } });
  await accountChanged();
}

/** @returns whether it waits until the link sent there was opened @throws Refusal */
export async function changeEmail(email: string, password: string): Promise<boolean> {
  const { waits } = await call('changeEmail', { body: { email, password } });
  await accountChanged();
  return waits;
}

/** @throws Refusal */
export async function changePassword(currentPassword: string, newPassword: string): Promise<void> {
  await call('changePassword', { body: { currentPassword, newPassword } });
  await accountChanged();
}

/** @throws Refusal */
export async function endSession(id: string): Promise<void> {
  await call('endSession', { params: { id } });
  await accountChanged();
}

/** @throws Refusal */
export async function endOtherSessions(): Promise<void> {
  await call('endOtherSessions');
  await accountChanged();
}

/** @throws Refusal */
export const beginSecondStep = (password: string) => call('beginSecondStep', { body: { password } });

/** @throws Refusal */
export async function confirmSecondStep(code: string): Promise<void> {
  await call('confirmSecondStep', { body: { code } });
  await accountChanged();
}

/** @throws Refusal */
export async function endSecondStep(password: string): Promise<void> {
  await call('endSecondStep', { body: { password } });
  await accountChanged();
}

/** Has the account deleted in seven days, and signs out. @throws Refusal */
export async function leaveForGood(password: string): Promise<void> {
  await call('leaveForGood', { body: { password } });
  letAllGo();
  forgetPerson();
  await beginAnew();
}

/** @throws Refusal */
export const forgotPassword = (email: string) => call('forgotPassword', { body: { email } });

/** @throws Refusal */
export const lookAtReset = (token: string) => call('lookAtReset', { body: { token } });
export const resetPassword = (body: {
  token: string;
  newPassword: string;
  passkeys: string[];
  secondStep: boolean;
}) => call('resetPassword', { body });
