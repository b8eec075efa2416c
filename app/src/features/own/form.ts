import { OwnItem } from '@zephyrfield/core/api/own';
import type { OwnItem as Own } from '@zephyrfield/core/item/own';
import { minuteOf } from '@zephyrfield/core/item/quick-add';
import { isWork, type HandInWay, type ItemKind } from '@zephyrfield/core/item/kind';
import { patternToRule, ruleToPattern, type Pattern } from '@zephyrfield/core/recurrence/pattern';
import { DAY, MINUTE, formatDate, parseDate, weekday } from '@zephyrfield/core/time/civil';
import { dateOf, dayIn, instantOf, type When } from '@zephyrfield/core/time/when';
import type { Zone } from '@zephyrfield/core/time/zone';
import { clockOf } from '@zephyrfield/core/time/minute';

/** What one writes something down for. */
export const PURPOSES = ['be', 'do', 'remind', 'long', 'off'] as const;
export type Purpose = (typeof PURPOSES)[number];

export const PURPOSE_WORDS: Record<Purpose, string> = {
  be: 'somewhere to be',
  do: 'something to do',
  remind: 'a reminder',
  long: 'a long item',
  off: 'a day off',
};
export const PURPOSE_KINDS: Record<Purpose, readonly ItemKind[]> = {
  be: ['meeting', 'lesson', 'trip', 'test'],
  do: ['assignment', 'reading', 'practice', 'project', 'test', 'discussion'],
  remind: ['reminder'],
  long: ['reminder'],
  off: ['dayOff'],
};

/** The fields of the form, as they are typed. */
export interface Fields {
  purpose: Purpose;
  kind: ItemKind;
  title: string;
  calendarId: string;
  /** As `2026-10-09`; empty without a date */
  day: string;
  lastDay: string;
  /** As `16:00`; empty for a whole day */
  time: string;
  until: string;
  handIn: HandInWay;
  minutes: string;
  place: string;
  details: string;
  repeats: 'no' | Pattern['every'];
  interval: string;
  weekdays: number[];
  monthBy: Pattern['monthBy'];
  ends: 'never' | 'on' | 'after';
  endsOn: string;
  count: string;
  /** Not in breaks and on days off */
  skipDaysOff: boolean;
  /** A rule that says more than the form can; kept as it is */
  otherRule: string;
}

export const EMPTY: Fields = {
  purpose: 'do',
  kind: 'assignment',
  title: '',
  calendarId: '',
  day: '',
  lastDay: '',
  time: '',
  until: '',
  handIn: 'paper',
  minutes: '',
  place: '',
  details: '',
  repeats: 'no',
  interval: '1',
  weekdays: [],
  monthBy: 'date',
  ends: 'never',
  endsOn: '',
  count: '10',
  skipDaysOff: false,
  otherRule: '',
};

export const purposeOf = (item: Pick<Own, 'kind' | 'end' | 'when'>): Purpose =>
  isWork(item.kind) && !item.end
    ? 'do'
    : item.kind === 'dayOff'
      ? 'off'
      : item.kind === 'reminder'
        ? item.end && item.when?.kind === 'date'
          ? 'long'
          : 'remind'
        : 'be';

const clock = (minute: number | null) => (minute === null ? '' : clockOf(minute));
const minuteIn = (text: string): number | null =>
  /^\d\d:\d\d/.test(text) ? Number(text.slice(0, 2)) * 60 + Number(text.slice(3, 5)) : null;

/** The fields that say when. */
export function whenFields(
  when: When | null,
  end: When | null,
  zone: Zone,
): Pick<Fields, 'day' | 'lastDay' | 'time' | 'until'> {
  if (!when) return { day: '', lastDay: '', time: '', until: '' };
  const day = formatDate(dayIn(when, zone));
  const last =
    end?.kind === 'date' ? formatDate(parseDate(end.date) - 1) : end ? formatDate(dayIn(end, zone)) : day;
  return { day, lastDay: last, time: clock(minuteOf(when, zone)), until: clock(minuteOf(end, zone)) };
}

/** The fields that say how it repeats. */
export function repeatFields(
  pattern: Pattern | null,
): Pick<Fields, 'repeats' | 'interval' | 'weekdays' | 'monthBy' | 'ends' | 'endsOn' | 'count'> {
  if (!pattern) {
    const { repeats, interval, weekdays, monthBy, ends, endsOn, count } = EMPTY;
    return { repeats, interval, weekdays, monthBy, ends, endsOn, count };
  }
  return {
    repeats: pattern.every,
    interval: String(pattern.interval),
    weekdays: pattern.weekdays,
    monthBy: pattern.monthBy,
    ends: pattern.count !== null ? 'after' : pattern.until ? 'on' : 'never',
    endsOn: pattern.until ?? '',
    count: String(pattern.count ?? 10),
  };
}

/** An own item as fields, at one of its dates. */
export function fieldsOf(item: Own, calendarId: string, zone: Zone): Fields {
  const pattern = item.repeat && item.when ? ruleToPattern(item.repeat.rule, item.when, zone) : null;
  return {
    ...EMPTY,
    purpose: purposeOf(item),
    kind: item.kind,
    title: item.title,
    calendarId,
    handIn: item.handIn,
    place: item.place,
    details: item.details,
    ...whenFields(item.when, item.end, zone),
    ...repeatFields(pattern),
    otherRule: item.repeat && !pattern ? item.repeat.rule : '',
  };
}

export function patternOf(f: Fields): Pattern | null {
  if (f.repeats === 'no') return null;
  return {
    every: f.repeats,
    interval: Math.max(1, Math.round(Number(f.interval)) || 1),
    weekdays:
      f.repeats === 'week'
        ? f.weekdays.length
          ? f.weekdays
          : [weekday(parseDate(f.day))].filter((d) => d > 0)
        : [],
    monthBy: f.monthBy,
    until: f.ends === 'on' && !Number.isNaN(parseDate(f.endsOn)) ? f.endsOn : null,
    count: f.ends === 'after' ? Math.max(1, Math.round(Number(f.count)) || 1) : null,
  };
}

export type FieldErrors = Partial<Record<keyof Fields, string>>;

/**
 * The fields as an own item, or what is wrong with them, each at its field. Changes of single dates are not
 * its business.
 */
export function itemOf(
  f: Fields,
  zone: Zone,
): { item: Own; errors: null } | { item: null; errors: FieldErrors } {
  const errors: FieldErrors = {};
  const day = parseDate(f.day);
  if (f.day && Number.isNaN(day)) errors.day = 'There is no such day.';
  if (!f.day && f.purpose !== 'do') errors.day = 'Say on which day.';
  if (!f.day && (f.repeats !== 'no' || f.time)) errors.day = 'Say on which day it begins.';
  if (!f.calendarId) errors.calendarId = 'Choose a calendar.';
  if (f.repeats !== 'no' && f.ends === 'on' && Number.isNaN(parseDate(f.endsOn)))
    errors.endsOn = 'Say until which day.';
  else if (f.repeats !== 'no' && f.ends === 'on' && parseDate(f.endsOn) < day)
    errors.endsOn = 'That is before it begins.';
  const minute = f.purpose === 'long' || f.purpose === 'off' ? null : minuteIn(f.time);
  const at = (d: number, m: number | null): When =>
    m === null ? dateOf(d) : instantOf(zone.toInstant(d * DAY + m * MINUTE), zone.id);
  const when = f.day && !errors.day ? at(day, minute) : null;
  let end: When | null = null;
  if (when && f.purpose !== 'do' && f.purpose !== 'remind') {
    const last = f.lastDay ? parseDate(f.lastDay) : day;
    if (minute === null) {
      if (Number.isNaN(last)) errors.lastDay = 'There is no such day.';
      else if (last < day) errors.lastDay = 'The last day comes after the first.';
      else end = f.purpose === 'long' || last > day ? dateOf(last + 1) : null;
    } else if (f.until) {
      const until = minuteIn(f.until)!;
      if (until < minute) errors.until = 'The end comes after the beginning.';
      else end = at(day, until);
    }
  }
  const pattern = patternOf(f);
  const rule = pattern && when ? patternToRule(pattern, when, zone) : f.otherRule;
  const item: Own = {
    kind: f.kind,
    handIn: isWork(f.kind) ? f.handIn : 'nothing',
    title: f.title,
    place: f.place,
    details: f.details,
    when,
    end,
    repeat: rule && when ? { rule, except: [] } : null,
    changes: [],
  };
  const checked = OwnItem.safeParse(item);
  for (const { path, message } of checked.error?.issues ?? []) {
    const field =
      ({ when: 'day', end: f.time ? 'until' : 'lastDay', repeat: 'repeats' } as Record<string, keyof Fields>)[
        String(path[0])
      ] ?? (path[0] as keyof Fields);
    errors[field] ??= message;
  }
  return Object.keys(errors).length || !checked.data
    ? { item: null, errors }
    : { item: checked.data, errors: null };
}
