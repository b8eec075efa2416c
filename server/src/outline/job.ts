import type { OutlineView } from '@zephyrfield/core/api/outlines';
import type { Found, OutlineOptions } from '@zephyrfield/core/outline/found';
import type { Page } from '@zephyrfield/core/outline/page';
import { readOutline } from '@zephyrfield/core/outline/read';
import { formatDate } from '@zephyrfield/core/time/civil';
import { pageOf } from './read-file.ts';
import { OutlineTrouble } from './trouble.ts';

/** A file to be read, or a page that was read before, with what the person says of its term. */
export interface OutlineJob {
  file?: { bytes: Uint8Array; name: string };
  page?: string;
  options: OutlineOptions;
}

/** What was read: the page as it is kept, and what was found in it. */
export type OutlineRead =
  | {
      page: string;
      view: Pick<OutlineView, 'page' | 'rows' | 'order' | 'isOrderOpen' | 'language' | 'notes'>;
    }
  | { trouble: { words: string; remedy: string } };

/** Reads an outline. Runs in a worker, in bounded time and memory. */
export async function readOutlineFile({ file, page: kept, options }: OutlineJob): Promise<OutlineRead> {
  try {
    const page = kept === undefined ? await pageOf(file!) : (JSON.parse(kept) as Page);
    const { found, order, isOrderOpen, language, notes } = readOutline(page, options);
    const shown = { blocks: page.blocks };
    return {
      page: kept ?? JSON.stringify(page),
      view: { page: shown, rows: found.map(rowOf), order, isOrderOpen, language, notes },
    };
  } catch (error) {
    if (!(error instanceof OutlineTrouble)) throw error;
    return { trouble: { words: error.message, remedy: error.remedy } };
  }
}

const rowOf = ({ day, lastDay, days, doubts, ...found }: Found): OutlineView['rows'][number] => ({
  ...found,
  date: day === null ? null : formatDate(day),
  endDate: lastDay === null ? null : formatDate(lastDay),
  dates: days.map(formatDate),
  doubts: doubts.map((d) => d.words),
});
