import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { DEFAULT_SETTINGS } from '@zephyrfield/core/view/settings';
import { cloneElement as mockClone, createElement as mockElement, type ReactElement } from 'react';
import { useUndo } from '@/data/undo';
import { useDraft } from '@/data/draft';
import { useScreen } from '@/data/screen';
import { drawInside } from '../../../test/inside';
import { Refused, School, learner } from '../../../test/school';
import { useSingleKeys } from '@/data/single-keys';
import { Frame } from './frame';

let mockPath = '/today';
jest.mock('expo-router', () => ({
  Link: ({ href, children }: { href: string; children: ReactElement<{ href: string }> }) =>
    mockClone(children, { href }),
  Slot: () => mockElement('p', null, 'the place'),
  usePathname: () => mockPath,
  useGlobalSearchParams: () => ({ day: '2026-10-13' }),
}));

/** What the server tells by itself, by the learner it is of. */
class Live {
  static all: Live[] = [];
  closed = false;
  readonly told: Record<string, () => void> = {};
  constructor(readonly url: string) {
    Live.all.push(this);
  }
  addEventListener(name: string, listener: () => void): void {
    this.told[name] = listener;
  }
  close(): void {
    this.closed = true;
  }
}
beforeEach(() => {
  Live.all = [];
  globalThis.EventSource = Live as unknown as typeof EventSource;
  mockPath = '/today';
  document.documentElement.removeAttribute('data-theme');
});

const enterDemo = jest.fn();
async function draw(given: ConstructorParameters<typeof School>[0] = {}): Promise<School> {
  const school = new School(given);
  await drawInside(
    <Frame
      strip={() => <p>the strip</p>}
      signIn={<p>sign in here</p>}
      firstLearner={(name) => <p>begin, {name}</p>}
      calendar={<p>the calendar</p>}
      writing={null}
      enterDemo={enterDemo}
    />,
    {
      untilSigned: false,
    },
  );
  return school;
}
const places = () =>
  within(screen.getByRole('navigation', { name: 'Places' }))
    .getAllByRole('link')
    .map((l) => l.textContent);
const TOBIAS = { ...learner, id: 'tobias', name: 'Tobias Lindqvist-Amadi' };

test('five doors and oneself; the one that is here says so', async () => {
  await draw();
  expect(places()).toEqual(['Today', 'Calendar', 'To-do', 'News', 'Crew', 'JLYou']);
  expect(screen.getByRole('link', { name: 'Today' })).toHaveAttribute('aria-current', 'page');
  expect(screen.getByRole('main')).toHaveTextContent('the place');
  expect(document.title).toBe('Today · Zephyrfield');
});

test('a room behind a door lights it, names the page and is told to who hears it', async () => {
  mockPath = '/plan';
  await draw();
  expect(screen.getByRole('link', { name: 'To-do' })).toHaveAttribute('aria-current', 'page');
  expect(document.title).toBe('Evenings · To-do · Zephyrfield');
  expect(screen.getByText('Evenings · To-do')).toHaveAttribute('role', 'status');
});

test('what is not seen yet is one number, on the door of the news', async () => {
  await draw({ answers: { '/api/notices': { notices: [], unseen: 4 } } });
  expect(await screen.findByRole('link', { name: 'News, 4 not seen' })).toBeInTheDocument();
});

test('who looks after several finds all of them behind Crew first', async () => {
  await draw({
    session: {
      learners: [
        { ...learner, isSelf: false },
        { ...TOBIAS, isSelf: false },
      ],
    },
  });
  expect(screen.getByRole('link', { name: 'Crew' })).toHaveAttribute('href', '/table');
});

test('the calendar stands in the frame; it is no route of its own', async () => {
  mockPath = '/calendar';
  await draw();
  expect(screen.getByRole('link', { name: 'Calendar' })).toHaveAttribute('aria-current', 'page');
  expect(screen.getByRole('main')).toHaveTextContent('the calendar');
});

test('who is not signed in is asked to; in the demo, somebody is at once', async () => {
  await draw({ session: { person: null, learners: [] } });
  expect(screen.getByRole('main')).toHaveTextContent('sign in here');
  expect(enterDemo).not.toHaveBeenCalled();
  await draw({ session: { person: null, learners: [], demo: true } });
  expect(enterDemo).toHaveBeenCalled();
});

test('who has no schedule to look at begins one', async () => {
  await draw({ session: { learners: [] } });
  expect(screen.getByRole('main')).toHaveTextContent('begin, Juno Lindqvist-Amadi');
});

test('where the server cannot be reached it says so, and tries again at a press', async () => {
  const school = await draw({
    answers: {
      '/api/session': new Refused(503, { title: 'It rests just now.', remedy: 'Try again in a minute.' }),
    },
  });
  expect(await screen.findByText('It rests just now.')).toBeInTheDocument();
  delete school.given.answers!['/api/session'];
  await userEvent.click(screen.getByRole('button', { name: 'Try again' }));
  await waitFor(() => expect(screen.getByRole('main')).toHaveTextContent('the place'));
});

test('of several learners one is looked at, and heard of live; the choice is kept', async () => {
  await draw({ session: { learners: [learner, TOBIAS] } });
  expect(Live.all.map((l) => l.url)).toEqual([expect.stringContaining('/api/learners/juno/live?page=')]);
  await userEvent.click(screen.getByRole('radio', { name: 'Tobias' }));
  expect(useScreen.getState().learnerId).toBe('tobias');
  await waitFor(() =>
    expect(Live.all.map((l) => [l.url, l.closed])).toEqual([
      [expect.stringContaining('/api/learners/juno/live?page='), true],
      [expect.stringContaining('/api/learners/tobias/live?page='), false],
    ]),
  );
});

test('light or dark is as the person likes it', async () => {
  await draw({ session: { settings: { ...DEFAULT_SETTINGS, theme: 'dark' } } });
  await waitFor(() => expect(document.documentElement.dataset['theme']).toBe('dark'));
});

test('keys: one writes something down for the day looked at, one takes back; neither while somebody types', async () => {
  await draw();
  const begin = jest.spyOn(useDraft.getState(), 'begin').mockImplementation(() => {});
  const undo = jest.spyOn(useUndo.getState(), 'undo').mockResolvedValue();
  fireEvent.keyDown(document.body, { key: 'w' });
  expect(begin).toHaveBeenCalledWith('juno', { day: '2026-10-13' });
  fireEvent.keyDown(document.body, { key: 'u' });
  fireEvent.keyDown(document.body, { key: 'z', ctrlKey: true });
  expect(undo).toHaveBeenCalledTimes(2);
  const field = document.body.appendChild(document.createElement('input'));
  fireEvent.keyDown(field, { key: 'w' });
  fireEvent.keyDown(field, { key: 'u' });
  fireEvent.keyDown(document.body, { key: 'w', ctrlKey: true });
  expect([begin.mock.calls.length, undo.mock.calls.length]).toEqual([1, 2]);
  field.remove();
});

test('single keys can be turned off; the platform’s own way to undo stays', async () => {
  await draw();
  const begin = jest.spyOn(useDraft.getState(), 'begin').mockImplementation(() => {});
  const undo = jest.spyOn(useUndo.getState(), 'undo').mockResolvedValue();
  const before = [begin.mock.calls.length, undo.mock.calls.length] as const;
  useSingleKeys.getState().turn(false);
  fireEvent.keyDown(document.body, { key: 'w' });
  fireEvent.keyDown(document.body, { key: 'u' });
  expect([begin.mock.calls.length, undo.mock.calls.length]).toEqual(before);
  fireEvent.keyDown(document.body, { key: 'z', ctrlKey: true });
  expect(undo).toHaveBeenCalledTimes(before[1] + 1);
  useSingleKeys.getState().turn(true);
});

test('the first stop leads past the doors to the place', async () => {
  await draw();
  await userEvent.tab();
  expect(screen.getByRole('button', { name: 'Skip to the page' })).toHaveFocus();
  await userEvent.keyboard('{Enter}');
  expect(screen.getByRole('main')).toHaveFocus();
});
