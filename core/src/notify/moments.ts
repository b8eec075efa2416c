import type { Alarm } from '../ical/feed-item.ts';
import { isWork, type HandInWay, type ItemKind } from '../item/kind.ts';
import { deadlineOf } from '../item/urgency.ts';
import { DAY, MINUTE, parseLocal } from '../time/civil.ts';
import { dayIn, instantIn, localIn, type When } from '../time/when.ts';
import type { Zone } from '../time/zone.ts';
import { remindKind, type RemindRule } from './rules.ts';

/** What reminders are worked out from. */
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
}

/** What a moment looks towards. */
export type MomentOf = 'start' | 'due' | 'aim' | 'pastDue';

/** A moment at which somebody is told. */
export interface DueMoment {
  /** Instant, in milliseconds */
  at: number;
  of: MomentOf;
  /** What it looks towards: when it begins, or the last moment that is in time. Of no use after `useBy`. */
  anchor: number;
  useBy: number;
}

/** Past-due notices: so many days after, at four in the afternoon; and then no more. */
const PAST_DUE_DAYS = [1, 3] as const;
const PAST_DUE_MINUTE = 16 * 60;
/** How long a past-due notice is of use. */
const PAST_DUE_USE = 2 * DAY;
/** How long after its hour a reminder of nothing longer is of use. */
const SHORT_USE = 2 * 60 * MINUTE;

/**
 * Every moment somebody in `viewer` is to be told of an occurrence, in order, each once. What is finished,
 * called off or hidden has none, so that finishing silences, and moving it moves its moments. With an aim,
 * the rules count from that as well as from the due date. A rule that would come after what it looks towards
 * gives nothing.
 * @param alarms those of its feed, used in place of the rules where given
 */
export function momentsOf(
  item: Remindable,
  rules: readonly RemindRule[],
  viewer: Zone,
  alarms: readonly Alarm[] = [],
): DueMoment[] {
  if (item.finished || item.hidden || item.status === 'cancelled') return [];
  const found: DueMoment[] = [];
  for (const towards of anchorsOf(item, viewer)) {
    const put = (at: number) => at <= towards.anchor && found.push({ ...towards, at });
    if (alarms.length && towards.of !== 'aim') for (const alarm of alarms) put(alarmAt(alarm, item, viewer));
    else for (const rule of rules) put(momentOf(rule, towards, item, viewer));
  }
  found.push(...pastDueOf(item, viewer));
  // What two rules give for one moment is told once; the due date says more than the aim.
  const order = (m: DueMoment) => (m.of === 'aim' ? 1 : 0);
  const seen = new Set<number>();
  return found
    .sort((a, b) => a.at - b.at || order(a) - order(b))
    .filter((m) => !seen.has(m.at) && seen.add(m.at));
}

interface Towards extends Omit<DueMoment, 'at'> {
  when: When;
}

function anchorsOf({ kind, start, end, due, aim }: Remindable, viewer: Zone): Towards[] {
  if (!isWork(kind)) {
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

function momentOf(rule: RemindRule, { when, anchor }: Towards, { kind }: Remindable, viewer: Zone): number {
  const onDay = (days: number, minute: number) =>
    viewer.toInstant((dayIn(when, viewer) - days) * DAY + minute * MINUTE);
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
function alarmAt({ trigger }: Alarm, { start, end, due }: Remindable, viewer: Zone): number {
  if ('at' in trigger) return instantIn(trigger.at, viewer);
  const base = trigger.relativeTo === 'end' ? (due ?? end ?? start) : start;
  return viewer.toInstant(localIn(base, viewer) + trigger.length.days * DAY) + trigger.length.ms;
}

/** Only for what is open and handed in online: of paper nothing can be seen, and it never nags. */
function pastDueOf({ kind, due, handIn }: Remindable, viewer: Zone): DueMoment[] {
  if (!isWork(kind) || !due || handIn !== 'online') return [];
  const anchor = deadlineOf(due, viewer);
  return PAST_DUE_DAYS.map((days) => {
    const at = viewer.toInstant((dayIn(due, viewer) + days) * DAY + PAST_DUE_MINUTE * MINUTE);
    return { at, of: 'pastDue' as const, anchor, useBy: at + PAST_DUE_USE };
  });
}

/** How far behind a due date its last past-due notice may come, in milliseconds. */
export const PAST_DUE_REACH = (PAST_DUE_DAYS.at(-1)! + 1) * DAY;

/**
 * Of some moments, those that have come after `from` and up to `to` (instants). Spans that meet never share
 * one.
 */
export const momentsBetween = (moments: readonly DueMoment[], from: number, to: number): DueMoment[] =>
  moments.filter((m) => m.at > from && m.at <= to);
