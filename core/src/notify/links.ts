import type { SheetEdition } from './settings.ts';

/** The path of an item's page; `recurrenceId` names one of its dates, `''` the next one. */
export const itemPath = (itemId: string, recurrenceId: string): `/calendar?${string}` =>
  `/calendar?item=${encodeURIComponent(itemId)}&recurrence=${encodeURIComponent(recurrenceId)}`;

/** The path of a day's or a week's sheet; `day` as `2026-10-06`. */
export const sheetPath = (edition: SheetEdition, day: string): `/day-sheet?${string}` =>
  `/day-sheet?edition=${edition}&day=${day}`;

interface Leading {
  sheet: { edition: SheetEdition; day: string } | null;
  itemId: string | null;
  recurrenceId: string;
}

/**
 * Where a notice leads to: its day sheet, its item, or the list of notices where it is about several things.
 */
export const noticePath = ({
  sheet,
  itemId,
  recurrenceId,
}: Leading): `/calendar?${string}` | `/day-sheet?${string}` | '/notices' =>
  sheet ? sheetPath(sheet.edition, sheet.day) : itemId ? itemPath(itemId, recurrenceId) : '/notices';
