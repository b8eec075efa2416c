import type { Pattern } from '../../recurrence/pattern.ts';
import { civilDate, dayNumber, formatDate, weekday } from '../../time/civil.ts';
import { namedDay, takeDays, type DayOptions } from './days.ts';
import type { Line } from './line.ts';
import { weekdayIn } from './weekdays.ts';

/** Way in which something repeats, and the first day that the repeat itself asks for; null where it asks for none. */
export interface Repeats {
  pattern: Pattern;
  day: number | null;
}

const SCHOOL_DAYS = [1, 2, 3, 4, 5];
const UNITS: Record<string, Pattern['every']> = {
  day: 'day',
  days: 'day',
  night: 'day',
  morning: 'day',
  evening: 'day',
  afternoon: 'day',
  week: 'week',
  weeks: 'week',
  month: 'month',
  months: 'month',
  year: 'year',
  years: 'year',
};
const ADVERBS: Record<string, Partial<Pattern> & Pick<Pattern, 'every'>> = {
  daily: { every: 'day' },
  nightly: { every: 'day' },
  weekly: { every: 'week' },
  fortnightly: { every: 'week', interval: 2 },
  biweekly: { every: 'week', interval: 2 },
  monthly: { every: 'month' },
  yearly: { every: 'year' },
  annually: { every: 'year' },
  weekdays: { every: 'week', weekdays: SCHOOL_DAYS },
  schooldays: { every: 'week', weekdays: SCHOOL_DAYS },
};
const SECOND = /^(other|2nd|second|alternate)$/;
const PLAIN: Pattern = {
  every: 'week',
  interval: 1,
  weekdays: [],
  monthBy: 'date',
  until: null,
  count: null,
};

/** Takes how something repeats, with its end, out of a line. */
export function takeRepeats(line: Line, options: DayOptions): Repeats | null {
  const found = takeRule(line, options);
  if (!found) return null;
  return { ...found, pattern: { ...found.pattern, ...takeEnd(line, options, found) } };
}

function takeRule(line: Line, options: DayOptions): Repeats | null {
  for (let i = 0; i < line.tokens.length; i++) {
    const text = line.at(i);
    const adverb = ADVERBS[text];
    if (adverb) return taken(line, i, i + 1, adverb);
    const nth = takeNth(line, i, options);
    if (nth) return nth;
    const isEvery = /^(every|each|evry|ev)$/.test(text);
    const list = weekdaysFrom(line, isEvery ? everyStart(line, i) : i);
    if (isEvery) {
      const isSecond = SECOND.test(line.at(i + 1));
      const count = /^\d{1,2}$/.test(line.at(i + 1)) ? Number(line.at(i + 1)) : 0;
      const interval = isSecond ? 2 : Math.max(1, count);
      if (list.days.length) return taken(line, i, list.end, { every: 'week', interval, weekdays: list.days });
      const k = isSecond || count ? i + 2 : i + 1;
      const unit = UNITS[line.at(k)];
      if (unit) return taken(line, i, k + 1, { every: unit, interval });
      if (/^(weekday|schoolday)$/.test(line.at(k)) || (line.at(k) === 'school' && line.at(k + 1) === 'day'))
        return taken(line, i, line.at(k) === 'school' ? k + 2 : k + 1, {
          every: 'week',
          weekdays: SCHOOL_DAYS,
        });
      if (/^(fortnight)$/.test(line.at(k))) return taken(line, i, k + 1, { every: 'week', interval: 2 });
      continue;
    }
    // `mon wed fri` is each of them, and so are `tuesdays`; `sat+sun` is one weekend.
    if (list.days.length && (list.isEach || (list.days.length > 1 && !list.isSpan)))
      return taken(line, i, list.end, { every: 'week', weekdays: list.days });
  }
  return null;
}

function taken(line: Line, i: number, end: number, rule: Partial<Pattern> & Pick<Pattern, 'every'>): Repeats {
  if (/^(on|once)$/.test(line.at(i - 1))) line.skip(i - 1);
  line.take(i, end, 'repeat');
  return { pattern: { ...PLAIN, ...rule }, day: null };
}

const everyStart = (line: Line, i: number) =>
  SECOND.test(line.at(i + 1)) || /^\d{1,2}$/.test(line.at(i + 1)) ? i + 2 : i + 1;

/** Weekdays one after the other, with what joins them. */
function weekdaysFrom(line: Line, start: number) {
  const days: number[] = [];
  let [end, isEach, isSpan] = [start, false, false];
  for (let k = start; k < line.tokens.length;) {
    const said = weekdayIn(line.at(k));
    if (!said) break;
    days.push(said.day);
    isEach ||= said.isEach;
    end = k + 1;
    const joint = line.at(end);
    const isNext = days.length === 1 && weekdayIn(line.at(end + 1))?.day === (said.day % 7) + 1;
    if (/^[-–—]$/.test(joint) || joint === 'to') isSpan = true;
    if (/^(and|[+&])$/.test(joint) && isNext && !weekdayIn(line.at(end + 3))) isSpan = true;
    k = /^(and|[-–—+&]|to)$/.test(joint) ? end + 1 : end;
  }
  return { days: [...new Set(days)].sort(), end, isEach, isSpan };
}

const NTH: Record<string, number> = {
  first: 1,
  '1st': 1,
  second: 2,
  '2nd': 2,
  third: 3,
  '3rd': 3,
  fourth: 4,
  '4th': 4,
  last: -1,
};

/** `first monday of the month`, `last friday of each month`. */
function takeNth(line: Line, i: number, { today }: DayOptions): Repeats | null {
  const nth = NTH[line.at(i)];
  const said = nth === undefined ? null : weekdayIn(line.at(i + 1));
  const k = line.at(i + 2) === 'of' || line.at(i + 2) === 'in' ? i + 3 : i + 2;
  if (!said || !/^(the|every|each|a)$/.test(line.at(k)) || line.at(k + 1) !== 'month') return null;
  const { year, month } = civilDate(today);
  const onMonth = (ahead: number) => {
    const first = dayNumber(year, month + ahead, 1);
    const end = dayNumber(year, month + ahead + 1, 1);
    const day = first + ((said.day - weekday(first) + 7) % 7) + 7 * (nth! - 1);
    return nth! > 0 ? day : end - 1 - ((weekday(end - 1) - said.day + 7) % 7);
  };
  const day = [0, 1].map(onMonth).find((d) => d >= today)!;
  return { ...taken(line, i, k + 2, { every: 'month', monthBy: 'weekday' }), day };
}

/** Tells when a repeat ends: `until xmas`, `till 18 dec`, `for 6 weeks`, `x 10`. */
function takeEnd(line: Line, options: DayOptions, { pattern }: Repeats): Partial<Pattern> {
  for (let i = 0; i < line.tokens.length; i++) {
    const text = line.at(i);
    if (/^(until|untill|till|til|thru|through|ending)$/.test(text)) {
      const named = namedDay(line.at(i + 1), options);
      if (named !== null) {
        line.take(i, i + 2, 'repeat');
        return { until: formatDate(named) };
      }
      const found = takeDays(behind(line, i), { ...options, at: null });
      if (!found) continue;
      line.skip(i);
      return { until: formatDate(found.day) };
    }
    const count = /^\d{1,3}$/.test(line.at(i + 1)) ? Number(line.at(i + 1)) : 0;
    const unit = UNITS[line.at(i + 2)];
    if (text === 'for' && count && unit && unit !== 'day') {
      line.take(i, i + 3, 'repeat');
      const days = unit === 'week' ? 7 * count : unit === 'month' ? 30 * count : 365 * count;
      return { until: formatDate(options.today + days - 1) };
    }
    if (/^(x|times)$/.test(text) && count) {
      line.take(i, i + 2, 'repeat');
      return { count };
    }
    if (/^\d{1,3}$/.test(text) && line.at(i + 1) === 'times') {
      line.take(i, i + 2, 'repeat');
      return { count: Number(text) };
    }
  }
  return pattern.until ? { until: pattern.until } : {};
}

/** The line with only what comes after a word still to be read. */
function behind(line: Line, i: number): Line {
  return Object.assign(Object.create(line) as Line, {
    at: (k: number) => (k > i ? line.at(k) : ''),
    rest: () => ' '.repeat(line.tokens[i]!.to) + line.rest().slice(line.tokens[i]!.to),
  });
}
