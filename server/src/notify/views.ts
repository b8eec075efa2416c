import type { NoticeView } from '@zephyrfield/core/api/notify';
import type { DeliveryRow } from './store.ts';

/**
 * Something a person was told.
 * @param finished whether its item is finished by now
 * @param snoozedUntil when it comes again, in milliseconds
 */
export function noticeView(row: DeliveryRow, finished: boolean, snoozedUntil: number | null): NoticeView {
  const { id, learnerId, kind, itemId, recurrenceId, calendarId, title, line, sheet } = row;
  return {
    id,
    learnerId,
    kind,
    itemId,
    recurrenceId,
    calendarId,
    title,
    line,
    sheet,
    finished,
    at: new Date(row.at).toISOString(),
    seen: row.seenAt !== null,
    snoozedUntil: snoozedUntil === null ? null : new Date(snoozedUntil).toISOString(),
  };
}
