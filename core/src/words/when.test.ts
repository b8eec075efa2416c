import { parseDate } from '../time/civil';
import { ianaZone } from '../time/zone';
import { away, clockTime, daysAway, longDay, shortDay, spanDayWords, spanWords, whenWords } from './when';

const DUBLIN = ianaZone('Europe/Dublin')!;
const at = (iso: string) => ({ kind: 'instant', at: iso, zone: 'UTC' }) as const;
const day = (date: string) => ({ kind: 'date', date }) as const;

test('days and times in words', () => {
  expect(shortDay(parseDate('2026-10-06'))).toBe('Tue 6 Oct');
  expect(longDay(parseDate('2027-01-03'), 2026)).toBe('Sunday 3 January 2027');
  expect(clockTime(at('2026-10-06T22:59:00Z'), DUBLIN)).toBe('23:59');
  expect(whenWords(at('2026-10-06T22:59:00Z'), DUBLIN, 2026)).toBe('Tuesday 6 October, 23:59');
  expect(whenWords(day('2026-10-06'), DUBLIN, 2026)).toBe('Tuesday 6 October');
});

test.each([
  [0, 'today'],
  [1, 'tomorrow'],
  [-1, 'yesterday'],
  [5, 'in 5 days'],
  [-3, '3 days ago'],
  [21, 'in 3 weeks'],
])('%i days away', (n, words) => expect(daysAway(100 + n, 100)).toBe(words));

test.each([
  [30_000, 'now'],
  [50 * 60_000, 'in 50 minutes'],
  [3_600_000, 'in 1 hour'],
  [-7_200_000, '2 hours ago'],
  [3 * 86_400_000, 'in 3 days'],
])('%i ms away', (ms, words) => expect(away(1e12 + ms, 1e12)).toBe(words));

test('spans: the end of whole days is exclusive, midnight belongs to the day it ends', () => {
  expect(spanWords(day('2026-10-26'), day('2026-10-31'), DUBLIN)).toBe('Mon 26 Oct to Fri 30 Oct');
  expect(spanWords(day('2026-10-26'), day('2026-10-27'), DUBLIN)).toBe('all day');
  expect(spanWords(at('2026-10-06T16:00:00Z'), at('2026-10-06T16:40:00Z'), DUBLIN)).toBe('17:00 – 17:40');
  expect(spanWords(at('2026-10-06T16:00:00Z'), at('2026-10-07T08:00:00Z'), DUBLIN)).toBe(
    'Tue 6 Oct 17:00 to Wed 7 Oct 09:00',
  );
  expect(spanWords(at('2026-10-06T22:59:00Z'), at('2026-10-06T22:59:00Z'), DUBLIN)).toBe('23:59');
  expect(spanWords(day('2026-10-26'), null, DUBLIN)).toBe('all day');
});

test('where the day is not said already a span says it, once', () => {
  expect(spanDayWords(at('2026-10-08T08:10:00Z'), at('2026-10-08T09:50:00Z'), DUBLIN)).toBe(
    'Thu 8 Oct, 09:10 – 10:50',
  );
  expect(spanDayWords(at('2026-10-08T08:10:00Z'), null, DUBLIN)).toBe('Thu 8 Oct, 09:10');
  expect(spanDayWords(day('2026-10-08'), null, DUBLIN)).toBe('Thu 8 Oct');
  expect(spanDayWords(day('2026-10-26'), day('2026-10-31'), DUBLIN)).toBe('Mon 26 Oct to Fri 30 Oct');
  expect(spanDayWords(at('2026-10-06T16:00:00Z'), at('2026-10-07T08:00:00Z'), DUBLIN)).toBe(
    'Tue 6 Oct 17:00 to Wed 7 Oct 09:00',
  );
});
