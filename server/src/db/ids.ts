import { createHash, randomBytes } from 'node:crypto';

let pool: Buffer = Buffer.alloc(0);
let at = 0;

/**
 * An id that sorts by when it was made (RFC 9562, UUID version 7): rows that are made together lie together,
 * so that writing ten thousand of them touches few pages of the database. `now` in milliseconds.
 */
export function orderedId(now: number): string {
  if (at + 10 > pool.length) {
    pool = randomBytes(10_240);
    at = 0;
  }
  const chance = pool.subarray(at, (at += 10));
  const time = now.toString(16).padStart(12, '0');
  const text = chance.toString('hex');
  return `${time.slice(0, 8)}-${time.slice(8, 12)}-7${text.slice(0, 3)}-${'89ab'[chance[9]! & 3]}${text.slice(3, 6)}-${text.slice(6, 18)}`;
}

/** The id of what a page has given a key, for one learner or one person (RFC 9562, UUID version 8): the same for the same key. */
export function keyedId(ownerId: string, key: string): string {
  const text = createHash('sha256').update(`${ownerId} ${key}`).digest('hex');
  return `${text.slice(0, 8)}-${text.slice(8, 12)}-8${text.slice(13, 16)}-a${text.slice(17, 20)}-${text.slice(20, 32)}`;
}
