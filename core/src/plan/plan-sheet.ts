import type { SheetEdition } from '../notify/settings.ts';
import type { SheetSection } from '../notify/day-sheet.ts';
import { formatDate } from '../time/civil.ts';
import { hoursWords, minuteWords } from '../words/when.ts';
import { keyOf } from '../item/occurrence.ts';
import type { Schedule } from './ask.ts';
import { sittingEntries } from './plan-days.ts';
import { standingTitle, troublesOf } from './standing.ts';

/**
 * What a sheet says of a plan: the sittings of the day, for a day's editions, and which plans no longer hold.
 * @param schedule with the learner's own clock, and what is due and to be at up to the last sitting
 * @param day day number
 */
export function planSections(schedule: Schedule, edition: SheetEdition, day: number): SheetSection[] {
  const { occurrences, viewer } = schedule;
  const date = formatDate(day);
  const sittings = edition === 'week' ? [] : sittingEntries(schedule).filter((e) => e.sitting.day === date);
  const tonight = sittings
    .filter((e) => e.sitting.state === 'planned')
    .sort((a, b) => a.sitting.from - b.sitting.from)
    .map(({ occurrence: o, sitting }) => ({
      when: minuteWords(sitting.from % 1440, viewer.hours),
      title: o.title,
      more: hoursWords(sitting.minutes),
      calendarId: o.calendarId,
      itemId: o.itemId,
      recurrenceId: o.recurrenceId,
    }));
  const troubles = troublesOf(schedule);
  const wrong = new Set(troubles.map((t) => t.key));
  const broken = occurrences
    .filter((o) => wrong.has(keyOf(o)))
    .map((o) => ({
      when: '',
      title: o.title,
      more: 'a new plan is one press away',
      calendarId: o.calendarId,
      itemId: o.itemId,
      recurrenceId: o.recurrenceId,
    }));
  return [
    ...(tonight.length ? [{ heading: 'Sit down to', lines: tonight, more: 0 }] : []),
    ...(broken.length ? [{ heading: standingTitle(troubles), lines: broken, more: 0 }] : []),
  ];
}
