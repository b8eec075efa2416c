import { parseDate, parseLocal } from '../time/civil.ts';

export const FREQUENCIES = [
  'YEARLY',
  'MONTHLY',
  'WEEKLY',
  'DAILY',
  'HOURLY',
  'MINUTELY',
  'SECONDLY',
] as const;
export type Frequency = (typeof FREQUENCIES)[number];

/** `nth` 0 means every such weekday. */
export interface WeekdayPart {
  weekday: number;
  nth: number;
}

/** A RRULE as RFC 5545 3.3.10 describes it. Absent BY parts are empty lists. */
export interface Rule {
  freq: Frequency;
  interval: number;
  count?: number;
  /** Last moment (inclusive): a whole day, wall-clock time, or an instant. In milliseconds. */
  until?: { kind: 'date' | 'local' | 'instant'; ms: number };
  /** ISO weekday on which a week starts */
  weekStart: number;
  bySecond: number[];
  byMinute: number[];
  byHour: number[];
  byDay: WeekdayPart[];
  byMonthDay: number[];
  byYearDay: number[];
  byWeekNo: number[];
  byMonth: number[];
  bySetPos: number[];
}

/** A repeat rule that cannot be followed; the message says which part and is fit to show. */
export class RuleError extends Error {}

/** A COUNT beyond this is as good as none, and an INTERVAL beyond it as good as never again. */
const MOST_COUNTED = 999_999;
const FARTHEST = 999_999_999;

const WEEKDAYS = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'];
const weekdayOf = (code: string) => WEEKDAYS.indexOf(code.toUpperCase()) + 1;

function integers(part: string, text: string, low: number, high: number, zero = true): number[] {
  return text.split(',').map((piece) => {
    const n = /^\s*[+-]?\d{1,6}\s*$/.test(piece) ? Number(piece) : NaN;
    if (!(n >= low && n <= high) || (!zero && n === 0))
      throw new RuleError(`${part}=${piece.slice(0, 20)} is out of range`);
    return n;
  });
}

function weekdays(text: string): WeekdayPart[] {
  return text.split(',').map((piece) => {
    const m = /^\s*([+-]?\d{1,2})?(MO|TU|WE|TH|FR|SA|SU)\s*$/i.exec(piece);
    const nth = Number(m?.[1] ?? 0);
    if (!m || Math.abs(nth) > 53 || (m[1] !== undefined && nth === 0))
      throw new RuleError(`BYDAY=${piece.slice(0, 20)} is not a weekday`);
    return { weekday: weekdayOf(m[2]!), nth };
  });
}

function readUntil(text: string): NonNullable<Rule['until']> {
  const m = /^(\d{4})-?(\d\d)-?(\d\d)(?:T(\d\d):?(\d\d):?(\d\d)(Z)?)?$/i.exec(text.trim());
  const date = m ? `${m[1]}-${m[2]}-${m[3]}` : '';
  const ms = m?.[4] ? parseLocal(`${date}T${m[4]}:${m[5]}:${m[6]}`) : parseDate(date) * 86_400_000;
  if (Number.isNaN(ms)) throw new RuleError(`UNTIL=${text.slice(0, 20)} is not a date`);
  return { kind: !m?.[4] ? 'date' : m[7] ? 'instant' : 'local', ms };
}

/**
 * Reads the value of a RRULE or EXRULE property.
 * @throws RuleError where a part is malformed or out of the standard's range; unknown parts are passed over.
 * @example parseRule('FREQ=WEEKLY;BYDAY=MO,WE;COUNT=6').byDay // [{weekday: 1, nth: 0}, {weekday: 3, nth: 0}]
 */
export function parseRule(text: string): Rule {
  const parts = new Map<string, string>();
  for (const piece of text.split(';')) {
    const at = piece.indexOf('=');
    if (at > 0) parts.set(piece.slice(0, at).trim().toUpperCase(), piece.slice(at + 1).trim());
  }
  const freq = (parts.get('FREQ') ?? '').toUpperCase() as Frequency;
  if (!FREQUENCIES.includes(freq)) throw new RuleError('the repeat does not say how often (FREQ)');
  const list = (part: string, low: number, high: number, zero = true) => {
    const value = parts.get(part);
    return value ? integers(part, value, low, high, zero) : [];
  };
  const single = (part: string) => {
    const value = parts.get(part);
    if (value === undefined) return undefined;
    const n = /^\d+$/.test(value) ? Number(value) : NaN;
    if (!(n >= 1)) throw new RuleError(`${part}=${value.slice(0, 20)} is not a positive number`);
    return n;
  };
  const rule: Rule = {
    freq,
    interval: Math.min(single('INTERVAL') ?? 1, FARTHEST),
    weekStart: weekdayOf(parts.get('WKST') ?? 'MO') || 1,
    bySecond: list('BYSECOND', 0, 60).map((s) => Math.min(s, 59)),
    byMinute: list('BYMINUTE', 0, 59),
    byHour: list('BYHOUR', 0, 23),
    byDay: parts.get('BYDAY') ? weekdays(parts.get('BYDAY')!) : [],
    byMonthDay: list('BYMONTHDAY', -31, 31, false),
    byYearDay: list('BYYEARDAY', -366, 366, false),
    byWeekNo: list('BYWEEKNO', -53, 53, false),
    byMonth: list('BYMONTH', 1, 12),
    bySetPos: list('BYSETPOS', -366, 366, false),
  };
  const count = single('COUNT');
  if (count !== undefined && count <= MOST_COUNTED) rule.count = count;
  // UNTIL and COUNT must not both be there (RFC 5545 3.3.10); where they are, both hold.
  if (parts.get('UNTIL')) rule.until = readUntil(parts.get('UNTIL')!);
  return rule;
}
