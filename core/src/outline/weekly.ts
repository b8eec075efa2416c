import { weekdayOf } from './dates.ts';
import type { Weekly } from './found.ts';
import type { Language } from './languages.ts';
import { MONTHS } from './said.ts';
import type { Spans } from './spans.ts';

const EACH =
  /\b(?:(?:every|each|jeden|chaque|cada)\s(?:(other|second|2nd|alternate|zweiten)\s)?|(?:weekly|(fortnightly|bi-?weekly|every (?:two|2) weeks)),?\son\s|(alternate)\s)(?=\p{L})/giu;
/** `the second Saturday of October`, `the last Friday of each month` */
const NTH =
  /\b(?:(?:on|by)\s)?(?:the\s)?(first|second|third|fourth|last|1st|2nd|3rd|4th)\s(\p{L}{3,9})\s(?:of|in)\s(?:(?:each|every|the)\smonth\b|(?=(?:january|february|march|april|may|june|july|august|september|october|november|december)\b))/iu;
const NTHS = ['first', 'second', 'third', 'fourth'];
const WORD = /^(\p{L}{2,10})/u;
const AND = /^\s?(?:,|&|and|und|et|y|\+)\s?(?=\p{L})/iu;
const PLURAL = /\b(\p{L}{3,8}days)\b/giu;
const EXCEPT =
  /(?:\bexcept(?:ing)?(?: for)?|\bbut not|\bnot on|\bnot in|\bnot (?=\d)|\(not (?=\p{L}{3,9}\.? \d)|\bwithout|\bexcluding|\bno \p{L}{2,20} (?:on|in|\d{1,2})|\bskipping|\bohne|\baußer|\bsauf|\bexcepto)\b/iu;
const FROM =
  /(?:\bfrom|\bstart(?:s|ing)|\bbegin(?:s|ning)|\bfirst|\bsince|\bab|\bvom|\bà partir|\bdesde)\W{0,4}(?:on |with |du |de |del )?$/iu;
const UNTIL =
  /(?:\buntil|\btill|\bto|\bthrough|\bup to|\bending|\blast|\bbis|\bjusqu['’]au|\bhasta)\W{0,4}(?:on |the |zum |el )?$/iu;
const IN_MONTH =
  /\b(?:in|of) (january|february|march|april|may|june|july|august|september|october|november|december)\b(?!\s\d)/i;
/** Moment when work is given out, and how long after that it is due, is told of each piece of it. */
const GIVEN_OUT =
  /\b(?:released|posted|assigned|returned|given (?:out|back)|handed (?:out|back)|uploaded|available)\b/i;
/** What is open on a weekday is no item. */
const NO_ITEM = /\b(?:office hours?|consultation|opening|open from|library is|sprechstunde|help desk)\b/i;

/** Gives what repeats on weekdays in a text, and which letters of it say so; null for nothing. */
export function weeklyIn(
  text: string,
  { dates }: Spans,
  language: Language,
): { weekly: Weekly; spans: { from: number; to: number }[] } | null {
  if (NO_ITEM.test(text) || GIVEN_OUT.test(text)) return null;
  const found = nthIn(text, language) ?? named(text, language);
  if (!found) return null;
  const days = dates.filter((d) => d.week === null && d.form !== 'short');
  const except = EXCEPT.exec(text)?.index ?? text.length;
  // The bracket or the comma before it goes with it.
  const cut = except - (/[\s(,;–-]{1,4}$/.exec(text.slice(Math.max(0, except - 4), except))?.[0].length ?? 0);
  const weekly: Weekly = {
    weekdays: found.weekdays,
    interval: found.interval,
    nth: found.nth,
    from: null,
    until: null,
    except: [],
    month: null,
    exceptWords: '',
  };
  if (cut < text.length) weekly.exceptWords = text.slice(except).toLowerCase();
  for (const said of days) {
    const before = text.slice(Math.max(0, said.from - 24), said.from);
    if (said.from > cut) weekly.except.push(said);
    else if (said.last) {
      weekly.from = said;
      weekly.until = { ...said, first: said.last, last: null };
    } else if (UNTIL.test(before)) weekly.until = said;
    else if (FROM.test(before)) weekly.from = said;
    // A date of its own beside it: that is what is meant, and no repeat.
    else return null;
  }
  const within = IN_MONTH.exec(text);
  if (within) weekly.month = MONTHS.indexOf(within[1]!.slice(0, 3).toLowerCase()) + 1;
  const spans = [
    found.span,
    ...(within ? [{ from: within.index, to: within.index + within[0].length }] : []),
    ...days.filter((d) => d.from < cut),
  ];
  return { weekly, spans: cut < text.length ? [...spans, { from: cut, to: text.length }] : spans };
}

function nthIn(text: string, language: Language) {
  const m = NTH.exec(text);
  const weekday = m && weekdayOf(m[2]!, language);
  if (!m || !weekday) return null;
  const nth = NTHS.findIndex((word, n) => m[1]!.toLowerCase() === word || m[1]!.startsWith(String(n + 1)));
  // What is the last of a month has no number.
  return {
    weekdays: [weekday],
    interval: 1,
    nth: nth + 1 || -1,
    span: { from: m.index, to: m.index + m[0].length },
  };
}

function named(text: string, language: Language) {
  for (const m of text.matchAll(EACH)) {
    const weekdays: number[] = [];
    let at = m.index + m[0].length;
    for (;;) {
      const word = WORD.exec(text.slice(at, at + 12));
      const day = word && weekdayOf(word[1]!, language);
      if (!word || !day) break;
      weekdays.push(day);
      at += word[0].length;
      const joint = AND.exec(text.slice(at, at + 8));
      if (!joint || !weekdayOf(WORD.exec(text.slice(at + joint[0].length))?.[1] ?? '', language)) break;
      at += joint[0].length;
    }
    if (weekdays.length)
      return {
        weekdays,
        interval: (m[1] ?? m[2] ?? m[3]) ? 2 : 1,
        nth: null,
        span: { from: m.index, to: at },
      };
  }
  const plurals = [...text.matchAll(PLURAL)].filter((m) => weekdayOf(m[1]!, language));
  const [first] = plurals;
  if (!first) return null;
  const last = plurals.at(-1)!;
  return {
    weekdays: plurals.map((m) => weekdayOf(m[1]!, language)!),
    ...{ interval: 1, nth: null },
    span: { from: first.index, to: last.index + last[0].length },
  };
}
