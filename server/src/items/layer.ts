import { editLayer, recordOf, type LayerRecord } from '@zephyrfield/core/item/layer';
import type { LayerChange } from '@zephyrfield/core/api/layer';
import type { layer } from '../db/schema.ts';
import type { LayerWrite } from './rows.ts';

type Layer = typeof layer.$inferSelect;
type Before = LayerWrite &
  Pick<Layer, 'finishedAt' | 'finishedBy' | 'handedIn' | 'stillToDo' | 'spent' | 'timerSince'> & {
    doneInCourse: boolean;
  };
const NEW = {
  finishedAt: null,
  finishedBy: null,
  handedIn: null,
  stillToDo: false,
  spent: 0,
  timerSince: null,
};

/**
 * An own layer's row after a change, and what of it is to be kept as a record.
 * @param now instant in milliseconds
 */
export function changedLayer(
  old: Layer | undefined,
  { itemId, version: _version, recurrenceId = '', ...edit }: LayerChange & { itemId: string },
  now: number,
  personId: string,
  doneInCourse: boolean,
): { row: LayerWrite; record: LayerRecord | null } {
  const before: Before = { itemId, recurrenceId, updatedAt: now, ...NEW, ...old, doneInCourse };
  const { doneInCourse: _says, ...row } = editLayer(before, edit, now);
  const finishedBy =
    row.finishedAt === null ? null : before.finishedAt === null ? personId : before.finishedBy;
  return { row: { ...row, finishedBy, updatedAt: now }, record: recordOf(before, edit, now) };
}
