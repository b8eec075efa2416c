import { plain } from '../../lib/plain.ts';
import type { CalendarKind } from '../kind.ts';
import type { Line } from './line.ts';

export interface Named {
  id: string;
  name: string;
  kind: CalendarKind;
  flag: { letters: string };
}

/** How short the beginning of a word may be typed. */
const SHORTEST = 3;
/** Small words that are letters of a flag as well, and mean themselves. */
const WORDS = new Set(
  'on no in is it at or he me we so do go up us my be by an as of to if am pm hm the'.split(' '),
);
const plainWords = (name: string) =>
  plain(name)
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);

/** Tells whether a word is another one's beginning, as people shorten them: `stats` for Statistics, `chem`. */
function isShortOf(typed: string, word: string): boolean {
  if (typed.length < SHORTEST) return false;
  return (
    word.startsWith(typed) ||
    (typed.length > SHORTEST && typed.endsWith('s') && word.startsWith(typed.slice(0, -1)))
  );
}

interface Hit {
  calendar: Named;
  i: number;
  end: number;
  /** The more of the name stands there, the more it counts */
  weight: number;
}

/**
 * Takes the calendar that a line names: by its whole name anywhere; by its letters in capitals; and where a
 * line begins or ends, or after `for`, by its first word, or the beginnings of its words. In the middle of a
 * line such a word is part of what is to be done (`long project boat model`).
 */
export function takeCalendar(line: Line, calendars: readonly Named[]): Named | null {
  let best: Hit | null = null;
  for (const calendar of calendars)
    for (const hit of hitsOf(line, calendar)) if (!best || hit.weight > best.weight) best = hit;
  if (!best) return null;
  const { calendar, i, end } = best;
  if (/^(for|in)$/.test(line.at(i - 1)) && end === line.tokens.length) line.skip(i - 1);
  // `school trip` is what it is called, too.
  if (calendar.kind === 'school' || calendar.kind === 'group') {
    const { from, to } = { from: line.tokens[i]!.from, to: line.tokens[end - 1]!.to };
    line.marks.push({ kind: 'calendar', from, to });
  } else line.take(i, end, 'calendar');
  return calendar;
}

function* hitsOf(line: Line, calendar: Named): Generator<Hit> {
  const words = plainWords(calendar.name);
  const { letters } = calendar.flag;
  const isCourse = calendar.kind === 'course';
  const lastFree = line.tokens.findLastIndex((_t, i) => line.isFree(i));
  for (let i = 0; i < line.tokens.length; i++) {
    if (!line.isFree(i)) continue;
    const { from, to } = line.tokens[i]!;
    const typed = line.text.slice(from, to);
    const isFirst = i === 0;
    const isEdge = isFirst || line.at(i - 1) === 'for';
    const isOfLetters =
      typed === letters || (isFirst && typed.toLowerCase() === letters.toLowerCase() && !WORDS.has(typed));
    if (isOfLetters && letters.length > 1) yield { calendar, i, end: i + 1, weight: 50 + letters.length };
    let n = 0;
    while (n < words.length && line.at(i + n) === words[n]) n++;
    // Behind something that was understood, and not behind a word of its own: `bus home`.
    const isAtEnd = i + Math.max(1, n) > lastFree && !line.isFree(i - 1);
    if (n === words.length && n > 0) {
      // A name of one word is a word like another, in the middle of a line.
      if (words.length > 1 || isEdge || isAtEnd || isCourse)
        yield { calendar, i, end: i + n, weight: 100 + n };
      continue;
    }
    if (!isCourse || !(isEdge || isAtEnd)) continue;
    let k = 0;
    while (k < words.length && isShortOf(line.at(i + k), words[k]!)) k++;
    // The rest of the line has to be something to do yet.
    if (k && (k < line.tokens.length || line.tokens.length > 1))
      yield { calendar, i, end: i + k, weight: 10 * k + line.at(i).length };
  }
}
