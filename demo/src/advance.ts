import type { Services } from '@zephyrfield/server/app';
import type { DemoClock } from './clock.ts';

/** Number of things that may come due in one move of the clock; what is beyond comes late, as after an outage. */
const MOST_STEPS = 2000;

/**
 * Moves the clock to a moment, from one thing that comes due to the next, so that all of it happens in order
 * and at its time.
 */
export async function advanceTo(target: number, clock: DemoClock, engine: Services['engine']): Promise<void> {
  await engine.run();
  for (let steps = 0; steps < MOST_STEPS; steps++) {
    const next = engine.nextAt();
    if (next === null || next >= target) break;
    if (next > clock.now()) clock.set(next);
    await engine.run();
    // What stays due although it was looked at (mail that has to wait) must not keep the clock from going on.
    if (engine.nextAt() === next) break;
  }
  clock.set(Math.max(target, clock.now()));
  await engine.run();
}
