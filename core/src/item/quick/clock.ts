import { minuteWords } from '../../words/when.ts';
import type { Line } from './line.ts';
import { EVENING, GOES_AT } from './words.ts';

/** A time of day as it was typed, before it is known which half of the day was meant. */
interface Clock {
  hour: number;
  minute: number;
  half: 'am' | 'pm' | null;
  /** How sure it is that this is a time at all, and not some number */
  strength: 'sure' | 'dotted' | 'four' | 'bare';
  /** The word after it */
  end: number;
}

/** Minutes of the day; `until` only for what lasts. 1440 is the end of the day. */
export interface Times {
  minute: number;
  until: number | null;
}

const NUMBERS = 'zero one two three four five six seven eight nine ten eleven twelve'.split(' ');
const MINUTES: Record<string, number> = { five: 5, ten: 10, quarter: 15, '1/4': 15, twenty: 20, half: 30 };
const COUNTED =
  /^(pages?|pp?|chapters?|ch|ex|exercises?|questions?|qs?|problems?|sets?|units?|sections?|years?|weeks?|verses?|lines?|parts?|no|numbers?|room|form|set|figs?|lists?|levels?|grades?)$/;
const MONTH = /^(jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)/;
const JOINS = /^([-–—]|to|til|till|until|'til)$/;
const MORNING =
  /^(morning|breakfast|bus|train|flight|wake|leave|assembly|registration|swim|swimming|rowing)$/;
const HAND_IN = /^(due|by|submit|deadline|hand|before)$/;
const WEEKDAYISH = /^(mon|tue|wed|wen|thu|thr|fri|sat|sun|tod|tom|tmr|ton)/;

function clockAt(line: Line, i: number): Clock | null {
  const text = line.at(i);
  const next = line.at(i + 1);
  if (/^(noon|midday)$/.test(text)) return { hour: 12, minute: 0, half: 'pm', strength: 'sure', end: i + 1 };
  if (text === 'midnight') return { hour: 24, minute: 0, half: null, strength: 'sure', end: i + 1 };
  const m = /^(\d{1,2})(?:([:.])(\d{2}))?(am|pm|a|p|ish)?$/.exec(text);
  if (m) {
    const hour = Number(m[1]);
    const minute = Number(m[3] ?? 0);
    if (hour > 24 || minute > 59) return null;
    const word = /^(am|pm|a\.m|p\.m)$/.exec(next)?.[0];
    const isAbout = m[4] === 'ish';
    const said = isAbout ? word : (m[4] ?? word);
    const half = said?.startsWith('p') ? 'pm' : said ? 'am' : null;
    const isOclock = /^o'?’?clock$/.test(next);
    const end = i + (word && !m[4] ? 2 : isOclock ? 2 : 1);
    if (half && (hour < 1 || hour > 12)) return null;
    const strength = half || isOclock || isAbout || m[2] === ':' ? 'sure' : m[2] === '.' ? 'dotted' : 'bare';
    return { hour, minute, half, strength, end };
  }
  const four = /^([01]\d|2[0-3])([0-5]\d)(h|hrs)?$/.exec(text);
  if (!four) return null;
  return {
    hour: Number(four[1]),
    minute: Number(four[2]),
    half: null,
    strength: four[3] ? 'sure' : 'four',
    end: i + 1,
  };
}

/** `half past four`, `1/2 past 4`, `half 4`, `quarter to 5`, `5 past 9`: as people say it. */
function spokenAt(line: Line, i: number): Clock | null {
  const count = (text: string) => {
    const n = NUMBERS.indexOf(text);
    return n > 0 ? n : /^\d{1,2}$/.test(text) ? Number(text) : NaN;
  };
  const first = line.at(i);
  const amount = first === '1/2' ? 30 : (MINUTES[first] ?? (/^\d{1,2}$/.test(first) ? Number(first) : NaN));
  let k = i + 1;
  if (/^min(ute)?s?$/.test(line.at(k))) k++;
  const isPast = line.at(k) === 'past';
  const isTo = line.at(k) === 'to' && amount < 30;
  const hour = isPast || isTo ? count(line.at(k + 1)) : amount === 30 ? count(line.at(i + 1)) : NaN;
  if (!(amount > 0 && amount < 60) || !(hour >= 1 && hour <= 12)) return null;
  const half = /^(am|pm)$/.exec(line.at(isPast || isTo ? k + 2 : i + 2))?.[0] as 'am' | 'pm' | undefined;
  const end = (isPast || isTo ? k + 2 : i + 2) + (half ? 1 : 0);
  const at = isTo ? { hour: hour === 1 ? 12 : hour - 1, minute: 60 - amount } : { hour, minute: amount };
  return { ...at, half: half ?? null, strength: 'sure', end };
}

const readAt = (line: Line, i: number) => spokenAt(line, i) ?? clockAt(line, i);

/** Which half of the day an hour is in, at a school: lessons and clubs are between eight and seven. */
function settle(
  { hour, minute, half }: Clock,
  line: Line,
  text: string,
): { minute: number; isDoubtful: boolean } {
  const of = (h: number) => h * 60 + minute;
  if (half) return { minute: of((hour % 12) + (half === 'pm' ? 12 : 0)), isDoubtful: false };
  if (hour >= 13 || hour === 0 || text.startsWith('0')) return { minute: of(hour), isDoubtful: false };
  if (line.says(HAND_IN) && hour === 11 && minute === 59) return { minute: of(23), isDoubtful: false };
  const isEvening = line.says(EVENING) && hour >= 5 && hour < 12;
  const isMorning = line.says(MORNING) && hour >= 5;
  if (isMorning && !isEvening) return { minute: of(hour), isDoubtful: false };
  if (isEvening || hour < 7) return { minute: of(hour + 12), isDoubtful: false };
  // Seven may be either: swimming, or the choir.
  return hour === 7 ? { minute: of(19), isDoubtful: true } : { minute: of(hour), isDoubtful: false };
}

/**
 * Takes a time of day, or a span of hours, out of a line.
 * @param isDayKnown a day or a repeat was read, so that a span of bare hours is one
 * @param sureOnly leaves bare numbers alone, which may be dates; these are read once the day is known
 */
export function takeTimes(line: Line, sureOnly: boolean, isDayKnown = false): Times | null {
  for (let i = 0; i < line.tokens.length; i++) {
    const first = readAt(line, i);
    if (!first || !isTime(line, i, first, { sureOnly, isDayKnown })) continue;
    const joint = /^(from|between)$/.test(line.at(i - 1)) && line.at(first.end) === 'and' ? 'and' : '';
    const isJoined = joint || JOINS.test(line.at(first.end));
    const second = isJoined ? readAt(line, first.end + 1) : null;
    if (second && second.strength !== 'four' && !MONTH.test(line.any(second.end)))
      return takeSpan(line, i, first, second);
    if (first.strength === 'bare' && sureOnly) continue;
    if (/^(at|@|from|by)$/.test(line.at(i - 1))) line.skip(i - 1);
    const settled = settle(first, line, line.any(i));
    const { from, to } = line.take(i, first.end, 'time');
    if (settled.isDoubtful) {
      const other = settled.minute - 720;
      const choice = (m: number) => ({ words: minuteWords(m), text: minuteWords(m) });
      line.doubts.push({
        from,
        to,
        words: `“${line.text.slice(from, to)}” may be in the morning or in the evening.`,
        choices: [choice(settled.minute), choice(other)],
      });
    }
    return { minute: settled.minute, until: null };
  }
  return null;
}

/** `9.40` is no day of a month, and an hour at which something begins. */
const isNoDate = (text: string) => /^([7-9]|1\d|20)\.(15|2[05]|3[05]|4[05]|5[05])$/.test(text);

/** Tells whether what looks like a time is one, by what stands around it. */
function isTime(
  line: Line,
  i: number,
  { strength, end }: Clock,
  { sureOnly, isDayKnown }: { sureOnly: boolean; isDayKnown: boolean },
): boolean {
  const before = line.any(i - 1);
  if (strength === 'sure') return true;
  if (COUNTED.test(before) || (COUNTED.test(line.any(i - 2)) && JOINS.test(before))) return false;
  const isLed = /^(at|@|from|between)$/.test(before);
  const isAfterDay = WEEKDAYISH.test(before) || (!line.isFree(i - 1) && i > 0);
  // `choir 7 thurs`: where one goes at an hour, a number beside the day is that.
  const isBeforeDay = WEEKDAYISH.test(line.any(end)) && line.says(GOES_AT);
  if (strength === 'dotted')
    return (
      isLed ||
      isBeforeDay ||
      isNoDate(line.any(i)) ||
      ((isAfterDay || MONTH.test(before)) && line.behind(i) !== '.')
    );
  const isByMonth = MONTH.test(line.at(i - 1)) || MONTH.test(line.at(end));
  if (strength === 'four') return !isByMonth && (isLed || isAfterDay);
  // A span of bare hours, or one after its day: `sat 10-12`, `fri 4`.
  const second = JOINS.test(line.at(end)) ? clockAt(line, end + 1) : null;
  if (second?.half || second?.strength === 'sure') return true;
  if (isByMonth) return false;
  if (sureOnly) return isLed;
  const value = Number(line.any(i));
  if (!(value >= 1 && value <= 12)) return false;
  return isLed || isAfterDay || isBeforeDay || (isDayKnown && second !== null);
}

function takeSpan(line: Line, i: number, first: Clock, second: Clock): Times {
  const begin = { ...first };
  // `4-5pm`: the half is that of both, unless it would turn them round.
  if (!first.half && second.half === 'pm' && first.hour <= 12)
    begin.half =
      first.hour % 12 <= second.hour % 12 && first.hour !== 12 ? 'pm' : first.hour === 12 ? 'pm' : 'am';
  if (!first.half && second.half === 'am') begin.half = 'am';
  const from = settle(begin, line, line.any(i)).minute;
  let until = settle(second, line, line.any(first.end + 1)).minute;
  if (!second.half && second.hour <= 12) until = (second.hour % 12) * 60 + second.minute;
  while (until <= from && until + 720 <= 1440) until += 720;
  if (/^(from|between|at)$/.test(line.at(i - 1))) line.skip(i - 1);
  line.take(i, second.end, 'time');
  return { minute: from, until: until > from ? until : null };
}

const UNIT = { h: 60, m: 1 } as const;
const unitOf = (text: string): keyof typeof UNIT | null =>
  /^(h|hrs?|hours?)$/.test(text) ? 'h' : /^(m|mins?|minutes?)$/.test(text) ? 'm' : null;

/** Takes how long something takes or lasts: `45 min`, `1h30`, `2 hours`, `half an hour`. */
export function takeLength(line: Line): number | null {
  for (let i = 0; i < line.tokens.length; i++) {
    // `in 2 hours` is a time, and `every 20 minutes` is none of our business.
    if (/^(in|within|every|past|to)$/.test(line.any(i - 1))) continue;
    const found = lengthAt(line, i);
    if (!found || /^(before|ahead|ago|past|to)$/.test(line.any(found.end))) continue;
    if (line.at(i - 1) === 'for') line.skip(i - 1);
    line.take(i, found.end, 'length');
    return Math.round(found.minutes);
  }
  return null;
}

function lengthAt(line: Line, i: number): { minutes: number; end: number } | null {
  const text = line.at(i);
  if (text === 'half' && /^an?$/.test(line.at(i + 1)) && line.at(i + 2) === 'hour')
    return { minutes: 30, end: i + 3 };
  if (/^an?$/.test(text) && line.at(i + 1) === 'hour')
    return line.at(i + 2) === 'and' && line.at(i + 4) === 'half'
      ? { minutes: 90, end: i + 5 }
      : { minutes: 60, end: i + 2 };
  const joined = /^(\d{1,4}(?:\.\d{1,2})?)([a-z]+)(\d{1,2})?$/.exec(text);
  if (joined) {
    const unit = unitOf(joined[2]!);
    if (!unit) return null;
    if (unit === 'h' && !joined[3] && /^\d{1,2}m?$/.test(line.at(i + 1)) && unitAfter(line, i + 1))
      return { minutes: Number(joined[1]) * 60 + parseInt(line.at(i + 1), 10), end: unitAfter(line, i + 1)! };
    return { minutes: Number(joined[1]) * UNIT[unit] + Number(joined[3] ?? 0), end: i + 1 };
  }
  const number = /^\d{1,4}(?:\.\d{1,2})?$/.test(text) ? Number(text) : NaN;
  const unit = unitOf(line.at(i + 1));
  if (Number.isNaN(number) || !unit) return null;
  if (
    unit === 'h' &&
    /^\d{1,2}$/.test(line.at(i + 2)) &&
    (unitOf(line.at(i + 3)) === 'm' || isLast(line, i + 2))
  )
    return {
      minutes: number * 60 + Number(line.at(i + 2)),
      end: i + (unitOf(line.at(i + 3)) === 'm' ? 4 : 3),
    };
  return { minutes: number * UNIT[unit], end: i + 2 };
}
const isLast = (line: Line, i: number) => i === line.tokens.length - 1;
/** The word after minutes that stand at `i`; null where they are none. */
const unitAfter = (line: Line, i: number): number | null =>
  /m$/.test(line.at(i)) ? i + 1 : unitOf(line.at(i + 1)) === 'm' ? i + 2 : null;
