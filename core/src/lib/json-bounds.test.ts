import fc from 'fast-check';
import { isJsonWithin } from './json-bounds';

const within = (text: string, depth = 4, values = 100) =>
  isJsonWithin(new TextEncoder().encode(text), { depth, values });

test('what is too deep or too much is known before it is parsed, brackets in texts are not counted', () => {
  expect(within('{"a":[1,{"b":"[[[[[[,,,,"}]}')).toBe(true);
  expect(within('[[[[1]]]]')).toBe(true);
  expect(within('[[[[[1]]]]]')).toBe(false);
  expect(within('['.repeat(1_000_000))).toBe(false);
  expect(within(`[${'1,'.repeat(99)}1]`)).toBe(false);
  // A quote that is escaped ends no text.
  expect(within('["\\"[[[[[["]')).toBe(true);
  expect(within('["\\\\", [[[[1]]]]]')).toBe(false);
  expect(within('"never ended [[[[[[[')).toBe(true);
});

test('any JSON is within its own depth and count, and not within less', () => {
  const depthOf = (value: unknown): number =>
    typeof value === 'object' && value !== null ? 1 + Math.max(0, ...Object.values(value).map(depthOf)) : 0;
  fc.assert(
    fc.property(fc.jsonValue({ maxDepth: 5 }), (value) => {
      const text = JSON.stringify(value);
      const depth = depthOf(value);
      expect(within(text, depth, 10_000)).toBe(true);
      if (depth > 0) expect(within(text, depth - 1, 10_000)).toBe(false);
    }),
  );
});
