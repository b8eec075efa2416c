import fc from 'fast-check';
import { entriesOf, expandEntry } from '../src/gather/entries';
import { isOfDeadlines } from '../src/gather/manner';
import { proposeSplits } from '../src/gather/split';
import { joinWindows, unjoin } from '../src/gather/windows';
import { contentFrom, contentText } from '../src/ical/content';
import type { FeedItem } from '../src/ical/feed-item';
import { NotACalendar, readFeed, type Reading } from '../src/ical/reading';
import { allLinks } from '../src/ical/links';
import { quickAdd } from '../src/item/quick-add';
import { readOutline } from '../src/outline/read';
import { richText } from '../src/item/rich-text';
import { UTC } from '../src/time/zone';
import { DUBLIN, bytes, calendar, event, knownFrom, todo } from './feeds';

// What holds of anything that may come in, however it is made. `npm test` tries a fixed share of it, `npm run fuzz` as
// much as there is time for.

export interface Round {
  name: string;
  property: fc.IProperty<[unknown]>;
}
const round = <T>(name: string, what: fc.Arbitrary<T>, holds: (value: T) => void): Round => ({
  name,
  property: fc.property(what, holds) as unknown as Round['property'],
});

function ok(is: boolean, what = 'this should hold'): void {
  if (!is) throw new Error(what);
}
function same(a: unknown, b: unknown): void {
  const [x, y] = [JSON.stringify(a), JSON.stringify(b)];
  ok(x === y, `${x}\nshould be\n${y}`);
}

const DAY = 'DTSTART;VALUE=DATE:20261012';
const SPAN = { from: Date.parse('2026-08-01T00:00:00Z'), to: Date.parse('2027-08-01T00:00:00Z') };

/** A feed with something of everything. */
const SOUND = calendar(
  'X-WR-CALNAME:Boatbuilding',
  'X-WR-TIMEZONE:Europe/Dublin',
  'BEGIN:VTIMEZONE',
  'TZID:Harbour',
  'BEGIN:STANDARD',
  'DTSTART:19700101T000000',
  'TZOFFSETFROM:+0100',
  'TZOFFSETTO:+0100',
  'END:STANDARD',
  'END:VTIMEZONE',
  event(
    'UID:r',
    'SUMMARY:Rig\\, part 1',
    'DTSTART;TZID=Harbour:20260901T090000',
    'DURATION:PT1H',
    'RRULE:FREQ=WEEKLY;BYDAY=MO,WE;COUNT=25',
    'RDATE;VALUE=PERIOD:20260911T090000Z/PT2H',
    'EXDATE;TZID=Harbour:20260907T090000',
    'BEGIN:VALARM',
    'TRIGGER:-PT1H',
    'ACTION:DISPLAY',
    'END:VALARM',
  ),
  event(
    'UID:r',
    'SUMMARY:Rig\\, part 2',
    'RECURRENCE-ID;TZID=Harbour:20260909T090000',
    'DTSTART;TZID=Harbour:20260910T100000',
  ),
  event('UID:q1', 'SUMMARY:Sampling quiz opens', 'DTSTART:20261012T080000Z'),
  event('UID:q2', 'SUMMARY:Sampling quiz closes', 'DTSTART:20261016T220000Z'),
  event(
    'UID:d',
    'SUMMARY:Leaf log [Food Chemistry]',
    DAY,
    'DESCRIPTION:See https://a.example/x\\nand <b>this</b>',
  ),
  todo('UID:t', 'SUMMARY:Glaze test ü', 'DUE;VALUE=DATE:20261013', 'PERCENT-COMPLETE:40'),
);

const LINES = fc.constantFrom(
  ...['BEGIN', 'END'].flatMap((b) => ['VEVENT', 'VTODO', 'VALARM', 'VCALENDAR'].map((c) => `${b}:${c}`)),
  'begin:vevent',
  'BEGIN:VEV\r\n ENT',
  'END:VEV\r\n ENT',
  ...['UID:a', 'UID:b', 'UID:c', 'uid:a', 'UID:a\r\n b', DAY, 'DTSTART:20261012T100000Z'],
  ...['DTSTAMP:20260701T120000Z', 'DTSTAMP:20260702T120000Z', 'CREATED:x\r\n y', 'SEQUENCE:2'],
  ...['RECURRENCE-ID:20261012T100000Z', 'RRULE:FREQ=DAILY;COUNT=3', 'SUMMARY:One', 'SUMMARY:Two ü'],
  ...[
    'X-ODD',
    'DTEND:20200101T000000Z',
    'SUMMARY:One opens',
    'SUMMARY:One closes',
    'X-WR-TIMEZONE:Asia/Tokyo',
  ],
);
const PART = fc.oneof(
  {
    weight: 3,
    arbitrary: fc
      .tuple(fc.constantFrom('a', 'b', 'c', 'd'), fc.array(LINES, { maxLength: 3 }))
      .map(([uid, lines]) => [event(`UID:${uid}`, DAY, ...lines)]),
  },
  { weight: 1, arbitrary: fc.array(LINES, { maxLength: 4 }) },
);
const PARTS = fc.array(PART, { maxLength: 7 }).map((parts) => parts.flat());

const EDITS = fc.array(
  fc.tuple(fc.nat(), fc.integer({ min: 0, max: 255 }), fc.constantFrom('set', 'drop', 'double')),
  { minLength: 1, maxLength: 12 },
);
/** Bytes with some set, left out or written twice. */
function edited(source: Uint8Array, edits: readonly (readonly [number, number, string])[]): Uint8Array {
  let all = [...source];
  for (const [place, value, what] of edits) {
    const at = place % Math.max(1, all.length);
    if (what === 'set') all[at] = value;
    else if (what === 'drop') all.splice(at, 1 + (value % 20));
    else all = [...all.slice(0, at), ...all.slice(at, at + value), ...all.slice(at)];
  }
  return Uint8Array.from(all);
}

const whole = (feed: Uint8Array, known?: Reading): Reading =>
  readFeed(feed, { fallbackZone: DUBLIN, known: known && knownFrom(known) });

/** The same whatever order its fields were set in */
const sorted = (value: object): unknown =>
  JSON.parse(JSON.stringify(value), (_, v: unknown) =>
    v && typeof v === 'object' && !Array.isArray(v)
      ? Object.fromEntries(Object.entries(v).sort(([a], [b]) => (a < b ? -1 : 1)))
      : v,
  );

/** What a feed says, all the way to what is drawn; null where it is no calendar. */
function understood(feed: Uint8Array): Reading | null {
  try {
    const reading = whole(feed);
    const { items } = joinWindows(reading.items);
    same(unjoin(items).length, reading.items.length);
    proposeSplits(items);
    const as = { calendar: 'course' as const, ofDeadlines: isOfDeadlines(reading.items) };
    for (const entry of entriesOf({ items }, as)) {
      same(sorted(contentFrom(contentText(entry.content))), sorted(entry.content));
      const dates = expandEntry(entry, { ...SPAN, zone: DUBLIN, zones: reading.zones, as });
      same(new Set(dates.map((d) => d.recurrenceId)).size, dates.length);
      for (const date of dates) ok(date.from <= date.to && Number.isFinite(date.to));
    }
    return reading;
  } catch (error) {
    if (error instanceof NotACalendar) return null;
    throw error;
  }
}

const said = (items: readonly FeedItem[]) =>
  items.map((i) => JSON.stringify({ ...i, line: 0, digest: 0 })).sort();

const WORDS = fc.constantFrom(
  ...'fri 9 oct 16:00 45 min every until xmas tomorrow due by at noon - · , 4 4-5 10-12 31/2 2026 week'.split(
    ' ',
  ),
  ...'Ceramics CE essay test mon wed room 3 1h30 half past tonight next last of the 7am pm 24:00 29.2.'.split(
    ' ',
  ),
);
const HTML = fc.constantFrom(
  ...['<p>', '</p>', '<a href="https://a.example/(x">', '</a>', '<script>', '&amp;', '&#0;', '<li>', '**a**'],
  ...['[x](', 'javascript:alert(1)', 'http://a.example', '\n', '\u2028', 'mailto:a@', '<b', 'text ', '*'],
);

/** What outlines are made of, in any order. */
const CELLS = fc.array(
  fc.oneof(
    fc.constantFrom(
      ...[
        '6 October',
        'Oct 6, 13 and 20',
        '10/12',
        '13.10.',
        '2026-10-06',
        '26–30 Oct',
        '31 November',
        'Fri wk 7',
      ],
      ...[
        'Week 3',
        'every Thursday',
        'Mondays',
        'by 17:00',
        'noon',
        '9–11 am',
        'Due',
        'Date',
        'Topic',
        'Quiz 1',
      ],
      ...['no class', 'October', '3: Lab', 'draft', ';', ':', '....', '-', '(', '\n'],
    ),
    fc.string({ maxLength: 12 }),
  ),
  { maxLength: 6 },
);

export const ROUNDS: readonly Round[] = [
  round('a sound feed with bytes changed is read, or is no calendar', EDITS, (edits) => {
    understood(edited(bytes(SOUND), edits));
  }),
  round('lines in any order are read', PARTS, (parts) => {
    understood(bytes(calendar(...parts)));
  }),
  round(
    'what is read of a feed that is known in part is what is read of the whole',
    fc.tuple(PARTS, PARTS, fc.nat(8), fc.nat(8)),
    ([before, after, from, length]) => {
      const changed = bytes(calendar(...before.toSpliced(from, length, ...after)));
      const first = whole(bytes(calendar(...before)));
      const all = whole(changed);
      const again = whole(changed, first);
      const isKept = (uid: string) => again.unchanged === 'all' || again.unchanged.has(uid);
      same(said([...first.items.filter((i) => isKept(i.uid)), ...again.items]), said(all.items));
      same([again.context, again.cutOff], [all.context, all.cutOff]);
    },
  ),
  round(
    'a feed that breaks off anywhere loses what is behind and nothing else',
    fc.nat({ max: SOUND.length - 1 }),
    (at) => {
      const reading = understood(bytes(SOUND.slice(0, at)));
      if (!reading || !reading.cutOff) return;
      const all = new Set(said(whole(bytes(SOUND)).items.map((i) => ({ ...i, extra: [] }))));
      for (const one of said(reading.items.map((i) => ({ ...i, extra: [] })))) ok(all.has(one), one);
    },
  ),
  round('any page can be read as an outline', fc.array(CELLS, { maxLength: 12 }), (rows) => {
    const lines = rows.map((cells, n) => ({
      ...{ kind: 'line' as const, where: '', text: cells.join(' '), level: n % 7 === 3 ? 2 : 0 },
      ...{ indent: (n % 3) * 2, isItem: n % 5 === 2, isApart: n % 4 === 0 },
    }));
    const table = {
      ...{ kind: 'table' as const, where: '' },
      rows: rows.map((cells) => ({ where: '', cells: cells.map((text) => ({ text })) })),
    };
    const { found } = readOutline(
      { blocks: [...lines, table], notes: [] },
      { from: 20_700, to: 20_800, order: null },
    );
    for (const { title, day, lastDay, minute } of found) {
      ok(/\p{L}/u.test(title), title);
      ok(lastDay === null || (day !== null && lastDay > day), `${day} to ${lastDay}`);
      ok(minute === null || (minute >= 0 && minute < 1440), `${minute}`);
    }
  }),
  round('any line can be typed', fc.array(WORDS, { maxLength: 9 }), (words) => {
    const text = words.join(' ');
    const now = Date.parse('2026-10-06T15:10:00Z');
    const { title, when, marks } = quickAdd(text, {
      now,
      zone: UTC,
      calendars: [{ id: 'c', name: 'Ceramics', kind: 'course', flag: { letters: 'CE' } }],
    });
    ok(title.length <= text.length && marks.every((m) => m.from < m.to && m.to <= text.length));
    if (when?.kind === 'date') ok(!Number.isNaN(Date.parse(when.date)));
  }),
  round('any text can be shown, and none of it leads where it should not', fc.array(HTML), (pieces) => {
    const text = pieces.join('');
    richText(text, text);
    for (const { href } of allLinks({ links: [], description: text, html: text }))
      ok(/^(https?|mailto|tel):/.test(href), href);
  }),
];
