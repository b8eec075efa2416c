import { forgetPerson } from '@/data/forget';
import { useOutlineDrafts } from '@/data/outline-draft';
import { draftOf, dropDraft, keepDraft } from './draft';
import type { For } from './for-fields';
import { bareRow } from './rows';

const VALUE: For = {
  ...{ calendarId: 'c', name: '', zone: 'Europe/Dublin' },
  ...{ from: '2026-08-31', to: '2026-12-18', order: null },
};
const STORED = 'zephyrfield-outline-draft';
beforeEach(() => {
  localStorage.clear();
  useOutlineDrafts.setState({ of: {} });
});

test('what was changed is kept with what it is for, and nothing else', async () => {
  const changed = bareRow('Rope and sling test', {
    number: 2,
    at: { block: 1, row: 0, cell: 0, from: 0, to: 4 },
  });
  const plain = bareRow('Knots', { number: 3, isOwn: false });
  const left = bareRow('Quiz', { number: 4, isOwn: false, isSet: true, ticked: false });
  keepDraft('o1', { ...VALUE, calendarId: 'cranes' }, [changed, plain, left]);
  // A page that is loaded anew reads it as it begins.
  await jest.isolateModulesAsync(async () => {
    const anew = await import('./draft');
    expect(anew.draftOf('o1')).toEqual({
      value: { ...VALUE, calendarId: 'cranes' },
      rows: [changed, left],
    });
    expect(anew.draftOf('o2')).toBeNull();
  });
});

test('it goes when it was added, when there are newer ones, and when somebody else is there', () => {
  for (let n = 1; n <= 7; n++) keepDraft(`o${n}`, VALUE, [bareRow(`Quiz ${n}`)]);
  expect(Object.keys(useOutlineDrafts.getState().of)).toEqual(['o3', 'o4', 'o5', 'o6', 'o7']);
  dropDraft('o5');
  expect(draftOf('o5')).toBeNull();
  forgetPerson();
  expect(draftOf('o7')).toBeNull();
});

test('where the device has no room it is kept while the page is open, and that is known', () => {
  const full = jest.spyOn(Storage.prototype, 'setItem').mockImplementation(() => {
    throw new DOMException('', 'QuotaExceededError');
  });
  keepDraft('o1', VALUE, [bareRow('Quiz')]);
  expect(draftOf('o1')!.rows.map((r) => r.title)).toEqual(['Quiz']);
  expect(useOutlineDrafts.getState().isFull).toBe(true);
  full.mockRestore();
  keepDraft('o1', VALUE, [bareRow('Quiz 2')]);
  expect(useOutlineDrafts.getState().isFull).toBe(false);
  expect(localStorage.getItem(STORED)).toContain('Quiz 2');
});

test('a row whose parts are of another kind is left out, and what it is for is taken as far as it is text', () => {
  const { doubts: _, ...without } = bareRow('Quiz 2');
  useOutlineDrafts.setState({
    of: {
      o1: {
        value: { name: 'Knots', from: 5, order: 'ymd' },
        rows: [
          bareRow('Quiz 1'),
          without,
          { ...bareRow('Quiz 3'), kind: 'feast' },
          { ...bareRow('Quiz 4'), at: {} },
        ],
      },
    },
  });
  expect(draftOf('o1')!.rows.map((r) => r.title)).toEqual(['Quiz 1']);
  expect(Object.keys(draftOf('o1')!.value)).toEqual(['name']);
});

test.each([
  ['no text that is data', '{'],
  ['another shape', JSON.stringify({ state: { of: ['x'] }, version: 1 })],
  [
    'rows of another kind',
    JSON.stringify({ state: { of: { o1: { value: {}, rows: [1, { title: 2 }] } } }, version: 1 }),
  ],
])('a device that kept %s has no rows', async (_what, kept) => {
  localStorage.setItem(STORED, kept);
  const silent = jest.spyOn(console, 'error').mockImplementation(() => {});
  await useOutlineDrafts.persist.rehydrate();
  silent.mockRestore();
  expect(draftOf('o1')?.rows ?? []).toEqual([]);
});
