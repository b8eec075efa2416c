import { daysInMonth } from '../time/civil.ts';
import { joined, withMonths } from './date-lists.ts';
import { inNumbers } from './date-numbers.ts';
import { ENGLISH, type Language } from './languages.ts';
import { MONTHS, type Add, type DateSaid, type DayParts } from './said.ts';

const SHORT_YEAR = /[,\s]\s?['’]?\d{2}$/;
/** The reader of words is given so many letters at once: of a long run of dates it makes ever more. */
const LIMIT = 200;

/** The weekday a word names in a language; null for none. */
export function weekdayOf(word: string, language: Language): number | null {
  const found = language.weekdays.findIndex((name) => name.test(word.toLowerCase()));
  const known = found < 0 ? ENGLISH.weekdays.findIndex((name) => name.test(word.toLowerCase())) : found;
  return known < 0 ? null : known + 1;
}

/**
 * Dates in a text, in order; the month is 0 for a day whose month no other date of the text tells. `text` has the times of
 * day masked, so that they are no part of a date.
 * @param at a day of the term; what has no year of its own is told apart later
 */
export function datesIn(text: string, language: Language, at: Date): DateSaid[] {
  const found: DateSaid[] = [];
  const isFree = (from: number, to: number) => found.every((d) => to <= d.from || from >= d.to);
  const add: Add = (said) => {
    if (isFree(said.from, said.to)) found.push({ last: null, weekday: null, week: null, ...said });
  };
  inNumbers(text, add);
  // What was found is hidden from the reader of words, letter by letter, so that places stay.
  let rest = text;
  for (const { from, to } of found) rest = rest.slice(0, from) + ' '.repeat(to - from) + rest.slice(to);
  rest = unnumbered(rest);
  for (let start = 0; start < rest.length; start += LIMIT) {
    const part = rest.slice(start, start + LIMIT + 40);
    if (language.months.test(part)) inWords(parted(part), start, language, at, add);
  }
  monthless(text, language, add);
  found.sort((a, b) => a.from - b.from);
  // `Lesson 2 – 7 September` is of one day.
  const whole = unnumbered(text);
  return withWeekdays(whole, joined(whole, withMonths(whole, found), language), language);
}

/** What is numbered, with a stroke behind its number. */
const NUMBERED =
  /\b(?:lesson|week|wk|unit|session|meeting|class|lecture|chapter|part|module|lab|task|topic|seminar|workshop|exercise|homework|hw|test|quiz|exam|essay|report|sheet|set|assignment|project|stage|step|phase|block|round|log|note|response|draft|paper|stunde|woche|séance|sesión)\s\d{1,2}(?=\s?[-–—]\s?)/giu;
const unnumbered = (text: string) => text.replace(NUMBERED, (said) => said.replace(/\d/g, ' '));
const COMMA = /,\s(?!\d{4}\b)/gu;
const WHOLE_DAY =
  /\b(?:\d{1,2}(?:st|nd|rd|th|\.)?\s(?:of\s|de\s)?\p{L}{3,10}\.?|\p{L}{3,10}\.?\s\d{1,2}(?:st|nd|rd|th)?)$/iu;

/**
 * A text with the commas behind whole days as semicolons: of `11 Sept, 25 Sept` and `8 December, second lesson` the reader
 * of words would take `Sept, 25` and `December, second` for dates.
 */
const parted = (text: string): string =>
  text.replace(COMMA, (comma, at: number) =>
    WHOLE_DAY.test(text.slice(Math.max(0, at - 24), at)) ? '; ' : comma,
  );

const MONTHLESS =
  /\b(?:(\p{L}{3,9})\.?,?\s(?:the\s)?|(?:by|on|until|due|from|before)\sthe\s)(\d{1,2})(st|nd|rd|th)?(?=$|[\s,;:.)–-])(?!\s?[-–:./]\s?\d|\s(?:of\b|[ap]\.?m|minutes|hours|pages|points|week))/giu;

/** `by Monday 14th`, `on the 16th`: the month is the one that was told before. */
function monthless(text: string, language: Language, add: Add): void {
  if (language !== ENGLISH) return;
  for (const m of text.matchAll(MONTHLESS)) {
    const weekday = m[1] === undefined ? null : weekdayOf(m[1], language);
    const day = Number(m[2]);
    if ((m[1] !== undefined && !weekday) || (!m[3] && !weekday) || day < 1 || day > 31) continue;
    if (language.months.test(text.slice(m.index + m[0].length, m.index + m[0].length + 10))) continue;
    const from = m[1] === undefined ? m.index + m[0].search(/\d/) : m.index;
    const first = { year: null, month: 0, day, isOpen: false };
    add({ from, to: m.index + m[0].length, form: 'words', first, weekday });
  }
}

const LOWER_MAY = /^(?:may|march|mar|sat)\b/;

function inWords(part: string, start: number, language: Language, at: Date, add: Add): void {
  for (const { index, text: said, start: begin, end } of language.parse(part, at)) {
    if (
      !begin.isCertain('day') ||
      !begin.isCertain('month') ||
      !/\d/.test(said) ||
      !language.months.test(said)
    )
      continue;
    const trimmed = said.trimEnd();
    // `7 Oct 12 pages`, `Oct 6, 13 and 20`: two numbers behind a month are no year.
    const tail = /\d{4}/.test(trimmed) || !begin.isCertain('year') ? null : SHORT_YEAR.exec(trimmed);
    const text = tail ? trimmed.slice(0, tail.index) : trimmed;
    if (language === ENGLISH && LOWER_MAY.test(text) && index > 0 && !/[:,;(]\s?$/.test(part.slice(0, index)))
      continue;
    const hasYear = /\d{4}/.test(text);
    const of = (c: typeof begin): DayParts => ({
      year: hasYear ? c.get('year') : null,
      month: c.get('month')!,
      day: c.get('day')!,
      isOpen: false,
    });
    const last = end?.isCertain('day') ? of(end) : null;
    const isSame = last?.day === begin.get('day') && last?.month === begin.get('month');
    add({
      from: start + index,
      to: start + index + text.length,
      form: 'words',
      first: of(begin),
      last: last && !isSame ? last : null,
    });
  }
  if (language === ENGLISH) impossible(part, start, add);
}

const NO_DAY =
  /\b(?:(\d{1,2})(?:st|nd|rd|th)?\s(?:of\s)?(jan|feb|mar|apr|may|jun|jul|aug|sept?|oct|nov|dec)[a-z]{0,6}\b|(jan|feb|mar|apr|may|jun|jul|aug|sept?|oct|nov|dec)[a-z]{0,6}\s(\d{1,2})\b(?!:))(?:,?\s(\d{4}))?/gi;

/** `31 November`: the reader of words finds nothing in it, and yet a day is meant. */
function impossible(part: string, start: number, add: Add): void {
  for (const m of part.matchAll(NO_DAY)) {
    const month = MONTHS.indexOf((m[2] ?? m[3])!.slice(0, 3).toLowerCase()) + 1;
    const day = Number(m[1] ?? m[4]);
    const year = m[5] ? Number(m[5]) : null;
    if (day <= 31 && day > daysInMonth(year ?? 2024, month))
      add({
        from: start + m.index,
        to: start + m.index + m[0].length,
        form: 'words',
        first: { year, month, day, isOpen: false },
      });
  }
}

const WORD_BEFORE = /(\p{L}{2,10})\.?,?\s{0,2}(?:the\s|den\s|dem\s|le\s|el\s)?$/u;
const WORD_BEHIND = /^\s?[(,]?\s?(\p{L}{2,10})\.?\)?(?=$|[\s,;:)])/u;

/** The weekday beside a date, whose letters then belong to it. */
function withWeekdays(text: string, all: DateSaid[], language: Language): DateSaid[] {
  return all.map((said) => {
    if (said.weekday) return said;
    const [own = ''] = /^\P{N}*/u.exec(text.slice(said.from, said.to)) ?? [];
    const inside = (own.match(/\p{L}{2,10}/gu) ?? []).map((word) => weekdayOf(word, language)).find(Boolean);
    if (inside) return { ...said, weekday: inside };
    const before = WORD_BEFORE.exec(text.slice(Math.max(0, said.from - 16), said.from));
    const weekday = before && weekdayOf(before[1]!, language);
    if (weekday) return { ...said, weekday, from: said.from - before[0].length };
    const behind = WORD_BEHIND.exec(text.slice(said.to, said.to + 16));
    const after = behind && weekdayOf(behind[1]!, language);
    // `9 Oct (Fri)`, `09/10 Fri`: a weekday by itself behind it, which another date does not begin with.
    if (after && behind && !/^\s?\d/.test(text.slice(said.to + behind[0].length)))
      return { ...said, weekday: after, to: said.to + behind[0].length };
    return said;
  });
}
