import { afterQuiet, sheetsBetween } from '@zephyrfield/core/notify/settings';
import { DAY, HOUR, MINUTE } from '@zephyrfield/core/time/civil';
import type { Viewer } from '@zephyrfield/core/words/when';
import type { Recipient } from './recipient.ts';
import type { Notification } from './sitting-reminders.ts';

/** A day of somebody's mail: when it ends, an instant, and how many have gone on it, those of notes apart. */
export interface MailDay {
  end: number;
  mails: number;
}

/** Moment up to which reminders go along with a mail, and whether those just before their time do. */
export interface Reach {
  until: number;
  hasNudges: boolean;
}

/** Mails a day at most; what was not known before, and cannot wait, comes on top of them. */
const A_DAY = 2;
/** Time within which what falls due goes as one mail; news, which nothing hangs on, waits longer for a sheet. */
const TOGETHER = HOUR;
const NEWS_WAITS = 4 * HOUR;
const SHEET_TAKES = 4 * HOUR;
/** Hours at which hand-ins go by mail, all of an afternoon in one; in minutes of the day. */
const HANDED_IN_AT = [12 * 60, 18 * 60] as const;
/** Hour at which they go where a sheet is mailed besides: what its day's sheet has missed waits for the next day. */
const HANDED_IN_BESIDE = [12 * 60] as const;
/** A reminder that comes so long before its time may as well come earlier. */
const NO_NUDGE = 2 * HOUR;
/** A reminder is not held back to where it would leave less time than this. */
const LEAST_TIME = HOUR;
/** News of a date so far off can wait for the next morning, and for this hour of it. */
const CAN_WAIT = 36 * HOUR;
const MORNING = 7 * HOUR;

/**
 * Tells when a mail goes, an instant: with the sheet, where one is mailed soon after and it is early enough for
 * it; with the next morning's, where it is news that can wait and the day has had its mails.
 * @param at when it may go as far as quiet hours are concerned
 */
export function mailedAt(at: number, told: Notification, who: Recipient, day: MailDay): number {
  const { kind, anchor, useBy } = told;
  const {
    noticeSettings: { all, sheets, quiet },
    viewer,
  } = who;
  // What somebody has written waits for no sheet.
  if (kind === 'fromCrew') return at;
  const hours = all.sheet.includes('mail') ? HANDED_IN_BESIDE : HANDED_IN_AT;
  const isReminder = kind === 'dueSoon';
  const held = isReminder || day.mails < A_DAY || presses(told, at) ? at : Math.max(at, day.end + MORNING);
  const alone = kind === 'handedIn' ? afterQuiet(nextOf(hours, held, viewer), quiet, viewer) : held;
  if (!all.sheet.includes('mail')) return alone;
  const sheet = sheetsBetween(sheets, at - 1, at + (isReminder ? TOGETHER : NEWS_WAITS), viewer)[0]?.at;
  if (sheet === undefined || sheet > useBy) return alone;
  return isReminder && anchor != null && sheet + LEAST_TIME > anchor ? at : sheet;
}

const presses = ({ concerns }: Notification, at: number) =>
  concerns !== undefined && concerns < at + CAN_WAIT;

/**
 * Tells how far ahead a mail that goes now looks: an hour, and with a sheet, which says what is due, over its
 * evening. The last mail of a day takes along all that would be mailed on it, for there is none after it.
 */
export function reachOfMail(
  now: number,
  { noticeSettings: { all, sheets }, viewer }: Recipient,
  day: MailDay,
  isSheet: boolean,
): Reach {
  const sheet = all.sheet.includes('mail')
    ? sheetsBetween(sheets, now, day.end - 1, viewer)[0]?.at
    : undefined;
  if (sheet !== undefined) return { until: Math.max(sheet, now + TOGETHER), hasNudges: true };
  if (day.mails >= A_DAY - 1) return { until: day.end, hasNudges: true };
  return { until: now + (isSheet ? SHEET_TAKES : TOGETHER), hasNudges: false };
}

/** Tells whether a reminder that comes within a mail's reach goes along with it. */
export function goesAlong({ kind, at, anchor }: Notification, now: number, { hasNudges }: Reach): boolean {
  if (at <= now + TOGETHER) return true;
  // That something is past due is said once it is.
  return kind === 'dueSoon' && (hasNudges || (anchor != null && anchor - at >= NO_NUDGE));
}

/** Finds the next of some hours of the day, in minutes, on somebody's wall clock; an instant in milliseconds. */
function nextOf(minutes: readonly number[], at: number, viewer: Viewer): number {
  const day = Math.floor((at + viewer.offsetAt(at)) / DAY);
  return minutes
    .flatMap((minute) => [day, day + 1].map((d) => viewer.toInstant(d * DAY + minute * MINUTE)))
    .filter((moment) => moment >= at)
    .reduce((a, b) => Math.min(a, b));
}
