import { readFileSync } from 'node:fs';
import { quickAdd } from '@zephyrfield/core/item/quick-add';
import { isWork, type CalendarKind, type ItemKind } from '@zephyrfield/core/item/kind';
import { patternToRule } from '@zephyrfield/core/recurrence/pattern';
import { formatDate, parseDate, parseInstant } from '@zephyrfield/core/time/civil';
import { dayIn, type When } from '@zephyrfield/core/time/when';
import { ianaZone, type Zone } from '@zephyrfield/core/time/zone';
import { clockTime } from '@zephyrfield/core/words/when';
import { answerVersion } from './answer-version.ts';

answerVersion();

interface Asked {
  now: string;
  zone: string;
  calendars: { letters: string; name: string; sort: CalendarKind }[];
  lines: string[];
}

const KINDS: Partial<Record<ItemKind, string>> = { test: 'test', reminder: 'reminder', dayOff: 'off' };

/**
 * `npm run --silent line`: lines on standard input, as JSON, and what is understood of each on standard output,
 * by the very code the form reads a line with.
 */
function main(): void {
  const { now, zone: name, calendars, lines } = JSON.parse(readFileSync(0, 'utf8')) as Asked;
  const zone = ianaZone(name);
  if (!zone) throw new Error(`${name} is no time zone`);
  const options = {
    now: parseInstant(now),
    zone,
    calendars: calendars.map((c) => ({
      id: c.letters,
      name: c.name,
      kind: c.sort,
      flag: { letters: c.letters },
    })),
  };
  process.stdout.write(JSON.stringify({ lines: lines.map((line) => told(line, options)) }) + '\n');
}

function told(line: string, options: Parameters<typeof quickAdd>[1]) {
  const { zone } = options;
  const read = quickAdd(line, options);
  const { when, end, repeat } = read;
  const date = (w: When | null, zone: Zone) => (w ? formatDate(dayIn(w, zone)) : null);
  const time = (w: When | null) => (w && w.kind !== 'date' ? clockTime(w, zone) : null);
  return {
    title: read.title,
    calendar: read.calendarId,
    kind: KINDS[read.kind] ?? (isWork(read.kind) ? 'work' : 'place'),
    date: date(when, zone),
    time: time(when),
    endDate: end?.kind === 'date' ? formatDate(parseDate(end.date) - 1) : date(end, zone),
    endTime: time(end),
    minutes: read.minutes,
    repeat: repeat && when ? patternToRule({ ...repeat, until: null, count: null }, when, zone) : null,
    until: repeat?.until ?? null,
    doubts: read.doubts.map((d) => [d.words, ...d.choices.map((c) => c.words)].join(' ')),
  };
}

main();
