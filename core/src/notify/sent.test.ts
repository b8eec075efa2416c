import { sentOnce } from './sent';

const thread = (id: string, sentAs: string | null, unread = 0, words = 'The trip is on Friday.') => ({
  id,
  last: { sentAs, words },
  unread,
});
const ids = (...threads: ReturnType<typeof thread>[]) => sentOnce(threads).map((g) => g.map((t) => t.id));

test('a note to three crews is one row for who sent it, at the place of its newest thread', () => {
  expect(
    ids(
      thread('a', 'trip'),
      thread('x', null),
      thread('b', 'trip'),
      thread('y', 'other'),
      thread('c', 'trip'),
    ),
  ).toEqual([['a', 'b', 'c'], ['x'], ['y']]);
});

test('what somebody else wrote stands alone, and so does what is unread', () => {
  expect(ids(thread('a', null), thread('b', null))).toEqual([['a'], ['b']]);
  expect(ids(thread('a', 'trip'), thread('b', 'trip', 1), thread('c', 'trip'))).toEqual([['a', 'c'], ['b']]);
});

test('what was corrected in one thread alone stands alone', () => {
  expect(
    ids(thread('a', 'trip'), thread('b', 'trip', 0, 'The trip is on Thursday.'), thread('c', 'trip')),
  ).toEqual([['a', 'c'], ['b']]);
});
