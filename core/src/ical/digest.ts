/** Properties that many servers write anew at every request: they say nothing of their entry */
export const NOISE_NAMES = ['DTSTAMP', 'CREATED', 'LAST-MODIFIED'];

/** What the two lanes of a digest begin with, and what each is multiplied by at every step */
export const SEED_A = 0xdeadbeef | 0;
export const SEED_B = 0x41c6ce57 | 0;
export const TIMES_A = 0x9e3779b1;
export const TIMES_B = 0x5f356495;

/** Digests are whole numbers of 53 bits, which SQLite and JSON keep exactly. */
const MODULUS = 2 ** 53;

/** Adds two digests: the sum is the same in any order. */
export function addDigests(a: number, b: number): number {
  const rest = MODULUS - b;
  return a >= rest ? a - rest : a + b;
}

/** Two 32-bit lanes as one digest, mixed so that sums of similar lines do not cancel out. */
export function digestOf(a: number, b: number): number {
  a = Math.imul(a ^ (a >>> 16), 0x85ebca6b) ^ Math.imul(b ^ (b >>> 13), 0xc2b2ae35);
  b = Math.imul(b ^ (b >>> 16), 0x85ebca6b) ^ Math.imul(a ^ (a >>> 13), 0xc2b2ae35);
  return 4294967296 * (2097151 & b) + (a >>> 0);
}
