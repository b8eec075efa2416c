import fc from 'fast-check';
import { DUBLIN, calendar, event, read, todo } from '../../test/feeds';
import { entriesOf } from '../gather/entries';
import type { FeedItem } from '../ical/feed-item';
import { feedText } from './as-it-came';

/** Gives what a feed says, without where in it and how that is written. */
const saidIn = (text: string) => {
  const bare = ({ line: _line, digest: _digest, windowOf, ...item }: FeedItem): object => ({
    ...item,
    windowOf: windowOf?.map(bare),
  });
  return entriesOf(read(text), { calendar: 'course' }).map(({ uid, kind, handIn, title, content }) => ({
    uid,
    kind,
    handIn,
    title,
    master: content.master && bare(content.master),
    overrides: content.overrides.map(bare),
  }));
};

/** A feed out of what was read of another one. */
const again = (text: string): string => {
  const { zones } = read(text);
  const entries = entriesOf(read(text), { calendar: 'course' }).map((e) => e.content);
  return feedText({ name: 'Boatbuilding', zones, entries, at: 0 });
};

const LINES = [
  'DESCRIPTION:Clamps\\, and\\ncramps; see https://boat.example/a',
  'LOCATION:Slip 2\\; https://meet.example/join/1',
  'URL:https://boat.example/log',
  'URL:tel:+353-1-555',
  'CONFERENCE;VALUE=URI;LABEL="Join: now":https://meet.example/room',
  'CONFERENCE;VALUE=URI:mailto:desk@boat.example',
  'ATTACH;FILENAME="plan, a.pdf":https://boat.example/plan.pdf',
  'CATEGORIES:Assignment,Boat\\, big',
  'STYLED-DESCRIPTION;VALUE=TEXT;FMTTYPE=text/html:<p>See\\, <b>this</b></p>',
  'STATUS:TENTATIVE',
  'STATUS:CANCELLED',
  'SEQUENCE:4',
  'CLASS:PRIVATE',
  'TRANSP:TRANSPARENT',
  'GEO:53.1;-9.2',
  'PRIORITY:5',
  'ORGANIZER;CN="Desk; one":mailto:desk@boat.example',
  'ATTENDEE;PARTSTAT=ACCEPTED;CN=Juno:mailto:juno@boat.example',
  'X-SLIP;X-SIDE="a:b":port\\, aft',
  'X-EMPTY:',
  'RRULE:FREQ=WEEKLY;COUNT=5',
  'RDATE;VALUE=PERIOD:20261011T090000Z/PT2H',
  'EXDATE:20261014T150000Z',
  'BEGIN:VALARM\r\nTRIGGER:-PT1H\r\nACTION:DISPLAY\r\nDESCRIPTION:Soon\r\nEND:VALARM',
  'BEGIN:VALARM\r\nTRIGGER;RELATED=END:-P1DT2H\r\nACTION:AUDIO\r\nEND:VALARM',
  'BEGIN:VALARM\r\nTRIGGER;VALUE=DATE-TIME:20261006T080000Z\r\nACTION:EMAIL\r\nEND:VALARM',
] as const;
const STARTS = [
  'DTSTART:20261007T150000Z',
  'DTSTART;VALUE=DATE:20261007',
  'DTSTART;TZID=Europe/Dublin:20261007T090000',
  'DTSTART;TZID=Harbour:20261007T090000',
  'DTSTART:20261007T090000',
] as const;
const HARBOUR = [
  'BEGIN:VTIMEZONE',
  'TZID:Harbour',
  'BEGIN:STANDARD',
  'DTSTART:19700101T000000',
  'TZOFFSETFROM:+0345',
  'TZOFFSETTO:+0345',
  'END:STANDARD',
  'END:VTIMEZONE',
];

test('what a feed has brought is written so that it is read as it was, whatever of it there is', () => {
  const entry = fc.record({
    start: fc.constantFrom(...STARTS),
    length: fc.constantFrom('', 'DURATION:PT90M', 'DURATION:P1D'),
    lines: fc.uniqueArray(fc.constantFrom(...LINES), {
      maxLength: 8,
      selector: (line) => line.split(/[:;]/)[0],
    }),
    isTodo: fc.boolean(),
  });
  fc.assert(
    fc.property(fc.array(entry, { minLength: 1, maxLength: 4 }), (entries) => {
      const feed = calendar(
        ...HARBOUR,
        ...entries.map(({ start, length, lines, isTodo }, n) =>
          (isTodo ? todo : event)(
            `UID:u${n}`,
            `SUMMARY:Item ${n}`,
            start,
            ...(length && !isTodo ? [length] : []),
            ...lines,
          ),
        ),
      );
      expect(saidIn(again(feed))).toEqual(saidIn(feed));
    }),
  );
});

test('openings and closings come apart again, and dates that differ stay with their series', () => {
  const feed = calendar(
    event('UID:o', 'SUMMARY:Tide quiz opens', 'DTSTART:20261012T080000Z'),
    event('UID:c', 'SUMMARY:Tide quiz closes', 'DTSTART:20261016T220000Z'),
    event('UID:l', 'SUMMARY:Shed', 'DTSTART;TZID=Europe/Dublin:20260907T090000', 'RRULE:FREQ=WEEKLY;COUNT=9'),
    event(
      'UID:l',
      'SUMMARY:Pool',
      'RECURRENCE-ID;RANGE=THISANDFUTURE;TZID=Europe/Dublin:20261005T090000',
      'DTSTART;TZID=Europe/Dublin:20261006T110000',
    ),
    todo('UID:t', 'SUMMARY:Glaze', 'DUE;VALUE=DATE:20261013', 'PERCENT-COMPLETE:40'),
    todo('UID:d', 'SUMMARY:Done', 'DUE:20261013T100000Z', 'COMPLETED:20261012T100000Z'),
    todo('UID:n', 'SUMMARY:Some day'),
  );
  expect(saidIn(again(feed))).toEqual(saidIn(feed));
  expect(again(again(feed))).toBe(again(feed));
  expect(read(again(feed), DUBLIN).warnings).toEqual([]);
});
