import { Refusal } from './client';
import { forgetEarly } from './early';

/** Asks better-auth, which has its own addresses under /api/auth. */
async function ask(path: string, body: object): Promise<void> {
  forgetEarly();
  const response = await fetch(`/api/auth${path}`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }).catch(() => null);
  if (response?.ok) return;
  const reply = (await response?.json().catch(() => null)) as { code?: string; message?: string } | null;
  throw new Refusal({ type: `urn:zephyrfield:auth`, status: response?.status ?? 0, title: WORDS[reply?.code ?? ''] ?? reply?.message ?? 'Signing in did not work.', remedy: response?.status === 429 ? 'Wait a minute and try again.' : 'Check what you typed and try again.' });
}

const WORDS: Record<string, string> = {
  INVALID_EMAIL_OR_PASSWORD: 'That e-mail address and password do not belong together.',
  USER_ALREADY_EXISTS: 'There is an account with that e-mail address already.',
  USER_ALREADY_EXISTS_USE_ANOTHER_EMAIL: 'There is an account with that e-mail address already.',
  PASSWORD_TOO_SHORT: 'The password is too short: ten characters or more.',
  INVALID_EMAIL: 'That is not an e-mail address.',
};

export const signIn = (email: string, password: string) => ask('/sign-in/email', { email, password });
export const signUp = (name: string, email: string, password: string) => ask('/sign-up/email', { name, email, password });
export const signOut = () => ask('/sign-out', {});
