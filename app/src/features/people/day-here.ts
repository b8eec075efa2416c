import { dayIn, instantOf } from '@zephyrfield/core/time/when';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import { shortDay } from '@zephyrfield/core/words/when';

/** Sessions go by the real clock, and are told by the device’s own zone. */
const zone = ianaZone(Intl.DateTimeFormat().resolvedOptions().timeZone) ?? UTC;

/** The day of an instant (as text) where the device is. */
export const dayHere = (at: string): string => shortDay(dayIn(instantOf(Date.parse(at)), zone));
