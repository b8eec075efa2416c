import { randomBytes, scrypt, timingSafeEqual, type BinaryLike } from 'node:crypto';
import { dictionary } from '@zxcvbn-ts/language-common';
import { verifyPassword } from 'better-auth/crypto';
import { askerNow } from '../http/page.ts';
import { tooOften } from '../http/problem.ts';
import { FairQueue, QueueFull } from '../work/fair-queue.ts';

/**
 * scrypt at a cost that is recommended today (OWASP Password Storage: N = 2^15, r = 8, p = 3, the same
 * protection as N = 2^17, p = 1 for a quarter of the memory: 32 MB).
 */
const COST = { n: 2 ** 15, r: 8, p: 3 } as const;
const KEY_BYTES = 64;
const NAME = 'scrypt';

/**
 * One is worked out at a time, in turn between those who ask: each takes 32 MB and a quarter of a second of one
 * processor, which others need as well. Of one who asks, at most so many wait.
 */
const hashing = new FairQueue(1, 12);
const A_WHILE_SECONDS = 10;

async function derive(
  password: string,
  salt: BinaryLike,
  { n, r, p }: { n: number; r: number; p: number },
): Promise<Buffer> {
  const options = { N: n, r, p, maxmem: 128 * n * r * 2 };
  const work = () =>
    new Promise<Buffer>((done, fail) =>
      scrypt(password.normalize('NFKC'), salt, KEY_BYTES, options, (error, key) =>
        error ? fail(error) : done(key),
      ),
    );
  try {
    return await hashing.run(askerNow(), work);
  } catch (error) {
    throw error instanceof QueueFull ? tooOften(A_WHILE_SECONDS) : error;
  }
}

/** A password as it is stored: `scrypt$N$r$p$salt$key`, the last two in base64. */
export async function hashPassword(password: string): Promise<string> {
  const salt = randomBytes(16);
  const key = await derive(password, salt, COST);
  return [NAME, COST.n, COST.r, COST.p, salt.toString('base64'), key.toString('base64')].join('$');
}

/** Tells whether a password is the one that was stored, at whatever cost that was. */
export async function isPassword({ hash, password }: { hash: string; password: string }): Promise<boolean> {
  const [name, n, r, p, salt, key] = hash.split('$');
  // As better-auth stores it by itself, which installations before ours did.
  if (name !== NAME || !salt || !key) return verifyPassword({ hash, password });
  const found = await derive(password, Buffer.from(salt, 'base64'), {
    n: Number(n),
    r: Number(r),
    p: Number(p),
  });
  const wanted = Buffer.from(key, 'base64');
  return found.length === wanted.length && timingSafeEqual(found, wanted);
}

/** Tells whether it was stored at another cost than today's, and is to be hashed again. */
export const isOldHash = (hash: string): boolean =>
  !hash.startsWith(`${[NAME, COST.n, COST.r, COST.p].join('$')}$`);

let common: Set<string> | undefined;
/** Made when it is first asked for: a server starts without it. */
const commonOnes = () => (common ??= new Set(dictionary['passwords-common'] as readonly string[]));

const ROWS = ['abcdefghijklmnopqrstuvwxyz', '01234567890', 'qwertyuiop', 'asdfghjkl', 'zxcvbnm'];

/** Tells whether all of it is one run, forwards or backwards, of letters, digits or keys beside each other. */
function isRun(text: string): boolean {
  const reversed = [...text].reverse().join('');
  return ROWS.map((row) => row.repeat(Math.ceil(text.length / row.length) + 1)).some(
    (run) => run.includes(text) || run.includes(reversed),
  );
}

/** Tells whether it is a short piece over and over: `aaaaaaaaaa`, `abcabcabcabc`. */
const isRepeated = (text: string): boolean =>
  [1, 2, 3, 4, 5].some(
    (n) => n * 2 <= text.length && text.startsWith(text.slice(0, n).repeat(Math.floor(text.length / n))),
  );

/** A word without the digits and signs people put before and after it. */
const bare = (text: string): string => /[a-z](?:.*[a-z])?/s.exec(text)?.[0] ?? '';

export type PasswordFault = 'common' | 'pattern' | 'yours';

/**
 * Why a password is refused: it is among those that are tried first (a list of 49,000 from known breaches,
 * also with digits and signs around it), it is a pattern, or it is the person's own name or address (NIST SP
 * 800-63B 3.1.1.2). Null where it is not.
 * @param own the person's name and mail address
 */
export function passwordFault(password: string, own: readonly string[]): PasswordFault | null {
  const text = password.normalize('NFKC').toLowerCase();
  const inner = bare(text);
  // A word that is most of it; in a long phrase a common word at the end is no weakness.
  const word = inner.length * 2 >= text.length ? inner : '';
  if (commonOnes().has(text) || (word !== '' && commonOnes().has(word))) return 'common';
  if (isRun(text) || isRepeated(text)) return 'pattern';
  const words = ['zephyrfield', ...own.flatMap((each) => [each, ...each.split(/[\s@.]/)])];
  const names = words.map((each) => each.toLowerCase()).filter((each) => each.length >= 4);
  return names.some((name) => text === name || bare(text) === bare(name)) ? 'yours' : null;
}
