import { proposeSplits, sectionOf, SPLIT_WAYS } from './gather/split';
import { likenessOf } from './gather/rules';
import { duplicateKeyOf } from './gather/duplicates';
import { joinWindows } from './gather/windows';
import type { FeedItem } from './ical/feed-item';
import { allLinks } from './ical/links';
import { parseProperty } from './ical/property';
import { readFeed } from './ical/reading';
import { briefPassages } from './item/brief';
import { quickAdd } from './item/quick-add';
import { richText } from './item/rich-text';
import { readOutline } from './outline/read';
import { parseRule } from './recurrence/rule';
import { UTC } from './time/zone';

// Nothing that a person, a feed or a file sends may take more than linear time. Each text of 200 KB here took
// from seconds to minutes with a pattern or a loop that was quadratic; linear ones take milliseconds.

const SIZE = 200_000;
const ENOUGH = 2_000;
/** A line of an outline is no longer. */
const LINE = 3_000;
const of = (piece: string, end = '') => piece.repeat(Math.ceil(SIZE / piece.length)).slice(0, SIZE) + end;
const TEXTS: [name: string, text: string][] = [
  ['tags that never end', of('<p')],
  ['tags with words that never end', of('<a href="x" ')],
  ['tags opened and never closed', of('<div>')],
  ['tags opened and others closed', `${of('<b>').slice(0, SIZE / 2)}${of('</i>').slice(0, SIZE / 2)}`],
  ['entities one by one', of('&amp;')],
  ['spaces', of(' ', 'x')],
  ['tabs before a colon that is none', of('\t', '\0:')],
  ['line ends', of('\n', 'x')],
  ['carriage returns', of('\r', 'x')],
  ['a bullet and spaces', `* ${of(' ', '\u2028')}`],
  ['dashes apart', of(' - ')],
  ['brackets opened', of('[')],
  ['brackets opened and closed', of('[(')],
  ['brackets in brackets', of('[]', ']')],
  ['backslashes', of('\\', ',')],
  ['commas', of(',', ']')],
  ['addresses without end', of('http://')],
  ['addresses of one letter', of('http://a ')],
  ['an address with many brackets', `http://a.example/${of('((')}`],
  ['mail addresses that are none', of('mailto:a@')],
  ['letters and at signs', of('a@')],
  ['words for edges', of('opens ')],
  ['capitals and digits', of('AB12')],
  ['digits', of('1')],
  ['stars', of('**a')],
  ['links of Markdown', of('[a](')],
  ['pictures of Markdown', of('![a](')],
  ['emphasis in emphasis', of('**a *b ')],
  ['one emphasis over the other', of('*a_')],
  ['one letter', of('a')],
  ['dates without end', of('6 Oct, ')],
  ['dates and hours in numbers', of('10/12 17:00 - ')],
  ['weeks and weekdays', of('every Friday of week 7 and ')],
  ['days without a month', of('by Monday 14th, ')],
  ['brackets behind dates', of('7 Sept (')],
  ['labels and lessons', of('Due: 9 Oct; Lesson 2 – 7 Oct: ')],
];

/** Core knows nothing of Node; its tests run there */
declare const process: { cpuUsage(since?: Usage): Usage };
interface Usage {
  user: number;
  system: number;
}

/** By the processor's time, since other work on a busy machine is no fault of a reading. */
const quick = (work: () => unknown) => {
  const began = process.cpuUsage();
  work();
  const { user, system } = process.cpuUsage(began);
  expect((user + system) / 1_000).toBeLessThan(ENOUGH);
};
const item = (text: string): FeedItem => ({
  component: 'VEVENT',
  uid: 'u',
  sequence: 0,
  title: text,
  description: text,
  html: null,
  place: text,
  url: text,
  links: [],
  categories: [text],
  status: 'confirmed',
  completed: null,
  percent: null,
  start: { kind: 'date', date: '2026-10-06' },
  end: null,
  due: null,
  length: null,
  repeat: null,
  recurrenceId: null,
  andFuture: false,
  alarms: [],
  extra: [],
  line: 1,
  digest: 1,
});

describe.each(TEXTS)('%s', (_name, text) => {
  test('as a description, plain and as HTML', () => {
    quick(() => richText(text, null));
    quick(() => richText('', text));
    quick(() => allLinks({ links: [], description: text, html: null }));
    quick(() => allLinks({ links: [], description: '', html: text }));
  });
  test('as a title: its kind, its course, what it is the edge of, and the same thing elsewhere', () => {
    const face = item(text);
    quick(() => likenessOf(text));
    for (const by of SPLIT_WAYS) quick(() => sectionOf(face, { by, at: 'path:0' }));
    quick(() => proposeSplits([face, face, face]));
    quick(() => joinWindows([face]));
    quick(() =>
      duplicateKeyOf(
        { title: text, content: { master: face, overrides: [] } },
        { start: face.start!, due: null },
        UTC,
      ),
    );
    quick(() =>
      quickAdd(text, {
        now: 0,
        zone: UTC,
        calendars: [{ id: 'c', name: 'Ceramics', kind: 'course', flag: { letters: 'CE' } }],
      }),
    );
  });
  test('as a part of a brief, as long as one may be', () => quick(() => briefPassages(text.slice(0, 4000))));
  // Half of it: the library that reads dates in words takes five microseconds for a letter.
  test('in an outline, in lines as long as one is read, and in the cells of a table', () => {
    const lines = Array.from({ length: SIZE / LINE / 2 }, (_, n) => text.slice(n * LINE, (n + 1) * LINE));
    const line = (said: string) => ({
      ...{ kind: 'line' as const, where: '', text: said, level: 0, indent: 0, isItem: false, isApart: true },
    });
    const rows = lines.map((said) => ({
      where: '',
      cells: [{ text: '6 Oct' }, { text: said.slice(0, LINE / 2) }],
    }));
    const blocks = [...lines.map(line), { kind: 'table' as const, where: '', rows }];
    quick(() => readOutline({ blocks, notes: [] }, { from: 20_700, to: 20_800, order: null }));
  });
  test('in a feed: as a whole, in a text, in a list, in a parameter, in a rule', () => {
    const feed = (...lines: string[]) =>
      new TextEncoder().encode(
        [
          'BEGIN:VCALENDAR',
          'BEGIN:VEVENT',
          'UID:1',
          'DTSTART:20261006T100000Z',
          ...lines,
          'END:VEVENT',
          'END:VCALENDAR',
          '',
        ].join('\r\n'),
      );
    const read = (bytes: Uint8Array) =>
      quick(() => {
        try {
          readFeed(bytes, { fallbackZone: UTC });
        } catch {
          /* That it is no calendar is fine. */
        }
      });
    read(new TextEncoder().encode(text));
    const line = text.replace(/[\r\n]/g, ' ');
    for (const name of [
      'SUMMARY',
      'DESCRIPTION',
      'CATEGORIES',
      'LOCATION',
      'RRULE',
      'EXDATE',
      'ATTACH',
      'X-ALT-DESC;FMTTYPE=text/html',
      'URL',
    ])
      read(feed(`${name}:${line}`));
    read(feed(`SUMMARY;X-A=${line}:x`));
    quick(() => {
      try {
        parseRule(line);
      } catch {
        /* That it is no rule is fine. */
      }
    });
    quick(() => {
      try {
        parseProperty(line);
      } catch {
        /* That it is no property is fine. */
      }
    });
  });
});
