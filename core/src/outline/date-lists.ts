import type { DateSaid, DayParts } from './said.ts';
import type { Language } from './languages.ts';

const JOINT = /^\s{0,2}(?:[-–—/]|to|until|till|through|bis|au|al|hasta)\s{0,2}$/i;
const SPAN_BEFORE =
  /(?<![\d./:])(\d{1,2})(?:st|nd|rd|th|er|\.)?\s?(?:[-–—/]|to|bis|au|al)\s?(?:\p{L}{2,9}\.?,?\s)?$/iu;
const LIST_BEFORE = /(?<![\d./:])(\d{1,2})(?:st|nd|rd|th|\.)?\s?(?:,|&|and|und|et|y)\s?$/i;
const SPAN_BEHIND = /^\s?(?:[-–—]|to)\s?(\d{1,2})(?:st|nd|rd|th)?(?!\d|[:./]\d)(?!\s?[ap]\.?m)/i;
const LIST_BEHIND =
  /^(?:,|\s&|\sand)\s?(?:and\s)?(\d{1,2})(?:st|nd|rd|th)?(?![\d:/]|\.\d)(?!\s?[ap]\.?m)(?=\s?(?:$|[.,:;)&–—-]|and\b))/i;

const LISTED = /^\s?(?:,|&|\band\b|\bto\b|\buntil\b|\btill\b|\bthrough\b|[-–—])\s?(?:and\s)?$/i;

/** A day without a month is of the month of the one behind it, or of the month before. */
function withMonth(day: DayParts, { month, year, ...next }: DayParts): DayParts {
  return day.day > next.day ? monthBefore({ ...day, month, year }) : { ...day, month, year };
}

/** `Mon 26 and Tue 27 Oct`: what has no month has that of the one it is listed with. */
export function withMonths(text: string, all: readonly DateSaid[]): DateSaid[] {
  const found = [...all];
  for (let n = found.length - 2; n >= 0; n--) {
    const [said, next] = [found[n]!, found[n + 1]!];
    if (said.first.month === 0 && next.first.month > 0 && LISTED.test(text.slice(said.to, next.from)))
      found[n] = { ...said, first: withMonth(said.first, next.first) };
  }
  return found;
}

/** `26/10–30/10`, `Fri 18 – Sun 20 September`, `October 5 – 9`; `Oct 6, 13 and 20` is three days. */
export function joined(text: string, all: readonly DateSaid[], language: Language): DateSaid[] {
  const found: DateSaid[] = [];
  for (const said of all) {
    const before = found.at(-1);
    const between = before ? text.slice(before.to, said.from) : '';
    const isBetween = before && BETWEEN.test(text.slice(Math.max(0, before.from - 12), before.from));
    if (before && !before.last && !said.last && (isJoint(between) || (isBetween && AND.test(between)))) {
      before.last = said.first;
      if (before.first.year === null) before.first = { ...before.first, year: said.first.year };
      before.to = said.to;
      continue;
    }
    found.push({ ...said });
  }
  return found.flatMap((said, n) => widened(text, said, language, found[n - 1]?.to ?? 0));
}

const BETWEEN = /\b(?:between|zwischen|entre)\s$/i;
const AND = /^\s(?:and|und|et|y)\s$/i;

/** Gives what joins two dates to one span; a weekday may stand before the second one. */
const isJoint = (between: string) =>
  JOINT.test(between) || /^\s{0,2}[-–—]\s{0,2}\p{L}{2,9}\.?,?\s?$/u.test(between);

/** A date with the days before or behind it that its month is for; what stands before `least` belongs to another one. */
function widened(text: string, said: DateSaid, language: Language, least: number): DateSaid[] {
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
  const head = text.slice(Math.max(least, said.from - 24), said.from);
  const before = SPAN_BEFORE.exec(head);
  if (before && Number(before[1]) >= 1 && Number(before[1]) <= 31) {
    const day = Number(before[1]);
    const first = day < said.first.day ? { ...said.first, day } : monthBefore({ ...said.first, day });
    return [{ ...said, from: said.from - before[0].length, first, last: said.first }];
  }
  const list = [said];
  for (let from = said.from; list.length < 20;) {
    const next = LIST_BEFORE.exec(text.slice(Math.max(least, from - 12), from));
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
