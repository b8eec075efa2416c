import type { Alarm } from '../ical/feed-item.ts';
import { isSat } from '../item/dates.ts';
import { isWork, type HandInWay, type ItemKind } from '../item/kind.ts';
import { deadlineOf } from '../item/urgency.ts';
import { DAY, HOUR, MINUTE, parseLocal } from '../time/civil.ts';
import { dayIn, instantIn, localIn, type When } from '../time/when.ts';
import { remindKind, type RemindRule } from './rules.ts';
import { dueDay, type Viewer } from '../words/when.ts';

/** Facts that reminders are worked out from. */
export interface Remindable {
  kind: ItemKind;
  handIn: HandInWay;
  status: 'confirmed' | 'tentative' | 'cancelled';
  start: When;
  end: When | null;
  due: When | null;
  aim: When | null;
  finished: boolean;
  hidden: boolean;
  /** Since when this date has been known, where that is asked for: an instant in milliseconds */
  knownSince?: number;
}

/** Event that a moment looks towards. */
export type MomentOf = 'start' | 'due' | 'aim' | 'pastDue';

/** A moment at which somebody is told. */
export interface DueMoment {
  /** Instant, in milliseconds */
  at: number;
  of: MomentOf;
  /** Moment that it looks towards: when it begins, or the last moment that is in time. Of no use after `useBy`. */
  anchor: number;
  useBy: number;
}

/** Past-due notices: so many days after, at four in the afternoon; and then no more. */
const PAST_DUE_DAYS = [1, 3] as const;
const PAST_DUE_MINUTE = 16 * 60;
/** Time a past-due notice is of use. */
const PAST_DUE_USE = 2 * DAY;
/** Time after its hour a reminder of nothing longer is of use. */
const SHORT_USE = 2 * 60 * MINUTE;

/**
 * Every moment somebody in `viewer` is to be told of an occurrence, in order, each once. What is finished,
 * called off or hidden has none, so that finishing silences, and moving it moves its moments. With an aim,
 * the rules count from that, and the due date is told once, on its day. A test that was made known after the
 * first of its reminders gets nearer ones. A rule that would come after what it looks towards gives nothing.
 * @param alarms those of its feed, used in place of the rules where given
 */
export function momentsOf(
  item: Remindable,
  rules: readonly RemindRule[],
  viewer: Viewer,
  alarms: readonly Alarm[] = [],
): DueMoment[] {
  if (item.finished || item.hidden || item.status === 'cancelled') return [];
  const found: DueMoment[] = [];
  const anchors = anchorsOf(item, viewer);
  const hasAim = anchors.some((a) => a.of === 'aim');
  for (const towards of anchors) {
    const by = (list: readonly RemindRule[]) =>
      list.filter((rule) => fits(rule, towards, item)).map((rule) => momentOf(rule, towards, item, viewer));
    let times = by(rules);
    if (alarms.length && towards.of !== 'aim') times = alarms.map((alarm) => alarmAt(alarm, item, viewer));
    else if (towards.of === 'due' && hasAim) times = onDueDay(times, towards, viewer);
    else if (towards.of === 'start' && item.kind === 'test') times = [...times, ...by(SITTING)];
    else if (item.kind === 'test' && isMissed(times, item))
      times = beforeItCloses([...times, ...by(NEARER)], item.knownSince!, towards.anchor);
    for (const at of times) if (at <= towards.anchor) found.push({ ...towards, at });
  }
  found.push(...pastDueOf(item, viewer));
  // What two rules give for one moment is told once; the due date says more than the aim.
  const order = (m: DueMoment) => (m.of === 'aim' ? 1 : 0);
  const seen = new Set<number>();
  return found
    .sort((a, b) => a.at - b.at || order(a) - order(b))
    .filter((m) => !seen.has(m.at) && seen.add(m.at));
}

/** Further reminders of a test, where it was made known too late for the first of the usual. */
const NEARER: readonly RemindRule[] = [
  { kind: 'day', days: 1, minute: 18 * 60 },
  { kind: 'ahead', minutes: 180 },
];

/** Further reminders of a test at its hours: one has to be there. */
const SITTING: readonly RemindRule[] = [
  { kind: 'day', days: 1, minute: 18 * 60 },
  { kind: 'ahead', minutes: 60 },
];

/** Time before a test closes, or after it was made known very late, at which one is reminded of it. */
const [LAST_CALL, AT_ONCE] = [60 * MINUTE, 5 * MINUTE];
/** Adds a moment before a test closes, where all others were over when it was made known. */
function beforeItCloses(times: readonly number[], knownSince: number, closes: number): number[] {
  if (times.some((at) => at > knownSince && at < closes)) return [...times];
  return [...times, Math.max(closes - LAST_CALL, Math.min(knownSince + AT_ONCE, closes))];
}

const isMissed = (times: readonly number[], { knownSince }: Remindable) =>
  knownSince !== undefined && times.some((at) => at <= knownSince);

/**
 * Whether a rule makes sense for what it looks towards. Paper and work done in class are due in a lesson of
 * that day: three hours before midnight, that is long over.
 */
const fits = (rule: RemindRule, { when, of }: Towards, { handIn }: Remindable) =>
  of === 'start' ||
  !allDayOf(when) ||
  !(handIn === 'paper' || handIn === 'inClass') ||
  rule.kind !== 'ahead' ||
  rule.minutes >= 1440;

/** Of what is told by its aim, the one moment on the day it is due: the last of its rules’, else in the morning. */
function onDueDay(times: readonly number[], { when, anchor }: Towards, viewer: Viewer): number[] {
  const day = dueDay(when, viewer) * DAY;
  const onDay = times.filter((at) => at <= anchor && localAt(at, viewer) >= day);
  const morning = viewer.toInstant(day + 8 * HOUR);
  return onDay.length ? [Math.max(...onDay)] : morning < anchor ? [morning] : [];
}
const localAt = (at: number, viewer: Viewer) => at + viewer.offsetAt(at);

interface Towards extends Omit<DueMoment, 'at'> {
  when: When;
}

function anchorsOf({ kind, start, end, due, aim }: Remindable, viewer: Viewer): Towards[] {
  if (!isWork(kind) || isSat(kind, start, end)) {
    const anchor = instantIn(start, viewer);
    return [
      {
        of: 'start',
        when: start,
        anchor: allDayOf(start) ? anchor + DAY : anchor,
        useBy: end ? instantIn(end, viewer) : allDayOf(start) ? anchor + DAY : anchor + SHORT_USE,
      },
    ];
  }
  if (!due) return [];
  const deadline = deadlineOf(due, viewer);
  const towards = (of: 'due' | 'aim', when: When): Towards => ({
    of,
    when,
    anchor: deadlineOf(when, viewer),
    useBy: deadline,
  });
  return aim && deadlineOf(aim, viewer) < deadline
    ? [towards('due', due), towards('aim', aim)]
    : [towards('due', due)];
}

const allDayOf = (when: When) => when.kind === 'date';

function momentOf(rule: RemindRule, { when, anchor }: Towards, { kind }: Remindable, viewer: Viewer): number {
  const on = isWork(kind) ? dueDay(when, viewer) : dayIn(when, viewer);
  const onDay = (days: number, minute: number) => viewer.toInstant((on - days) * DAY + minute * MINUTE);
  if (rule.kind === 'moment') return viewer.toInstant(parseLocal(rule.local));
  if (rule.kind === 'day') return onDay(rule.days, rule.minute);
  // A quarter of an hour before a whole day is midnight to the machine, and the evening before to a person.
  if (allDayOf(when) && !isWork(kind) && rule.minutes < 1440)
    return remindKind(kind) === 'note' ? onDay(0, 8 * 60) : onDay(1, 18 * 60);
  return (allDayOf(when) && !isWork(kind) ? instantIn(when, viewer) : anchor) - rule.minutes * MINUTE;
}

/**
 * RFC 5545 3.8.6.3: relative to the start or the end, which for a to-do is its due date; days on the wall
 * clock, the rest exact.
 */
function alarmAt({ trigger }: Alarm, { start, end, due }: Remindable, viewer: Viewer): number {
  if ('at' in trigger) return instantIn(trigger.at, viewer);
  const base = trigger.relativeTo === 'end' ? (due ?? end ?? start) : start;
  return viewer.toInstant(localIn(base, viewer) + trigger.length.days * DAY) + trigger.length.ms;
}

/**
 * Only for what is open and handed in online: of paper nothing can be seen, and it never nags; and a test that
 * has closed cannot be taken any more.
 */
function pastDueOf({ kind, due, handIn }: Remindable, viewer: Viewer): DueMoment[] {
  if (!isWork(kind) || kind === 'test' || !due || handIn !== 'online') return [];
  const anchor = deadlineOf(due, viewer);
  return PAST_DUE_DAYS.map((days) => {
    const at = viewer.toInstant((dueDay(due, viewer) + days) * DAY + PAST_DUE_MINUTE * MINUTE);
    return { at, of: 'pastDue' as const, anchor, useBy: at + PAST_DUE_USE };
  });
}

/** Distance from a due date to its last past-due notice, in milliseconds. */
export const PAST_DUE_REACH = (PAST_DUE_DAYS.at(-1)! + 1) * DAY;

/**
 * Of some moments, those that have come after `from` and up to `to` (instants). Spans that meet never share
 * one.
 */
export const momentsBetween = (moments: readonly DueMoment[], from: number, to: number): DueMoment[] =>
  moments.filter((m) => m.at > from && m.at <= to);
