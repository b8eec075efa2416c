import type { NoticeKind } from '@zephyrfield/core/notify/settings';
import { MINUTE } from '@zephyrfield/core/time/civil';
import { hoursWords } from '@zephyrfield/core/words/when';
import type { OccurrenceRow } from '../items/rows.ts';
import type { SittingAhead } from '../plan/sittings.ts';
import type { NewDelivery } from './store.ts';

/** Something to be told, before it is known by which ways. */
export interface Notification extends Pick<
  NewDelivery,
  'itemId' | 'recurrenceId' | 'calendarId' | 'title' | 'line' | 'anchor' | 'cause' | 'causeId' | 'moment'
> {
  kind: NoticeKind;
  leads?: string;
  about?: readonly string[];
  /** Of news: the first moment that it is about, an instant in milliseconds */
  concerns?: number;
  at: number;
  useBy: number;
}

/** What a reminder of a sitting is told for; and it comes so long before. */
export const SITTING = 'sitting';
const BEFORE = 10 * MINUTE;

/**
 * Reminders of sittings that come after `doneTo` and up to `upTo`, and when the next one comes, at `before` at the latest.
 * @param rowOf the date a sitting is for; null where it is not to be reminded of
 */
export function sittingReminders(
  sittings: readonly SittingAhead[],
  {
    now,
    upTo,
    doneTo,
    before,
    rowOf,
  }: {
    now: number;
    upTo: number;
    doneTo: number;
    before: number;
    rowOf(sitting: SittingAhead): OccurrenceRow | null;
  },
): { notifications: Notification[]; nextAt: number } {
  const notifications: Notification[] = [];
  let nextAt = before;
  for (const ahead of sittings) {
    const at = ahead.start - BEFORE;
    const row = at < nextAt ? rowOf(ahead) : null;
    if (!row) continue;
    if (at > upTo) nextAt = Math.min(nextAt, at);
    else if (at > doneTo && ahead.end >= now) notifications.push(noticeOf(ahead, row, at));
  }
  return { notifications, nextAt };
}

function noticeOf(ahead: SittingAhead, { occurrence }: OccurrenceRow, at: number): Notification {
  return {
    cause: SITTING,
    causeId: ahead.id,
    moment: at,
    kind: 'dueSoon',
    at,
    useBy: ahead.end,
    anchor: ahead.start,
    itemId: ahead.itemId,
    recurrenceId: ahead.recurrenceId,
    calendarId: occurrence.calendarId,
    title: occurrence.title,
    line: `Sitting ${ahead.words}, ${hoursWords(ahead.sitting.minutes)}`,
  };
}
