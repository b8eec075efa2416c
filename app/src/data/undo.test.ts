import { useUndo } from './undo';
import { writing } from './writing';

const undo = () => useUndo.getState();
const log: string[] = [];
const step = (words: string) => undo().did({ words, undo: async () => void log.push(words) });
beforeEach(() => {
  useUndo.setState({ done: [], message: null });
  log.length = 0;
});

test('the latest is undone first, fifty deep, and at the end there is a word', async () => {
  for (let i = 1; i <= 60; i++) step(String(i));
  await undo().undo();
  await undo().undo();
  expect(log).toEqual(['60', '59']);
  for (let i = 0; i < 48; i++) await undo().undo();
  expect(log.at(-1)).toBe('11');
  await undo().undo();
  expect(undo().message).toEqual({ words: 'There is nothing to undo.' });
});

test('what is on its way still is undone, and not what was done before it', async () => {
  step('before');
  let written = () => {};
  void writing(new Promise<void>((done) => (written = done)).then(() => step('on its way')));
  const undone = undo().undo();
  written();
  await undone;
  expect(log).toEqual(['on its way']);
});

test('several done together are one step, undone together from the last to the first', async () => {
  step('before');
  await undo().bundle('three things', async () => ['a', 'b', 'c'].forEach(step));
  expect(undo().done.map((d) => d.words)).toEqual(['before', 'three things']);
  await undo().undo();
  expect(log).toEqual(['c', 'b', 'a']);
  expect(undo().done.map((d) => d.words)).toEqual(['before']);
});

test('together with one that was refused, the refusal stays in sight and what was done can be undone; nothing done leaves no step', async () => {
  await undo().bundle('two things', async () => {
    step('a');
    undo().failed(new Error('no'));
  });
  expect(undo().message).toHaveProperty('problem');
  await undo().bundle('nothing', async () => {});
  expect(undo().done.map((d) => d.words)).toEqual(['two things']);
});

test('an undo that fails is message', async () => {
  undo().did({ words: 'x', undo: () => Promise.reject(new Error('gone')) });
  await undo().undo();
  expect(undo().message).toHaveProperty('problem');
});
