import { DAY } from '@zephyrfield/core/time/civil';

/** How far occurrences are worked out, back and ahead of now. */
const BACK = 400 * DAY;
const AHEAD = 730 * DAY;
/** Horizons are whole months of thirty days, so that they do not move at every reading. */
const STEP = 30 * DAY;

export const horizon = (now: number) => ({
  from: Math.floor((now - BACK) / STEP) * STEP,
  to: Math.ceil((now + AHEAD) / STEP) * STEP,
});

/** A suspicious loss is believed once this many readings in a row have shown it, over at least this long. */
export const HOLD = { readings: 3, ms: DAY };
