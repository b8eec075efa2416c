import { DAY, parseDate, parseLocal } from './civil.ts';
import { dateOf, floatingOf, instantIn, instantOf, localIn, type When } from './when.ts';
import { UTC, type Zone } from './zone.ts';

/** A When as far from `to` as it is from `from`: whole days for dates, exact time for the rest. */
export function whenShift(when: When, from: When, to: When): When {
  const by = instantIn(when, UTC) - instantIn(from, UTC);
  if (to.kind === 'date') return dateOf(parseDate(to.date) + Math.round(by / DAY));
  if (to.kind === 'floating') return floatingOf(parseLocal(to.local) + by);
  return instantOf(instantIn(to, UTC) + by, to.zone);
}

/**
 * A When moved to another day and, where `minute` is given, another time of day on the wall clock of `zone`;
 * a time that clocks skip is the one after the gap.
 * @param day day number, on that wall clock
 */
export function whenOn(when: When, day: number, zone: Zone, minute?: number): When {
  if (when.kind === 'date') return dateOf(day);
  const local = localIn(when, zone);
  const rest = minute === undefined ? local - Math.floor(local / DAY) * DAY : minute * 60_000;
  if (when.kind === 'floating') return floatingOf(day * DAY + rest);
  return instantOf(zone.toInstant(day * DAY + rest), when.zone);
}
