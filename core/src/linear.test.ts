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
import { answerIn } from './notify/mail-answer';
import { readOutline } from './outline/read';
import { parseRule } from './recurrence/rule';
import { UTC } from './time/zone';

// Nothing that a person, a feed or a file sends may take more than linear time. Each text of 200 KB here took
// from seconds to minutes with a pattern or a loop that was quadratic; linear ones take milliseconds.

const SIZE = 200_000;
/** Growth allowed when a text is four times as long: a linear reading takes four, a quadratic one sixteen. */
const MOST_GROWTH = 9;
/** Shortest processor time that is compared, in milliseconds. */
const NOTHING = 40;
/** A line of an outline is no longer. */
const LINE = 3_000;
/** Makes a text of a size out of one piece over and over. */
const of =
  (piece: string, end = '') =>
  (size: number): string =>
    piece.repeat(Math.ceil(size / piece.length)).slice(0, size) + end;
const TEXTS: [name: string, text: (size: number) => string][] = [
  ['tags that never end', of('<p')],
  ['tags with words that never end', of('<a href="x" ')],
  ['tags opened and never closed', of('<div>')],
  ['tags opened and others closed', (n) => `${of('<b>')(n / 2)}${of('</i>')(n / 2)}`],
  ['entities one by one', of('&amp;')],
  ['spaces', of(' ', 'x')],
  ['tabs before a colon that is none', of('\t', '\0:')],
  ['line ends', of('\n', 'x')],
  ['carriage returns', of('\r', 'x')],
  ['a bullet and spaces', (n) => `* ${of(' ', '\u2028')(n)}`],
  ['dashes apart', of(' - ')],
  ['brackets opened', of('[')],
  ['brackets opened and closed', of('[(')],
  ['brackets in brackets', of('[]', ']')],
  ['backslashes', of('\\', ',')],
  ['commas', of(',', ']')],
  ['addresses without end', of('http://')],
  ['addresses of one letter', of('http://a ')],
  ['an address with many brackets', (n) => `http://a.example/${of('((')(n)}`],
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
  ['words of one letter behind the word that begins a quote', (n) => `On ${of('a ')(n)}`],
  ['heads of mails', of('From: ')],
  ['marks of quoted lines', of('>')],
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
function taken(work: () => unknown): number {
  const began = process.cpuUsage();
  work();
  const { user, system } = process.cpuUsage(began);
  return (user + system) / 1_000;
}

/** Compares how long work takes on a quarter and on the whole of something; more than once where in doubt. */
function linear<T>(of: (size: number) => T, work: (made: T) => unknown, size = SIZE): void {
  const [quarter, whole] = [of(size / 4), of(size)];
  const least = { quarter: Infinity, whole: Infinity };
  for (let round = 0; round < 4; round++) {
    least.quarter = Math.min(
      least.quarter,
      taken(() => work(quarter)),
    );
    least.whole = Math.min(
      least.whole,
      taken(() => work(whole)),
    );
    if (least.whole <= Math.max(NOTHING, least.quarter) * MOST_GROWTH) return;
  }
  expect(least.whole / Math.max(NOTHING, least.quarter)).toBeLessThan(MOST_GROWTH);
}
/** Does work whose refusal is fine: it has to take linear time as well. */
const orRefused = (work: () => unknown): void => {
  try {
    work();
  } catch {
    /* That it is none is fine. */
  }
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
    linear(text, (made) => richText(made, null));
    linear(text, (made) => richText('', made));
    linear(text, (description) => allLinks({ links: [], description, html: null }));
    linear(text, (html) => allLinks({ links: [], description: '', html }));
  });
  test('as a title: its kind, its course, what it is the edge of, and the same thing elsewhere', () => {
    const face = (size: number) => item(text(size));
    linear(text, (made) => likenessOf(made));
    for (const by of SPLIT_WAYS) linear(face, (made) => sectionOf(made, { by, at: 'path:0' }));
    linear(face, (made) => proposeSplits([made, made, made]));
    linear(face, (made) => joinWindows([made]));
    linear(face, (made) =>
      duplicateKeyOf(
        { title: made.title, content: { master: made, overrides: [] } },
        { start: made.start!, due: null },
        UTC,
      ),
    );
    linear(text, (made) =>
      quickAdd(made, {
        now: 0,
        zone: UTC,
        calendars: [{ id: 'c', name: 'Ceramics', kind: 'course', flag: { letters: 'CE' } }],
      }),
    );
  });
  test('as a mail that answers a note', () => linear(text, answerIn));
  test('as a part of a brief, as long as one may be', () => linear(text, briefPassages, 4_000));
  // Half of it: the library that reads dates in words takes five microseconds for a letter.
  test('in an outline, in lines as long as one is read, and in the cells of a table', () => {
    const line = (said: string) => ({
      ...{ kind: 'line' as const, where: '', text: said, level: 0, indent: 0, isItem: false, isApart: true },
    });
    const blocks = (size: number) => {
      const whole = text(size);
      const lines = Array.from({ length: size / LINE }, (_, n) => whole.slice(n * LINE, (n + 1) * LINE));
      const rows = lines.map((said) => ({
        where: '',
        cells: [{ text: '6 Oct' }, { text: said.slice(0, LINE / 2) }],
      }));
      return [...lines.map(line), { kind: 'table' as const, where: '', rows }];
    };
    linear(
      blocks,
      (made) => readOutline({ blocks: made, notes: [] }, { from: 20_700, to: 20_800, order: null }),
      SIZE / 2,
    );
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
    const read = (bytes: (size: number) => Uint8Array) =>
      linear(bytes, (made) => orRefused(() => readFeed(made, { fallbackZone: UTC })));
    read((size) => new TextEncoder().encode(text(size)));
    const line = (size: number) => text(size).replace(/[\r\n]/g, ' ');
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
      read((size) => feed(`${name}:${line(size)}`));
    read((size) => feed(`SUMMARY;X-A=${line(size)}:x`));
    linear(line, (made) => orRefused(() => parseRule(made)));
    linear(line, (made) => orRefused(() => parseProperty(made)));
  });
});
