import { readFileSync } from 'node:fs';
import { basename } from 'node:path';
import { parseArgs } from 'node:util';
import type { Found } from '@zephyrfield/core/outline/found';
import type { Page } from '@zephyrfield/core/outline/page';
import { readOutline } from '@zephyrfield/core/outline/read';
import { formatDate, parseDate } from '@zephyrfield/core/time/civil';
import { clockOf } from '@zephyrfield/core/time/minute';
import { ianaZone } from '@zephyrfield/core/time/zone';
import { pageOf } from '../outline/read-file.ts';
import { OutlineTrouble } from '../outline/trouble.ts';
import { answerVersion } from './answer-version.ts';

answerVersion();

/**
 * `npm run --silent outline -- --zone Z --from D --to D [--order dmy|mdy] FILE`: what is found in an outline, by the
 * very code the app reads it with; what repeats date by date.
 */
async function main(): Promise<void> {
  const { values, positionals } = parseArgs({
    allowPositionals: true,
    options: {
      zone: { type: 'string' },
      from: { type: 'string' },
      to: { type: 'string' },
      order: { type: 'string' },
    },
  });
  const [file] = positionals;
  const { zone, from, to, order } = values;
  if (
    !file ||
    !from ||
    !to ||
    (zone && !ianaZone(zone)) ||
    (order !== undefined && order !== 'dmy' && order !== 'mdy')
  )
    throw new OutlineTrouble('It is called with --zone Z --from D --to D [--order dmy|mdy] FILE.', '');
  const page = await pageOf({ bytes: readFileSync(file), name: basename(file) });
  const reading = readOutline(page, { from: parseDate(from), to: parseDate(to), order: order ?? null });
  const entries = reading.found.flatMap((f) => told(f, page));
  process.stdout.write(JSON.stringify({ entries, notes: reading.notes }) + '\n');
}

function told(f: Found, page: Page) {
  const block = page.blocks[f.at.block];
  const where = block?.kind === 'table' ? block.rows[f.at.row]?.where : block?.where;
  const entry = (day: number | null, last: number | null) => ({
    title: f.title,
    date: day === null ? null : formatDate(day),
    endDate: last === null ? null : formatDate(last),
    time: f.minute === null ? null : clockOf(f.minute),
    sort: f.isTopic ? 'topic' : f.kind,
    warning: f.doubts.map((d) => d.words).join(' ') || null,
    where: where ?? null,
  });
  return f.days.length ? f.days.map((day) => entry(day, null)) : [entry(f.day, f.lastDay)];
}

main().catch((error: unknown) => {
  if (!(error instanceof OutlineTrouble)) throw error;
  process.stderr.write(`${error.message} ${error.remedy}\n`);
  process.exitCode = 1;
});
