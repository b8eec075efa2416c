import fc from 'fast-check';
import { editLayer, isFinished, recordOf, type LayerState } from './layer';

const OPEN: LayerState = { finishedAt: null, handedIn: null, stillToDo: false, spent: 0, timerSince: null };
const NOW = 1_000_000;

test('finishing keeps when it was first done, and settles what was still to do', () => {
  expect(editLayer({ ...OPEN, stillToDo: true }, { finished: true }, NOW)).toMatchObject({
    finishedAt: NOW,
    stillToDo: false,
  });
  expect(editLayer({ ...OPEN, finishedAt: 5 }, { finished: true }, NOW).finishedAt).toBe(5);
});

test('opened again, it was not handed in after all', () => {
  const done = editLayer(OPEN, { finished: true, handedIn: { way: 'paper' } }, NOW);
  expect(done.handedIn).toBe('paper');
  expect(editLayer(done, { finished: false }, NOW)).toEqual(OPEN);
});

test('a clock that is stopped adds what it ran; one that runs goes on from where it began', () => {
  const running = editLayer({ ...OPEN, spent: 10 }, { timer: true }, NOW);
  expect(editLayer(running, { timer: true }, NOW + 60_000).timerSince).toBe(NOW);
  expect(editLayer(running, { timer: false }, NOW + 5 * 60_000)).toMatchObject({
    spent: 15,
    timerSince: null,
  });
  // Finishing stops it.
  expect(editLayer(running, { finished: true }, NOW + 5 * 60_000)).toMatchObject({
    spent: 15,
    timerSince: null,
  });
  // A clock of the machine that was put back takes nothing away.
  expect(editLayer(running, { timer: false }, NOW - 60_000).spent).toBe(10);
});

test('what is not named stays as it is', () => {
  fc.assert(
    fc.property(fc.boolean(), fc.option(fc.nat()), (stillToDo, finishedAt) => {
      const layer = { ...OPEN, stillToDo, finishedAt, note: 'n', aim: null };
      expect(editLayer(layer, {}, NOW)).toEqual(layer);
      expect(editLayer(layer, { note: 'm', aim: undefined }, NOW)).toEqual({ ...layer, note: 'm' });
      expect(recordOf(layer, { note: 'm' }, NOW)).toBeNull();
    }),
  );
});

test('what is done in its course is finished, unless somebody says that it is not', () => {
  const course = { ...OPEN, doneInCourse: true };
  expect(isFinished(course)).toBe(true);
  const open = editLayer(course, { finished: false }, NOW);
  expect([isFinished(open), open.stillToDo]).toEqual([false, true]);
  expect(isFinished(editLayer(open, { finished: true }, NOW))).toBe(true);
  expect(recordOf(course, { finished: false }, NOW)).toEqual({ kind: 'reopened', at: NOW });
  // Without a word of the course, opening again says nothing more than that.
  expect(editLayer({ ...OPEN, finishedAt: 5 }, { finished: false }, NOW).stillToDo).toBe(false);
});

test('a record for what was done, and none for saying it twice', () => {
  expect(recordOf(OPEN, { finished: true }, NOW)).toEqual({ kind: 'finished', at: NOW });
  expect(recordOf({ ...OPEN, finishedAt: 5 }, { finished: true }, NOW)).toBeNull();
  expect(recordOf({ ...OPEN, finishedAt: 5 }, { finished: false }, NOW)).toEqual({
    kind: 'reopened',
    at: NOW,
  });
  const handedIn = { way: 'mail' as const, at: '2026-10-06T10:00:00Z' };
  expect(recordOf(OPEN, { finished: true, handedIn }, NOW)).toEqual({
    kind: 'handedIn',
    way: 'mail',
    note: '',
    at: Date.parse(handedIn.at),
  });
  expect(recordOf(OPEN, { stillToDo: true }, NOW)).toEqual({ kind: 'stillToDo', at: NOW });
});
