import { readBytes } from '../src/gather/read-bytes';
import { event } from './harness';

test('repeats without end are kept within bounds and crowd out no deadline', () => {
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
  });
  expect(entries.at(-1)!.occurrences).toHaveLength(1);
  expect(entries.reduce((n, e) => n + e.occurrences.length, 0)).toBe(100_000);
  expect(warnings.map((w) => w.message).join()).toContain('more in it than can be kept');
});
