import { DAY, MINUTE, weekday } from './civil.ts';
import type { Zone } from './zone.ts';

/** Hours of a day that are cut into short meetings, over some weeks. */
export interface SlotPattern {
  /** Day numbers: the first, and the last on which there is one */
  firstDay: number;
  lastDay: number;
  /** ISO weekdays */
  weekdays: readonly number[];
  /** Minutes of the day */
  from: number;
  to: number;
  /** Length of each, and of what lies between two, in minutes */
  length: number;
  pause: number;
}

export interface Slot {
  /** Instants, in milliseconds */
  start: number;
  end: number;
}

/** So many are made at once. */
export const MOST_SLOTS = 300;

/**
 * The meetings of a pattern, in order, on the wall clock of `zone`: days off are left out, and those that meet something
 * that is taken already.
 * @param taken spans of time, instants in milliseconds
 */
export function slotsOf(
  { firstDay, lastDay, weekdays, from, to, length, pause }: SlotPattern,
  {
    zone,
    daysOff,
    taken,
  }: {
    zone: Zone;
    daysOff: readonly { from: number; to: number }[];
    taken: readonly { from: number; to: number }[];
  },
): Slot[] {
  const found: Slot[] = [];
  if (length < 1 || pause < 0) return found;
  for (let day = firstDay; day <= lastDay && found.length < MOST_SLOTS; day++) {
    if (!weekdays.includes(weekday(day)) || daysOff.some((d) => day >= d.from && day <= d.to)) continue;
    for (let minute = from; minute + length <= to && found.length < MOST_SLOTS; minute += length + pause) {
      const start = zone.toInstant(day * DAY + minute * MINUTE);
      const end = zone.toInstant(day * DAY + (minute + length) * MINUTE);
      // Hours that the clocks skip, or go through twice, are no time to meet.
      const isWhole = end - start === length * MINUTE && start >= (found.at(-1)?.end ?? start);
      if (isWhole && !taken.some((t) => t.from < end && start < t.to)) found.push({ start, end });
    }
  }
  return found;
}

/** Those that meet nothing of what somebody has, the nearest to a moment first. */
export const freeSlots = <S extends Slot>(
  slots: readonly S[],
  busy: readonly { from: number; to: number }[],
  near: number,
): S[] =>
  slots
    .filter((s) => !busy.some((b) => b.from < s.end && s.start < b.to))
    .sort((a, b) => Math.abs(a.start - near) - Math.abs(b.start - near) || a.start - b.start);
