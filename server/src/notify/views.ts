import type { NoticeView } from '@zephyrfield/core/api/notify';
import type { DeliveryRow } from './store.ts';
import { SITTING } from './sitting-reminders.ts';

/** Sorts of news by what they are told for; all others are of no special sort. */
const SORTS: Partial<Record<DeliveryRow['cause'], NoticeView['sort']>> = {
  ...{ reminder: 'reminder', [SITTING]: 'reminder', late: 'reminder', sheet: 'reminder' },
  ...{ change: 'change', note: 'note', offer: 'offer' },
};

/**
 * Something a person was told.
 * @param now what is known of its item by now; `snoozedUntil` is when it comes again, in milliseconds
 */
export function noticeView(
  row: DeliveryRow,
  { isWork, finished, snoozedUntil }: { isWork: boolean; finished: boolean; snoozedUntil: number | null },
): NoticeView {
  const { id, learnerId, kind, itemId, recurrenceId, calendarId, title, line, sheet, leads } = row;
  return {
    id,
    learnerId,
    kind,
    // What leads somewhere else is not about doing the item.
    itemId: leads === null ? itemId : null,
    recurrenceId,
    calendarId,
    title,
    line,
    sheet,
    leads,
    sort: SORTS[row.cause] ?? 'other',
    offerId: row.cause === 'offer' ? row.causeId : null,
    finished,
    isWork,
    at: new Date(row.at).toISOString(),
    seen: row.seenAt !== null,
    snoozedUntil: snoozedUntil === null ? null : new Date(snoozedUntil).toISOString(),
  };
}
