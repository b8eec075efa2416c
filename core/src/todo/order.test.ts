import fc from 'fast-check';
import { placesAfter } from './order';

interface Item {
  name: number;
  position: number | null;
}
/** As the list is drawn: what has a place first, the rest in the order it came in. */
const drawn = (list: readonly Item[]) =>
  [...list].sort((a, b) => (a.position ?? Infinity) - (b.position ?? Infinity) || 0);
const list = fc
  .array(fc.option(fc.integer({ min: 0, max: 30 }), { nil: null }), { minLength: 1, maxLength: 12 })
  .map((ps) => {
    const seen = new Set<number>();
    return drawn(
      ps.map((p, name) => ({ name, position: p !== null && !seen.has(p) ? (seen.add(p), p) : null })),
    );
  });

test('any move is drawn as it was meant, whatever had a place before', () => {
  fc.assert(
    fc.property(list, fc.nat(), fc.nat(), (before, a, b) => {
      const [from, to] = [a % before.length, b % before.length];
      const meant = before.map((i) => i.name);
      meant.splice(to, 0, ...meant.splice(from, 1));
      const places = new Map(placesAfter(before, from, to).map((p) => [p.item.name, p.position]));
      const after = drawn(before.map((i) => ({ ...i, position: places.get(i.name) ?? i.position })));
      expect(after.map((i) => i.name)).toEqual(meant);
    }),
  );
});

test('only what has to be written is: one moved up among many without a place writes what stands before it', () => {
  const many = Array.from({ length: 9 }, (_, name): Item => ({ name, position: null }));
  expect(placesAfter(many, 6, 1).map((p) => [p.item.name, p.position])).toEqual([
    [0, 0],
    [6, 1],
  ]);
  expect(placesAfter(many, 0, 0).map((p) => p.item.name)).toEqual([0]);
  expect(placesAfter([], 0, 0)).toEqual([]);
});
