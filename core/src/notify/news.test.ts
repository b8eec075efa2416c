import fc from 'fast-check';
import { newsRows } from './news';

const notice = (id: number, more: object = {}) => ({
  id,
  sort: 'reminder',
  leads: null,
  seen: false,
  ...more,
});
const note = (id: number, thread: string, seen = false) =>
  notice(id, { sort: 'note', leads: `/notes?thread=${thread}`, seen });

test('several notes of a thread are one row, in the place of the latest; others stand alone', () => {
  const rows = newsRows([note(9, 'a'), notice(8), note(7, 'b'), note(6, 'a'), notice(5)]);
  expect(rows.map(({ id, ids }) => [id, ids])).toEqual([
    [9, [9, 6]],
    [8, [8]],
    [7, [7]],
    [5, [5]],
  ]);
});

test('what is seen is not folded into what is not', () => {
  expect(newsRows([note(3, 'a'), note(2, 'a', true), note(1, 'a', true)]).map((r) => r.ids)).toEqual([
    [3],
    [2, 1],
  ]);
});

test('every notice stands in just one row, and the order is kept', () => {
  fc.assert(
    fc.property(
      fc.array(
        fc.record({ isNote: fc.boolean(), thread: fc.constantFrom('a', 'b', 'c'), seen: fc.boolean() }),
      ),
      (made) => {
        const all = made.map(({ isNote, thread, seen }, i) =>
          isNote ? note(1000 - i, thread, seen) : notice(1000 - i, { seen }),
        );
        const rows = newsRows(all);
        expect(rows.flatMap((r) => r.ids).sort((a, b) => b - a)).toEqual(all.map((n) => n.id));
        expect(rows.map((r) => r.id)).toEqual(rows.map((r) => r.id).sort((a, b) => b - a));
      },
    ),
  );
});
