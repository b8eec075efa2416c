import type { OccurrenceView } from '@zephyrfield/core/api/schemas';
import { Refused, School, work } from '../../test/school';
import { useUndo } from './undo';
import { changeLayer, finish } from './layer';
import { keys, queryClient } from './queries';

const TILES = work('Glaze test tiles', '2026-10-06T22:59:00Z', { handIn: 'paper' });
const list = [...keys.occurrences('juno'), 0, 1];
const shown = () => queryClient.getQueryData<OccurrenceView[]>(list)!.find((o) => o.itemId === TILES.itemId)!;
const put = (...occurrences: OccurrenceView[]) => queryClient.setQueryData(list, occurrences);

beforeEach(() => {
  queryClient.clear();
  useUndo.setState({ done: [], message: null });
});

/** A piece of work of which no change was ever sent: what was written last is remembered by its name. */
const fresh = (name: string) => work(name, '2026-10-06T22:59:00Z');

test('shown at once, then as the server has it; the step asks how it was handed in', async () => {
  const school = new School({ occurrences: [TILES] });
  put(TILES);
  const done = finish('juno', TILES, true);
  expect(shown()).toMatchObject({ finished: true, version: 0 });
  await done;
  expect(shown()).toMatchObject({ finished: true, version: 1, finishedAt: '2026-10-06T15:10:00.000Z' });
  expect(school.changes).toEqual([
    ['/api/items/glaze-test-tiles/layer', { recurrenceId: '', version: 0, finished: true }],
  ]);
  expect(useUndo.getState().message).toMatchObject({
    step: { words: 'Glaze test tiles: finished', asks: { itemId: TILES.itemId } },
  });
});

test('what is not handed in is not asked about', async () => {
  const words = work('Word list', '2026-10-06T07:50:00Z', { handIn: 'nothing' });
  new School({ occurrences: [words] });
  put(words);
  await finish('juno', words, true);
  expect(useUndo.getState().message).toEqual({
    step: expect.not.objectContaining({ asks: expect.anything() }),
  });
});

test('refused, it is as it was before, with the server’s words', async () => {
  const lofting = fresh('Lofting');
  new School({
    occurrences: [lofting],
    answers: { '/api/items/lofting/layer': new Refused(403, { title: 'You may only look.' }) },
  });
  put(lofting);
  expect(await finish('juno', lofting, true)).toBeNull();
  expect(queryClient.getQueryData<OccurrenceView[]>(list)).toEqual([lofting]);
  expect(useUndo.getState()).toMatchObject({
    done: [],
    message: { problem: { title: 'You may only look.' } },
  });
});

test('two changes of the same thing go one after the other, each on what the last one made', async () => {
  const keel = fresh('Keel plan');
  const school = new School({ occurrences: [keel] });
  put(keel);
  await Promise.all([
    changeLayer('juno', keel, { estimate: 40 }),
    changeLayer('juno', keel, { position: 3 }),
    changeLayer('juno', keel, { colour: 'pine' }),
  ]);
  // What one has for oneself is counted by itself.
  expect(school.changes.map(([path, body]) => [path, (body as { version: number }).version])).toEqual([
    ['/api/items/keel-plan/layer', 0],
    ['/api/items/keel-plan/layer', 1],
    ['/api/items/keel-plan/person-layer', 0],
  ]);
  expect(school.occurrences[0]).toMatchObject({ estimate: 40, colour: 'pine', version: 2, personVersion: 1 });
});

test('a refresh that began before a change and came after it does not stand in the way of undoing that change', async () => {
  const quiz = fresh('Surveys quiz');
  const school = new School({ occurrences: [quiz] });
  put(quiz);
  await finish('juno', quiz, true);
  // The old state arrives late.
  put(quiz);
  await useUndo.getState().undo();
  expect(school.occurrences[0]).toMatchObject({ finished: false, version: 2 });
  expect(useUndo.getState().message).toEqual({ words: 'Undone: Surveys quiz: finished' });
});

test('somebody else’s later change is told, and not written over', async () => {
  const mix = fresh('Mixdown');
  const school = new School({ occurrences: [{ ...mix, estimate: 90, version: 4 }] });
  put(mix);
  expect(await changeLayer('juno', mix, { estimate: 20 }, { words: 'Mixdown: 20 min' })).toBeNull();
  expect(school.occurrences[0]).toMatchObject({ estimate: 90, version: 4 });
  expect(useUndo.getState().message).toMatchObject({
    problem: { title: 'Somebody else changed this a moment ago.' },
  });
});

test('taking back what was handed in brings the way back as well', async () => {
  const log = { ...fresh('Shed log'), finished: true, handedIn: 'paper' as const };
  const school = new School({ occurrences: [log] });
  put(log);
  await changeLayer('juno', log, { handedIn: { way: 'mail' } }, { words: 'Shed log: handed in by mail' });
  expect(school.occurrences[0]!.handedIn).toBe('mail');
  await useUndo.getState().undo();
  expect(school.occurrences[0]!.handedIn).toBe('paper');
});
