import { readFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { readingTable } from '@zephyrfield/core/gather/table';
import { readFeed } from '@zephyrfield/core/ical/reading';
import { parseInstant } from '@zephyrfield/core/time/civil';
import { ianaZone } from '@zephyrfield/core/time/zone';
import { whyUnread } from './why.ts';

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

  const occurrences = [];
  for (const file of positionals) {
    try {
      const reading = readFeed(readFileSync(file), { fallbackZone: zone });
      const warn = (line: number | null, message: string) =>
        console.error(`${file}${line ? `:${line}` : ''}: ${message}`);
      for (const { line, message } of reading.warnings) warn(line, message);
      occurrences.push(
        ...readingTable(reading, {
          from,
          to,
          viewer: zone,
          warn: (message, item) => warn(item.line, message),
        }),
      );
    } catch (error) {
      const reason = whyUnread(error);
      console.error(`${file}: ${reason}`);
      return 1;
    }
  }
  occurrences.sort((a, b) =>
    a.start < b.start ? -1 : a.start > b.start ? 1 : a.uid < b.uid ? -1 : a.uid > b.uid ? 1 : 0,
  );
  process.stdout.write(JSON.stringify({ occurrences }) + '\n');
  return 0;
}

function usage(problem: string): number {
  console.error(
    `read: ${problem}\nusage: npm run --silent read -- --zone ZONE --from INSTANT --to INSTANT FILE.ics …`,
  );
  return 2;
}

process.exitCode = main(process.argv.slice(2));
