import { DUBLIN, calendar, event, read, todo } from '../../test/feeds';
import { ianaZone } from '../time/zone';
import { entriesOf, expandEntry } from './entries';
import { readingTable } from './table';
import { summarise } from './summary';

const WINDOW = { from: Date.parse('2026-08-01T00:00:00Z'), to: Date.parse('2027-01-31T00:00:00Z') };
const weekly = (...more: string[]) =>
  event(
    'UID:w',
    'SUMMARY:Slipway reading',
    'DTSTART;TZID=Europe/Dublin:20260908T170000',
    'DTEND;TZID=Europe/Dublin:20260908T174000',
    'RRULE:FREQ=WEEKLY;COUNT=4',
    ...more,
  );
const rows = (...sections: string[]) =>
  readingTable(read(calendar(...sections)), { ...WINDOW, viewer: DUBLIN }).sort((a, b) =>
    a.start.localeCompare(b.start),
  );

describe('repeats become occurrences', () => {
  test('skipped dates are left out, whatever form they are written in', () => {
    for (const except of [
      'EXDATE;TZID=Europe/Dublin:20260915T170000',
      'EXDATE:20260915T160000Z',
      'EXDATE;VALUE=DATE:20260915',
    ]) {
      expect(rows(weekly(except)).map((r) => r.start)).toEqual([
        '2026-09-08T16:00:00Z',
        '2026-09-22T16:00:00Z',
        '2026-09-29T16:00:00Z',
      ]);
    }
  });
  test('a moved one stands where it was moved to and keeps its name', () => {
    const moved = event(
      'UID:w',
      'SUMMARY:Slipway reading, early',
      'RECURRENCE-ID;TZID=Europe/Dublin:20260915T170000',
      'DTSTART;TZID=Europe/Dublin:20260914T090000',
      'DTEND;TZID=Europe/Dublin:20260914T100000',
    );
    // The order in the feed does not matter.
    for (const sections of [
      [weekly(), moved],
      [moved, weekly()],
    ]) {
      const [, second] = rows(...sections);
      expect(rows(...sections)).toHaveLength(4);
      expect(second).toMatchObject({
        start: '2026-09-14T08:00:00Z',
        end: '2026-09-14T09:00:00Z',
        recurrenceId: '2026-09-15T16:00:00Z',
        title: 'Slipway reading, early',
      });
    }
  });
  test('one moved with all that follow takes them along', () => {
    const later = event(
      'UID:w',
      'SUMMARY:Later',
      'RECURRENCE-ID;RANGE=THISANDFUTURE;TZID=Europe/Dublin:20260922T170000',
      'DTSTART;TZID=Europe/Dublin:20260923T180000',
      'DTEND;TZID=Europe/Dublin:20260923T184000',
    );
    expect(rows(weekly(), later).map((r) => r.start)).toEqual([
      '2026-09-08T16:00:00Z',
      '2026-09-15T16:00:00Z',
      '2026-09-23T17:00:00Z',
      '2026-09-30T17:00:00Z',
    ]);
  });
  test('the hour on the wall stays over a change of clocks', () => {
    const over = event(
      'UID:o',
      'SUMMARY:O',
      'DTSTART;TZID=Europe/Dublin:20261020T170000',
      'DURATION:PT1H',
      'RRULE:FREQ=WEEKLY;COUNT=2',
    );
    expect(rows(over).map((r) => r.start)).toEqual(['2026-10-20T16:00:00Z', '2026-10-27T17:00:00Z']);
  });
  test('a rule that cannot be followed leaves the first one', () => {
    expect(rows(weekly().replace('FREQ=WEEKLY', 'FREQ=SOMETIMES'))).toHaveLength(1);
  });
});

describe('what an entry is', () => {
  const face = (text: string, kind: 'course' | 'home' = 'course') =>
    entriesOf(read(calendar(text)), { calendar: kind })[0]!;
  test.each([
    [
      'assignment',
      'online',
      event(
        'UID:a',
        'SUMMARY:Chart exercise 6',
        'DTSTART:20261006T225900Z',
        'DTEND:20261006T225900Z',
        'URL:https://s.example/x',
      ),
    ],
    [
      'assignment',
      'paper',
      event(
        'UID:a',
        'SUMMARY:Glaze test tiles',
        'CATEGORIES:Studio work',
        'DTSTART;VALUE=DATE:20261006',
        'DESCRIPTION:Leave it on the shelf',
      ),
    ],
    ['test', 'unknown', event('UID:a', 'SUMMARY:Sampling quiz', 'DTSTART:20261006T190000Z')],
    ['project', 'unknown', todo('UID:a', 'SUMMARY:Keel', 'CATEGORIES:Project', 'DUE:20261012T150000Z')],
    ['reading', 'nothing', event('UID:a', 'SUMMARY:Read chapter 4', 'DTSTART;VALUE=DATE:20261006')],
    [
      'discussion',
      'online',
      event(
        'UID:a',
        'SUMMARY:Forum: your worst landfall',
        'DTSTART:20261006T225900Z',
        'URL:https://s.example/x',
      ),
    ],
    [
      'lesson',
      'nothing',
      event(
        'UID:a',
        'SUMMARY:Boat shed',
        'DTSTART:20261006T080000Z',
        'DTEND:20261006T094000Z',
        'RRULE:FREQ=WEEKLY',
      ),
    ],
    ['reminder', 'nothing', event('UID:a', 'SUMMARY:No homework tonight', 'DTSTART;VALUE=DATE:20261006')],
    ['practice', 'nothing', event('UID:a', 'SUMMARY:Quiz revision', 'DTSTART;VALUE=DATE:20261006')],
    [
      'dayOff',
      'nothing',
      event('UID:a', 'SUMMARY:Mid-term break', 'DTSTART;VALUE=DATE:20261026', 'DTEND;VALUE=DATE:20261031'),
    ],
    [
      'trip',
      'nothing',
      event('UID:a', 'SUMMARY:Rowing trip', 'DTSTART:20261010T090000Z', 'DTEND:20261010T120000Z'),
    ],
  ])('%s, handed in: %s', (kind, handIn, text) => {
    expect(face(text)).toMatchObject({ kind, handIn });
  });
  test('at home, a day without words for it is something to know', () => {
    expect(face(event('UID:a', 'SUMMARY:Cousin Pip', 'DTSTART;VALUE=DATE:20261006'), 'home').kind).toBe(
      'reminder',
    );
  });
  test('its fingerprint does not see stamps, line numbers or order, and sees everything else', () => {
    const one = ['UID:a', 'SUMMARY:A', 'DTSTART;VALUE=DATE:20261006'];
    const print = (...sections: string[]) =>
      entriesOf(read(calendar(...sections)), { calendar: 'course' }).find((e) => e.uid === 'a')!.fingerprint;
    const base = print(event(...one));
    expect(
      print(
        event('UID:z', 'SUMMARY:Z', 'DTSTART;VALUE=DATE:20261006'),
        event(...one).replace('20260701T120000Z', '20260702T120000Z'),
      ),
    ).toBe(base);
    expect(print(event(...one, 'LAST-MODIFIED:20260101T000000Z', 'CREATED:20260101T000000Z'))).toBe(base);
    expect(print(event(...one, 'LOCATION:Shed'))).not.toBe(base);
    expect(print(event(...one).replace('20261006', '20261007'))).not.toBe(base);
  });
  test('when it is due: to-dos as they say, work at its end, an all-day one that day', () => {
    const dueOf = (text: string) =>
      expandEntry(face(text), { ...WINDOW, zone: DUBLIN, zones: {}, as: { calendar: 'course' } })[0]!.due;
    expect(
      dueOf(event('UID:a', 'SUMMARY:Sampling quiz', 'DTSTART:20261006T070000Z', 'DTEND:20261006T190000Z')),
    ).toMatchObject({ at: '2026-10-06T19:00:00Z' });
    expect(
      dueOf(
        event('UID:a', 'SUMMARY:Essay draft', 'DTSTART;VALUE=DATE:20261006', 'DTEND;VALUE=DATE:20261007'),
      ),
    ).toEqual({ kind: 'date', date: '2026-10-06' });
    // An exam is sat at its hours: somewhere to be, and no deadline at its end.
    expect(
      dueOf(event('UID:a', 'SUMMARY:Chart exam', 'DTSTART:20261019T080000Z', 'DTEND:20261019T110000Z')),
    ).toBeNull();
    expect(dueOf(event('UID:a', 'SUMMARY:Rowing day', 'DTSTART;VALUE=DATE:20261006'))).toBeNull();
  });
});

test('a preview counts, spans and samples for the person who looks', () => {
  const reading = read(
    calendar(
      event('UID:a', 'SUMMARY:Late one', 'DTSTART:20261006T225900Z'),
      todo('UID:t', 'SUMMARY:T', 'DUE:20261109T120000Z'),
      event('UID:r', 'SUMMARY:Rowing day [BB 12]', 'DTSTART;VALUE=DATE:20260903'),
    ),
  );
  const entries = entriesOf(reading, { calendar: 'course' }).map((e) => ({
    ...e,
    occurrences: expandEntry(e, { ...WINDOW, zone: DUBLIN, zones: {}, as: { calendar: 'course' as const } }),
  }));
  const now = Date.parse('2026-10-06T15:10:00Z');
  expect(summarise(entries, now, DUBLIN)).toMatchObject({
    entries: 3,
    work: 2,
    first: '2026-09-03',
    last: '2026-11-09',
    courses: [{ name: 'BB 12', count: 1 }],
    sample: [{ title: 'Late one' }, { title: 'T' }],
  });
  expect(summarise(entries.slice(0, 1), now, ianaZone('Asia/Tokyo')!)).toMatchObject({ first: '2026-10-07' });
});
