/** Present time. Injected everywhere, so that tests and the demo decide. Milliseconds since the epoch. */
export interface Clock {
  now(): number;
}

export const systemClock: Clock = { now: () => Date.now() };
