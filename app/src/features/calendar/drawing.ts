import type { CalendarView } from '@zephyrfield/core/api/schemas';
import type { AgendaEntry } from '@zephyrfield/core/view/entry';
import type { Viewer } from '@zephyrfield/core/words/when';
import { slipFace } from '@zephyrfield/core/view/slips';

/** What every view of days is given. */
export interface Drawing {
  byId: ReadonlyMap<string, CalendarView>;
  now: number;
  viewer: Viewer;
  chosen: { id: string; recurrenceId: string } | null;
  onOpen(entry: AgendaEntry): void;
}

/** Gives what a slip needs to know of its entry, whatever its size. */
export function slipOf(entry: AgendaEntry, { byId, viewer, chosen, onOpen }: Drawing) {
  const { occurrence } = entry;
  const calendar = byId.get(occurrence.calendarId);
  return {
    ...slipFace(entry, calendar, viewer),
    chosen: chosen?.id === occurrence.itemId && chosen.recurrenceId === occurrence.recurrenceId,
    onOpen: () => onOpen(entry),
  };
}
