import { sharedCalendars } from '@zephyrfield/core/view/shared';
import { act, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Fragment, type ReactNode } from 'react';
import { useHiddenSoon, useScreen } from '@/data/screen';
import { BOATS, CERAMICS, calendar } from '../../../test/school';
import { useChoiceKeys } from '@/ui/use-choice-keys';
import { FlagLine, HiddenLine } from './flag-line';

jest.mock('expo-router', () => ({
  Link: ({ href, children }: { href: string; children: ReactNode }) => <a href={href}>{children}</a>,
}));

const HOME = calendar('hm', 'Home', 'HM', { kind: 'home', handMade: true });
const ALL = [CERAMICS, BOATS, HOME];
const OPEN = new Map([
  ['ce', 4],
  ['bb', 17],
]);

beforeEach(() => useScreen.setState({ hidden: ['of another learner'], beforeJustOne: null }));

/** The line that says what is hidden follows what is, as in the calendar. */
function Hidden({ brief, ...hidden }: { due: number; other: number; single: number; brief: boolean }) {
  return <HiddenLine hidden={hidden} ids={new Set(useHiddenSoon())} calendars={ALL} brief={brief} />;
}

function draw({ due = 0, other = 0, single = 0, brief = false, named = false } = {}): void {
  render(
    <Fragment>
      <FlagLine flags={sharedCalendars(ALL)} open={OPEN} named={named} mayAdd />
      <Hidden {...{ due, other, single, brief }} />
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
  expect(screen.getAllByRole('switch').map((s) => s.getAttribute('aria-label'))).toEqual([
    'Ceramics Studio, 4 open',
    'Boatbuilding, 17 open',
    'Home, 0 open',
  ]);
  expect(screen.getAllByRole('switch').map((s) => s.textContent)).toEqual(['CE 4', 'BB 17', 'HM 0']);
});

test('where there is room the flags say their names', () => {
  draw({ named: true });
  expect(screen.getAllByRole('switch').map((s) => s.textContent)).toEqual([
    'Ceramics Studio4',
    'Boatbuilding17',
    'Home',
  ]);
});

test('keys press a flag as a finger does', async () => {
  const Keys = () => {
    useChoiceKeys();
    return null;
  };
  render(<Keys />);
  draw();
  act(() => flag(/Ceramics/).focus());
  await userEvent.keyboard(' ');
  await waitFor(() => expect(shown()).toEqual(['BB', 'HM']));
  await userEvent.keyboard('{Enter}');
  await waitFor(() => expect(shown()).toEqual(['CE', 'BB', 'HM']));
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
  draw({ due: 3, other: 1 });
  expect(screen.getByRole('status')).toHaveTextContent(
    '3 due items and 1 other item hidden with Boatbuilding',
  );
  await userEvent.click(screen.getByRole('button', { name: 'Show all' }));
  expect(shown()).toEqual(['CE', 'BB', 'HM']);
  await waitFor(() => expect(screen.getByRole('status')).toHaveTextContent('All shown'));
  expect(screen.queryByRole('button', { name: 'Show all' })).not.toBeInTheDocument();
});

test('single items that are hidden are counted, and lead to their list', () => {
  draw({ single: 2 });
  expect(screen.getByRole('status')).toHaveTextContent('2 single items hidden');
  expect(screen.getByRole('link', { name: 'list' })).toHaveAttribute('href', '/hidden');
});

test('of many hidden calendars it says how many; where nothing in them is open, it says that', () => {
  useScreen.setState({ hidden: ['ce', 'bb', 'hm'] });
  draw();
  expect(screen.getByRole('status')).toHaveTextContent('nothing open hidden with 3 calendars');
});

test('where there is little room it is short to the eye, and whole to the ear', () => {
  useScreen.setState({ hidden: ['bb'] });
  draw({ due: 3, other: 1, brief: true });
  expect(screen.getByText('3 due, 1 other hidden')).toHaveAttribute('aria-hidden', 'true');
  expect(screen.getByText('3 due items and 1 other item hidden with Boatbuilding')).toHaveClass('sr-only');
});

test('a press shows on its flag before what is drawn by it is begun', async () => {
  draw({ due: 3 });
  await userEvent.click(flag(/^Boatbuilding/));
  expect(flag(/^Boatbuilding/)).toHaveAttribute('aria-checked', 'false');
  await waitFor(() =>
    expect(screen.getByRole('status')).toHaveTextContent('3 due items hidden with Boatbuilding'),
  );
});
