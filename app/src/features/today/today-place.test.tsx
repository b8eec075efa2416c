import { act, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { router } from 'expo-router';
import { Linking } from 'react-native';
import { useDraft } from '@/data/draft';
import { useScreen } from '@/data/screen';
import { drawInside } from '../../../test/inside';
import { CERAMICS, Refused, School, learner, lesson, work } from '../../../test/school';
import { TodayPlace } from './today-place';

jest.mock('expo-router', () => ({
  Link: ({ children }: { children: unknown }) => children,
  router: { push: jest.fn() },
}));

const TONIGHT = work('Tide tables', '2026-10-06T22:59:00Z', { calendarId: 'bb' });
const TILES = work('Glaze tiles', '2026-10-06T15:00:00Z', {
  due: { kind: 'date', date: '2026-10-06' },
  handIn: 'paper',
});
const LATE = work('Chart exercise', '2026-10-01T22:59:00Z');
const CALL = lesson('Tutor call', '2026-10-06T15:20:00Z', '2026-10-06T15:50:00Z');
const group = (name: string) => screen.findByRole('group', { name });

async function draw(given: ConstructorParameters<typeof School>[0]): Promise<School> {
  const school = new School(given);
  await drawInside(<TodayPlace />);
  return school;
}

test('the day, tonight, what is past due, and where to be next', async () => {
  await draw({ occurrences: [TONIGHT, TILES, LATE, CALL] });
  expect(await screen.findByRole('heading', { level: 1, name: 'Tuesday' })).toBeInTheDocument();
  expect(await group('Next')).toHaveTextContent('Next, in 10 minutes');
  expect(await group('Next')).toHaveTextContent('Tutor call');
  expect(await group('Where to be')).toHaveTextContent('Tutor call');
  expect(await group('Tonight')).toHaveTextContent('2 to do · 1 h 30');
  expect(await group('Past due')).toHaveTextContent('Chart exercise');
});

test('the way into a meeting that is near stands on it', async () => {
  await draw({
    occurrences: [CALL],
    links: [{ href: 'https://meet.example/r', label: 'Room', role: 'meeting' }],
  });
  const open = jest.spyOn(Linking, 'openURL').mockResolvedValue(undefined);
  await userEvent.click(await screen.findByRole('button', { name: 'Join: Room' }));
  expect(open).toHaveBeenCalledWith('https://meet.example/r');
});

test('finished where it stands, and counted', async () => {
  const school = await draw({ occurrences: [TONIGHT, TILES] });
  await userEvent.click(await screen.findByRole('button', { name: 'Finish Glaze tiles' }));
  await waitFor(async () => expect(await group('Tonight')).toHaveTextContent('1 to do'));
  expect(school.changes).toEqual([
    ['/api/items/glaze-tiles/layer', { recurrenceId: '', version: 0, finished: true }],
  ]);
});

test('a hidden calendar is nowhere, and nothing due is said in words', async () => {
  await draw({ occurrences: [TONIGHT] });
  expect(await screen.findByRole('button', { name: /^Tide tables/ })).toBeInTheDocument();
  act(() => void useScreen.setState({ hidden: ['bb'] }));
  await waitFor(async () => expect(await group('Tonight')).toHaveTextContent('Nothing to do tonight.'));
});

test('next up: a week ahead by its days, of one calendar where that is wanted, and more of it at a press', async () => {
  const many = Array.from({ length: 105 }, (_, i) =>
    work(`Sheet ${i}`, `2026-10-0${i < 35 ? 7 : 8 + (i % 2)}T1${i % 10}:00:00Z`, {
      calendarId: i % 4 < 2 ? 'bb' : 'ce',
    }),
  );
  await draw({ occurrences: [...many, work('Far off', '2026-10-20T15:00:00Z')] });
  const up = await group('Next up');
  expect(up).toHaveTextContent('7 days ahead');
  // Tomorrow stands by itself, whole.
  expect(within(await group('Tomorrow')).getAllByText(/^Sheet \d/)).toHaveLength(35);
  expect(up).toHaveTextContent('Thursday 8 October in 2 days');
  const slips = () => within(up).getAllByText(/^Sheet \d/);
  expect(slips()).toHaveLength(60);
  await userEvent.click(within(up).getByText('10 more'));
  expect(slips()).toHaveLength(70);
  expect(up).not.toHaveTextContent('Far off');
  await userEvent.selectOptions(within(up).getByLabelText('Calendar'), 'Boatbuilding');
  expect(slips()).toHaveLength(35);
});

test('what changed since one last looked, five of it, and how much more there is', async () => {
  const change = (id: number, seen = false) => ({
    id,
    kind: 'moved',
    itemId: `i${id}`,
    recurrenceId: '',
    calendarId: 'ce',
    title: `Moved ${id}`,
    from: TONIGHT.due,
    to: TILES.due,
    formerTitle: null,
    at: '2026-10-06T12:00:00.000Z',
    seen,
  });
  await draw({
    occurrences: [TONIGHT],
    answers: {
      '/api/learners/juno/changes': [...[1, 2, 3, 4, 5, 6, 7].map((id) => change(id)), change(8, true)],
    },
  });
  const since = await group('Since you last looked');
  expect(since).toHaveTextContent('Moved 1');
  expect(since).not.toHaveTextContent('Moved 6');
  expect(since).toHaveTextContent('all 7');
});

test('notices are a count in words', async () => {
  await draw({ occurrences: [TONIGHT], answers: { '/api/notices': { notices: [], unseen: 3 } } });
  expect(await screen.findByText(/^3 not seen yet in News/)).toBeInTheDocument();
});

test('opened, it stands in the calendar; written down, it is for today', async () => {
  await draw({ occurrences: [TONIGHT] });
  await userEvent.click(await within(await group('Tonight')).findByRole('button', { name: /^Tide tables/ }));
  expect(router.push).toHaveBeenCalledWith('/calendar?item=tide-tables&recurrence=');
  await userEvent.click(screen.getByRole('button', { name: 'Add an item' }));
  expect(useDraft.getState()).toMatchObject({
    openFor: 'juno',
    of: { juno: { draft: { day: '2026-10-06' } } },
  });
});

test('with nothing gathered it says what to do next; who may only look is not sent to do it', async () => {
  await draw({ calendars: [] });
  await userEvent.click(await screen.findByRole('button', { name: 'Follow a link' }));
  expect(router.push).toHaveBeenCalledWith('/gather/follow');
});

test('who may only look sees the day and can change nothing', async () => {
  await draw({
    occurrences: [TONIGHT],
    calendars: [{ ...CERAMICS, id: 'bb' }],
    session: { learners: [{ ...learner, access: 'look' }] },
  });
  expect((await screen.findAllByRole('button', { name: /Tide tables/ })).length).toBeGreaterThan(0);
  for (const name of ['Finish Tide tables', 'Add an item'])
    expect(screen.queryByRole('button', { name })).not.toBeInTheDocument();
});

test('what cannot be read is not said to be nothing', async () => {
  await draw({
    answers: {
      '/api/learners/juno/occurrences': new Refused(503, { title: 'The schedule cannot be read just now.' }),
    },
  });
  expect(await screen.findByText('The schedule cannot be read just now.')).toBeInTheDocument();
  for (const words of ['Nothing to do tonight.', 'Nothing in these days.'])
    expect(screen.queryByText(words)).not.toBeInTheDocument();
});

test('all learners together: each thing says whose it is, and is finished in the schedule it is of', async () => {
  const tobias = { ...learner, id: 'tobias', name: 'Tobias Lindqvist-Amadi' };
  const his = { ...CERAMICS, id: 'sh', learnerId: 'tobias', name: 'School' };
  const report = work('Rock pool report', '2026-10-06T16:00:00Z', { calendarId: 'sh' });
  const school = new School({
    session: { learners: [learner, tobias] },
    occurrences: [work('Glaze test tiles', '2026-10-06T15:30:00Z'), report],
    answers: {
      '/api/learners/tobias/calendars': [his],
      '/api/learners/tobias/occurrences': [report],
      '/api/learners/juno/occurrences': [work('Glaze test tiles', '2026-10-06T15:30:00Z')],
      '/api/learners/tobias/changes': [],
    },
  });
  useScreen.setState({ everybody: true });
  await drawInside(<TodayPlace />);
  const due = screen.getByRole('group', { name: 'Tonight' });
  expect(within(due).getByRole('button', { name: /^Rock pool report, Tobias · School/ })).toBeInTheDocument();
  expect(
    within(due).getByRole('button', { name: /^Glaze test tiles, Juno · Ceramics Studio/ }),
  ).toBeInTheDocument();
  expect(within(due).getByRole('img', { name: 'Tobias Lindqvist-Amadi' })).toHaveTextContent('T');
  // Both have something tonight.
  expect(within(due).queryByText(/nothing to do tonight/)).toBeNull();
  // Nothing is offered that is of one schedule alone.
  expect(screen.queryByRole('button', { name: 'Add an item' })).toBeNull();
  await userEvent.click(within(due).getByRole('button', { name: /^Finish Rock pool report/ }));
  await waitFor(() =>
    expect(school.changes.map(([path]) => path)).toEqual(['/api/items/rock-pool-report/layer']),
  );
  await waitFor(() => expect(due).toHaveTextContent('1 to do'));
  useScreen.setState({ everybody: false });
});

test('of all learners together, who has nothing tonight is said', async () => {
  const tobias = { ...learner, id: 'tobias', name: 'Tobias Lindqvist-Amadi' };
  new School({
    session: { learners: [learner, tobias] },
    answers: {
      '/api/learners/tobias/calendars': [],
      '/api/learners/tobias/occurrences': [],
      '/api/learners/juno/occurrences': [TONIGHT],
      '/api/learners/tobias/changes': [],
    },
  });
  useScreen.setState({ everybody: true });
  await drawInside(<TodayPlace />);
  const tonight = screen.getByRole('group', { name: 'Tonight' });
  expect(tonight).toHaveTextContent('Tobias has nothing to do tonight.');
  expect(tonight).not.toHaveTextContent('Juno has nothing');
});

test('what was due earlier today stands apart from what has been past due for longer', async () => {
  const morning = work('Harbour sketch', '2026-10-06T09:00:00Z');
  await draw({ occurrences: [morning, LATE] });
  expect(await group('Was due today')).toHaveTextContent('Harbour sketch');
  expect(await group('Past due')).not.toHaveTextContent('Harbour sketch');
});
