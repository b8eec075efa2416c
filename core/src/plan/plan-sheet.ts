import type { SheetEdition } from '../notify/settings.ts';
import type { PlanSections, SheetLine } from '../notify/day-sheet.ts';
import { formatDate } from '../time/civil.ts';
import { hoursWords, minuteOfDay, minuteWords, today } from '../words/when.ts';
import { keyOf, type OccurrenceView } from '../item/occurrence.ts';
import type { Schedule } from './ask.ts';
import { sittingEntries } from './plan-days.ts';
import { hasGoneBy } from './run-up.ts';
import { standingTitle, troublesOf } from './standing.ts';

/**
 * Puts a plan into parts of a sheet: sittings of the day that are still to come and those of the day after it, for a
 * day's editions, and which plans no longer hold.
 * @param schedule with the learner's own clock, and what is due and to be at up to the last sitting
 * @param day day number
 */
export function planSections(schedule: Schedule, edition: SheetEdition, day: number): PlanSections {
  const { occurrences, viewer, now } = schedule;
  const [first, minute] = [today(now, viewer), minuteOfDay(now, viewer)];
  const sittings = edition === 'week' ? [] : sittingEntries(schedule);
  const linesOn = (on: number) =>
    sittings
      .filter(
        ({ sitting: s }) => s.day === formatDate(on) && s.state === 'planned' && !hasGoneBy(s, first, minute),
      )
      .sort((a, b) => a.sitting.from - b.sitting.from)
      .map(({ occurrence, sitting }) =>
        lineOf(occurrence, minuteWords(sitting.from % 1440, viewer.hours), hoursWords(sitting.minutes)),
      );
  const troubles = troublesOf(schedule);
  const wrong = new Set(troubles.filter((t) => t.kind !== 'short').map((t) => t.key));
  const tooShort = new Set(troubles.map((t) => t.key));
  const broken = occurrences
    .filter((o) => (wrong.size ? wrong : tooShort).has(keyOf(o)))
    .map((o) => lineOf(o, '', 'open the plan for a new one'));
  const part = (heading: string, lines: SheetLine[]) => (lines.length ? [{ heading, lines, more: 0 }] : []);
  return {
    now: [...part('Sit down to', linesOn(day)), ...part(standingTitle(troubles), broken)],
    next: edition === 'evening' ? part('Tomorrow: sit down to', linesOn(day + 1)) : [],
  };
}

const lineOf = (o: OccurrenceView, when: string, more: string): SheetLine => ({
  when,
  title: o.title,
  more,
  calendarId: o.calendarId,
  itemId: o.itemId,
  recurrenceId: o.recurrenceId,
});
