import type { OccurrenceView } from '@zephyrfield/core/api/schemas';
import { Refused, School, work } from '../../test/school';
import { finish } from './layer';
import { followOutbox, sendKept, useOutbox, withKept } from './outbox';
import { writeOwn } from './own';
import { keys, queryClient } from './queries';
import { useUndo } from './undo';

const list = [...keys.occurrences('juno'), 0, 1];
const put = (...occurrences: OccurrenceView[]) => queryClient.setQueryData(list, occurrences);
const shown = () => queryClient.getQueryData<OccurrenceView[]>(list)!;
const waiting = () => useOutbox.getState().waiting.map((k) => k.words);
/** No way to the server. */
const cutOff = () => {
  globalThis.fetch = (() => Promise.reject(new TypeError('Failed to fetch'))) as unknown as typeof fetch;
};
const of = (title: string) => work(title, '2026-10-06T22:59:00Z');

beforeEach(() => {
  queryClient.clear();
  localStorage.clear();
  useOutbox.setState({ waiting: [] });
  useUndo.setState({ done: [], message: null });
});

test('what cannot be sent is shown, kept over a reload, and sent in order once there is a way', async () => {
  const [lofting, caulking] = [of('Lofting plan'), of('Caulking')];
  put(lofting, caulking);
  cutOff();
  await finish('juno', lofting, true);
  await finish('juno', caulking, true);
  expect(shown().map((o) => o.finished)).toEqual([true, true]);
  expect(waiting()).toEqual(['Lofting plan: finished', 'Caulking: finished']);
  expect(useUndo.getState().message).toBeNull();
  expect(JSON.parse(localStorage.getItem('zephyrfield-outbox')!)).toHaveLength(2);
  // What the server still says is shown with what it does not know of yet.
  expect(withKept(lofting).finished).toBe(true);

  // Meanwhile somebody else has changed one of them: only what was changed here is written over it.
  const school = new School({ occurrences: [{ ...lofting, version: 4, estimate: 30 }, caulking] });
  const sent: string[] = [];
  await sendKept((learnerId) => sent.push(learnerId));
  expect(school.changes).toEqual([
    ['/api/items/lofting-plan/layer', { recurrenceId: '', version: 4, finished: true }],
    ['/api/items/caulking/layer', { recurrenceId: '', version: 0, finished: true }],
  ]);
  expect(sent).toEqual(['juno', 'juno']);
  expect([waiting(), localStorage.getItem('zephyrfield-outbox')]).toEqual([[], '[]']);
});

test('a new item waits under a key of its own; what is refused is told and lets the next one pass', async () => {
  const planking = of('Planking');
  put(planking);
  cutOff();
  const item = { title: 'Oars' } as never;
  expect(await writeOwn('juno', [{ id: null, calendarId: 'ce', item, version: 0 }], 'Oars added')).toEqual(
    [],
  );
  await finish('juno', planking, true);

  const school = new School({
    occurrences: [planking],
    answers: { '/api/learners/juno/own': new Refused(422, { title: 'There is no such calendar.' }) },
  });
  await sendKept(() => {});
  const [[path, body]] = school.changes as [[string, { writes: { key: string }[] }], unknown];
  expect([path, body.writes[0]!.key]).toEqual([
    '/api/learners/juno/own',
    expect.stringMatching(/^[\da-f]{8}-[\da-f]{4}-4[\da-f]{3}-[89ab][\da-f]{3}-[\da-f]{12}$/),
  ]);
  expect(useUndo.getState().message).toMatchObject({ problem: { title: 'There is no such calendar.' } });
  expect(waiting()).toEqual([]);
});

test('a server that has no room, or starts, gets it later; it is tried again by itself', async () => {
  jest.useFakeTimers();
  const rigging = of('Rigging');
  put(rigging);
  cutOff();
  await finish('juno', rigging, true);
  new School({
    occurrences: [rigging],
    answers: { '/api/items/rigging/layer': new Refused(507, { title: 'There is no room left.' }) },
  });
  const stop = followOutbox(() => {});
  await sendKept(() => {});
  expect(waiting()).toEqual(['Rigging: finished']);
  const school = new School({ occurrences: [rigging] });
  await jest.advanceTimersByTimeAsync(16_000);
  expect(school.changes).toHaveLength(1);
  expect(waiting()).toEqual([]);
  stop();
  jest.useRealTimers();
});

test('two windows keep what they have in one place, and neither loses the other’s', async () => {
  const steaming = of('Steaming ribs');
  put(steaming);
  cutOff();
  const other = {
    kind: 'layer',
    key: 'k',
    learnerId: 'juno',
    itemId: 'x',
    recurrenceId: '',
    change: {},
    words: 'X',
  };
  localStorage.setItem('zephyrfield-outbox', JSON.stringify([other]));
  await finish('juno', steaming, true);
  expect(waiting()).toEqual(['X', 'Steaming ribs: finished']);
  localStorage.setItem('zephyrfield-outbox', '[]');
  window.dispatchEvent(new StorageEvent('storage', { key: 'zephyrfield-outbox' }));
  expect(waiting()).toEqual([]);
});

test('what another version has kept, or somebody has written there, is passed over', async () => {
  localStorage.setItem(
    'zephyrfield-outbox',
    '[{"kind":"layer"},7,{"kind":"own","key":"k","learnerId":"j","words":"w"}]',
  );
  await jest.isolateModulesAsync(async () => {
    const anew = await import('./outbox');
    expect(anew.useOutbox.getState().waiting).toEqual([]);
  });
});
