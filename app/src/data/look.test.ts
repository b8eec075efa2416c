import { LOOK_COOKIE } from '@zephyrfield/core/api/look';
import { useDraft } from './draft';
import { SCREEN, kept, leaveLook } from './look';
import { useScreen } from './screen';

const said = () =>
  JSON.parse(
    decodeURIComponent(new RegExp(`${LOOK_COOKIE}=([^;]*)`).exec(document.cookie)?.[1] ?? 'null'),
  ) as unknown;
const remember = (learnerId: string | null, hidden: string[]) =>
  localStorage.setItem('zephyrfield-screen', JSON.stringify({ state: { learnerId, hidden } }));
afterEach(() => localStorage.clear());

test('what the first view depends on is left for the server, whenever it changes', () => {
  remember('juno', ['bb']);
  leaveLook(kept());
  expect(said()).toEqual({ learnerId: 'juno', hidden: ['bb'] });
  useScreen.getState().chooseLearner('tobias');
  expect(said()).toMatchObject({ learnerId: 'tobias', hidden: [] });
  useScreen.getState().toggle(['on']);
  expect(said()).toMatchObject({ learnerId: 'tobias', hidden: ['on'] });
});

test('more than a cookie holds is said to be too much, and not cut', () => {
  remember(
    'juno',
    Array.from({ length: 60 }, (_, i) => `calendar-with-a-long-name-${i}`),
  );
  leaveLook(kept());
  expect(said()).toMatchObject({ learnerId: 'juno', hidden: null });
});

test.each([
  '',
  '{',
  'null',
  '7',
  '{"state":7}',
  '{"state":{}}',
  '{"state":{"learnerId":{},"hidden":7}}',
  '{"state":{"hidden":["bb",7]}}',
])('a memory that is %j is none', (text) => {
  localStorage.setItem('zephyrfield-screen', text);
  expect(kept()).toEqual({ learnerId: null, hidden: [], everybody: false });
});

test('what is remembered is taken over part by part, as far as it is what it should be', async () => {
  const fresh = useScreen.getInitialState();
  const remembered = async (state: unknown) => {
    useScreen.setState(fresh, true);
    localStorage.setItem(SCREEN, JSON.stringify({ state, version: 1 }));
    await useScreen.persist.rehydrate();
    const { learnerId, hidden, beforeJustOne, look } = useScreen.getState();
    return { learnerId, hidden, beforeJustOne, look };
  };
  const well = {
    learnerId: 'juno',
    hidden: ['bb'],
    beforeJustOne: ['on'],
    look: {
      view: 'week',
      group: 'course',
      span: 'all',
      filters: { text: 'tide' },
      day: 20_000,
      seenOn: 20_001,
    },
  };
  expect(await remembered(well)).toEqual(well);
  const none = { learnerId: null, hidden: [], beforeJustOne: null, look: fresh.look };
  for (const rubbish of [
    7,
    null,
    { learnerId: {}, hidden: 7, beforeJustOne: 'x', look: 'x' },
    {
      look: { view: 'year', group: 1, span: [], filters: { text: {} }, day: 'today', seenOn: null, more: 1 },
    },
  ])
    expect(await remembered(rubbish)).toEqual(none);
  expect(await remembered({ ...well, hidden: null })).toEqual({ ...well, hidden: [] });
});

test('so is a draft', async () => {
  const remembered = async (draft: unknown) => {
    useDraft.setState(useDraft.getInitialState(), true);
    localStorage.setItem(
      'zephyrfield-draft',
      JSON.stringify({ state: { of: { juno: { draft, lastUsed: 3 }, tobias: 7 } }, version: 2 }),
    );
    await useDraft.persist.rehydrate();
    return useDraft.getState().of;
  };
  const well = {
    day: '2026-10-06',
    minute: null,
    calendarId: null,
    editing: null,
    fields: { title: 'Tides' },
  };
  expect(await remembered(well)).toEqual({
    juno: { draft: well, lastUsed: {} },
    tobias: { draft: null, lastUsed: {} },
  });
  for (const rubbish of [7, 'x', [], { day: 7, fields: null }, { day: '', fields: 'x' }])
    expect((await remembered(rubbish))['juno']!.draft).toBeNull();
});
