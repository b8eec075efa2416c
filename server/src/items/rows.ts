import { keyOf } from '@zephyrfield/core/item/occurrence';
import type { HandInWay, ItemKind } from '@zephyrfield/core/item/kind';
import type { When } from '@zephyrfield/core/time/when';
import type { occurrence } from '../db/schema.ts';
import { layer, personLayer } from '../db/schema.ts';

// Rows of occurrences with their layers, as they are read.

/** What of a layer is shown wherever its occurrence is. Null where there is none. */
export const LAYER_FIELDS = {
  finishedAt: layer.finishedAt,
  handedIn: layer.handedIn,
  stillToDo: layer.stillToDo,
  aim: layer.aim,
  estimate: layer.estimate,
  position: layer.position,
  reminders: layer.reminders,
  version: layer.version,
};
export const PERSON_FIELDS = {
  hidden: personLayer.hidden,
  colour: personLayer.colour,
  personVersion: personLayer.version,
};
type LayerRow = typeof layer.$inferSelect;
type PersonRow = typeof personLayer.$inferSelect;
export type LayerFields = { [K in keyof typeof LAYER_FIELDS]: LayerRow[K] | null } & {
  [K in 'hidden' | 'colour']: PersonRow[K] | null;
} & { personVersion: number | null };
/** Rows of a layer by the date they are on; their order of names is that of `OccurrenceRow`. */
export const byDate = <R extends { itemId: string; recurrenceId: string }>(rows: readonly R[]) =>
  new Map(rows.map(({ itemId, recurrenceId, ...of }) => [keyOf({ itemId, recurrenceId }), of]));
export type LayerWrite = Omit<typeof layer.$inferInsert, 'version'>;
export interface OccurrenceRow extends LayerFields {
  occurrence: typeof occurrence.$inferSelect;
}

/** The marks of an occurrence without a layer. */
export const NO_LAYER: LayerFields = {
  finishedAt: null,
  handedIn: null,
  stillToDo: null,
  aim: null,
  estimate: null,
  position: null,
  reminders: null,
  version: null,
  hidden: null,
  colour: null,
  personVersion: null,
};

/** An occurrence as the driver gives it: the table's columns in their order. */
export type Raw = [
  string,
  string,
  string,
  string,
  string,
  string,
  string,
  string,
  string,
  string,
  string | null,
  string | null,
  number,
  number,
  number,
  number,
  number,
  number,
  string | null,
];

export function fromRaw([
  itemId,
  recurrenceId,
  learnerId,
  calendarId,
  title,
  place,
  status,
  kind,
  handIn,
  start,
  end,
  due,
  fromMs,
  toMs,
  duplicate,
  own,
  doneInCourse,
  endless,
  closes,
]: Raw): OccurrenceRow['occurrence'] {
  const begins = JSON.parse(start) as When;
  const dueAt = due === null ? null : due === start ? begins : (JSON.parse(due) as When);
  return {
    itemId,
    recurrenceId,
    learnerId,
    calendarId,
    title,
    place,
    status: status as OccurrenceRow['occurrence']['status'],
    kind: kind as ItemKind,
    handIn: handIn as HandInWay,
    start: begins,
    end: end === null ? null : (JSON.parse(end) as When),
    due: dueAt,
    fromMs,
    toMs,
    duplicate: duplicate === 1,
    own: own === 1,
    doneInCourse: doneInCourse === 1,
    endless: endless === 1,
    closes: closes === null ? null : closes === due ? dueAt : (JSON.parse(closes) as When),
  };
}
