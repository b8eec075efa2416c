import fc from 'fast-check';
import { dueAt } from '../../test/occurrence';
import { countHidden, hiddenWords, partHidden } from './hidden';

const day = (date: string) => ({ kind: 'date' as const, date });
const of = (calendarId: string, more: { hidden?: boolean; alsoIn?: string[] } = {}) =>
  dueAt(day('2026-10-06'), { calendarId, ...more });
const name = (id: string) => ({ b: 'Boatbuilding', o: 'Ocean Navigation' })[id] ?? id;
const words = (list: ReturnType<typeof of>[], hidden: string[]) =>
  hiddenWords(countHidden(partHidden(list, new Set(hidden)).held), name);

test('what is hidden is said by its calendar, or as single items', () => {
  expect(words([of('b'), of('b'), of('o')], [])).toBe('');
  expect(words([of('b'), of('b'), of('o')], ['b'])).toBe('2 of Boatbuilding are hidden here');
  expect(words([of('o', { hidden: true })], [])).toBe('1 single item is hidden here');
  expect(words([of('b'), of('o'), of('c', { hidden: true })], ['b', 'o'])).toBe(
    '1 of Boatbuilding, 1 of Ocean Navigation and 1 single item are hidden here',
  );
  expect(words([of('b'), of('o'), of('c')], ['b', 'o', 'c'])).toBe('3 of 3 calendars are hidden here');
  // What another calendar has too is in sight with that one.
  expect(words([of('b', { alsoIn: ['o'] })], ['b'])).toBe('');
});

test('nothing is lost: all of it is shown, or counted as hidden, once', () => {
  const some = fc.record({ c: fc.constantFrom('a', 'b', 'c'), hidden: fc.boolean() });
  fc.assert(
    fc.property(fc.array(some), fc.subarray(['a', 'b', 'c']), (list, hidden) => {
      const { shown, held } = partHidden(
        list.map(({ c, hidden: itself }) => of(c, { hidden: itself })),
        new Set(hidden),
      );
      const { calendars, single } = countHidden(held);
      expect(shown.length + single + [...calendars.values()].reduce((a, b) => a + b, 0)).toBe(list.length);
      expect(shown.some((o) => o.hidden || hidden.includes(o.calendarId))).toBe(false);
    }),
  );
});
