import type { Auth } from './auth.ts';

/**
 * Puts an account into the database as signing up does, with a password that was hashed already: where many have the same
 * one, it is worked out once. Nobody is signed in, and no mail is sent.
 * @returns the person's id
 */
export async function putAccount(
  auth: Auth,
  { name, email, passwordHash }: { name: string; email: string; passwordHash: string },
): Promise<string> {
  const { internalAdapter } = await auth.$context;
  const { id } = await internalAdapter.createUser(
    { name, email, emailVerified: false },
    { method: 'email-password' },
  );
  await internalAdapter.linkAccount({
    userId: id,
    accountId: id,
    providerId: 'credential',
    password: passwordHash,
  });
  return id;
}
