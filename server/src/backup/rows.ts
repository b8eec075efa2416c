import { mkdirSync, writeFileSync } from 'node:fs';
import { readFile, readdir } from 'node:fs/promises';
import { join } from 'node:path';
import type { ScheduleArchive } from '@zephyrfield/core/api/archive';

// An archive may hold some hundred thousand things. The worker that checks it lays them down page by page, so that the
// thread that answers people never has more than one page of them to take in.

/** The lists of an archive that may be long, and how many of each make a page. */
const ON_A_PAGE = {
  sources: 1,
  own: 20,
  layers: 50,
  notes: 50,
  records: 50,
  briefs: 50,
  files: 50,
  runUps: 50,
} as const;
/** A page that has grown to this many characters is full, however few there are on it. */
const LONGEST_PAGE = 256 * 1024;

type ListName = keyof typeof ON_A_PAGE;
const NAMES = Object.keys(ON_A_PAGE) as ListName[];
type RowOf<L extends ListName> = ScheduleArchive[L][number];

/** Number of things an archive holds, by what they are. */
export type RowCounts = Record<ListName, number>;

export const countRows = (archive: ScheduleArchive): RowCounts =>
  Object.fromEntries(NAMES.map((name) => [name, archive[name].length])) as RowCounts;

const folderOf = (work: string, name: ListName) => join(work, 'rows', name);

/** Lays the long lists of an archive down in a work folder. */
export function writeRows(work: string, archive: ScheduleArchive): void {
  for (const name of NAMES) {
    const folder = folderOf(work, name);
    mkdirSync(folder, { recursive: true, mode: 0o700 });
    let page: string[] = [];
    let size = 0;
    let written = 0;
    const close = () => {
      if (page.length) writeFileSync(join(folder, `${written++}.json`), `[${page.join()}]`, { mode: 0o600 });
      page = [];
      size = 0;
    };
    for (const row of archive[name]) {
      const text = JSON.stringify(row);
      if (page.length === ON_A_PAGE[name] || size + text.length > LONGEST_PAGE) close();
      page.push(text);
      size += text.length;
    }
    close();
  }
}

/** The rows of a list in their order, page by page. They were checked before they were laid down. */
export async function* pagesOf<L extends ListName>(work: string, name: L): AsyncGenerator<RowOf<L>[]> {
  const folder = folderOf(work, name);
  const { length } = await readdir(folder);
  for (let n = 0; n < length; n++)
    yield JSON.parse(await readFile(join(folder, `${n}.json`), 'utf8')) as RowOf<L>[];
}
