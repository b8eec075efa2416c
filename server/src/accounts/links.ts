import { createHash, randomBytes } from 'node:crypto';
import type { AccountStore } from './account-store.ts';
import type { PeopleStore } from '../people/store.ts';

/** Time a link that was sent to an address is good, in milliseconds. */
export const LINK_TAKES = 3_600_000;

export const digestOf = (text: string): string => createHash('sha256').update(text).digest('hex');

/** Makes a link of a kind for an address; those that were made before are good no more. @returns its secret */
export function newLink(
  { people, store }: { people: PeopleStore; store: AccountStore },
  { personId, email, kind }: { personId: string; email: string; kind: 'reset' | 'move' },
  now: number,
): string {
  const token = randomBytes(24).toString('base64url');
  people.transaction(() => {
    store.dropLinks(personId, kind);
    people.addConfirmation({
      digest: digestOf(token),
      personId,
      kind,
      email,
      createdAt: now,
      expiresAt: now + LINK_TAKES,
    });
  });
  return token;
}
