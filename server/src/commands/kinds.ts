import { readFileSync } from 'node:fs';
import { isOfDeadlines } from '@zephyrfield/core/gather/manner';
import type { FeedItem } from '@zephyrfield/core/ical/feed-item';
import { takenFor } from '@zephyrfield/core/item/classify';
import { faceOf } from '@zephyrfield/core/item/quick-add';
import { dueOf } from '@zephyrfield/core/item/dates';
import { isWork, type HandInWay } from '@zephyrfield/core/item/kind';
import { handInOf } from '@zephyrfield/core/item/taken/hand-in';
import { SORT_OF } from '@zephyrfield/core/item/taken/words';
import type { When } from '@zephyrfield/core/time/when';
import { answerVersion } from './answer-version.ts';

answerVersion();

interface Asked {
  now: string;
  entries: { title: string; description: string; location: string; when: Standing }[];
}
type Standing = 'deadline' | 'date' | 'hours' | 'days';

const HAND_IN: Record<HandInWay, string> = {
  online: 'online',
  mail: 'online',
  paper: 'paper',
  inClass: 'class',
  nothing: 'nothing',
  unknown: 'unknown',
};

/**
 * `npm run --silent kinds`: entries of a course's calendar on standard input, as JSON, and what each is taken for on
 * standard output, by the very code that feeds are gathered with.
 */
function main(): void {
  const { now, entries } = JSON.parse(readFileSync(0, 'utf8')) as Asked;
  const items = entries.map((entry, i) => itemOf(entry, i, now.slice(0, 10)));
  const ofDeadlines = isOfDeadlines(items);
  const told = items.map((item) => {
    const { kind, doubt } = takenFor(item, 'course', ofDeadlines);
    const due = dueOf({ start: item.start!, end: item.end, due: null }, kind, item.title, ofDeadlines);
    return {
      kind: SORT_OF[kind],
      due: due !== null,
      handIn: HAND_IN[isWork(kind) ? handInOf(item, kind) : 'unknown'],
      doubt,
    };
  });
  process.stdout.write(JSON.stringify({ entries: told }) + '\n');
}

/** An event as a feed would state it, `day` being its date. */
function itemOf(
  { title, description, location, when }: Asked['entries'][number],
  index: number,
  day: string,
): FeedItem {
  const at = (time: string): When => ({ kind: 'floating', local: `${day}T${time}:00` });
  const date = (days: number): When => ({
    kind: 'date',
    date: new Date(Date.parse(`${day}T00:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10),
  });
  const standing: Record<Standing, { start: When; end: When | null }> = {
    deadline: { start: at('23:59'), end: null },
    date: { start: date(0), end: date(1) },
    hours: { start: at('10:00'), end: at('11:00') },
    days: { start: date(0), end: date(5) },
  };
  const { start, end } = standing[when];
  return { ...faceOf(title, start), uid: `entry-${index}`, description, place: location, end };
}

main();
