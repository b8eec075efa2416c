import { LOOK_COOKIE } from '@zephyrfield/core/api/look';
import { kept, leaveLook } from './look';
import { useScreen } from './screen';

const said = () => JSON.parse(decodeURIComponent(new RegExp(`${LOOK_COOKIE}=([^;]*)`).exec(document.cookie)?.[1] ?? 'null')) as unknown;
const remember = (learnerId: string | null, hidden: string[]) => localStorage.setItem('zephyrfield-screen', JSON.stringify({ state: { learnerId, hidden } }));
afterEach(() => localStorage.clear());

test('what the first view depends on is left for the server, whenever it changes', () => {
  remember('juno', ['bb']);
  leaveLook(kept());
  expect(said()).toEqual({ learnerId: 'juno', hidden: ['bb'] });
  useScreen.getState().chooseLearner('tobias');
  expect(said()).toMatchObject({ learnerId: 'tobias', hidden: [] });
  useScreen.getState().toggle('on');
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

test.each(['', '{', 'null', '{"state":7}', '{"state":{}}'])('a memory that is %j is none', (text) => {
  localStorage.setItem('zephyrfield-screen', text);
  expect(kept()).toEqual({ learnerId: null, hidden: [] });
});
