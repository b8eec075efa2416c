import type { ItemView } from '@zephyrfield/core/api/schemas';
import type { OwnItem } from '@zephyrfield/core/item/own';
import type { When } from '@zephyrfield/core/time/when';

/** An own item as it was opened: its date (by where it stood before any change) and all of it. */
export interface OwnAt {
  id: string;
  calendarId: string;
  version: number;
  item: OwnItem;
  of: When | null;
}

/** Where a date of a repeated item stood before it was moved: what its key names. */
function placeOf({ item }: { item: OwnItem }, recurrenceId: string): When | null {
  if (!recurrenceId || !item.when) return null;
  return item.when.kind === 'instant'
    ? { ...item.when, at: recurrenceId }
    : item.when.kind === 'date'
      ? { kind: 'date', date: recurrenceId }
      : { kind: 'floating', local: recurrenceId };
}

export const ownAt = ({ own, occurrence }: ItemView): OwnAt | null =>
  own && {
    id: occurrence.itemId,
    calendarId: occurrence.calendarId,
    version: own.version,
    item: own.item,
    of: placeOf(own, occurrence.recurrenceId),
  };
