import { HAND_IN_WAYS, ITEM_KINDS } from '@zephyrfield/core/item/kind';
import { isRecord, isTexts } from '@/data/kept';
import { useOutlineDrafts } from '@/data/outline-draft';
import type { For } from './for-fields';
import type { Row } from './rows';

/** What was made of an outline and not added yet. */
export interface Draft {
  value: Partial<For>;
  /** Those that were changed, ticked or left out */
  rows: readonly Row[];
}

/** Gives what the device has kept of an outline; what is not as it should be is left out. */
export function draftOf(id: string): Draft | null {
  const kept = useOutlineDrafts.getState().of[id];
  if (!kept) return null;
  return { value: valueOf(kept.value), rows: kept.rows.filter(isRow) };
}

const TEXTS = ['calendarId', 'name', 'zone', 'from', 'to'] as const;

function valueOf(kept: object): Partial<For> {
  const { order, ...said } = kept as Partial<Record<keyof For, unknown>>;
  const texts = TEXTS.flatMap((key) => (typeof said[key] === 'string' ? [[key, said[key]]] : []));
  return {
    ...Object.fromEntries(texts),
    ...(order === null || order === 'dmy' || order === 'mdy' ? { order } : {}),
  };
}

type Check = (value: unknown) => boolean;
const isText: Check = (value) => typeof value === 'string';
const isNumber: Check = (value) => typeof value === 'number';
const isFlag: Check = (value) => typeof value === 'boolean';
const orNull =
  (check: Check): Check =>
  (value) =>
    value === null || check(value);
const isPlace: Check = (value) =>
  isRecord(value) && ['block', 'row', 'cell', 'from', 'to'].every((key) => isNumber(value[key]));

/** What a row is looked at for, in this version. */
const ROW: Partial<Record<keyof Row, Check>> = {
  ...{ id: isText, title: isText, place: isText, details: isText, number: isNumber },
  ...{ date: orNull(isText), endDate: orNull(isText), minute: orNull(isNumber), until: orNull(isNumber) },
  ...{ ticked: isFlag, isOwn: isFlag, isSet: isFlag, dates: isTexts, doubts: isTexts, covers: isTexts },
  weekdays: (value) => Array.isArray(value) && value.every(isNumber),
  kind: (value) => ITEM_KINDS.some((kind) => kind === value),
  handIn: (value) => HAND_IN_WAYS.some((way) => way === value),
  state: (value) => ['new', 'known', 'moved', 'gone'].some((state) => state === value),
  at: isPlace,
};

/** Tells whether what a device has kept is a row as this version knows it. */
const isRow = (kept: object): kept is Row =>
  Object.entries(ROW).every(([key, check]) => check((kept as Record<string, unknown>)[key]));

/** Keeps what was made of an outline: each change, as it is made. */
export function keepDraft(id: string, value: For, rows: readonly Row[]): void {
  const changed = rows.filter((row) => row.isOwn || row.isSet);
  useOutlineDrafts.getState().keep(id, { value, rows: changed });
}

/** It has been added, or is not wanted. */
export const dropDraft = (id: string): void => useOutlineDrafts.getState().drop(id);
