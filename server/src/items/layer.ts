import type { LayerChange } from '@zephyrfield/core/api/layer';
import type { layer, record } from '../db/schema.ts';
import type { LayerWrite } from './store.ts';

type Layer = typeof layer.$inferSelect;
type NewRecord = Pick<typeof record.$inferInsert, 'kind' | 'way' | 'note' | 'at'>;

/**
 * An own layer after a change, and what of it is to be kept as a record. What the change does not name stays. A clock
 * that is stopped adds the minutes it ran to the time spent.
 * @param now instant in milliseconds
 */
export function changedLayer(old: Layer | undefined, change: LayerChange & { itemId: string }, now: number, personId: string): { row: LayerWrite; record: NewRecord | null } {
  const row: LayerWrite = { ...(old ?? {}), itemId: change.itemId, recurrenceId: change.recurrenceId ?? '', updatedAt: now };
  let record: NewRecord | null = null;
  if (change.finished !== undefined) {
    const was = old?.finishedAt != null;
    row.finishedAt = change.finished ? (old?.finishedAt ?? now) : null;
    row.finishedBy = change.finished ? (old?.finishedBy ?? personId) : null;
    if (change.finished) row.stillToDo = false;
    else row.handedIn = null;
    if (was !== change.finished) record = { kind: change.finished ? 'finished' : 'reopened', at: now };
  }
  if (change.handedIn !== undefined) {
    row.handedIn = change.handedIn?.way ?? null;
    if (change.handedIn) record = { kind: 'handedIn', way: change.handedIn.way, note: change.handedIn.note ?? '', at: change.handedIn.at ? Date.parse(change.handedIn.at) : now };
  }
  if (change.stillToDo !== undefined) {
    row.stillToDo = change.stillToDo;
    if (change.stillToDo && !old?.stillToDo) record = { kind: 'stillToDo', at: now };
  }
  if (change.timer !== undefined) {
    const ran = old?.timerSince == null ? 0 : Math.max(0, Math.round((now - old.timerSince) / 60_000));
    row.spent = (old?.spent ?? 0) + (change.timer ? 0 : ran);
    row.timerSince = change.timer ? (old?.timerSince ?? now) : null;
  }
  const { aim, estimate, note, spent, hidden, colour, position, reminders } = change;
  for (const [name, value] of Object.entries({ aim, estimate, note, spent, hidden, colour, position, reminders })) if (value !== undefined) Object.assign(row, { [name]: value });
  return { row, record };
}
