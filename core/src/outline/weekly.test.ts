import { ENGLISH } from './languages.ts';
import { spansIn } from './spans.ts';
import { weeklyIn } from './weekly.ts';

const reader = { language: ENGLISH, at: new Date(Date.UTC(2026, 9, 20)) };
const weekly = (text: string) => weeklyIn(text, spansIn(text, reader), ENGLISH)?.weekly ?? null;

test.each([
  ['Every Thursday: lab log', { weekdays: [4], interval: 1, nth: null, except: [] }],
  ['Quiz each Monday and Wednesday', { weekdays: [1, 3] }],
  ['Tuesdays and Fridays 10:00', { weekdays: [2, 5] }],
  ['every other Tuesday', { weekdays: [2], interval: 2 }],
  ['fortnightly on Fridays', { weekdays: [5], interval: 2 }],
  ['alternate Mondays', { weekdays: [1], interval: 2 }],
  ['the first Friday of each month', { weekdays: [5], nth: 1 }],
  ['the last Friday of October', { weekdays: [5], nth: -1, month: 10 }],
  ['on the second Saturday in November', { weekdays: [6], nth: 2, month: 11 }],
  ['each Monday in October', { weekdays: [1], month: 10 }],
])('%s', (text, expected) => {
  expect(weekly(text)).toMatchObject(expected);
});

test('dates beside it are its beginning, its end, and its exceptions', () => {
  const text = 'Rehearsal every Tuesday from 8 September until 1 December (no rehearsal 20 and 27 October)';
  const { from, until, except } = weekly(text)!;
  expect([from?.first, until?.first, ...except.map((e) => e.first)]).toMatchObject([
    { month: 9, day: 8 },
    { month: 12, day: 1 },
    { month: 10, day: 20 },
    { month: 10, day: 27 },
  ]);
  expect(weekly('starts 15 Sept and is every Tuesday (not 13 Oct)')).toMatchObject({
    from: { first: { month: 9, day: 15 } },
    except: [{ first: { month: 10, day: 13 } }],
  });
});

test.each([
  'Office hours every Tuesday',
  'Problem sets are released on Mondays',
  'Every student brings a pen',
  'Every Thursday there was rain on 9 October',
])('nothing that repeats in: %s', (text) => {
  expect(weekly(text)).toBeNull();
});
