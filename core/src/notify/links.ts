import type { SheetEdition } from './settings.ts';

/**
 * The path of an item's page; `recurrenceId` names one of its dates, `''` the next one. Where it is followed from
 * outside, or from a list of several learners' things, `learnerId` says whose it is.
 */
export const itemPath = (itemId: string, recurrenceId: string, learnerId?: string): `/calendar?${string}` =>
  `/calendar?item=${encodeURIComponent(itemId)}&recurrence=${encodeURIComponent(recurrenceId)}${learnerId ? `&learner=${encodeURIComponent(learnerId)}` : ''}`;

/** The path of a day's or a week's sheet; `day` as `2026-10-06`. */
export const sheetPath = (edition: SheetEdition, day: string): `/day-sheet?${string}` =>
  `/day-sheet?edition=${edition}&day=${day}`;

/** The path of a thread of notes. */
export const threadPath = (threadId: string): `/notes?${string}` =>
  `/notes?thread=${encodeURIComponent(threadId)}`;

interface Leading {
  /** A path of its own, where it leads somewhere else than to what is named below */
  leads?: string | null;
  sheet: { edition: SheetEdition; day: string } | null;
  itemId: string | null;
  recurrenceId: string;
  learnerId: string;
}

/**
 * Gives the path that a notice leads to: its day sheet, its item, or the news where it is about several things.
 */
export const noticePath = ({ leads, sheet, itemId, recurrenceId, learnerId }: Leading): NoticePath =>
  leads
    ? (leads as NoticePath)
    : sheet
      ? sheetPath(sheet.edition, sheet.day)
      : itemId
        ? itemPath(itemId, recurrenceId, learnerId)
        : '/news';

type NoticePath =
  | `/calendar?${string}`
  | `/day-sheet?${string}`
  | `/notes?${string}`
  | `/open-times?${string}`
  | '/gather'
  | '/news';
