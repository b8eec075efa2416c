import fc from 'fast-check';
import { bytes, calendar, event, read, todo } from '../../test/feeds';
import { allLinks } from './links';
import { NotACalendar } from './reading';

const first = (...lines: string[]) => read(calendar(event('UID:a', 'SUMMARY:Keel plan', ...lines))).items[0]!;

test('what a feed says of itself is cut where it is longer than anything people write', () => {
  const { name, description, colour } = read(
    [
      'BEGIN:VCALENDAR',
      ...['NAME', 'DESCRIPTION', 'COLOR'].map((k) => `${k}:${'a'.repeat(50_000)}`),
      'END:VCALENDAR',
    ].join('\r\n'),
  );
  expect([name, description, colour].map((text) => text!.length)).toEqual([201, 2_001, 201]);
});

describe('dates', () => {
  test('an all-day date stays a date', () => {
    expect(first('DTSTART;VALUE=DATE:20261008', 'DTEND;VALUE=DATE:20261009')).toMatchObject({
      start: { kind: 'date', date: '2026-10-08' },
      end: { kind: 'date', date: '2026-10-09' },
    });
  });
  test('a floating time stays floating', () => {
    expect(first('DTSTART:20261008T160000').start).toEqual({
      kind: 'floating',
      local: '2026-10-08T16:00:00',
    });
  });
  test('a time in UTC and one under a zone name are instants', () => {
    expect(first('DTSTART:20261006T225900Z').start).toEqual({
      kind: 'instant',
      at: '2026-10-06T22:59:00Z',
      zone: 'UTC',
    });
    expect(first('DTSTART;TZID=Europe/Dublin:20261026T160000').start).toEqual({
      kind: 'instant',
      at: '2026-10-26T16:00:00Z',
      zone: 'Europe/Dublin',
    });
    expect(first('DTSTART;TZID=GMT Standard Time:20261008T160000').start).toEqual({
      kind: 'instant',
      at: '2026-10-08T15:00:00Z',
      zone: 'Europe/London',
    });
  });
  test('a zone the feed describes itself counts, and in no other feed', () => {
    const zone = [
      'BEGIN:VTIMEZONE',
      'TZID:Harbour',
      'BEGIN:STANDARD',
      'DTSTART:19700101T000000',
      'TZOFFSETFROM:+0545',
      'TZOFFSETTO:+0545',
      'END:STANDARD',
      'END:VTIMEZONE',
    ];
    const own = event('UID:a', 'SUMMARY:A', 'DTSTART;TZID=Harbour:20261008T120000');
    expect(read(calendar(...zone, own)).items[0]!.start).toMatchObject({ at: '2026-10-08T06:15:00Z' });
    const other = read(calendar(own));
    expect(other.items[0]!.start).toMatchObject({ at: '2026-10-08T11:00:00Z', zone: 'Europe/Dublin' });
    expect(other.warnings).toEqual([{ line: null, message: expect.stringContaining('Harbour') }]);
  });
  test('31 November is left out with a warning that says where', () => {
    const reading = read(
      calendar(
        event('UID:a', 'SUMMARY:Never', 'DTSTART;VALUE=DATE:20261131'),
        event('UID:b', 'SUMMARY:Still here', 'DTSTART;VALUE=DATE:20261130'),
      ),
    );
    expect(reading.items.map((i) => i.title)).toEqual(['Still here']);
    expect(reading.warnings.every((w) => w.line === 4)).toBe(true);
  });
  test('an end before the start is left out, a length is kept', () => {
    expect(first('DTSTART:20261008T160000Z', 'DTEND:20261008T150000Z').end).toBeNull();
    expect(first('DTSTART:20261008T160000Z', 'DURATION:P1DT2H').length).toEqual({ days: 1, ms: 7_200_000 });
    expect(first('DTSTART:20261008T160000Z', 'DURATION:-PT1H').length).toBeNull();
  });
});

describe('to-dos', () => {
  const read1 = (...lines: string[]) => read(calendar(todo('UID:t', 'SUMMARY:Shed log', ...lines))).items[0]!;
  test('due date, progress and reminders', () => {
    const item = read1(
      'DUE;TZID=Europe/Dublin:20261008T160000',
      'STATUS:IN-PROCESS',
      'PERCENT-COMPLETE:40',
      'BEGIN:VALARM',
      'ACTION:DISPLAY',
      'TRIGGER;RELATED=END:-PT18H',
      'END:VALARM',
    );
    expect(item).toMatchObject({
      component: 'VTODO',
      due: { at: '2026-10-08T15:00:00Z' },
      percent: 40,
      alarms: [
        { action: 'DISPLAY', trigger: { relativeTo: 'end', length: { days: 0, ms: -18 * 3_600_000 } } },
      ],
    });
  });
  test('completed, with its moment', () => {
    expect(
      read1('DUE:20261008T150000Z', 'COMPLETED:20261007T101500Z', 'STATUS:COMPLETED').completed,
    ).toMatchObject({ at: '2026-10-07T10:15:00Z' });
  });
  test('without any date it is still there', () => {
    expect(read1()).toMatchObject({ title: 'Shed log', due: null, start: null });
  });
});

describe('text', () => {
  test('escapes, folds and several categories', () => {
    expect(
      first(
        'DTSTART:20261008T160000Z',
        'DESCRIPTION:One\\, two\\; three\\nC:\\\\new\r\n  line',
        'CATEGORIES:Project,Boat\\, small',
        'CATEGORIES:BB',
      ),
    ).toMatchObject({
      description: 'One, two; three\nC:\\new line',
      categories: ['Project', 'Boat, small', 'BB'],
    });
  });
  test('a fold in the middle of a character', () => {
    const whole = bytes(calendar(event('UID:a', 'SUMMARY:Grüße 🧶', 'DTSTART:20261008T160000Z')));
    const at = whole.indexOf(0xc3) + 1;
    const folded = new Uint8Array([...whole.subarray(0, at), 13, 10, 32, ...whole.subarray(at)]);
    expect(read(folded).items[0]!.title).toBe('Grüße 🧶');
  });
  test('Latin-1 by its bytes, UTF-16 by its mark', () => {
    const text = calendar(event('UID:a', 'SUMMARY:Übung à la carte', 'DTSTART:20261008T160000Z'));
    expect(read(Uint8Array.from(text, (c) => c.charCodeAt(0))).items[0]!.title).toBe('Übung à la carte');
    const wide = new Uint8Array([
      0xff,
      0xfe,
      ...[...text].flatMap((c) => [c.charCodeAt(0) & 255, c.charCodeAt(0) >> 8]),
    ]);
    expect(read(wide).items[0]!.title).toBe('Übung à la carte');
  });
  test.each(['\n', '\r', '\r\n', '\r\r\n'])('lines ended by %j', (end) => {
    expect(
      read(calendar(event('UID:a', 'SUMMARY:Title', 'DTSTART:20261008T160000Z')).replaceAll('\r\n', end))
        .items,
    ).toHaveLength(1);
  });
  test('any folding reads the same', () => {
    const text = calendar(
      event(
        'UID:a',
        'SUMMARY:A long title, with ünusual — signs',
        'DESCRIPTION:x\\ny',
        'DTSTART:20261008T160000Z',
      ),
    );
    const plain = read(text).items;
    fc.assert(
      fc.property(fc.array(fc.nat({ max: text.length - 1 }), { maxLength: 30 }), (cuts) => {
        let folded = text;
        for (const cut of [...new Set(cuts)].sort((a, b) => b - a)) {
          if (/[\r\n]/.test(text[cut]!) || cut === 0 || /[\r\n]/.test(text[cut - 1]!)) continue;
          folded = folded.slice(0, cut) + '\r\n ' + folded.slice(cut);
        }
        expect(read(folded).items.map((i) => ({ ...i, line: 0 }))).toEqual(
          plain.map((i) => ({ ...i, line: 0 })),
        );
      }),
      { numRuns: 100, seed: 3 },
    );
  });
});

describe('links', () => {
  test('page, meeting, place and what stands in the text; nothing that runs', () => {
    const item = first(
      'DTSTART:20261008T160000Z',
      'URL:https://school.example/p/1',
      'CONFERENCE;VALUE=URI;LABEL=Join:https://call.example/x',
      'LOCATION:https://room.example/2',
      'ATTACH:javascript:alert(1)',
      'DESCRIPTION:See https://school.example/p/1 and https://lib.example/b.',
    );
    expect(allLinks(item).map((l) => [l.role, l.href])).toEqual([
      ['page', 'https://school.example/p/1'],
      ['meeting', 'https://call.example/x'],
      ['meeting', 'https://room.example/2'],
      ['page', 'https://lib.example/b'],
    ]);
    expect(item.url).toBe('https://school.example/p/1');
  });
});

describe('damage', () => {
  const good = event('UID:good', 'SUMMARY:Good', 'DTSTART:20261008T160000Z');
  test('one bad entry costs that entry, a stray line only itself', () => {
    const reading = read(
      calendar(
        event('UID:a', 'what is this', 'SUMMARY:A', 'DTSTART:20261008T160000Z'),
        event('UID:b', 'DTSTART:tomorrow'),
        good,
      ),
    );
    expect(reading.items.map((i) => i.uid)).toEqual(['a', 'good']);
    expect(reading.warnings.map((w) => w.line)).toEqual([7, 11, 11]);
  });
  test('an entry without an end, and a feed cut off', () => {
    const text = calendar(
      good,
      good.replace('UID:good', 'UID:half').replace('\r\nEND:VEVENT', ''),
      good.replace('UID:good', 'UID:last'),
    );
    expect(read(text).items.map((i) => i.uid)).toEqual(['good', 'half', 'last']);
    expect(
      read(text.slice(0, text.indexOf('UID:last') + 9))
        .warnings.map((w) => w.message)
        .join(),
    ).toContain('ends in the middle');
  });
  test('two entries under one identifier are both kept, two versions of one are not', () => {
    const other = event('UID:good', 'SUMMARY:Quite another', 'DTSTART:20261010T160000Z');
    expect(read(calendar(good, other)).items.map((i) => i.uid)).toEqual(['good', 'good#2']);
    expect(
      read(calendar(good, other.replace('SUMMARY', 'SEQUENCE:2\r\nSUMMARY'))).items.map((i) => i.title),
    ).toEqual(['Quite another']);
    expect(read(calendar(good, good)).items).toHaveLength(1);
  });
  test('one date of a series named in two zones is one, and its last version counts', () => {
    const changed = (zone: string, hour: string, title: string) =>
      event('UID:r', `SUMMARY:${title}`, `RECURRENCE-ID${zone}:20261008T${hour}`, 'DTSTART:20261009T160000Z');
    const reading = read(
      calendar(
        event('UID:r', 'SUMMARY:R', 'DTSTART:20261001T080000Z', 'RRULE:FREQ=WEEKLY;COUNT=3'),
        changed('', '080000Z', 'First'),
        changed(';TZID=Europe/Dublin', '090000', 'Second'),
      ),
    );
    expect(reading.items.map((i) => i.title)).toEqual(['R', 'Second']);
  });
  test('entries without an identifier get one that stays', () => {
    const text = calendar(
      event('SUMMARY:A', 'DTSTART:20261008T160000Z'),
      event('SUMMARY:B', 'DTSTART:20261008T160000Z'),
    );
    const uids = read(text).items.map((i) => i.uid);
    expect(new Set(uids).size).toBe(2);
    expect(read(text).items.map((i) => i.uid)).toEqual(uids);
  });
  test('names of object members are names like others', () => {
    const names = ['__proto__', 'constructor', 'toString'];
    const reading = read(
      calendar(
        ...names.map((n) =>
          event(
            `UID:${n}`,
            `CATEGORIES:${n}`,
            `SUMMARY:${n}`,
            `DTSTART;TZID=${n};${n}=x:20261008T160000`,
            `${n.replaceAll('_', '-')}:x`,
          ),
        ),
      ),
    );
    expect(reading.items.map((i) => i.uid)).toEqual(names);
    expect(({} as { polluted?: unknown }).polluted).toBeUndefined();
  });
  test.each([
    ['<!DOCTYPE html><html><body>Sign in</body></html>', 'webPage'],
    ['', 'nothing'],
    ['{"events":[]}', 'something else'],
  ])('what is no calendar is said to be none: %s', (text, kind) => {
    expect(() => read(text)).toThrow(NotACalendar);
    try {
      read(text);
    } catch (error) {
      expect((error as NotACalendar).looksLike).toBe(kind);
    }
  });
});
