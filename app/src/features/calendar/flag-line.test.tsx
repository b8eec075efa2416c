import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Fragment } from 'react';
import { useScreen } from '@/data/screen';
import { BOATS, CERAMICS, calendar } from '../../../test/school';
import { FlagLine, HiddenLine } from './flag-line';

const HOME = calendar('hm', 'Home', 'HM', { sort: 'home', handMade: true });
const ALL = [CERAMICS, BOATS, HOME];
const OPEN = new Map([
  ['ce', 4],
  ['bb', 17],
]);

beforeEach(() => useScreen.setState({ hidden: ['of another learner'], beforeJustOne: null }));

function draw(hidden = { due: 0, other: 0, calendars: [] as string[] }): void {
  render(
    <Fragment>
      <FlagLine calendars={ALL} open={OPEN} />
      <HiddenLine hidden={hidden} calendars={ALL} />
    </Fragment>,
  );
}
const flag = (name: RegExp) => screen.getByRole('switch', { name });
/** Which flags stand for what is shown, by their letters. */
const shown = () =>
  screen
    .getAllByRole('switch')
    .filter((s) => s.getAttribute('aria-checked') === 'true')
    .map((s) => s.textContent?.slice(0, 2));

test('each flag says whose it is and how much is open, in words for who does not see it', () => {
  draw();
  expect(screen.getAllByRole('switch').map((s) => s.getAttribute('aria-label'))).toEqual(['Ceramics Studio, 4 open', 'Boatbuilding, 17 open', 'Home, 0 open']);
  expect(screen.getAllByRole('switch').map((s) => s.textContent)).toEqual(['CE 4', 'BB 17', 'HM 0']);
});

test('a press hides, another shows', async () => {
  draw();
  await userEvent.click(flag(/^Boatbuilding/));
  expect(shown()).toEqual(['CE', 'HM']);
  expect(flag(/^Boatbuilding/)).toHaveAccessibleName('Boatbuilding, 17 open, hidden');
  await userEvent.click(flag(/^Boatbuilding/));
  expect(shown()).toEqual(['CE', 'BB', 'HM']);
  expect(useScreen.getState().hidden).toEqual(['of another learner']);
});

test('a double press leaves just this one; another brings back what was there, also where its first press had hidden it', async () => {
  draw();
  await userEvent.click(flag(/^Home/));
  await userEvent.dblClick(flag(/^Boatbuilding/));
  expect(shown()).toEqual(['BB']);
  await userEvent.dblClick(flag(/^Boatbuilding/));
  expect(shown()).toEqual(['CE', 'BB']);
});

test('a long press leaves just this one as well', async () => {
  draw();
  const user = userEvent.setup({ delay: null });
  await user.pointer([{ keys: '[MouseLeft>]', target: flag(/^Ceramics/) }]);
  await waitFor(() => expect(shown()).toEqual(['CE']), { timeout: 3000 });
  await user.pointer([{ keys: '[/MouseLeft]', target: flag(/^Ceramics/) }]);
  expect(shown()).toEqual(['CE']);
});

test('what is hidden is said in words, with whose it is, and shown again at one press', async () => {
  useScreen.setState({ hidden: ['bb', 'of another learner'] });
  draw({ due: 3, other: 1, calendars: ['bb'] });
  expect(screen.getByRole('status')).toHaveTextContent('3 due items and 1 other item hiddenwith Boatbuilding');
  await userEvent.click(screen.getByRole('button', { name: 'show all' }));
  expect(shown()).toEqual(['CE', 'BB', 'HM']);
  expect(screen.queryByRole('status')).not.toBeInTheDocument();
});

test('of many hidden calendars it says how many; where nothing in them is open, it says that', () => {
  useScreen.setState({ hidden: ['ce', 'bb', 'hm'] });
  draw({ due: 0, other: 0, calendars: ['ce', 'bb', 'hm'] });
  expect(screen.getByRole('status')).toHaveTextContent('nothing open hiddenwith 3 calendars');
});
