import { daysInMonth } from '../time/civil.ts';
import { weekdayOf } from './dates.ts';
import { ENGLISH, type Language } from './languages.ts';
import { inWeek, type DateSaid } from './said.ts';
import { spansIn, type Reader } from './spans.ts';

const WEEK = String.raw`(?:teaching )?(?:weeks?|wk|woche|semaine|semana)`;
const NUMBERED = new RegExp(
  String.raw`^[\W_]{0,3}${WEEK}\.?\s?(\d{1,2})\b(?:\s?(?:[-–]|to|and|&)\s?(\d{1,2})\b(?!\.))?\.?(?:\s?\([a-z]\))?`,
  'iu',
);
const BEGINNING = String.raw`(?:week of|week beginning|week commencing|week starting|w/c|wc|wb|w/b|beginning|commencing|starting|begins|starts|of|from|ab|vom|du|del)`;
const LEADS = new RegExp(
  String.raw`^\s{0,3}[-–—:,.]?\s{0,3}[([]?\s{0,2}(?:${BEGINNING}\s{1,2})?(?:the\s)?$`,
  'iu',
);
const IS_WEEK = new RegExp(String.raw`${BEGINNING}\s`, 'iu');
const BY_DATE = new RegExp(
  String.raw`^[\W_]{0,3}(?:week (?:of|beginning|commencing|starting)|w/c|wc|w/b)\s(?:the\s)?$`,
  'iu',
);
const BEHIND = /^[\s)\]]{0,4}[-–—:.,|]?\s{0,3}/u;

/** A week at the beginning of a line: any of its days, the date that is told of it, and where the rest begins. */
export interface WeekLed {
  week: DateSaid;
  number: number | null;
  told: DateSaid | null;
  /** What is told is a day, and not the days or the beginning of a week */
  isDay: boolean;
  to: number;
}

/** `Week 3 (w/c 21 Sept) …`, `Wk 4: …`, `Week of 12 October – …`; null for a line that begins with no week. */
export function weekLed(text: string, reader: Reader): WeekLed | null {
  const numbered = NUMBERED.exec(text);
  if (!numbered && !/^\W{0,3}w(?:eek|\/?[cb])\b/i.test(text)) return null;
  // The number of the week is no day of a list: `Week 5, 6 October`.
  const begins = numbered?.[0].length ?? 0;
  const head = ' '.repeat(begins) + text.slice(begins, 80);
  const [first] = spansIn(head, reader).dates.filter((d) => d.week === null && d.first.month > 0);
  if (!numbered) {
    if (!first || !BY_DATE.test(head.slice(0, first.from))) return null;
    return { week: anyDayOf(first), number: null, told: first, isDay: false, to: endOf(text, first.to) };
  }
  const number = Number(numbered[1]);
  // `Week 9: 2 Nov` tells the week; `Week 9: poster, 2 Nov` tells the poster.
  const between = first && first.from >= begins ? head.slice(begins, first.from) : null;
  const told = first && between !== null && LEADS.test(between) ? first : null;
  const isDay = told !== null && told.last === null && !IS_WEEK.test(between!);
  const last = Number(numbered[2] ?? number);
  const week = { ...inWeek(number, null), weeks: Math.max(1, last - number + 1) };
  return { week, number, told, isDay, to: endOf(text, told?.to ?? begins) };
}

/** A line that the days of a week lead. */
export const ledBy = (days: DateSaid, text: string): WeekLed => ({
  ...{ week: anyDayOf(days), number: null, told: days, isDay: false, to: endOf(text, days.to) },
});

const endOf = (text: string, at: number) => at + BEHIND.exec(text.slice(at, at + 12))![0].length;

/** Any day of the week that a day is in. */
export const anyDayOf = (said: DateSaid): DateSaid => ({ ...said, last: null, weekday: null, week: -1 });

/** `7–11 September`: the days of a week. */
export function isWeekLong({ first, last }: DateSaid): boolean {
  if (!last) return false;
  const over = last.month === (first.month % 12) + 1 ? daysInMonth(first.year ?? 2025, first.month) : 0;
  const length = last.day + over - first.day;
  return (over > 0 || last.month === first.month) && length >= 3 && length <= 6;
}

const WORD =
  /(?<![\p{L}\d/-])(?:(?:on|by|due|until|before|am|bis|le|el)\s)?(\p{Lu}\p{L}{1,10})(?:\.(?=\s?[,;]|\s\d|$))?(?![\p{L}\d/])/gu;

/** Weekdays that a text names, as days of the week that stands above it. A text with dates of its own is not asked. */
export function weekdaysIn(text: string, week: DateSaid, language: Language): DateSaid[] {
  const found: DateSaid[] = [];
  for (const m of text.matchAll(WORD)) {
    const word = m[1]!;
    // What is told of all of them repeats. Two letters are another word as well.
    if (/days$/i.test(word) || (word.length < 3 && (language === ENGLISH || m.index === 0))) continue;
    const weekday = weekdayOf(word, language);
    if (weekday)
      found.push({ ...week, from: m.index + m[0].indexOf(word), to: m.index + m[0].length, weekday });
  }
  return found;
}

const BEGINS = new RegExp(
  String.raw`\b${WEEK}\s?(\d{1,2})\s(?:(?:begins|starts|commences|is|runs|=)\s?(?:on\s|from\s|the week of\s|the week beginning\s)?|\(?w/c\s)$`,
  'iu',
);

/** `Week 1 begins 7 September`: the number of the week that the date before a letter begins; null for none. */
export function weekThatBegins(before: string): number | null {
  const number = BEGINS.exec(before.slice(-60))?.[1];
  return number === undefined ? null : Number(number);
}
