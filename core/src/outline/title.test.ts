import fc from 'fast-check';
import { items, says, tidied, without } from './title.ts';
import { isGivenOut } from './beside.ts';
import { hintOf, isDue } from './hints.ts';
import { isNamed, isTopicOf, kindFor } from './kinds.ts';

test.each([
  ['* Essay plan ........', 'Essay plan'],
  ['**Test 1**,', 'Test 1'],
  ['*Final project*', 'Final project'],
  ['(dress rehearsal, )', 'dress rehearsal'],
  ['No lecture ( ) ,', 'No lecture'],
  ['Lines learned by heart !', 'Lines learned by heart!'],
  ['Please note: the report is', 'report'],
  ['Peer review: returned within a week, i.e', 'Peer review: returned within a week'],
  ['Your journal is due one week later', 'Your journal'],
  ['Moot (round 1', 'Moot (round 1)'],
])('%s', (text, expected) => {
  expect(tidied(text)).toBe(expected);
});

test('what leads to a date goes with it', () => {
  const cut = (text: string, said: string) => {
    const from = text.indexOf(said);
    return without(text, [{ from, to: from + said.length }]);
  };
  expect(cut('Essay is due by 9 Oct', '9 Oct')).toBe('Essay');
  expect(cut('By 9 Oct: essay plan', '9 Oct')).toBe('essay plan');
  expect(cut('Plaster piece: the week of 2 Nov', '2 Nov')).toBe('Plaster piece');
  expect(cut('Exam, not later than 9 Oct, in the hall', '9 Oct')).toBe('Exam, in the hall');
});

test('items of a day are told apart by lines and semicolons; what is only given out is none', () => {
  const texts = (text: string) => items(text).map((i) => [i.text.trim(), i.from]);
  expect(texts('Quiz 1; bring a pen')).toEqual([
    ['Quiz 1', 0],
    ['bring a pen', 7],
  ]);
  expect(texts('HW0 due, HW1 out')).toEqual([['HW0 due', 0]]);
  expect(texts('Sketch, inked')).toEqual([['Sketch, inked', 0]]);
  expect(isGivenOut('HW 2 out')).toBe(true);
  expect(isGivenOut('Night out')).toBe(false);
});

test('a title that was tidied has no loose ends, whatever it was', () => {
  fc.assert(
    fc.property(fc.string({ maxLength: 60 }), (text) => {
      const once = tidied(text);
      if (says(once)) expect(once).not.toMatch(/^[\s.,;:–—-]|[\s,;:–—-]$/);
    }),
  );
});

test.each([
  ['Keel quiz', null, 'test', true],
  ['Midterm essay', null, 'project', true],
  ['Trip to the mill', null, 'trip', true],
  ['Trip report', null, 'assignment', true],
  ['Half-term, no workshop', null, 'dayOff', true],
  ['The seminar does not meet', null, 'dayOff', true],
  ['Vectors', null, 'assignment', false],
  ['Vectors', 'topic', 'lesson', false],
  ['Swim day', null, 'meeting', true],
] as const)('%s under %s is %s', (title, hint, kind, named) => {
  expect(kindFor(title, hint, '', null)).toBe(kind);
  expect(isNamed(title)).toBe(named);
});

test('headings say what stands below them', () => {
  expect(
    [
      'WHAT TO HAND IN',
      'Session',
      'Field days (be at the bus)',
      'Tests',
      'Holidays',
      'Chapters',
      'Colours',
    ].map(hintOf),
  ).toEqual(['work', 'topic', 'place', 'test', 'off', 'reading', null]);
  expect(isDue('response 1 due')).toBe(true);
  expect(isDue('dues are paid')).toBe(false);
  expect(isTopicOf('lesson', null)).toBe(true);
  expect(isTopicOf('lesson', 'work')).toBe(false);
});
