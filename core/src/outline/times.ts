/** A time of day, or the hours from one to another, as a text says it. */
export interface TimeSaid {
  from: number;
  to: number;
  /** Minute of the day; the end of the day is 1439 */
  minute: number;
  until: number | null;
}

const HALF = String.raw`(?:\s?([ap])\.?m\b\.?)`;
const CLOCK = new RegExp(
  String.raw`(?<![\d:.,/$€£])(\d{1,2})([:.h])(\d{2})(?![\d:/]|\.\d)${HALF}?(?:\s?(uhr|h)\b)?`,
  'gi',
);
const MILITARY = /(?<![\d:.,/-])([01]\d|2[0-3])([0-5]\d)\s?h(?:rs|ours)?\b/gi;
const HOUR = new RegExp(
  String.raw`(?<![\d:.,/$€£]|[^\dm\s]-)(\d{1,2})(?:${HALF}|\s?(uhr|h|o['’]clock)\b)`,
  'gi',
);
const NAMED =
  /\b(?:(12\s)?(noon|midday|midnight)|mittags|mitternacht|midi|minuit|mediod[ií]a|medianoche)\b/gi;
/** What stands before a time and is none of the title. */
export const LEADS =
  /(?:^|[\s,;(–—-])(?:(?:not later than|no later than|due|by|at|from|until|till|before|um|ab|bis|à|a las|@|starts?|starting|meet(?:ing)? at)\s{0,3}){1,3}$/i;
const DOTTED_LEADS = /(?:^|[\s,;(])(?:at|by|from|until|till|before|meet|um|ab|bis|à|@)\s{1,3}$/i;
const MONTH_BEFORE =
  /\b(?:jan|feb|mar|apr|may|jun|jul|aug|sept?|oct|nov|dec)[a-z]{0,6}\.?,?\s(?:\d{4},?\s)?$/i;
const DOTTED_BEHIND = /^\s?(?:[-–—]|to|until)\s?\d{1,2}\.[0-5]\d(?!\d|\.\d)/i;
/** `Thursday, 10-12`: hours behind a day, from one to the other. */
const BARE =
  /(?<=\b(?:(?:mon|tues?|wed|thu|thurs|fri|sat|sun)(?:day|nesday|rsday|urday)?|(?:week|wk)\s?\d{1,2}|\d{1,2}\s(?:jan|feb|mar|apr|may|jun|jul|aug|sept?|oct|nov|dec)\p{L}{0,6})\.?,\s)(\d{1,2})\s?[-–]\s?(\d{1,2})(?=\s*(?:$|[,;.)]|\n))/giu;
const RATIO = /\b(?:scale|ratio)[^.;,]{0,40}$/i;
const JOINT = /^\s{0,2}(?:[-–—]|to|until|till|for|bis|à|a|y)\s{0,2}$/i;
const AND = /^\sand\s$/i;
const BETWEEN = /\bbetween\s$/i;

const AT = /(?:\bat|\bum|@)\s{1,3}$/i;
const isDayAndMonth = (day: number, month: number, behind: string) =>
  /^\.(?!\d)/.test(behind) && day >= 1 && day <= 31 && month >= 1 && month <= 12;

interface Mark extends TimeSaid {
  half: 'a' | 'p' | null;
  hour: number;
  rest: number;
}

/** Times of day in a text, in order; a dotted one only where a word before it says that it is one. */
export function timesIn(text: string): TimeSaid[] {
  const marks: Mark[] = [];
  const isFree = (from: number, to: number) => marks.every((m) => to <= m.from || from >= m.to);
  const add = (from: number, to: number, hour: number, rest: number, half: Mark['half']) => {
    if (hour > 24 || rest > 59 || (half && (hour < 1 || hour > 12)) || !isFree(from, to)) return;
    marks.push({ from, to, hour, rest, half, minute: minuteOf(hour, rest, half), until: null });
  };
  for (const m of text.matchAll(CLOCK)) {
    const before = text.slice(Math.max(0, m.index - 60), m.index);
    const half = (m[4]?.toLowerCase() ?? null) as Mark['half'];
    const isSure = m[2] !== '.' || half || m[5];
    const behind = text.slice(m.index + m[0].length, m.index + m[0].length + 20);
    const isLed =
      DOTTED_LEADS.test(before) ||
      MONTH_BEFORE.test(before) ||
      DOTTED_BEHIND.test(behind) ||
      marks.some((last) => last.to <= m.index && JOINT.test(text.slice(last.to, m.index)));
    // `by 07.09.`: a day and a month.
    if (!isSure && isDayAndMonth(Number(m[1]), Number(m[3]), behind) && !AT.test(before)) continue;
    if (!isSure && (!isLed || /^\.\s?\d/.test(behind))) continue;
    if (RATIO.test(before)) continue;
    add(m.index, m.index + m[0].length, Number(m[1]), Number(m[3]), half);
  }
  for (const m of text.matchAll(MILITARY))
    add(m.index, m.index + m[0].length, Number(m[1]), Number(m[2]), null);
  for (const m of text.matchAll(HOUR))
    add(m.index, m.index + m[0].length, Number(m[1]), 0, (m[2]?.toLowerCase() ?? null) as Mark['half']);
  for (const m of text.matchAll(NAMED)) {
    const isNight = /night|nacht|minuit|noche/i.test(m[0]);
    add(m.index, m.index + m[0].length, isNight ? 24 : 12, 0, null);
  }
  for (const m of text.matchAll(BARE)) {
    const [first, last] = [Number(m[1]), Number(m[2])];
    if (first < 7 || last <= first || last > 22 || last - first > 8) continue;
    const from = m.index + m[0].lastIndexOf(m[2]!);
    add(m.index, m.index + m[1]!.length, first, 0, null);
    add(from, m.index + m[0].length, last, 0, null);
  }
  marks.sort((a, b) => a.from - b.from);
  return joined(text, marks);
}

/** Midnight is the end of the day before it. */
const minuteOf = (hour: number, rest: number, half: Mark['half']): number => {
  const minute = half ? (hour % 12) * 60 + rest + (half === 'p' ? 720 : 0) : hour * 60 + rest;
  return minute >= 1440 ? 1439 : minute;
};

/** Tells whether what stands between two times makes one of them: `10 to 12`, `between 10:00 and 12:00`. */
const isJoint = (text: string, last: TimeSaid, next: TimeSaid) => {
  const between = text.slice(last.to, next.from);
  return (
    JOINT.test(between) ||
    (AND.test(between) && BETWEEN.test(text.slice(Math.max(0, last.from - 9), last.from)))
  );
};

/** `10:00 to 12:00`, `9–11 am`, `from 10 to 12.30 pm`: one from the other. */
function joined(text: string, marks: readonly Mark[]): TimeSaid[] {
  const found: TimeSaid[] = [];
  for (const mark of marks) {
    const last = found.at(-1);
    const lastMark = marks[marks.indexOf(mark) - 1];
    if (last && lastMark && last.to === lastMark.to && isJoint(text, last, mark) && last.until === null) {
      const half =
        lastMark.half ?? (mark.half && lastMark.hour <= mark.hour % 12 ? mark.half : lastMark.half);
      last.minute = half ? minuteOf(lastMark.hour, lastMark.rest, half) : last.minute;
      last.until = mark.minute;
      last.to = mark.to;
      continue;
    }
    const bare = /(?<![\d:.,/])(\d{1,2})\s?(?:[-–—]|to|until)\s?$/.exec(
      text.slice(Math.max(0, mark.from - 10), mark.from),
    );
    if (bare && Number(bare[1]) < 24) {
      const hour = Number(bare[1]);
      const half = mark.half === 'p' && hour > mark.hour % 12 && hour < 12 ? 'a' : mark.half;
      const from = mark.from - bare[0].length;
      found.push({
        from,
        to: mark.to,
        minute: minuteOf(hour, 0, hour <= 12 ? half : null),
        until: mark.minute,
      });
      continue;
    }
    found.push({ from: mark.from, to: mark.to, minute: mark.minute, until: mark.until });
  }
  return found;
}
