import fc from 'fast-check';
import { clockOf } from '../time/minute.ts';
import { timesIn } from './times.ts';

const said = (text: string) =>
  timesIn(text).map(({ minute, until }) =>
    until === null ? clockOf(minute) : `${clockOf(minute)}–${clockOf(until)}`,
  );

test.each([
  ['by 17:00', ['17:00']],
  ['at 5 pm', ['17:00']],
  ['@ 5.30pm', ['17:30']],
  ['at 10.10 sharp', ['10:10']],
  ['at 1700h', ['17:00']],
  ['um 18 Uhr', ['18:00']],
  ['14h30', ['14:30']],
  ['noon', ['12:00']],
  ['12 midnight', ['23:59']],
  ['11:59PM', ['23:59']],
  ['12 am', ['00:00']],
  ['6–7:30 pm', ['18:00–19:30']],
  ['1pm-4pm', ['13:00–16:00']],
  ['10 to 12.30 pm', ['10:00–12:30']],
  ['9–11 am', ['09:00–11:00']],
  ['18-21 h', ['18:00–21:00']],
  ['Thursday, 10-12', ['10:00–12:00']],
  ['14:00 and 19:00', ['14:00', '19:00']],
  ['between 10:00 and 12:00', ['10:00–12:00']],
])('%s', (text, expected) => {
  expect(said(text)).toEqual(expected);
});

test.each([
  '10.12 zloty',
  'chapters 10-12',
  '$12.50',
  'scale 1:12',
  'a ratio of 3:15',
  '25:10',
  '12:75',
  '13 pm',
  'oil 5.10',
  'no. 3.12',
])('none in: %s', (text) => {
  expect(said(text)).toEqual([]);
});

test('any minute of the day is found again, as one writes it', () => {
  const two = (n: number) => String(n).padStart(2, '0');
  const half = (h: number, m: number) => `${h % 12 || 12}:${two(m)} ${h < 12 ? 'am' : 'pm'}`;
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 1439 }), fc.constantFrom('clock', 'half', 'h'), (minute, how) => {
      const [h, m] = [Math.floor(minute / 60), minute % 60];
      const text = how === 'clock' ? `${two(h)}:${two(m)}` : how === 'half' ? half(h, m) : `${h}h${two(m)}`;
      expect(timesIn(`Essay due ${text}, on paper`)).toMatchObject([{ minute, until: null }]);
    }),
  );
});
