import { datesIn, weekdayOf } from './dates.ts';
import type { Language } from './languages.ts';
import { inWeek, type DateSaid } from './said.ts';
import { timesIn, type TimeSaid } from './times.ts';

/** Findings in a stretch of text. */
export interface Spans {
  times: TimeSaid[];
  dates: DateSaid[];
}

export interface Reader {
  language: Language;
  /** A day of the term: what has no year is read as if it were near it */
  at: Date;
}

const WEEK =
  /(?:\b(\p{L}{2,10})\.?,?\s(?:of\s|in\s|der\s)?(?:the\s)?)?(?:\bin\s)?(?:[([]\s?)?\b(?:week|wk|woche|semaine|semana)\.?\s?(\d{1,2})\b(?:[,:]?\s(\p{L}{2,10})\b)?/giu;
const NAMED_HOUR = /noon|mid(?:day|night|i\b)|mittag|mitternacht|minuit|mediod|medianoche/i;

/** Times and dates in a text, and days of weeks by their number. */
export function spansIn(text: string, { language, at }: Reader): Spans {
  // Nothing else says a day or an hour: most cells of a large table are done with here.
  if (!/\d/.test(text)) return { times: NAMED_HOUR.test(text) ? timesIn(text) : [], dates: [] };
  if (/^\s?\d{1,4}\s?$/.test(text)) return { times: [], dates: [] };
  const times = timesIn(text);
  let masked = text;
  for (const { from, to } of times) masked = masked.slice(0, from) + ' '.repeat(to - from) + masked.slice(to);
  const dates = datesIn(masked, language, at);
  const isFree = (from: number, to: number) => dates.every((d) => to <= d.from || from >= d.to);
  for (const m of masked.matchAll(WEEK)) {
    const before = m[1] === undefined ? null : weekdayOf(m[1], language);
    const after = m[3] === undefined || before ? null : weekdayOf(m[3], language);
    // A word before it that is no weekday belongs to something else.
    const from =
      m.index +
      (before || m[1] === undefined
        ? 0
        : m[0].search(/\b(?:in\s(?=week|wk)|week|wk|woche|semaine|semana)/iu));
    const to =
      m.index + m[0].length - (m[3] !== undefined && !after ? m[0].length - m[0].lastIndexOf(m[3]) : 0);
    if (!isFree(from, to)) continue;
    dates.push(inWeek(Number(m[2]), before ?? after, from, to));
  }
  dates.sort((a, b) => a.from - b.from);
  // Beside a date, a week's number says nothing more.
  const isDated = dates.some((d) => d.week === null);
  return { times, dates: dates.filter((d) => !isDated || d.week === null || d.weekday !== null) };
}
