import type { OccurrenceView } from '../item/occurrence.ts';
import { isWork } from '../item/kind.ts';
import { loadShares, weekWord, type LoadOptions, type LoadWord } from './load.ts';
import type { TermWeek } from './term.ts';
import { dueDay, hoursWords } from '../words/when.ts';
import { plural } from '../words/text.ts';

export interface RibbonWeek extends TermWeek {
  minutes: number;
  word: LoadWord;
  /** Pieces of work due in it */
  due: number;
  /** Days on which three or more are due */
  clashes: number[];
  /** What each calendar asks for, the largest first */
  bands: { calendarId: string; minutes: number }[];
  isNow: boolean;
  isPast: boolean;
}

const CLASH = 3;

/** The term as a row of weeks: the load of each, by calendar. */
export function termRibbon(
  occurrences: readonly OccurrenceView[],
  weeks: readonly TermWeek[],
  today: number,
  options: LoadOptions,
): RibbonWeek[] {
  const first = weeks[0]?.start ?? today;
  const place = (day: number) => Math.floor((day - first) / 7);
  const minutes = weeks.map(() => new Map<string, number>());
  for (const share of loadShares(occurrences, options)) {
    const week = minutes[place(share.day)];
    if (week) week.set(share.calendarId, (week.get(share.calendarId) ?? 0) + share.minutes);
  }
  const due = weeks.map(() => new Map<number, number>());
  for (const { kind, due: when, status } of occurrences) {
    if (!isWork(kind) || !when || status === 'cancelled') continue;
    const day = dueDay(when, options.viewer);
    const week = due[place(day)];
    if (week) week.set(day, (week.get(day) ?? 0) + 1);
  }
  return weeks.map((week, i) => {
    const bands = [...minutes[i]!]
      .map(([calendarId, m]) => ({ calendarId, minutes: m }))
      .sort((a, b) => b.minutes - a.minutes);
    const total = bands.reduce((sum, b) => sum + b.minutes, 0);
    const days = [...due[i]!];
    return {
      ...week,
      minutes: total,
      word: weekWord(total),
      due: days.reduce((sum, [, n]) => sum + n, 0),
      clashes: days
        .filter(([, n]) => n >= CLASH)
        .map(([day]) => day)
        .sort((a, b) => a - b),
      bands,
      isNow: today >= week.start && today < week.start + 7,
      isPast: week.start + 7 <= today,
    };
  });
}

/** A week of the ribbon in one line: `week 6, Studio week, 11 h, strong, 5 due`. */
export function spokenWeek({ name, minutes, word, due, clashes, isNow }: RibbonWeek, number: number): string {
  const parts = [
    name === `week ${number}` ? null : `week ${number}`,
    name,
    minutes ? `${hoursWords(minutes)} of work` : 'no work',
    word,
    plural(due, 'item') + ' due',
    clashes.length ? `${plural(clashes.length, 'day')} with three or more due` : null,
    isNow ? 'this week' : null,
  ];
  return parts.filter(Boolean).join(', ');
}
