import { clockOf, timesBehind, type Above, type Lines, type Sentence, type Whole } from './above.ts';
import { isRemark } from './beside.ts';
import { chunks } from './chunks.ts';
import { weekdayOf } from './dates.ts';
import type { Hint, Raw } from './found.ts';
import { hintFor, hintOf, isDue } from './hints.ts';
import { isNamed } from './kinds.ts';
import { labelled, placeTold, tellsHour } from './labels.ts';
import { MONTHS, type DateSaid } from './said.ts';
import type { TimeSaid } from './times.ts';
import { items, says, tidied, without } from './title.ts';
import { placeIn, type Unit } from './units.ts';
import { weekdaysIn } from './week-line.ts';

const MONTH_ALONE =
  /^(january|february|march|april|may|june|july|august|september|october|november|december)(?:\s\d{4})?:?$/i;
const DAY_FIRST = /^(\d{1,2})(?:st|nd|rd|th)?(?:\s?[-–]\s?(\d{1,2}))?\s?[:.)–-]?\s{1,8}(?=\p{L})/u;

/** `17: Quiz 1` under a month. */
function dayOfMonth(text: string, month: number): DateSaid | null {
  const m = DAY_FIRST.exec(text);
  const parts = (day: number) => ({ year: null, month, day, isOpen: false });
  const [day, last] = [Number(m?.[1] ?? 0), Number(m?.[2] ?? 0)];
  if (!m || day < 1 || day > 31 || last > 31) return null;
  return {
    ...{ from: 0, to: m[0].length, form: 'words', weekday: null, week: null },
    ...{ first: parts(day), last: last > day ? parts(last) : null },
  };
}

/** Gives what stands above a line says of it: what names work, a test or somewhere to be is not what a lesson is about. */
const hintForLine = (hint: Hint | null, words: string): Hint | null =>
  (hint === 'topic' || hint === 'reading') && isNamed(words) && !isDue(words) ? null : hintFor(hint, words);

/** Rows of the dates in a sentence, with the words that belong to each. */
export function dated(
  { unit, at, ...sentence }: Sentence,
  dates: DateSaid[],
  times: TimeSaid[],
  { hint, title: above }: Above,
  whole: Whole,
): Raw[] {
  const first = dates[0]!.from;
  // `The proposal is due 16 October, a draft 20 November`: so is the draft.
  const areDue = isDue(sentence.text.slice(0, first));
  const isDueAt = (to: number) => areDue && !/[;:]/.test(sentence.text.slice(first, to));
  return chunks({ unit, at, ...sentence }, { dates, times }).flatMap(({ said, pieces }) =>
    pieces.flatMap(({ title, words, from, to, minute, until }) => {
      // `Due: 9 Oct` below `Gallery report`
      const label = sentence.isLoose ? null : labelled(title);
      if (label?.out) return [];
      return whole(label && above ? above : title, {
        ...{
          date: said,
          minute,
          until,
          hint: hintForLine(hint, isDueAt(said.from) ? `due ${words}` : words),
          place: label?.place ?? '',
        },
        at: placeIn(unit, at + from, at + to),
        dateAt: placeIn(unit, at + said.from, at + said.to),
      });
    }),
  );
}

interface About {
  /** The week whose weekdays are meant */
  week: DateSaid;
  /** The day of what names no weekday */
  day: DateSaid;
  /** What names neither a weekday nor work is what the week is about */
  isTopic: boolean;
}

/** Gives what the line of a week says, or one below it. */
export function inTheWeek(
  sentence: Sentence,
  times: TimeSaid[],
  { week, day, isTopic }: About,
  standing: Above,
  lines: Lines,
  whole: Whole,
): Raw[] {
  const { text } = sentence;
  const days = weekdaysIn(text, week, lines.reader.language);
  if (days.length) return dated(sentence, days, times, standing, whole);
  return items(text).flatMap((item) => {
    const own = times.filter((t) => t.from >= item.from && t.to <= item.from + item.text.length);
    const title = without(item.text, timesBehind(own, item.from));
    if (!says(title) || isRemark(title)) return [];
    const hint = hintForLine(standing.hint, item.text) ?? (isTopic ? 'topic' : null);
    return [whole(title, { date: day, hint, ...clockOf(own[0]) })];
  });
}

const WEEKDAY_FIRST = /^[-*•–]?\s?(\p{L}{2,10})\.?\s?(?=[:,–—-]|\s{2}|\s\p{L}|$)/u;

/** A line without a date of its own, under something that has one. */
export function undated(
  sentence: Sentence,
  times: TimeSaid[],
  standing: Above,
  lines: Lines,
  whole: Whole,
): Raw[] {
  const { text, unit, isLoose } = sentence;
  if (isLoose) return heading(sentence, standing);
  const ofDay = (words: string, from: number, date: DateSaid): Raw[] => {
    const own = times.filter((t) => t.from >= from && t.to <= from + words.length);
    const title = without(words, timesBehind(own, from));
    if (!says(title) || isRemark(title)) return [];
    return [whole(title, { date, hint: hintForLine(standing.hint, words), ...clockOf(own[0]) })];
  };
  const first = WEEKDAY_FIRST.exec(text);
  const weekday = first && weekdayOf(first[1]!, lines.reader.language);
  if (weekday && standing.week !== null) {
    const title = without(text.slice(first[0].length), timesBehind(times, first[0].length));
    const date = { ...standing.week.said, weekday };
    return says(title)
      ? [whole(title, { date, hint: hintForLine(standing.hint, text), ...clockOf(times[0]) })]
      : [];
  }
  const numbered = standing.month === null ? null : dayOfMonth(text, standing.month);
  if (numbered) {
    const rest = text.slice(numbered.to);
    return items(rest).flatMap((item) => ofDay(item.text, numbered.to + item.from, numbered));
  }
  const { day, week } = standing;
  const names = week ? weekdaysIn(text, week.said, lines.reader.language).length > 0 : false;
  if (week && isBelow(unit, week, names || isDue(text)) && !isRemark(text) && (names || !day))
    return inTheWeek(
      sentence,
      times,
      { week: week.said, day: week.said, isTopic: false },
      standing,
      lines,
      whole,
    );
  if (day && isBelow(unit, day, true)) {
    return items(text).flatMap((item) => ofDay(item.text, item.from, day.said));
  }
  if (standing.open.length && tellsMore(text, times, standing.open)) return [];
  return heading(sentence, standing);
}

/** `Time: 6:30 pm`, `Room: hall 3` below a date: what they say is of it. */
function tellsMore(text: string, [time]: readonly TimeSaid[], open: readonly Raw[]): boolean {
  if (time && tellsHour(text)) {
    for (const raw of open) if (raw.minute === null) Object.assign(raw, clockOf(time));
    return true;
  }
  const place = placeTold(text);
  if (place !== null) for (const raw of open) raw.place ||= place;
  return place !== null;
}

/** Tells whether a line belongs to a date above it: one of a list, further in, or below a heading where it says something of days. */
const isBelow = (unit: Unit, above: { indent: number; level: number }, saysMore: boolean) =>
  unit.level === 0 && (unit.isItem || unit.indent > above.indent || (above.level > 0 && saysMore));

/** A heading in capital letters */
const LOUD = /^\p{Lu}{2,}(?:\W{1,3}\p{Lu}{2,})*(?=\W|$)/u;

/** A line that stands by itself begins something else. */
function heading({ text, unit, isLoose }: Sentence, standing: Above): Raw[] {
  standing.day = null;
  const month = MONTH_ALONE.exec(text)?.[1];
  if (month !== undefined) standing.month = MONTHS.indexOf(month.slice(0, 3).toLowerCase()) + 1;
  else if (!unit.isItem) standing.month = null;
  if (unit.level > 0) standing.hour = null;
  const isName =
    unit.level > 0 ||
    (LOUD.test(text) && text.length < 80) ||
    /:$/.test(text) ||
    (!/\d/.test(text) && unit.text.length < 60);
  if (!isLoose && !unit.isItem && says(text) && (isName || unit.isApart || standing.isTold))
    Object.assign(standing, { title: tidied(text), isTold: false, open: [] });
  if (!isLoose && isName) {
    standing.hint = hintOf(text) ?? (unit.level > 0 || unit.isApart ? null : standing.hint);
    if (unit.level > 0 || unit.isApart) standing.week = null;
  } else if (isLoose) standing.hint = null;
  return [];
}
