import * as chrono from 'chrono-node/en';
import { DAY, civilDate, dayNumber, daysInMonth, weekday } from '../../time/civil.ts';
import { shortDay, weekdayName } from '../../words/when.ts';
import type { Line } from './line.ts';
import { weekdayIn } from './weekdays.ts';

/** Day numbers: the day itself, and the last one of what lasts several. */
export interface Days {
  day: number;
  last: number | null;
}

export interface DayOptions {
  /** Today's day number, and the minute it is now, on the person's wall clock */
  today: number;
  minute: number;
  /** The time that was read already; null for none */
  at: number | null;
}

const TOMORROW =
  /^(tomorrow|tomorow|tommorow|tommorrow|tomorro|tomorrw|tomoz|tomo|tmrw|tmrow|tmr|tmw|2moro|2morrow|2mro|2moz)$/;
const TONIGHT = /^(tonight|tonite|2nite|2night)$/;
const TODAY = /^(today|2day)$/;
/** The months as they are misspelled, and in the other language people mix in; by their first three letters. */
const MONTHS: Record<string, RegExp> = {
  jan: /^(jan|janu?ary|januar)$/,
  feb: /^(feb|februa?ry|febuary|febrary|februar)$/,
  mar: /^(march|mar|marz|maerz)$/,
  apr: /^(apr|april)$/,
  may: /^(may|mai)$/,
  jun: /^(jun|june|juni)$/,
  jul: /^(jul|july|juli)$/,
  aug: /^(aug|august|agust)$/,
  sep: /^(sep|sept|september|setember|septmber)$/,
  oct: /^(oct|october|octobr|ocotber|okt|oktober)$/,
  nov: /^(nov|november|novemeber|novmber)$/,
  dec: /^(dec|december|decmber|decemeber|dez|dezember)$/,
};
const monthIn = (text: string) => Object.keys(MONTHS).find((name) => MONTHS[name]!.test(text));
const HAS_DATE =
  /\b(jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)|\d[/-]\d|\b(in|within|time|fortnight)\b/i;

/** Days that have a name, by month and day; what is due by then is due on the day before. */
const NAMED: Record<string, [month: number, day: number]> = {
  xmas: [12, 25],
  christmas: [12, 25],
  halloween: [10, 31],
};

/** The next day of a month and day that is not over. */
function nextOf(month: number, day: number, { today }: DayOptions): number {
  const { year } = civilDate(today);
  const found = dayNumber(year, month, day);
  return found < today ? dayNumber(year + 1, month, day) : found;
}

/** A day that goes by its name alone: `xmas`. */
export function namedDay(text: string, options: DayOptions): number | null {
  const of = NAMED[text];
  return of ? nextOf(of[0], of[1], options) : null;
}

const isOver = ({ at, minute }: DayOptions) => at !== null && at <= minute;

/** Takes the day, or the days from one to another, that a line names. */
export function takeDays(line: Line, options: DayOptions): Days | null {
  return (
    takeDotted(line, options) ??
    takeDate(line, options) ??
    takeRelative(line, options) ??
    takeOrdinal(line, options) ??
    takeWeekday(line, options)
  );
}

/** Words before a day that lead it in and say nothing more. */
function lead(line: Line, i: number): void {
  for (
    let k = i - 1;
    /^(on|by|due|the|this|until|till|til|before|am|bis|der|den|for|of)$/.test(line.at(k));
    k--
  )
    line.skip(k);
}

/** `12.10.`, `12.10.2026`: a day and a month as they are written with dots. */
function takeDotted(line: Line, options: DayOptions): Days | null {
  for (let i = 0; i < line.tokens.length; i++) {
    const m = /^(\d{1,2})\.(\d{1,2})(?:\.(\d{2}|\d{4}))?$/.exec(line.at(i));
    if (!m || (!m[3] && line.behind(i) !== '.')) continue;
    const [day, month] = [Number(m[1]), Number(m[2])];
    if (day < 1 || month < 1 || month > 12 || day > daysInMonth(2024, month)) continue;
    const year = m[3] ? Number(m[3]) + (m[3].length === 2 ? 2000 : 0) : null;
    lead(line, i);
    line.take(i, i + 1, 'day');
    return { day: year === null ? nextOf(month, day, options) : dayNumber(year, month, day), last: null };
  }
  return null;
}

/** Parts of a date; to the library `evening 15 oct` is a quarter past something. */
const IN_A_DATE =
  /^(\d.*|in|within|weeks?|wks?|days?|months?|years?|yrs?|time|the|of|an?|one|two|three|four|five|six|seven|eight|nine|ten|couple|few|[-–—])$/;

/** Text that the date library is given, and from where in the line each letter of it is. */
class Spelled {
  text = '';
  readonly from: number[] = [];
  add(text: string, from: number): void {
    this.text += text;
    for (let i = 0; i < text.length; i++) this.from.push(from);
  }
}

/**
 * The line as the date library would spell it: what was understood left out, months by their names, `until`
 * between two dates as a dash, and the day before its month (`oct 20` is a year to it).
 */
function spelled(line: Line): Spelled {
  const found = new Spelled();
  const { tokens } = line;
  let at = 0;
  for (let i = 0; i < tokens.length; i++) {
    const { from, to } = tokens[i]!;
    for (; at < from; at++) found.add(line.text[at]!, at);
    at = to;
    const month = monthIn(line.at(i));
    const days = month ? dayAfterMonth(line, i) : null;
    if (days) {
      const stop = tokens[days - 1]!.to;
      found.add(line.text[tokens[i + 1]!.from]!, from);
      found.add(`${line.text.slice(tokens[i + 1]!.from + 1, stop)} ${month!}`, stop - 1);
      at = stop;
      i = days - 1;
    } else if (month) {
      // Behind `17 oct` an hour may stand, and no year: `17 oct 9-1`.
      const isWhole =
        /^(\d|of$)/.test(line.at(i - 1)) && !/^(\d{4}|[-–—]|to|until|till|til)$/.test(line.any(i + 1));
      found.add(isWhole ? `${month} ;` : month, from);
    } else if (
      /^(until|till|til|to)$/.test(line.at(i)) &&
      /^\d|^(jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)/.test(line.at(i - 1))
    )
      found.add('-', from);
    else if (!IN_A_DATE.test(line.at(i))) found.add(' ; ', from);
    else for (let k = from; k < to; k++) found.add(line.text[k]!, k);
  }
  for (; at < line.text.length; at++) found.add(line.text[at]!, at);
  return found;
}

/** Where the days that stand behind a month end: `oct 20`, `oct 24-31`; null where there are none. */
function dayAfterMonth(line: Line, i: number): number | null {
  const isDay = (k: number) => /^([1-9]|[12]\d|3[01])(st|nd|rd|th)?$/.test(line.at(k));
  if (!isDay(i + 1) || /^\d/.test(line.at(i - 1))) return null;
  return /^[-–—]$/.test(line.at(i + 2)) && isDay(i + 3) ? i + 4 : i + 2;
}

/**
 * A date with its month, or so many days or weeks ahead, by the date library. Only what names a day by a number
 * counts: a month by itself is a word like another (`chapter may`), and so is a number before a weekday
 * (`exercise 7 mon`).
 */
function takeDate(line: Line, { today }: DayOptions): Days | null {
  const { text, from } = spelled(line);
  const instant = new Date(today * DAY + 12 * 3_600_000);
  for (const { index, text: said, start, end } of chrono.GB.parse(
    text,
    { instant, timezone: 0 },
    { forwardDate: true },
  )) {
    if (!/\d|\b(in|within|time)\b/.test(said) || !HAS_DATE.test(said) || !start.isCertain('day')) continue;
    const dayOf = (c: typeof start) => dayNumber(c.get('year')!, c.get('month')!, c.get('day')!);
    const day = dayOf(start);
    const last = end?.isCertain('day') && dayOf(end) > day ? dayOf(end) : null;
    if (!Number.isFinite(day) || Math.abs(day - today) > 4000) continue;
    const stop = from[index + said.trimEnd().length - 1]! + 1;
    const [first, behind] = line.within(from[index]!, stop);
    const lately = last === null ? justPast(line, first, day, today) : null;
    takeWithWeekday(line, first, behind, lately ?? day);
    return { day: lately ?? day, last };
  }
  return null;
}

/** The same date of this year, where it is over, but the weekday beside it says that it is the one meant. */
function justPast(line: Line, first: number, day: number, today: number): number | null {
  const said = weekdayIn(line.at(first - 1));
  const { year, month, day: date } = civilDate(day);
  const before = dayNumber(year - 1, month, date);
  const isMeant = said && said.day !== weekday(day) && said.day === weekday(before);
  return isMeant && before < today && today - before < 90 ? before : null;
}

/** Takes a date with the weekday beside it; where the two do not fit, that is doubtful. */
function takeWithWeekday(line: Line, first: number, end: number, day: number): void {
  const gap = line.at(first - 1) === 'the' ? 2 : 1;
  const before = weekdayIn(line.at(first - gap));
  const after = before ? null : weekdayIn(line.at(end));
  const said = before ?? after;
  const [from, to] = [before ? first - gap : first, after ? end + 1 : end];
  lead(line, from);
  line.take(from, to, 'day');
  if (said && said.day !== weekday(day)) {
    const near = [...Array(7).keys()].map((d) => day - 3 + d).find((d) => weekday(d) === said.day)!;
    line.doubt(from, to, `${shortDay(day).slice(4)} is a ${weekdayName(day)}.`, [choice(day), choice(near)]);
  }
}

const choice = (day: number) => ({ words: shortDay(day), text: shortDay(day).toLowerCase() });

/** Today, tomorrow, the weekend, the end of the week, a week by itself. */
function takeRelative(line: Line, { today }: DayOptions): Days | null {
  const put = (i: number, end: number, day: number, last: number | null = null): Days => {
    lead(line, i);
    line.take(i, end, 'day');
    return { day, last };
  };
  const ahead = (iso: number) => today + ((iso - weekday(today) + 7) % 7);
  for (let i = 0; i < line.tokens.length; i++) {
    const text = line.at(i);
    const [next, then] = [line.at(i + 1), line.at(i + 2)];
    if (text === 'day' && next === 'after' && TOMORROW.test(then)) return put(i, i + 3, today + 2);
    if (TOMORROW.test(text)) return put(i, i + 1 + Number(PART.test(next)), today + 1);
    if (TODAY.test(text)) return put(i, i + 1, today);
    if (TONIGHT.test(text)) return put(i, i + 1, today);
    if (text === 'this' && PART.test(next)) return put(i, i + 2, today);
    if (/^(weekend|w\/e)$/.test(text)) {
      const isNext = line.at(i - 1) === 'next';
      const day = ahead(6) + (isNext ? 7 : 0);
      return put(isNext || line.at(i - 1) === 'this' ? i - 1 : i, i + 1, day);
    }
    if (text === 'fortnight' || (text === 'week' && next === 'today')) {
      const first = /^(a|one)$/.test(line.at(i - 1)) ? i - 1 : i;
      const end = /^(today|time)$/.test(next) ? i + 2 : i + 1;
      return put(line.at(first - 1) === 'in' ? first - 1 : first, end, today + (text === 'week' ? 7 : 14));
    }
    if (text === 'end' && next === 'of') {
      const k = /^(the|this|next)$/.test(then) ? i + 3 : i + 2;
      const isNext = then === 'next';
      if (line.at(k) === 'week') return put(i, k + 1, ahead(5) + (isNext ? 7 : 0));
      const { year, month } = civilDate(today);
      if (line.at(k) === 'month') return put(i, k + 1, dayNumber(year, month + 1 + Number(isNext), 1) - 1);
    }
    if (text === 'next' && /^(week|wk)$/.test(next) && !weekdayIn(then)) {
      const day = ahead(1) === today ? today + 7 : ahead(1);
      line.doubt(i, i + 2, 'Next week: on which day?', [choice(day), choice(day + 4)]);
      return put(i, i + 2, day);
    }
  }
  return null;
}
const PART = /^(morning|afternoon|evening|night|eve|lunchtime)$/;

/** A weekday, the coming one: `fri`, `next fri`, `fri week`, `a week on fri`, `mon-fri`, `sat+sun`. */
function takeWeekday(line: Line, options: DayOptions): Days | null {
  const { today } = options;
  for (let i = 0; i < line.tokens.length; i++) {
    const said = weekdayIn(line.at(i));
    if (!said) continue;
    const away = (said.day - weekday(today) + 7) % 7;
    let [first, end] = [i, i + 1];
    let day = today + (away === 0 && isOver(options) ? 7 : away);
    if (PART.test(line.at(end))) end++;
    const before = line.at(i - 1);
    // `sat+sun`, `mon-fri`: from one to the other.
    const other = weekdayIn(line.at(end + 1));
    if (other && /^([-–—+&]|and|to)$/.test(line.at(end)) && other.day !== said.day) {
      const last = day + ((other.day - said.day + 7) % 7);
      lead(line, first);
      line.take(first, end + 2, 'day');
      return { day, last };
    }
    if (
      /^(week|wk)$/.test(line.at(end)) ||
      /^(week|wk)$/.test(before) ||
      (before === 'on' && /^(week|wk)$/.test(line.at(i - 2)))
    ) {
      const isAfter = /^(week|wk)$/.test(line.at(end));
      if (isAfter) end++;
      else first = before === 'on' ? i - 2 : i - 1;
      const isNext = line.at(first - 1) === 'next';
      if (/^(a|next|one)$/.test(line.at(first - 1))) first--;
      const plain = today + (away === 0 ? (isNext ? 0 : 7) : away);
      const week = isNext ? mondayAfter(today) + said.day - 1 : today + away + 7;
      lead(line, first);
      line.take(first, end, 'day');
      if (plain !== week) line.doubt(first, end, 'The week after this one?', [choice(week), choice(plain)]);
      return { day: week, last: null };
    }
    if (/^(next|nxt)$/.test(before)) {
      first--;
      const week = mondayAfter(today) + said.day - 1;
      const coming = today + (away || 7);
      lead(line, first);
      line.take(first, end, 'day');
      if (coming !== week)
        line.doubt(first, end, 'The coming one, or the one after?', [choice(week), choice(coming)]);
      return { day: week, last: null };
    }
    lead(line, first);
    line.take(first, end, 'day');
    if (away === 0 && options.at === null)
      line.doubt(first, end, `Today, or next ${weekdayName(day)}?`, [choice(day), choice(day + 7)]);
    else if (away === 0 && day > today) day = today + 7;
    return { day, last: null };
  }
  return null;
}
const mondayAfter = (today: number) => today + 8 - weekday(today);

/** `12th`, `the 3rd`: the next such day of a month. */
function takeOrdinal(line: Line, { today }: DayOptions): Days | null {
  for (let i = 0; i < line.tokens.length; i++) {
    const m = /^(\d{1,2})(st|nd|rd|th)$/.exec(line.at(i));
    const day = Number(m?.[1] ?? 0);
    // `4th draft`, `2nd half` count something; a day of the month stands at the end, or before its hour.
    const next = line.any(i + 1);
    const isDay =
      line.at(i - 1) === 'the' ||
      /^(on|by|due|until)$/.test(line.at(i - 1)) ||
      next === '' ||
      !line.isFree(i + 1) ||
      weekdayIn(line.at(i - 1));
    if (!m || day < 1 || day > 31 || !isDay) continue;
    const { year, month } = civilDate(today);
    for (let ahead = 0; ahead < 3; ahead++) {
      const first = dayNumber(year, month + ahead, 1);
      const date = civilDate(first);
      if (day > daysInMonth(date.year, date.month) || first + day - 1 < today) continue;
      takeWithWeekday(line, i, i + 1, first + day - 1);
      return { day: first + day - 1, last: null };
    }
  }
  return null;
}
