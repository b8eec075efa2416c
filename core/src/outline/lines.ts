import { EMPTY, clockOf, type Above, type Lines, type Sentence, type Whole } from './above.ts';
import { COUNTED_BEFORE, COUNTED_BEHIND, NOT_PLANNED } from './beside.ts';
import type { Raw } from './found.ts';
import { isDue } from './hints.ts';
import { OFF, isNamed } from './kinds.ts';
import { isPlace } from './labels.ts';
import { inWeek, type DateSaid } from './said.ts';
import { spansIn, type Reader, type Spans } from './spans.ts';
import { items, says, tidied, without } from './title.ts';
import { dated, inTheWeek, undated } from './under.ts';
import { placeIn, sentencesOf, type Unit } from './units.ts';
import { anyDayOf, isWeekLong, ledBy, weekLed, weekThatBegins, type WeekLed } from './week-line.ts';
import { weeklyIn } from './weekly.ts';

const SEPARATED = /(?:[:–—(|,]|\.{3}|\s-|\s{2})$/;
const isSeparated = (before: string) => SEPARATED.test(before.endsWith('  ') ? before : before.trimEnd());
const DUE_BEFORE = /\b(?:due|by|on|until|till|before|deadline|am|bis|vom|le|el)\W{0,3}$/i;
const LONGEST = 160;
const TOLD = /\b(?:exam|test|quiz|midterm|essay|report|project|paper|assignment|homework|presentation)\b/i;

/** Tells whether a line begins or ends with a date in two numbers, as those of a list do. */
export function shortIn(text: string, reader: Reader): { first: boolean; last: boolean } {
  if (text.length > LONGEST || !/\d[./]\d/.test(text)) return { first: false, last: false };
  const { dates } = spansIn(text, reader);
  const first = dates.find((d) => d.form === 'short');
  return {
    first:
      first !== undefined && !says(text.slice(0, first.from)) && !COUNTED_BEHIND.test(text.slice(first.to)),
    last: first !== undefined && says(text.slice(0, first.from)) && isSeparated(text.slice(0, first.from)),
  };
}

const LISTED = /^\s?(?:,|;|&|\band\b)\s?(?:and\s)?$/i;

/**
 * Whether two numbers with a stroke or a dot are a date here.
 * @param last the date before it in the text
 */
function isDate(said: DateSaid, text: string, { shortFirst, shortLast }: Lines, last?: DateSaid): boolean {
  const before = text.slice(Math.max(0, said.from - 40), said.from);
  const behind = text.slice(said.to, said.to + 30);
  if (said.form === 'short') {
    if (COUNTED_BEFORE.test(before) || COUNTED_BEHIND.test(behind)) return false;
    if (said.weekday || said.last) return true;
    if (DUE_BEFORE.test(before)) return true;
    // `29/9, 13/10 and 27/10`: one like the one before it.
    if (last?.form === 'short' && LISTED.test(text.slice(last.to, said.from))) return true;
    if (!says(text.slice(0, said.from))) return shortFirst >= 3;
    if (shortFirst + shortLast >= 3 && OFF.test(before)) return true;
    if (!isSeparated(before)) return false;
    // One by itself at the end of a line that names work, with a number that no month has.
    const isPlain = said.first.day > 12 || said.first.month > 12;
    return (
      shortLast >= 3 ||
      (isPlain && /^\W*$/.test(behind) && /[:–—-]$/.test(before.trimEnd()) && TOLD.test(before))
    );
  }
  return !NOT_PLANNED.test(before);
}

/** Gives what a unit says of days. Changes what stands above the lines to come. */
export function rawsOfUnit(unit: Unit, standing: Above, lines: Lines): Raw[] {
  const led = weekLed(unit.text, lines.reader);
  if (led) begin(led, unit, standing, lines);
  if (led && !isDated(led)) return ofWeek(led, unit, standing, lines);
  const begun = beginsWithDay(unit, lines);
  if (begun && isWeekLong(begun.said) && !says(unit.text.slice(0, begun.said.from))) {
    // `Sep 7 – 11: units and errors. Sheet A due Friday.`
    const week = ledBy(begun.said, unit.text);
    begin(week, unit, standing, lines);
    return ofWeek(week, unit, standing, lines);
  }
  if (begun) return ofDay(begun, unit, standing, lines);
  const sentences = sentencesOf(unit.text);
  return sentences.flatMap(({ text, at }) => {
    const isLoose = sentences.length > 1 || text.length > LONGEST;
    return rawsOf({ text, at, unit, isLoose }, spansOf(text, lines), standing, lines);
  });
}

const LABEL = /^[\p{L}\d #.]{0,24}[\s:([–-]*$/u;

interface Begun {
  said: DateSaid;
  parts: { text: string; at: number }[];
}

/** `Meeting 2 (9/9): chapters 1–5. Response 1 due.`: sentences behind a date at the head of a line; null for another line. */
function beginsWithDay({ text, isItem, indent }: Unit, lines: Lines): Begun | null {
  if (text.length > LONGEST * 2) return null;
  const parts = sentencesOf(text, 0);
  const [first, ...others] = parts;
  if (!first || !others.length) return null;
  const { dates } = spansOf(first.text, lines);
  const [said] = dates;
  if (!said || dates.length > 1 || said.week !== null) return null;
  const isFirst =
    !says(text.slice(0, said.from)) && (isItem || indent > 0 || /^\W/.test(text.slice(said.to)));
  const isLabelled = LABEL.test(text.slice(0, said.from)) && /^\s?[)\]]?\s?[:–-]/.test(text.slice(said.to));
  return isFirst || isLabelled ? { said, parts } : null;
}

/** The first sentence as a line by itself, and of the others those that name work or somewhere to be. */
function ofDay({ said, parts }: Begun, unit: Unit, standing: Above, lines: Lines): Raw[] {
  return parts.flatMap(({ text, at }, n) => {
    const sentence: Sentence = { text, at, unit, isLoose: false };
    const spans = spansOf(text, lines);
    if (n === 0 || spans.dates.length) return rawsOf(sentence, spans, standing, lines);
    if (!isDue(text) && !isNamed(text)) return [];
    const about = { week: anyDayOf(said), day: said, isTopic: false };
    return inTheWeek(sentence, spans.times, about, standing, lines, wholeOf(sentence, standing));
  });
}

/** `Week 4, Tue 29 Sept: quiz` tells a day, and no week. */
const isDated = ({ told }: WeekLed) =>
  told !== null && told.last === null && told.weekday !== null && told.weekday !== 1;

function begin(
  { week, number, told }: WeekLed,
  { indent, level }: Unit,
  standing: Above,
  { weeks }: Lines,
): void {
  if (number !== null && told) weeks.tell(number, told.first, null);
  standing.week = { said: week, indent, level };
  standing.day = null;
}

/** The line of a week: what it says besides is on its weekdays, or what the week is about. */
function ofWeek(led: WeekLed, unit: Unit, standing: Above, lines: Lines): Raw[] {
  const rest = unit.text.slice(led.to);
  // A date by itself beside the number is the day that is meant, where no other one is named.
  const day = led.told && led.isDay ? led.told : null;
  if (day) standing.day = { said: day, indent: unit.indent, level: unit.level };
  if (!says(tidied(rest))) return [];
  const parts = sentencesOf(rest, 0).flatMap(({ text, at }) =>
    items(text).map((item) => ({ text: item.text, at: at + item.from })),
  );
  return parts.flatMap(({ text, at }) => {
    const sentence: Sentence = { text, at: at + led.to, unit, isLoose: false };
    const spans = spansOf(text, lines);
    if (spans.dates.length || weeklyIn(text, spans, lines.reader.language))
      return rawsOf(sentence, spans, standing, lines);
    const about = { week: led.week, day: day ?? led.week, isTopic: true };
    return inTheWeek(sentence, spans.times, about, standing, lines, wholeOf(sentence, standing));
  });
}

/** Times and dates of a sentence, without what only seems to be one, and what says when a week begins. */
function spansOf(text: string, lines: Lines): Spans {
  const spans = spansIn(text, lines.reader);
  const dates: DateSaid[] = [];
  for (const said of spans.dates) {
    if (!isDate(said, text, lines, dates.at(-1))) continue;
    const before = text.slice(Math.max(0, said.from - 60), said.from);
    const begun = weekThatBegins(before);
    if (begun !== null) {
      lines.weeks.tell(begun, said.first, null);
      continue;
    }
    const isWeek = said.week === null && !said.last && WEEK_OF.test(before);
    if (isWeek && NOT_COUNTED.test(text)) lines.weeks.skip(said.first);
    dates.push(isWeek ? anyDayOf(said) : said);
  }
  return { ...spans, dates };
}

const WEEK_OF = /\b(?:week (?:of|beginning|commencing|starting)|w\/c)\s(?:the\s)?$/i;
const NOT_COUNTED = /\b(?:not counted|(?:does not|doesn['’]t) count|unnumbered|not numbered|no number)\b/i;

/** Finds where the date of a line stands in it; empty for a line without one. */
function shapeOf(text: string, dates: readonly DateSaid[]): string {
  const [first] = dates;
  const last = dates.at(-1);
  if (!first || !last) return '';
  if (!says(text.slice(0, first.from))) return 'first';
  return says(text.slice(last.to)) ? 'middle' : 'last';
}

/** `Problem sets are due on the following Monday at 10 pm` */
const ALWAYS = /\b(?:are|always|each|every|all)\b/i;

const wholeOf =
  ({ text, at, unit, isLoose }: Sentence, { hint, hour, group }: Above): Whole =>
  (title, more) => ({
    ...{ ...EMPTY, title, hint, hour, group },
    manner: isLoose ? 'loose' : 'firm',
    at: placeIn(unit, at, at + text.length),
    ...more,
  });

function rawsOf(sentence: Sentence, spans: Spans, standing: Above, lines: Lines): Raw[] {
  const { text, unit } = sentence;
  const { dates, times } = spans;
  const shape = shapeOf(text, dates);
  if (shape && unit.isApart && shape !== standing.shape) standing.group = unit.where;
  standing.shape = shape || standing.shape;
  const whole = wholeOf(sentence, standing);
  // `Group news, week 3` above all is no item of that week.
  const isTop = unit.pieces[0]?.block === 0 && dates.length === 1 && (dates[0]!.week ?? -1) >= 0;
  if (isTop && dates[0]!.weekday === null && !isDue(text))
    return undated(sentence, times, standing, lines, whole);
  const weekly = weeklyIn(text, spans, lines.reader.language);
  if (weekly) {
    const rest = without(text, [...weekly.spans, ...times]);
    const hasName = says(rest) && !isPlace(rest);
    // Where it meets, and when: it is the lesson of what stands above.
    const title = hasName ? rest : says(rest) ? standing.title : tidied(text);
    const more = hasName ? {} : { place: rest, hint: standing.hint ?? ('topic' as const) };
    return says(title) ? [whole(title, { weekly: weekly.weekly, ...more, ...clockOf(times[0]) })] : [];
  }
  // Below a day it is of that day.
  if (!dates.length && !standing.day && times.length === 1 && isDue(text) && ALWAYS.test(text)) {
    standing.hour = times[0]!.minute;
    return [];
  }
  if (!dates.length) return undated(sentence, times, standing, lines, whole);
  const named = underTitle(sentence, spans, standing);
  if (!named && isHeading(sentence, dates, standing, lines)) return [];
  const raws = named
    ? [whole(named.title, { date: dates[0]!, place: named.place, ...clockOf(times[0]) })]
    : dated(sentence, dates, times, standing, whole);
  if (!sentence.isLoose) Object.assign(standing, { isTold: true, open: raws });
  return raws;
}

/** A date with its hour, and at most a room, under a heading: `Exam` is what takes place then. */
function underTitle({ text, isLoose }: Sentence, { dates, times }: Spans, { title }: Above) {
  if (isLoose || dates.length !== 1 || !times.length || !title) return null;
  const rest = without(text, [...dates, ...times]);
  return !says(rest) || isPlace(rest) ? { title, place: rest } : null;
}

const WEEK_NUMBER = /\b(?:week|wk|woche|semaine|semana)\.?\s?(\d{1,2})\b/giu;

/** A date, or a week, with nothing beside it: it holds for what stands below. */
function isHeading(
  { text, unit, isLoose }: Sentence,
  dates: DateSaid[],
  standing: Above,
  { weeks }: Lines,
): boolean {
  if (isLoose || dates.length > 2) return false;
  if (says(tidied(without(text, dates).replace(WEEK_NUMBER, ' ')))) return false;
  const { indent, level } = unit;
  const number = [...text.matchAll(WEEK_NUMBER)][0]?.[1];
  const said = dates.find((d) => d.week === null || d.week === -1);
  const week =
    number !== undefined
      ? inWeek(Number(number), null)
      : said && (said.week === -1 || isWeekLong(said))
        ? anyDayOf(said)
        : null;
  if (number !== undefined && said) weeks.tell(Number(number), said.first, null);
  if (week) {
    standing.week = { said: week, indent, level };
    standing.day = null;
  } else if (said) standing.day = { said, indent, level };
  return true;
}
