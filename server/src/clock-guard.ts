/** So far the machine's clock may be set back without anything to be done about it, in milliseconds. */
const BEARABLE = 60_000;
const EVERY = 5_000;

export interface ClockGuard {
  /** Looks whether the clock was set back since it was asked last */
  look(): void;
  stop(): void;
}

/**
 * Watches the clock of the day against one that only goes on. A clock that runs ahead cannot be told from a machine
 * that has slept; one that is set back can.
 * @param clock the time of the day, an instant in milliseconds
 * @param steady milliseconds since some moment, never less than before
 * @param wentBack told the time as it is now, and by how much the clock was set back
 */
export function clockGuard(
  clock: () => number,
  steady: () => number,
  wentBack: (now: number, by: number) => void,
): ClockGuard {
  let ahead = clock() - steady();
  const look = () => {
    const now = clock();
    const by = ahead - (now - steady());
    ahead = now - steady();
    if (by > BEARABLE) wentBack(now, by);
  };
  const timer = setInterval(look, EVERY).unref();
  return { look, stop: () => clearInterval(timer) };
}
