import { act, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { router } from 'expo-router';
import { Fragment } from 'react';
import { useUndo } from '@/data/undo';
import { UndoBar } from '@/features/frame/undo-bar';
import { drawInside } from './inside';
import { Refused, School, learner, lesson, work } from './school';
import { TodoPlace } from '@/features/todo/todo-place';

jest.mock('expo-router', () => ({
  Link: ({ children }: { children: unknown }) => children,
  router: { push: jest.fn() },
  useLocalSearchParams: () => ({}),
}));
// Gestures are loaded when they are needed, which Jest cannot; the browser tests draw slips aside.
jest.mock('@/ui/draw-aside', () => ({ DrawAside: ({ children }: { children: unknown }) => children }));

const TONIGHT = work('Tide tables', '2026-10-06T22:59:00Z', { calendarId: 'bb' });
const QUIZ = work('Surveys quiz', '2026-10-08T15:00:00Z', { kind: 'test' });
const LATE = work('Chart exercise', '2026-10-01T22:59:00Z');
const PAPER = work('Glaze tiles', '2026-10-05T15:00:00Z', { handIn: 'paper' });
const NEXT = work('Keel plan', '2026-10-13T15:00:00Z', {
  estimate: 90,
  aim: { kind: 'date', date: '2026-10-09' },
});
const SOME_DAY = work('Mend the net', '2026-10-01T09:00:00Z', { undated: true, due: null, own: true });
const ALL = [
  TONIGHT,
  QUIZ,
  LATE,
  PAPER,
  NEXT,
  lesson('Boat shed', '2026-10-07T08:10:00Z', '2026-10-07T09:50:00Z'),
];

const bucket = (name: string) => screen.findByRole('group', { name });
/** The titles of a bucket, from the top. */
const titles = async (name: string) =>
  within(await bucket(name))
    .getAllByRole('button')
    .map((b) => /^([^,]+), /.exec(b.getAttribute('aria-label') ?? '')?.[1])
    .filter(Boolean);

async function draw(given: ConstructorParameters<typeof School>[0] = {}): Promise<School> {
  const school = new School({ occurrences: ALL, undated: [SOME_DAY], ...given });
  await drawInside(
    <Fragment>
      <TodoPlace />
      <UndoBar />
    </Fragment>,
  );
  return school;
}

test('work stands by when it is to be done; an aim orders it while the due date stays in sight; lessons are no work', async () => {
  await draw();
  expect(await titles('Today')).toEqual(['Tide tables']);
  expect(await titles('Past due')).toEqual(['Chart exercise']);
  expect(await titles('This week')).toEqual(['Surveys quiz', 'Keel plan']);
  expect(await titles('No date')).toEqual(['Mend the net']);
  const keel = within(await bucket('This week')).getByRole('button', { name: /^Keel plan/ });
  expect(keel).toHaveTextContent('aim Fri 9 Oct · 1 h 30');
  // Days away, a weekday alone would leave open which.
  expect(screen.getByRole('button', { name: 'Finish Keel plan' })).toHaveTextContent(/^16:00\s*Tue 13 Oct/);
  expect(screen.getByRole('button', { name: 'Finish Tide tables' })).toHaveTextContent(/^23:59\s*today/);
  expect(screen.getByText('6 open')).toBeInTheDocument();
  expect(screen.queryByText('Boat shed')).not.toBeInTheDocument();
});

test('finished at a press, asked once how it was handed in, and all of it taken back', async () => {
  const school = await draw();
  await userEvent.click(await screen.findByRole('button', { name: 'Finish Tide tables' }));
  await waitFor(() => expect(screen.queryByRole('group', { name: 'Today' })).not.toBeInTheDocument());
  const asks = await screen.findByRole('group', { name: 'How was it handed in?' });
  await userEvent.click(within(asks).getByRole('button', { name: 'on paper' }));
  await waitFor(() =>
    expect(screen.getByLabelText('Last change')).toHaveTextContent('Tide tables: handed in on paper'),
  );
  expect(school.changes).toEqual([
    ['/api/items/tide-tables/layer', { recurrenceId: '', version: 0, finished: true }],
    ['/api/items/tide-tables/layer', { recurrenceId: '', version: 1, handedIn: { way: 'paper' } }],
  ]);
  await userEvent.click(within(screen.getByLabelText('Last change')).getByRole('button', { name: 'Undo' }));
  await waitFor(() => expect(school.occurrences[0]).toMatchObject({ finished: true, handedIn: null }));
  await act(() => useUndo.getState().undo());
  expect(await titles('Today')).toEqual(['Tide tables']);
});

test('the question may be left unanswered', async () => {
  const school = await draw();
  await userEvent.click(await screen.findByRole('button', { name: 'Finish Chart exercise' }));
  await userEvent.click(
    within(await screen.findByRole('group', { name: 'How was it handed in?' })).getByRole('button', {
      name: 'skip',
    }),
  );
  expect(screen.queryByLabelText('Last change')).not.toBeInTheDocument();
  expect(school.changes).toHaveLength(1);
});

test('paper whose date has passed is asked after: done, or still to do, and then it is past due like all else', async () => {
  const school = await draw();
  const settle = await bucket('Did this happen?');
  expect(settle).toHaveTextContent('leave no trace here');
  await userEvent.click(within(settle).getByRole('button', { name: 'Not yet: Glaze tiles is still to do' }));
  await waitFor(async () => expect(await titles('Past due')).toEqual(['Chart exercise', 'Glaze tiles']));
  expect(school.changes).toEqual([
    ['/api/items/glaze-tiles/layer', { recurrenceId: '', version: 0, stillToDo: true }],
  ]);
  expect(screen.queryByRole('group', { name: 'Did this happen?' })).not.toBeInTheDocument();
});

test('what is finished stands by itself, and can be taken back', async () => {
  const school = await draw({
    occurrences: [{ ...QUIZ, finished: true, finishedAt: '2026-10-05T10:00:00Z' }, TONIGHT],
    undated: [],
  });
  await userEvent.click(await screen.findByRole('radio', { name: 'finished' }));
  expect(await titles('Finished')).toEqual(['Surveys quiz']);
  await userEvent.click(screen.getByRole('button', { name: 'Take back: Surveys quiz is not finished' }));
  expect(await screen.findByText('Nothing is finished yet.')).toBeInTheDocument();
  expect(school.occurrences[0]).toMatchObject({ finished: false });
});

test('of one calendar only', async () => {
  await draw();
  await screen.findByRole('group', { name: 'Today' });
  await userEvent.selectOptions(screen.getByLabelText('Calendar'), 'Boatbuilding');
  expect(await titles('Today')).toEqual(['Tide tables']);
  expect(screen.getByText('1 open')).toBeInTheDocument();
  expect(screen.queryByRole('group', { name: 'This week' })).not.toBeInTheDocument();
});

test('a press opens the item where it stands in the calendar', async () => {
  await draw();
  await userEvent.click(within(await bucket('This week')).getByRole('button', { name: /^Surveys quiz/ }));
  expect(router.push).toHaveBeenCalledWith('/calendar?item=surveys-quiz&recurrence=');
});

test('who may only look is offered nothing to change', async () => {
  await draw({ session: { learners: [{ ...learner, access: 'look' }] } });
  await screen.findByRole('group', { name: 'Today' });
  for (const name of ['Finish Tide tables', 'Add an item', 'Choose or reorder', /^Yes, /])
    expect(screen.queryByRole('button', { name })).not.toBeInTheDocument();
});

test('a list of a hundred begins with eight, and says how many more', async () => {
  await draw({
    occurrences: Array.from({ length: 30 }, (_, i) => work(`Sheet ${i}`, `2026-10-2${i % 9}T15:00:00Z`)),
    undated: [],
  });
  expect(await titles('Later')).toHaveLength(8);
  await userEvent.click(screen.getByRole('button', { name: '22 more' }));
  expect(await titles('Later')).toHaveLength(30);
});

test('what the server will not give is said, with what to do', async () => {
  await draw({
    answers: {
      '/api/learners/juno/undated': new Refused(503, {
        title: 'The schedule cannot be read just now.',
        remedy: 'Try again in a minute.',
      }),
    },
  });
  expect(await screen.findByText('The schedule cannot be read just now.')).toBeInTheDocument();
  expect(screen.getByText('Try again in a minute.')).toBeInTheDocument();
});

test('what cannot be read is not said to be done', async () => {
  await draw({
    answers: {
      '/api/learners/juno/occurrences': new Refused(503, { title: 'The schedule cannot be read just now.' }),
    },
    undated: [],
  });
  expect(await screen.findByText('The schedule cannot be read just now.')).toBeInTheDocument();
  expect(screen.queryByText('Nothing left to do.')).not.toBeInTheDocument();
  expect(screen.queryByText('0 open')).not.toBeInTheDocument();
});
