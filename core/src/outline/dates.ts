import { daysInMonth } from '../time/civil.ts';
import { ENGLISH, type Language } from './languages.ts';

/** A day as it is written. In numbers, which one is the month may be open. */
export interface DayParts {
  /** null where none is told */
  year: number | null;
  month: number;
  day: number;
  /** Written in numbers with the day or the month first: `month` is the first one of them as it stands */
  isOpen: boolean;
}

/** A date, or the days from one to another, as a text says it. */
export interface DateSaid {
  from: number;
  to: number;
  first: DayParts;
  last: DayParts | null;
  /** ISO weekday that is told beside it */
  weekday: number | null;
  /** `short`: two numbers and no more (`10/12`), which may be something else */
  form: 'words' | 'iso' | 'full' | 'short';
  /** Week of the outline's own numbering, where no date is told: `Friday of week 7` */
  week: number | null;
}

const ISO = /(?<![\d-])(\d{4})-(\d{2})-(\d{2})(?![\d-])/g;
const FULL = /(?<![\d./-])(\d{1,2})([./-])(\d{1,2})\2(\d{4}|\d{2})(?![\d/-]|\.\d)/g;
const SLASH = /(?<![\d./:]|[a-z]-)(\d{1,2})\/(\d{1,2})(?![\d/]|\.\d)/g;
const DOTS = /(?<![\d./-])(\d{1,2})\.(\d{1,2})\.(?!\d)/g;
const DOTTED_SPAN = /(?<![\d./-])(\d{1,2})\.\s?[-–—]\s?(?=\d{1,2}\.\d{1,2}\.)/g;
const JOINT = /^\s{0,2}(?:[-–—/]|to|until|till|through|bis|au|al|hasta)\s{0,2}$/i;
const SPAN_BEFORE =
  /(?<![\d./:])(\d{1,2})(?:st|nd|rd|th|er|\.)?\s?(?:[-–—]|to|bis|au|al)\s?(?:\p{L}{2,9}\.?,?\s)?$/iu;
const LIST_BEFORE = /(?<![\d./:])(\d{1,2})(?:st|nd|rd|th|\.)?\s?(?:,|&|and|und|et|y)\s?$/i;
const SPAN_BEHIND = /^\s?(?:[-–—]|to)\s?(\d{1,2})(?:st|nd|rd|th)?(?![\d:./])(?!\s?[ap]\.?m)/i;
const LIST_BEHIND =
  /^(?:,|\s&|\sand)\s?(?:and\s)?(\d{1,2})(?:st|nd|rd|th)?(?![\d:/]|\.\d)(?!\s?[ap]\.?m)(?=\s?(?:$|[.,:;)&–—-]|and\b))/i;
const SHORT_YEAR = /[,\s]\s?['’]?\d{2}$/;
/** The reader of words is given so many letters at once: of a long run of dates it makes ever more. */
const LIMIT = 200;

/** A day of a week by its number; null for a weekday means any of its days. */
export const inWeek = (week: number, weekday: number | null, from = 0, to = 0): DateSaid => ({
  ...{ from, to, form: 'words', last: null, week, weekday },
  first: { year: null, month: 1, day: 1, isOpen: false },
});

/** The weekday a word names in a language; null for none. */
export function weekdayOf(word: string, language: Language): number | null {
  const found = language.weekdays.findIndex((name) => name.test(word.toLowerCase()));
  const known = found < 0 ? ENGLISH.weekdays.findIndex((name) => name.test(word.toLowerCase())) : found;
  return known < 0 ? null : known + 1;
}

/**
 * Dates in a text, in order. `text` has the times of day masked, so that they are no part of a date.
 * @param at a day of the term; what has no year of its own is told apart later
 */
export function datesIn(text: string, language: Language, at: Date): DateSaid[] {
  const found: DateSaid[] = [];
  const isFree = (from: number, to: number) => found.every((d) => to <= d.from || from >= d.to);
  const add = (said: Omit<DateSaid, 'last' | 'weekday' | 'week'> & Partial<DateSaid>) => {
    if (isFree(said.from, said.to)) found.push({ last: null, weekday: null, week: null, ...said });
  };
  inNumbers(text, add);
  // What was found is hidden from the reader of words, letter by letter, so that places stay.
  let rest = text;
  for (const { from, to } of found) rest = rest.slice(0, from) + ' '.repeat(to - from) + rest.slice(to);
  for (let start = 0; start < rest.length; start += LIMIT) {
    const part = rest.slice(start, start + LIMIT + 40);
    if (language.months.test(part)) inWords(part, start, language, at, add);
  }
  found.sort((a, b) => a.from - b.from);
  return withWeekdays(text, joined(text, found, language), language);
}

type Add = (said: Omit<DateSaid, 'last' | 'weekday' | 'week'> & Partial<DateSaid>) => void;

function inNumbers(text: string, add: Add): void {
  if (!/\d/.test(text)) return;
  for (const m of text.matchAll(ISO)) {
    const [month, day] = [Number(m[2]), Number(m[3])];
    if (month >= 1 && month <= 12 && day >= 1 && day <= 31)
      add({ ...spot(m), form: 'iso', first: { year: Number(m[1]), month, day, isOpen: false } });
  }
  for (const m of text.matchAll(FULL)) {
    const year = Number(m[4]) + (m[4]!.length === 2 ? 2000 : 0);
    const parts = numbers(Number(m[1]), Number(m[3]), m[2] === '.', year);
    if (parts) add({ ...spot(m), form: 'full', first: parts });
  }
  for (const m of text.matchAll(SLASH)) {
    const parts = numbers(Number(m[1]), Number(m[2]), false, null);
    if (parts) add({ ...spot(m), form: 'short', first: parts });
  }
  const firsts = new Map([...text.matchAll(DOTTED_SPAN)].map((m) => [m.index + m[0].length, m]));
  for (const m of text.matchAll(DOTS)) {
    const parts = numbers(Number(m[1]), Number(m[2]), true, null);
    const before = firsts.get(m.index);
    if (!parts) continue;
    if (before)
      add({
        from: before.index,
        to: m.index + m[0].length,
        form: 'short',
        first: { ...parts, day: Number(before[1]) },
        last: parts,
      });
    else add({ ...spot(m), form: 'short', first: parts });
  }
}

const spot = (m: RegExpMatchArray) => ({ from: m.index!, to: m.index! + m[0].length });

/** Two numbers as a day and a month; dots say that the day is first. null where they can be neither. */
function numbers(a: number, b: number, isDotted: boolean, year: number | null): DayParts | null {
  if (a < 1 || b < 1 || a > 31 || b > 31 || (a > 12 && b > 12)) return null;
  if (isDotted) return b > 12 ? null : { year, month: b, day: a, isOpen: false };
  return { year, month: a, day: b, isOpen: true };
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
    if (language === ENGLISH && LOWER_MAY.test(text) && index > 0 && !/[:,(]\s?$/.test(part.slice(0, index)))
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
/** Beginnings of the months’ English names, in order. */
export const MONTHS = 'jan feb mar apr may jun jul aug sep oct nov dec'.split(' ');

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

/** `26/10–30/10`, `Fri 18 – Sun 20 September`, `October 5 – 9`; `Oct 6, 13 and 20` is three days. */
function joined(text: string, all: readonly DateSaid[], language: Language): DateSaid[] {
  const found: DateSaid[] = [];
  for (const said of all) {
    const before = found.at(-1);
    const between = before ? text.slice(before.to, said.from) : '';
    if (before && !before.last && !said.last && isJoint(between)) {
      before.last = said.first;
      if (before.first.year === null) before.first = { ...before.first, year: said.first.year };
      before.to = said.to;
      continue;
    }
    found.push({ ...said });
  }
  return found.flatMap((said) => widened(text, said, language));
}

/** What joins two dates to one span; a weekday may stand before the second one. */
const isJoint = (between: string) =>
  JOINT.test(between) || /^\s{0,2}[-–—]\s{0,2}\p{L}{2,9}\.?,?\s?$/u.test(between);

function widened(text: string, said: DateSaid, language: Language): DateSaid[] {
  if (said.last || said.form !== 'words') return [said];
  const behind = SPAN_BEHIND.exec(text.slice(said.to, said.to + 20));
  // Behind `October 5` a day may stand, behind `5 October` hardly.
  const own = text.slice(said.from, said.to);
  const isMonthFirst = own.search(language.months) < own.search(/\d/);
  if (behind && isMonthFirst && Number(behind[1]) > said.first.day && Number(behind[1]) <= 31)
    return [{ ...said, to: said.to + behind[0].length, last: { ...said.first, day: Number(behind[1]) } }];
  if (isMonthFirst) {
    const list = [said];
    for (let to = said.to; list.length < 20;) {
      const next = LIST_BEHIND.exec(text.slice(to, to + 16));
      if (!next || Number(next[1]) > 31) break;
      list.push({
        ...said,
        from: to,
        to: to + next[0].length,
        first: { ...said.first, day: Number(next[1]) },
      });
      to += next[0].length;
    }
    return list;
  }
  const head = text.slice(Math.max(0, said.from - 24), said.from);
  const before = SPAN_BEFORE.exec(head);
  if (before && Number(before[1]) >= 1 && Number(before[1]) <= 31) {
    const day = Number(before[1]);
    const first = day < said.first.day ? { ...said.first, day } : monthBefore({ ...said.first, day });
    return [{ ...said, from: said.from - before[0].length, first, last: said.first }];
  }
  const list = [said];
  for (let from = said.from; list.length < 20;) {
    const next = LIST_BEFORE.exec(text.slice(Math.max(0, from - 12), from));
    if (!next || Number(next[1]) < 1 || Number(next[1]) >= list[0]!.first.day) break;
    const start = from - next[0].length;
    list.unshift({ ...said, from: start, to: from, first: { ...said.first, day: Number(next[1]) } });
    from = start;
  }
  return list;
}

const monthBefore = (parts: DayParts): DayParts =>
  parts.month === 1
    ? { ...parts, month: 12, year: parts.year === null ? null : parts.year - 1 }
    : { ...parts, month: parts.month - 1 };

const WORD_BEFORE = /(\p{L}{2,10})\.?,?\s{0,2}(?:the\s|den\s|dem\s|le\s|el\s)?$/u;
const WORD_BEHIND = /^\s?[(,]?\s?(\p{L}{2,10})\.?\)?(?=$|[\s,;:)])/u;

/** The weekday beside a date, whose letters then belong to it. */
function withWeekdays(text: string, all: DateSaid[], language: Language): DateSaid[] {
  return all.map((said) => {
    const own = /^(\p{L}{2,10})/u.exec(text.slice(said.from, said.to));
    const inside = own && weekdayOf(own[1]!, language);
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
