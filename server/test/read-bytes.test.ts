import { readBytes } from '../src/gather/read-bytes';
import { event } from './harness';

/** Twenty series without end, and one deadline behind them. */
const wild = (most?: number) => {
  const endless = Array.from({ length: 20 }, (_, i) =>
    event(`m${i}`, `Every minute ${i}`, 'DTSTART:20261001T000000Z', 'RRULE:FREQ=MINUTELY'),
  );
  const text = [
    'BEGIN:VCALENDAR',
    ...endless,
    event('keel', 'Keel plan', 'DTSTART;VALUE=DATE:20261012'),
    'END:VCALENDAR',
  ].join('\r\n');
  const { entries, warnings } = readBytes({
    bytes: new TextEncoder().encode(text),
    zone: 'Europe/Dublin',
    as: { calendar: 'course' },
    from: Date.parse('2026-01-01T00:00:00Z'),
    to: Date.parse('2028-01-01T00:00:00Z'),
    ...(most === undefined ? {} : { most }),
  });
  return {
    deadline: entries.at(-1)!.occurrences.length,
    dates: entries.reduce((n, e) => n + e.occurrences.length, 0),
    said: warnings.map((w) => w.message).join(),
  };
};

test('repeats without end are kept within bounds and crowd out no deadline', () => {
  expect(wild()).toMatchObject({
    deadline: 1,
    dates: 100_000,
    said: expect.stringContaining('the first 100000 dates are shown'),
  });
});

test('what is left in a learner’s schedule is what a reading may have', () => {
  expect(wild(500)).toMatchObject({ deadline: 1, dates: 500 });
  expect(wild(0)).toMatchObject({ dates: 0, said: expect.stringContaining('none of its dates are') });
});
