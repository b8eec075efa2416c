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

/** What the device has kept of an outline; what is not as it should be is left out. */
export function draftOf(id: string): Draft | null {
  const kept = useOutlineDrafts.getState().of[id];
  if (!kept) return null;
  return { value: kept.value as Partial<For>, rows: kept.rows.filter(isRow) };
}

/** Whether what a device has kept is a row as this version knows it. */
const isRow = (kept: object): kept is Row => {
  const { title, number, ticked, at, dates, covers } = kept as Partial<Record<keyof Row, unknown>>;
  return (
    typeof title === 'string' &&
    typeof number === 'number' &&
    typeof ticked === 'boolean' &&
    isRecord(at) &&
    isTexts(dates) &&
    isTexts(covers)
  );
};

/** Keeps what was made of an outline: each change, as it is made. */
export function keepDraft(id: string, value: For, rows: readonly Row[]): void {
  const changed = rows.filter((row) => row.isOwn || row.isSet);
  useOutlineDrafts.getState().keep(id, { value, rows: changed });
}

/** It has been added, or is not wanted. */
export const dropDraft = (id: string): void => useOutlineDrafts.getState().drop(id);
