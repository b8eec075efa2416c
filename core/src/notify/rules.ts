import type { CalendarKind, ItemKind } from '../item/kind.ts';
import { MINUTE, parseLocal } from '../time/civil.ts';
import { minuteWords } from '../words/when.ts';
import { plural } from '../words/text.ts';

/**
 * Rule of a reminder: so long ahead, at an hour so many days ahead, or at a moment on one's own
 * wall clock.
 */
export type RemindRule =
  | { kind: 'ahead'; minutes: number }
  | { kind: 'day'; days: number; minute: number }
  | { kind: 'moment'; local: string };

/** Kinds of things that are reminded of in one way: work, tests, places to be, and what is only to know. */
export const REMIND_KINDS = ['work', 'test', 'place', 'note'] as const;
export type RemindKind = (typeof REMIND_KINDS)[number];
export type RemindSet = Record<RemindKind, RemindRule[]>;

export const REMIND_KIND_WORDS: Record<RemindKind, string> = {
  work: 'Something to hand in or do',
  test: 'A test',
  place: 'Somewhere to be',
  note: 'A reminder',
};

const EVENING = 18 * 60;

/** Rules that hold until a person says otherwise. */
export const DEFAULT_REMINDERS: RemindSet = {
  work: [
    { kind: 'day', days: 1, minute: EVENING },
    { kind: 'ahead', minutes: 180 },
  ],
  test: [
    { kind: 'day', days: 7, minute: EVENING },
    { kind: 'day', days: 2, minute: EVENING },
  ],
  place: [{ kind: 'ahead', minutes: 15 }],
  note: [{ kind: 'ahead', minutes: 0 }],
};

/** Tells how a kind of item is reminded of; null for what nobody need be told of. */
export function remindKind(kind: ItemKind): RemindKind | null {
  if (kind === 'test') return 'test';
  if (kind === 'dayOff') return null;
  if (kind === 'reminder') return 'note';
  return kind === 'meeting' || kind === 'lesson' || kind === 'trip' ? 'place' : 'work';
}

/**
 * Who has said something about reminders: about an item, its calendar, a learner's whole schedule. Null:
 * nothing.
 */
export interface RemindChoices {
  item: readonly RemindRule[] | null;
  calendar: Partial<RemindSet> | null;
  learner: Partial<RemindSet> | null;
}

/**
 * The rules that hold for an item: its own, else its calendar's, else the schedule's, else what holds to
 * begin with.
 */
export function rulesFor(
  { kind, calendarKind }: { kind: ItemKind; calendarKind: CalendarKind },
  { item, calendar, learner }: RemindChoices,
): readonly RemindRule[] {
  const reminded = remindKind(kind);
  if (item) return item;
  if (!reminded) return [];
  // A timetable is known by heart: being told of each of its lessons would only teach not to look.
  const isTimetable = kind === 'lesson' && calendarKind === 'school';
  return calendar?.[reminded] ?? (isTimetable ? [] : (learner?.[reminded] ?? DEFAULT_REMINDERS[reminded]));
}

/** The longest a rule looks ahead, in minutes; what is at a moment looks no way ahead. */
export const leadOf = (rule: RemindRule): number =>
  rule.kind === 'ahead' ? rule.minutes : rule.kind === 'day' ? (rule.days + 1) * 1440 : 0;

/** `15 minutes before`, `the evening before at 18:00`, `on Wed 7 Oct at 18:00` */
export function ruleWords(rule: RemindRule, hours: 12 | 24 = 24): string {
  if (rule.kind === 'ahead') {
    const { minutes } = rule;
    if (minutes === 0) return 'when it begins';
    const [count, unit] =
      minutes % 1440 === 0
        ? [minutes / 1440, 'day']
        : minutes % 60 === 0
          ? [minutes / 60, 'hour']
          : [minutes, 'minute'];
    return `${plural(count, unit)} before`;
  }
  if (rule.kind === 'day') {
    const at = minuteWords(rule.minute, hours);
    if (rule.days === 0) return `the same day at ${at}`;
    if (rule.days === 1)
      return rule.minute >= 17 * 60 ? `the evening before at ${at}` : `the day before at ${at}`;
    return rule.days % 7 === 0
      ? `${plural(rule.days / 7, 'week')} before at ${at}`
      : `${plural(rule.days, 'day')} before at ${at}`;
  }
  const local = parseLocal(rule.local);
  const [date, time] = [rule.local.slice(0, 10), minuteWords(Math.floor((local / MINUTE) % 1440), hours)];
  return `on ${date} at ${time}`;
}
