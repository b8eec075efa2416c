import { createHmac, timingSafeEqual } from 'node:crypto';

/** Length of a time step, in milliseconds (RFC 6238 4, the step X). */
const STEP = 30_000;
/** Steps before and after the present one whose codes are taken as well, for clocks that differ (RFC 6238 5.2). */
const DRIFT = [0, -1, 1] as const;

/**
 * Gives the code of a time step (RFC 4226 5.3, RFC 6238 4.2).
 * @param key the shared secret
 * @returns six digits
 */
export function codeOfStep(key: Buffer, step: number): string {
  const counter = Buffer.alloc(8);
  counter.writeBigUInt64BE(BigInt(step));
  const mac = createHmac('sha1', key).update(counter).digest();
  const number = mac.readUInt32BE(mac.at(-1)! & 15) & 0x7fffffff;
  return String(number % 1_000_000).padStart(6, '0');
}

/**
 * Finds the time step that a code is of.
 * @param now an instant in milliseconds
 * @returns null where it is of none that is taken now
 */
export function stepOfCode(code: string, key: Buffer, now: number): number | null {
  const present = Math.floor(now / STEP);
  const typed = Buffer.from(code);
  const steps = DRIFT.map((drift) => present + drift).filter((step) => step >= 0);
  const found = steps.find((step) => {
    const right = Buffer.from(codeOfStep(key, step));
    return right.length === typed.length && timingSafeEqual(right, typed);
  });
  return found ?? null;
}
