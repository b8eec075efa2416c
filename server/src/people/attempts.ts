import { RateLimiterMemory, RateLimiterRes } from 'rate-limiter-flexible';
import { tooOften } from '../http/problem.ts';

const MINUTE = 60;
const HOUR = 3_600;

/** How often what could be turned against somebody may be done: so many in so many seconds. */
export const ATTEMPTS = {
  /** Wrong passwords for one account from one address, and from anywhere */
  wrongFromHere: { points: 10, duration: 15 * MINUTE },
  wrongFromAnywhere: { points: 60, duration: 15 * MINUTE },
  /** Number of times a person says their password to change something of their account, rightly or wrongly */
  withPassword: { points: 40, duration: 15 * MINUTE },
  /** Accounts asked for from one address, with the right set-up word or a wrong one */
  signUp: { points: 20, duration: HOUR },
  /** Mails to one address that begin an account, or say that there is one */
  signUpMail: { points: 6, duration: HOUR },
  /** Mails that confirm an address, by person */
  confirmation: { points: 4, duration: HOUR },
  /** Invitations one person makes, and wrong codes or links from one address */
  invite: { points: 60, duration: HOUR },
  /** Of these, how many go to strangers by mail */
  inviteByMail: { points: 8, duration: HOUR },
  wrongInvitation: { points: 20, duration: 15 * MINUTE },
  /** Links to set a password anew, for one account, and from one address: a whole school may have that */
  forgotten: { points: 6, duration: HOUR },
  forgottenFrom: { points: 60, duration: HOUR },
  /** Wrong codes of a second step, from one address */
  wrongCode: { points: 30, duration: 15 * MINUTE },
  /** Mails to try whether mail arrives, by person */
  tryMail: { points: 5, duration: HOUR },
  /** Notes one person writes; mails that come from one address, and answers by mail of one person in one thread */
  note: { points: 300, duration: HOUR },
  inbox: { points: 120, duration: MINUTE },
  mailed: { points: 20, duration: HOUR },
  /** Offers of times, by person */
  openTimes: { points: 60, duration: HOUR },
  /** Pages drawn on the server, by person: each takes as long as many answers of the API */
  draw: { points: 10, duration: 10 },
} as const;

export type AttemptKind = keyof typeof ATTEMPTS;

/** Counts attempts in memory: a restart forgives. */
export interface Attempts {
  /**
   * Counts one more, before it is tried: of many at once no more are tried than may be.
   * @returns how many that makes
   * @throws ProblemError 429 where there were too many
   */
  take(kind: AttemptKind, key: string): Promise<number>;
  /** Takes back that one was counted: it was no failure */
  giveBack(kind: AttemptKind, key: string): Promise<void>;
  /** Counts one more that has failed already. @returns how many that makes */
  fail(kind: AttemptKind, key: string): Promise<number>;
  /** @throws ProblemError 429 where there were too many */
  check(kind: AttemptKind, key: string): Promise<void>;
  forget(kind: AttemptKind, key: string): Promise<void>;
}

export function attempts(): Attempts {
  const limiters = Object.fromEntries(
    Object.entries(ATTEMPTS).map(([kind, options]) => [
      kind,
      new RateLimiterMemory({ ...options, keyPrefix: kind }),
    ]),
  ) as Record<AttemptKind, RateLimiterMemory>;
  return {
    async take(kind, key) {
      try {
        return (await limiters[kind].consume(key)).consumedPoints;
      } catch (over) {
        throw over instanceof RateLimiterRes ? tooOften(over.msBeforeNext / 1000) : over;
      }
    },
    giveBack: async (kind, key) => void (await limiters[kind].reward(key, 1)),
    fail: async (kind, key) => (await limiters[kind].penalty(key, 1)).consumedPoints,
    async check(kind, key) {
      const known = await limiters[kind].get(key);
      if (known && known.consumedPoints >= ATTEMPTS[kind].points) throw tooOften(known.msBeforeNext / 1000);
    },
    forget: async (kind, key) => void (await limiters[kind].delete(key)),
  };
}
