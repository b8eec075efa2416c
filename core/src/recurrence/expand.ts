import { DAY, HOUR, MINUTE, SECOND } from '../time/civil.ts';
import { anchored, dayMatches, periodDays, stepBefore, timesWithin, type Anchor } from './period.ts';
import type { Rule } from './rule.ts';

export interface ExpandOptions {
  /** True where DTSTART is an all-day date: then time parts do not count. */
  allDay: boolean;
  /** Only local times in from ≤ t < to are given. */
  from: number;
  to: number;
  /** Instant of a local time; used for an UNTIL that is an instant. */
  toInstant(local: number): number;
  /** False for a local time that clocks skip: not an occurrence and not counted (RFC 5545 3.3.10). */
  exists(local: number): boolean;
  /** Work that a rule may ask for before it is cut short. */
  maxSteps?: number;
  /** Work that is left for this rule and all others that share it */
  budget?: Budget | undefined;
}

/** Work that is left: a step is a period looked at, and about a week of days in it. */
export interface Budget {
  steps: number;
}

/** Says that a rule asked for more than the bounds allow. */
export interface Expansion {
  times: number[];
  cutShort: boolean;
}

const MAX_STEPS = 400_000;

/**
 * The local times a rule gives, ascending, DTSTART itself only where the rule gives it.
 * Every FREQ and BY part of RFC 5545 3.3.10; bounded by `to` and `maxSteps`, so that no rule hangs.
 */
export function expandRule(rule: Rule, start: number, options: ExpandOptions, limit: number): Expansion {
  const day = Math.floor(start / DAY);
  const rest = start - day * DAY;
  const anchor: Anchor = options.allDay
    ? { day, hour: 0, minute: 0, second: 0 }
    : {
        day,
        hour: Math.floor(rest / HOUR),
        minute: Math.floor(rest / MINUTE) % 60,
        second: Math.floor(rest / SECOND) % 60,
      };
  const subDaily = rule.freq === 'HOURLY' || rule.freq === 'MINUTELY' || rule.freq === 'SECONDLY';
  const whole = anchored(options.allDay ? { ...rule, byHour: [], byMinute: [], bySecond: [] } : rule, anchor);
  const seek = rule.count === undefined ? options.from : start;
  const periods = subDaily ? clockPeriods(whole, start, seek, anchor) : dayPeriods(whole, anchor, seek);

  const times: number[] = [];
  let counted = 0;
  let steps = 0;
  const maxSteps = options.maxSteps ?? MAX_STEPS;
  for (const period of periods) {
    steps += 1 + period.length;
    if (options.budget) options.budget.steps -= 1 + period.length;
    if (steps > maxSteps || (options.budget && options.budget.steps < 0)) return { times, cutShort: true };
    if (period.at >= options.to) break;
    for (const local of chosen(period.set(), whole.bySetPos)) {
      if (local < start || (!options.allDay && !options.exists(local))) continue;
      if (isPast(rule, local, options)) return { times, cutShort: false };
      if (rule.count !== undefined && ++counted > rule.count) return { times, cutShort: false };
      if (local >= options.to) return { times, cutShort: false };
      if (local < options.from) continue;
      if (times.length >= limit) return { times, cutShort: true };
      times.push(local);
    }
  }
  return { times, cutShort: false };
}

function isPast(rule: Rule, local: number, options: ExpandOptions): boolean {
  if (!rule.until) return false;
  if (rule.until.kind === 'date') return Math.floor(local / DAY) * DAY > rule.until.ms;
  if (rule.until.kind === 'local' || options.allDay)
    return Math.floor(local / (options.allDay ? DAY : 1)) * (options.allDay ? DAY : 1) > rule.until.ms;
  return options.toInstant(local) > rule.until.ms;
}

function chosen(set: number[], positions: number[]): number[] {
  if (!positions.length) return set;
  const picked = positions.map((p) => set[p > 0 ? p - 1 : set.length + p]).filter((t) => t !== undefined);
  return [...new Set(picked)].sort((a, b) => a - b);
}

/** One step of a rule: where it begins, what it costs, and its set of local times before BYSETPOS. */
interface Period {
  at: number;
  length: number;
  set(): number[];
}

function* dayPeriods(rule: Rule, anchor: Anchor, seek: number): Generator<Period> {
  const times = timesWithin(rule, anchor);
  for (let step = stepBefore(rule, anchor, seek); ; step++) {
    const { first, length } = periodDays(rule, anchor, step);
    yield {
      at: first * DAY,
      length: Math.ceil(length / 7),
      set() {
        const set: number[] = [];
        for (let day = first; day < first + length; day++) {
          if (dayMatches(rule, day)) for (const time of times) set.push(day * DAY + time);
        }
        return set;
      },
    };
  }
}

function* clockPeriods(rule: Rule, start: number, seek: number, anchor: Anchor): Generator<Period> {
  const unit = rule.freq === 'HOURLY' ? HOUR : rule.freq === 'MINUTELY' ? MINUTE : SECOND;
  const base = Math.floor(start / unit) * unit;
  const stride = unit * rule.interval;
  const times = timesWithin(rule, anchor);
  // The first step at or after a moment: how runs of unwanted days, hours and minutes are stepped over at
  // once.
  const stepFrom = (local: number) => Math.max(0, Math.ceil((local - base) / stride));
  let step = Math.max(0, stepFrom(seek) - 1);
  for (;;) {
    const at = base + step * stride;
    const day = Math.floor(at / DAY);
    const hour = Math.floor(at / HOUR);
    const minute = Math.floor(at / MINUTE);
    let resume = 0;
    if (!dayMatches(rule, day)) resume = (day + 1) * DAY;
    else if (rule.byHour.length && !rule.byHour.includes(hour % 24)) resume = (hour + 1) * HOUR;
    else if (unit < HOUR && rule.byMinute.length && !rule.byMinute.includes(minute % 60))
      resume = (minute + 1) * MINUTE;
    else if (unit < MINUTE && rule.bySecond.length && !rule.bySecond.includes((at / SECOND) % 60))
      resume = at + SECOND;
    yield { at, length: 0, set: () => (resume ? [] : times.map((t) => at + t)) };
    step = resume ? Math.max(step + 1, stepFrom(resume)) : step + 1;
  }
}
