import type { OccurrenceView } from '@zephyrfield/core/api/schemas';
import { Refused, School, work } from '../../test/school';
import { keepFor, keepForNobody } from './forget';
import { changeLayer, finish } from './layer';
import { itemWithKept, useOutbox, withKept } from './outbox';
import { askedFor, letGo, tryAgain } from './outbox-settle';
import { followOutbox, sendKept } from './outbox-send';
import { answerNote } from './notes';
import { takeSlot } from './open-times';
import { tellSitting, writeRunUps } from './plan';
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
  expect(useUndo.getState().message).toMatchObject({ step: { words: 'Caulking: finished' } });
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

test('a new item waits under a key of its own; what is refused stays with why, and lets the next one pass', async () => {
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
  expect(useOutbox.getState().waiting).toMatchObject([
    { words: 'Oars added', refused: { title: 'There is no such calendar.' } },
  ]);
  // It is sent again, or let go, where its person says so.
  const later = new School({ answers: { '/api/learners/juno/own': { written: [], occurrences: [] } } });
  await sendKept(() => {});
  expect(later.changes).toEqual([]);
  tryAgain(useOutbox.getState().waiting[0]!.key);
  await sendKept(() => {});
  expect(later.changes).toHaveLength(1);
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
    '[{"kind":"layer"},{"kind":"own","key":"k","learnerId":"j","words":"w","writes":[null]},7,{"kind":"own","key":"k","learnerId":"j","words":"w"}]',
  );
  await jest.isolateModulesAsync(async () => {
    const anew = await import('./outbox');
    expect(anew.useOutbox.getState().waiting).toEqual([]);
  });
});

describe('what is refused', () => {
  const rigging = of('Rigging');
  const path = '/api/items/rigging/layer';
  const refusing = (status: number) =>
    new School({
      occurrences: [rigging],
      answers: { [path]: new Refused(status, { title: 'Not just now.', remedy: 'Wait.' }) },
    });
  beforeEach(async () => {
    put(rigging);
    cutOff();
    await finish('juno', rigging, true);
  });

  test.each([401, 408, 429, 500, 503, 507])('for a moment (%i) is sent later', async (status) => {
    refusing(status);
    await sendKept(() => {});
    expect(useOutbox.getState().waiting).toMatchObject([{ words: 'Rigging: finished' }]);
    expect(useOutbox.getState().waiting[0]!.refused).toBeUndefined();
    const school = new School({ occurrences: [rigging] });
    await sendKept(() => {});
    expect(school.changes).toHaveLength(1);
    expect(waiting()).toEqual([]);
  });

  test('by a server that fails over it each time stays with why after three tries, and lets the next one pass', async () => {
    const oars = of('Oars');
    put(rigging, oars);
    await finish('juno', oars, true);
    const school = new School({
      occurrences: [rigging, oars],
      answers: { [path]: new Refused(500, { title: 'Something went wrong on our side.' }) },
    });
    for (let n = 0; n < 3; n++) await sendKept(() => {});
    expect(useOutbox.getState().waiting).toMatchObject([{ words: 'Rigging: finished', refused: {} }]);
    expect(school.occurrences[1]).toMatchObject({ finished: true });
  });

  test.each([400, 403, 404, 409, 422])(
    'for good (%i) stays with why, and is not shown as done',
    async (status) => {
      refusing(status);
      await sendKept(() => {});
      const [kept] = useOutbox.getState().waiting;
      expect(kept).toMatchObject({ refused: { title: 'Not just now.', remedy: 'Wait.' } });
      expect(withKept(rigging).finished).toBe(false);
      letGo(kept!.key);
      expect(JSON.parse(localStorage.getItem('zephyrfield-outbox')!)).toEqual([]);
    },
  );
});

test('what is done later goes behind what waits, and what that makes pointless gives way', async () => {
  const rigging = of('Rigging');
  put(rigging);
  cutOff();
  await finish('juno', rigging, true);
  await changeLayer('juno', rigging, { estimate: 40 }, { words: 'Rigging: 40 min' });
  await sendKept(() => {});
  // There is a way again, but what waits has not been sent: taking it back must not be overtaken by it.
  const school = new School({ occurrences: [rigging] });
  await finish('juno', shown()[0]!, false);
  await sendKept(() => {});
  expect(school.changes.map(([, body]) => body)).toEqual([
    { recurrenceId: '', version: 0, estimate: 40 },
    { recurrenceId: '', version: 1, finished: false },
  ]);
  expect(waiting()).toEqual([]);
  expect(school.occurrences[0]).toMatchObject({ finished: false, estimate: 40 });
});

test('a note that was changed elsewhere meanwhile is shown beside one’s own, and neither is lost', async () => {
  const rigging = of('Rigging');
  put(rigging);
  cutOff();
  const write = (note: string, over: string) =>
    changeLayer('juno', rigging, { note }, { words: 'Rigging: note changed', back: { note: over } });
  await write('Two', 'One');
  await write('Two curves', 'Two');
  expect(useOutbox.getState().waiting).toMatchObject([{ change: { note: 'Two curves' }, over: 'One' }]);
  const item = (note: string) => ({ occurrence: rigging, note });
  const there = new School({
    answers: { '/api/items/rigging': item('Three'), '/api/items/rigging/person-layer': rigging },
  });
  await sendKept(() => {});
  expect(there.changes).toEqual([]);
  const [kept] = useOutbox.getState().waiting;
  expect(kept!.refused).toMatchObject({ theirs: 'Three' });
  expect(itemWithKept(item('Three') as never).note).toBe('Three');
  tryAgain(kept!.key);
  await sendKept(() => {});
  expect(there.changes).toMatchObject([['/api/items/rigging/person-layer', { note: 'Two curves' }]]);
});

test('a changed own item is one write, on the version it was first changed at; it is shown changed', async () => {
  const oars = { ...of('Oars'), own: true };
  put(oars);
  cutOff();
  const item = { title: 'Oars and rowlocks', place: 'Shed', kind: 'assignment', handIn: 'paper' };
  const full = { ...item, when: oars.due, end: null, repeat: null } as never;
  const change = (title: string, version: number) =>
    writeOwn(
      'juno',
      [{ id: 'oars', calendarId: 'ce', item: { ...(full as object), title } as never, version }],
      title,
    );
  await change('Oars and rowlocks', 3);
  expect(shown()).toMatchObject([{ title: 'Oars and rowlocks', place: 'Shed' }]);
  await change('Oars, rowlocks, paint', 3);
  expect(waiting()).toEqual(['Oars, rowlocks, paint']);
  const school = new School({
    answers: { '/api/learners/juno/own': { written: [{ id: 'oars', version: 4 }], occurrences: [] } },
  });
  await sendKept(() => {});
  expect(school.changes).toMatchObject([
    [
      '/api/learners/juno/own',
      { writes: [{ id: 'oars', version: 3, item: { title: 'Oars, rowlocks, paint' } }] },
    ],
  ]);
});

test('whoever else signs in neither sees nor sends it; its owner finds it again', async () => {
  keepFor('juno-id');
  const rigging = of('Rigging');
  put(rigging);
  cutOff();
  await finish('juno', rigging, true);
  keepForNobody();
  keepFor('wren-id');
  expect(waiting()).toEqual([]);
  const school = new School({ occurrences: [rigging] });
  await sendKept(() => {});
  expect(school.changes).toEqual([]);
  keepFor('juno-id');
  expect(waiting()).toEqual(['Rigging: finished']);
  await sendKept(() => {});
  expect(school.changes).toHaveLength(1);
});

test('a time that was asked for is taken once there is a way; gone meanwhile, that is told', async () => {
  cutOff();
  const ask = () => takeSlot('juno', 'slot-1', '', 'A talk, Thu 15:30');
  expect(await ask()).toEqual({ taken: true, nearest: [] });
  expect(askedFor(useOutbox.getState().waiting, 'slot-1')).toBe('A talk, Thu 15:30: asked for');
  new School({ answers: { '/api/open-slots/slot-1/taken': { taken: false, nearest: [] } } });
  await sendKept(() => {});
  expect(useOutbox.getState().waiting).toMatchObject([
    { refused: { title: 'This time is no longer free.' } },
  ]);
});

test('an answer to a note waits under its key', async () => {
  cutOff();
  await answerNote('thread-1', { text: 'We will be there.', files: [] }, 'key-1');
  expect(waiting()).toEqual(['a note, “We will be there.”']);
  const school = new School({ answers: { '/api/note-threads/thread-1': {} } });
  await sendKept(() => {});
  expect(school.changes[0]![1]).toEqual({ text: 'We will be there.', fileIds: [], key: 'key-1' });
});

test('windows of one browser send in turn', async () => {
  const rigging = of('Rigging');
  put(rigging);
  cutOff();
  await finish('juno', rigging, true);
  const held: string[] = [];
  const locks = { request: (name: string, work: () => Promise<void>) => (held.push(name), work()) };
  Object.defineProperty(navigator, 'locks', { value: locks, configurable: true });
  new School({ occurrences: [rigging] });
  await sendKept(() => {});
  expect(held).toEqual(['zephyrfield-outbox']);
  Reflect.deleteProperty(navigator, 'locks');
});

test('a sitting that was told and a run-up planned after it are both saved, on the versions that follow', async () => {
  const sitting = {
    key: 's',
    day: '2026-10-07',
    from: 960,
    minutes: 20,
    pinned: false,
    state: 'planned',
    took: null,
  };
  const runUp = { sittings: [sitting] };
  const planned = { itemId: 'keel', recurrenceId: '', version: 3, runUp };
  const plan = { runUps: [planned], settings: null, version: 0 };
  queryClient.setQueryData(keys.plan('juno'), plan);
  cutOff();
  const of = { itemId: 'keel', recurrenceId: '' };
  await tellSitting('juno', of, 's', { state: 'done', took: 20 }, 'Keel: done');
  await writeRunUps('juno', [{ ...of, runUp: runUp as never }], 'Keel: moved');
  expect(waiting()).toEqual(['Keel: done', 'Keel: moved']);
  const school = new School({
    answers: {
      '/api/learners/juno/plan': plan,
      '/api/items/keel/sitting': { ...planned, version: 4 },
      '/api/learners/juno/plan/run-ups': { runUps: [{ ...planned, version: 5 }], before: [] },
    },
  });
  await sendKept(() => {});
  expect(school.changes.map(([path]) => path)).toHaveLength(2);
  expect(school.changes[1]![1]).toMatchObject({ writes: [{ itemId: 'keel', version: 4 }] });
  expect(waiting()).toEqual([]);
});

test('what cannot be sent since it is no change at all lets the others pass', async () => {
  const rigging = of('Rigging');
  put(rigging);
  cutOff();
  const broken = { kind: 'layer', key: 'k', of: '', learnerId: 'juno', change: {}, words: 'X' };
  const later = { ...broken, kind: 'constructor', key: 'l' };
  localStorage.setItem('zephyrfield-outbox', JSON.stringify([broken, later]));
  await finish('juno', rigging, true);
  await sendKept(() => {});
  const school = new School({ occurrences: [rigging] });
  await sendKept(() => {});
  expect(school.occurrences[0]).toMatchObject({ finished: true });
  expect(waiting()).toEqual(['X', 'X']);
});
