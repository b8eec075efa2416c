import { readFileSync, statSync, writeSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { readingTable, type ReadingRow } from '@zephyrfield/core/gather/table';
import { readFeed } from '@zephyrfield/core/ical/reading';
import { parseInstant } from '@zephyrfield/core/time/civil';
import { ianaZone } from '@zephyrfield/core/time/zone';
import { readConfig } from '../config.ts';
import { TROUBLES } from '../gather/trouble.ts';
import { whyUnread } from './why.ts';
import { answerVersion } from './answer-version.ts';

answerVersion();

/**
 * `npm run --silent read -- --zone Z --from INSTANT --to INSTANT FILE.ics …`: what feeds really say, as JSON.
 * Warnings go to standard error. Exits with 1 and one line where a file is no calendar, with 2 on wrong
 * usage.
 */
function main(argv: string[]): number {
  let args;
  try {
    args = parseArgs({
      args: argv,
      allowPositionals: true,
      options: { zone: { type: 'string' }, from: { type: 'string' }, to: { type: 'string' } },
    });
  } catch (error) {
    return usage(error instanceof Error ? error.message : 'wrong arguments');
  }
  const { values, positionals } = args;
  const zone = ianaZone(values.zone ?? '');
  if (!zone) return usage(`--zone wants a time zone's name, such as Europe/Dublin`);
  const from = parseInstant(values.from ?? '');
  const to = parseInstant(values.to ?? '');
  if (!(from < to))
    return usage('--from and --to want instants such as 2026-08-01T00:00:00Z, the first before the second');
  if (!positionals.length) return usage('no file named');

  const occurrences: ReadingRow[] = [];
  const most = readConfig(process.env).FETCH_MEGABYTES * 2 ** 20;
  for (const file of positionals) {
    try {
      if (statSync(file).size > most) {
        console.error(`${file}: ${TROUBLES.tooLarge[0]}`);
        return 1;
      }
      const reading = readFeed(readFileSync(file), { fallbackZone: zone });
      const warn = (line: number | null, message: string) =>
        console.error(`${file}${line ? `:${line}` : ''}: ${message}`);
      for (const { line, message } of reading.warnings) warn(line, message);
      const rows = readingTable(reading, {
        from,
        to,
        viewer: zone,
        warn: (message, item) => warn(item.line, message),
      });
      // One by one: as arguments of one call, a few hundred thousand would be too many.
      for (const row of rows) occurrences.push(row);
    } catch (error) {
      const reason = whyUnread(error);
      console.error(`${file}: ${reason}`);
      return 1;
    }
  }
  print(inOrder(occurrences));
  return 0;
}

/** By start, then by UID. Thousands of series begin at a few hours: what stands at one is put together first. */
function inOrder(rows: readonly ReadingRow[]): ReadingRow[] {
  const at = new Map<string, ReadingRow[]>();
  for (const row of rows) {
    const same = at.get(row.start);
    if (same) same.push(row);
    else at.set(row.start, [row]);
  }
  const byUid = (a: ReadingRow, b: ReadingRow) => (a.uid < b.uid ? -1 : a.uid > b.uid ? 1 : 0);
  return [...at.keys()].sort().flatMap((start) => at.get(start)!.sort(byUid));
}

/** So many rows make a piece of about a megabyte. */
const AT_ONCE = 3_000;

/** Writes them out piece by piece: all in one text would take several times the memory of the rows. */
function print(occurrences: readonly ReadingRow[]): void {
  writeAll('{"occurrences":[');
  for (let i = 0; i < occurrences.length; i += AT_ONCE)
    writeAll((i ? ',' : '') + JSON.stringify(occurrences.slice(i, i + AT_ONCE)).slice(1, -1));
  writeAll(']}\n');
}

/** Writes a text to standard output, however little of it goes at once. */
function writeAll(text: string): void {
  const bytes = Buffer.from(text);
  for (let at = 0; at < bytes.length;)
    try {
      at += writeSync(1, bytes, at);
    } catch (error) {
      // A pipe that is full: whoever reads it is slower than this.
      if ((error as NodeJS.ErrnoException).code !== 'EAGAIN') throw error;
    }
}

function usage(problem: string): number {
  console.error(
    `read: ${problem}\nusage: npm run --silent read -- --zone ZONE --from INSTANT --to INSTANT FILE.ics …`,
  );
  return 2;
}

process.exitCode = main(process.argv.slice(2));
