import fc from 'fast-check';
import { DUBLIN, bytes, calendar, event, knownFrom, read, todo } from '../../test/feeds';
import { cut } from './cut';
import { contentLines, physicalLine, scanner } from './lines';
import { readFeed } from './reading';

const ends = fc.constantFrom('\r\n', '\n', '\r', '\r\r\n');
/** Folds a text anywhere, in the middle of words as well. */
const folded = (text: string, places: readonly number[], end: string): string => {
  const lines = text.split('\r\n').map((line) => {
    let result = line;
    for (const place of places) {
      const at = 1 + (place % Math.max(1, line.length - 1));
      if (
        at < result.length &&
        !/[\ud800-\udfff]/.test(result[at]!) &&
        !/[\ud800-\udfff\r\n]/.test(result[at - 1]!)
      )
        result = `${result.slice(0, at)}${end}${place % 2 ? ' ' : '\t'}${result.slice(at)}`;
    }
    return result;
  });
  return lines.join(end);
};
const digests = (text: string) => new Map(cut(text)!.items.map((b) => [b.uid, b.digest]));

const TITLE = fc.string({ minLength: 1, maxLength: 40 }).map((t) => t.replace(/[\r\n\0\\;,]/g, '·'));
const ENTRY = fc.record({
  title: TITLE,
  day: fc.integer({ min: 1, max: 28 }),
  isTodo: fc.boolean(),
  alarm: fc.boolean(),
});
const entry = (
  { title, day, isTodo, alarm }: { title: string; day: number; isTodo: boolean; alarm: boolean },
  i: number,
) => {
  const date = `202610${String(day).padStart(2, '0')}`;
  const lines = [
    `UID:e${i}`,
    `SUMMARY:${title} ${i}`,
    ...(alarm ? ['BEGIN:VALARM', 'ACTION:DISPLAY', 'TRIGGER:-PT1H', 'END:VALARM'] : []),
  ];
  return isTodo ? todo(...lines, `DUE;VALUE=DATE:${date}`) : event(...lines, `DTSTART;VALUE=DATE:${date}`);
};
const FEED = fc.array(ENTRY, { minLength: 1, maxLength: 12 }).map((list) => list.map(entry));

describe('digests of blocks', () => {
  test('are the same in any order of entries and properties, under any folding, line end and stamp', () => {
    fc.assert(
      fc.property(
        FEED,
        fc.infiniteStream(fc.nat()),
        fc.array(fc.nat(200), { maxLength: 4 }),
        ends,
        (parts, chance, places, end) => {
          const shuffled = <T>(list: T[]): T[] =>
            list
              .map((x) => [chance.next().value as number, x] as const)
              .sort((a, b) => a[0] - b[0])
              .map(([, x]) => x);
          const mixed = shuffled(parts).map((part) => {
            const [begin, ...rest] = part.split('\r\n');
            const last = rest.pop()!;
            const at = rest.indexOf('BEGIN:VALARM');
            const alarm = at < 0 ? [] : rest.splice(at, 4);
            const stamped = rest.map((l) => (l.startsWith('DTSTAMP') ? 'DTSTAMP:20990101T000000Z' : l));
            return [begin, ...shuffled(stamped), ...alarm, 'LAST-MODIFIED:20990101T000000Z', last].join(
              '\r\n',
            );
          });
          expect(digests(folded(calendar(...mixed), places, end))).toEqual(digests(calendar(...parts)));
        },
      ),
      { numRuns: 150, seed: 11 },
    );
  });

  test('see every change to what an entry says', () => {
    const base = [
      'UID:a',
      'SUMMARY:Keel plan',
      'DTSTART;VALUE=DATE:20261012',
      'BEGIN:VALARM',
      'TRIGGER:-PT1H',
      'END:VALARM',
    ];
    const of = (...lines: string[]) => cut(calendar(event(...lines)))!.items[0]!.digest;
    const changed = base.flatMap((line, i) =>
      /^(UID|BEGIN|END)/.test(line)
        ? []
        : [base.with(i, line + '1'), base.toSpliced(i, 1), base.toSpliced(i, 0, line)],
    );
    for (const lines of changed) expect([lines, of(...lines) === of(...base)]).toEqual([lines, false]);
    expect(cut(calendar(todo(...base)))!.items[0]!.digest).not.toBe(of(...base));
  });

  test('of sub-components belong together: two alarms are not their lines mixed', () => {
    const alarm = (trigger: string, action: string) => [
      'BEGIN:VALARM',
      `ACTION:${action}`,
      `TRIGGER:${trigger}`,
      'END:VALARM',
    ];
    const of = (...lines: string[]) =>
      cut(calendar(event('UID:a', 'SUMMARY:A', 'DTSTART:20261012T100000Z', ...lines)))!.items[0]!.digest;
    expect(of(...alarm('-PT1H', 'DISPLAY'), ...alarm('-P1D', 'EMAIL'))).not.toBe(
      of(...alarm('-PT1H', 'EMAIL'), ...alarm('-P1D', 'DISPLAY')),
    );
    expect(of(...alarm('-PT1H', 'DISPLAY'), ...alarm('-P1D', 'EMAIL'))).toBe(
      of(...alarm('-P1D', 'EMAIL'), ...alarm('-PT1H', 'DISPLAY')),
    );
  });
});

describe('reading again', () => {
  const whole = (text: string) => readFeed(bytes(text), { fallbackZone: DUBLIN });
  const again = (before: string, text: string) => {
    const first = whole(before);
    return readFeed(bytes(text), { fallbackZone: DUBLIN, known: knownFrom(first) });
  };

  test('nothing is parsed where nothing has changed, and only what has where something did', () => {
    fc.assert(
      fc.property(FEED, FEED, fc.nat(), (parts, others, at) => {
        const before = calendar(...parts);
        expect(again(before, before).unchanged).toBe('all');
        const i = at % parts.length;
        const changed = parts.with(i, others[0]!.replace(/UID:e0/, `UID:e${i}`));
        const read = again(before, calendar(...changed));
        const full = whole(calendar(...changed));
        const touched = changed[i] === parts[i] ? [] : [`e${i}`];
        expect(read.unchanged === 'all' ? [] : read.items.map((x) => x.uid)).toEqual(touched);
        // What is read is read as it would be in the whole.
        for (const item of read.items)
          expect({ ...item, line: 0 }).toEqual({ ...full.items.find((x) => x.uid === item.uid)!, line: 0 });
      }),
      { numRuns: 100, seed: 12 },
    );
  });

  test('all is parsed where the zone, or a zone the feed describes, has changed', () => {
    const zone = (offset: string) => [
      'BEGIN:VTIMEZONE',
      'TZID:Harbour',
      'BEGIN:STANDARD',
      'DTSTART:19700101T000000',
      `TZOFFSETFROM:${offset}`,
      `TZOFFSETTO:${offset}`,
      'END:STANDARD',
      'END:VTIMEZONE',
    ];
    const own = event('UID:a', 'SUMMARY:A', 'DTSTART;TZID=Harbour:20261008T120000');
    expect(again(calendar(...zone('+0100'), own), calendar(...zone('+0200'), own)).items).toMatchObject([
      { start: { at: '2026-10-08T10:00:00Z' } },
    ]);
    expect(again(calendar(own), calendar('X-WR-TIMEZONE:Asia/Tokyo', own)).items).toHaveLength(1);
  });

  test('what was odd is read every time, so that its warning stays', () => {
    const odd = event('UID:odd', 'SUMMARY:Odd', 'DTSTART:20261008T160000Z', 'DTEND:20261008T150000Z');
    const nameless = event('SUMMARY:No identifier', 'DTSTART:20261008T160000Z');
    const twice = [
      event('UID:t', 'SUMMARY:One', 'DTSTART:20261008T160000Z'),
      event('UID:t', 'SUMMARY:Two', 'DTSTART:20261008T160000Z'),
    ];
    const plain = event('UID:p', 'SUMMARY:P', 'DTSTART:20261008T160000Z');
    const read = again(
      calendar(odd, nameless, ...twice, plain),
      calendar(odd, nameless, ...twice, plain, event('UID:new', 'SUMMARY:New', 'DTSTART:20261008T160000Z')),
    );
    expect(read.items.map((i) => i.title).sort()).toEqual(['New', 'No identifier', 'Odd', 'One', 'Two']);
    expect(read.warnings.map((w) => w.message).join()).toContain('ends before it starts');
    expect([...(read.unchanged as Set<string>)]).toEqual(['p']);
  });
});

describe('lines', () => {
  test('a content line begins on the physical line it begins on', () => {
    const text = 'A\r\n b\r\nC\nD\r\n\r\nE';
    expect(contentLines(text)).toEqual(['Ab', 'C', 'D', '', 'E']);
    expect([0, 1, 2, 4].map((i) => physicalLine(text, i))).toEqual([1, 3, 4, 6]);
  });
  test('the scanner and the plain way find the same lines in anything', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('A', 'ü', '日', '\n', '\r\n', '\r\r\n', ' ', '\t', 'BEGIN:'), {
          maxLength: 60,
        }),
        (pieces) => {
          const text = pieces.join('');
          const raw = new TextEncoder().encode(text);
          const lines = scanner(raw);
          const found: string[] = [];
          while (lines.advance())
            found.push(contentLines(new TextDecoder().decode(raw.subarray(lines.start, lines.end)))[0] ?? '');
          const filled = (list: string[]) => list.slice(0, list.findLastIndex((l) => l !== '') + 1);
          // A text that begins with a blank begins with a line all the same.
          if (!/^[ \t]/.test(text)) expect(filled(found)).toEqual(filled(contentLines(text)));
        },
      ),
      { numRuns: 300, seed: 13 },
    );
  });
  test('a warning names the physical line, folds before it counted', () => {
    const text = calendar(
      event('UID:a', 'SUMMARY:Long', ' er', ' still', 'no property', 'DTSTART:20261008T160000Z'),
    );
    const line = text.split('\r\n').indexOf('no property') + 1;
    expect(read(text).warnings).toEqual([{ line, message: expect.stringContaining('no property') }]);
  });
});
