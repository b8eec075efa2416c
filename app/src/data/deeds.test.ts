import { useDeeds } from './deeds';

const deeds = () => useDeeds.getState();
const log: string[] = [];
const deed = (words: string) => deeds().did({ words, undo: async () => void log.push(words) });
beforeEach(() => {
  useDeeds.setState({ done: [], told: null });
  log.length = 0;
});

test('the latest is undone first, fifty deep, and at the end there is a word', async () => {
  for (let i = 1; i <= 60; i++) deed(String(i));
  await deeds().undo();
  await deeds().undo();
  expect(log).toEqual(['60', '59']);
  for (let i = 0; i < 48; i++) await deeds().undo();
  expect(log.at(-1)).toBe('11');
  await deeds().undo();
  expect(deeds().told).toEqual({ words: 'There is nothing to undo.' });
});

test('several done together are one deed, undone together from the last to the first', async () => {
  deed('before');
  await deeds().bundle('three things', async () => ['a', 'b', 'c'].forEach(deed));
  expect(deeds().done.map((d) => d.words)).toEqual(['before', 'three things']);
  await deeds().undo();
  expect(log).toEqual(['c', 'b', 'a']);
  expect(deeds().done.map((d) => d.words)).toEqual(['before']);
});

test('together with one that was refused, the refusal stays told and what was done can be undone; nothing done is no deed', async () => {
  await deeds().bundle('two things', async () => {
    deed('a');
    deeds().failed(new Error('no'));
  });
  expect(deeds().told).toHaveProperty('problem');
  await deeds().bundle('nothing', async () => {});
  expect(deeds().done.map((d) => d.words)).toEqual(['two things']);
});

test('an undo that fails is told', async () => {
  deeds().did({ words: 'x', undo: () => Promise.reject(new Error('gone')) });
  await deeds().undo();
  expect(deeds().told).toHaveProperty('problem');
});
