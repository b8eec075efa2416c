import fc from 'fast-check';
import { DUBLIN, bytes, calendar, event, knownFrom, todo } from '../../test/feeds';
import { piecesOf } from './pieces';
import { readFeed } from './reading';

const pieces = (text: string) => piecesOf(text, bytes(text));
const DAY = 'DTSTART;VALUE=DATE:20261012';
const A = event('UID:a', 'SUMMARY:Keel plan', DAY);
const B = todo('UID:b', 'SUMMARY:Leaf log ü', 'DUE;VALUE=DATE:20261013');

describe('pieces', () => {
  test('are the entries, each under its UID, and know what stands otherwise', () => {
    const found = pieces(calendar(A, B))!;
    expect(found.uids()).toEqual(['a', 'b']);
    const other = pieces(calendar(B, A.replace('Keel', 'Hull')))!;
    expect([...other.digests].filter((d) => found.digests.includes(d))).toHaveLength(1);
    expect(other.total).not.toBe(found.total);
  });

  test('do not see stamps, folded ones too, or order; plain text and other text are one', () => {
    const stamp = (text: string) => text.replaceAll(/DTSTAMP:.*/g, 'DTSTAMP;X=1:2099\r\n 0101T000000Z');
    expect(pieces(calendar(stamp(B), stamp(A)))!.total).toBe(pieces(calendar(A, B))!.total);
    expect(pieces(calendar(A))!.digests[0]).toBe(pieces(calendar(A, B))!.digests[0]);
  });

  test.each([
    ['a line that ends in CR alone', calendar(A).replace('SUMMARY', '\rSUMMARY')],
    ['two calendars', calendar(A) + calendar(B)],
    ['no end', calendar(A).replace('END:VCALENDAR', '')],
    ['no entry', calendar()],
  ])('are not told apart where there is %s', (_, text) => {
    expect(pieces(text)).toBeNull();
  });

  test.each([
    ['folded', A.replace('UID:a', 'UID:a\r\n bc')],
    ['behind an alarm', A.replace('UID:a', 'BEGIN:VALARM\r\nUID:x\r\nEND:VALARM\r\nUID:a')],
    ['in what does not end', A.replace('SUMMARY', 'BEGIN:VALARM\r\nSUMMARY')],
    ['with something after the entry', `${A}\r\nX-NOTE:1`],
    ['missing', A.replace('UID:a\r\n', '')],
  ])('have no UID where it is %s', (_, text) => {
    expect(pieces(calendar(text, B))!.uids()).toEqual([null, 'b']);
  });

  test('a line of what is kept is found in the whole', () => {
    const text = calendar(A, B, A.replace('UID:a', 'UID:c'));
    const rest = pieces(text)!.keep((i) => i === 2);
    const at = rest.text.split('\r\n').indexOf('UID:c') + 1;
    expect(rest.lineOf(at)).toBe(text.split('\r\n').indexOf('UID:c') + 1);
    expect(rest.lineOf(1)).toBe(1);
  });
});

// Whatever a feed is made of: reading what differs says the same as reading all of it again.
const LINES = fc.constantFrom(
  'BEGIN:VEVENT',
  'END:VEVENT',
  'BEGIN:VTODO',
  'END:VTODO',
  'BEGIN:VALARM',
  'END:VALARM',
  'begin:vevent',
  'BEGIN:VEV\r\n ENT',
  'END:VEV\r\n ENT',
  'UID:a',
  'UID:b',
  'UID:c',
  'uid:a',
  DAY,
  'DTSTART:20261012T100000Z',
  'DTSTAMP:20260701T120000Z',
  'DTSTAMP:20260702T120000Z',
  'CREATED:x\r\n y',
  'RECURRENCE-ID:20261012T100000Z',
  'RRULE:FREQ=DAILY;COUNT=3',
  'SUMMARY:One',
  'SUMMARY:Two ü',
  'X-ODD',
  'END:VCALENDAR',
);
const PART = fc.oneof(
  { weight: 3, arbitrary: fc.tuple(fc.constantFrom('a', 'b', 'c', 'd'), fc.array(LINES, { maxLength: 3 })) },
  { weight: 1, arbitrary: fc.array(LINES, { maxLength: 4 }) },
);
const lines = (part: [string, string[]] | string[]): string[] =>
  typeof part[0] === 'string' && Array.isArray(part[1])
    ? [event(`UID:${part[0]}`, DAY, ...part[1])]
    : (part as string[]);
const FEED = fc.array(PART, { maxLength: 7 }).map((parts) => parts.flatMap(lines));

test('what is read of a feed that is known in part is what is read of the whole', () => {
  fc.assert(
    fc.property(FEED, FEED, fc.nat(8), fc.nat(8), (before, after, from, length) => {
      const changed = calendar(...before.toSpliced(from, length, ...after));
      const first = readFeed(bytes(calendar(...before)), { fallbackZone: DUBLIN });
      const whole = readFeed(bytes(changed), { fallbackZone: DUBLIN });
      const again = readFeed(bytes(changed), { fallbackZone: DUBLIN, known: knownFrom(first) });
      const said = (items: typeof whole.items) =>
        items.map((i) => JSON.stringify({ ...i, line: 0, digest: 0 })).sort();
      const isKept = (uid: string) => again.unchanged === 'all' || again.unchanged.has(uid);
      const kept = first.items.filter((i) => isKept(i.uid));
      expect(said([...kept, ...again.items])).toEqual(said(whole.items));
      expect(again.context).toBe(whole.context);
      expect(again.cutOff).toEqual(whole.cutOff);
    }),
    { numRuns: 2000, seed: 22 },
  );
});
