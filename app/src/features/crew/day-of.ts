import { dayIn, instantOf } from '@zephyrfield/core/time/when';
import { shortDay, type Viewer } from '@zephyrfield/core/words/when';

/** The day of an instant (as text), as a person reads it: `Tue 6 Oct`. */
export const dayOf = (at: string, viewer: Viewer): string =>
  shortDay(dayIn(instantOf(Date.parse(at)), viewer));
