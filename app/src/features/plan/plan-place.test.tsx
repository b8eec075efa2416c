import { act, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { PlanView } from '@zephyrfield/core/api/plan';
import type { PlannedSitting } from '@zephyrfield/core/plan/run-up';
import { DEFAULT_PLAN } from '@zephyrfield/core/plan/evenings';
import { keys, queryClient } from '@/data/queries';
import { drawInside } from '../../../test/inside';
import { School, learner, work } from '../../../test/school';
import { PlanPlace } from './plan-place';

let mockQuery: Record<string, string> = {};
const mockParams = jest.fn();
jest.mock('expo-router', () => ({
  router: { push: jest.fn(), setParams: (params: object) => mockParams(params) },
  useLocalSearchParams: () => mockQuery,
}));
beforeEach(() => {
  mockQuery = {};
});

const KEEL = work('Keel plan', '2026-10-12T15:00:00Z', { kind: 'project', calendarId: 'bb', estimate: 120 });
const sitting = (day: string, more: Partial<PlannedSitting> = {}): PlannedSitting => ({
  key: day,
  day,
  from: 1020,
  minutes: 30,
  state: 'planned',
  took: null,
  pinned: false,
  ...more,
});
const runUp = (...sittings: ReturnType<typeof sitting>[]): PlanView['runUps'][number] => ({
  itemId: KEEL.itemId,
  recurrenceId: '',
  version: 3,
  runUp: {
    minutes: 30 * sittings.length,
    saidBy: 'own',
    firstDay: '2026-10-01',
    perDay: 1,
    polish: false,
    shortest: null,
    longest: null,
    parts: [{ name: 'draft', share: 1 }],
    sittings,
  },
});
const plan = (more: Partial<PlanView> = {}): PlanView => ({
  settings: DEFAULT_PLAN,
  version: 1,
  runUps: [],
  took: [],
  ...more,
});

async function draw(view: PlanView, given: ConstructorParameters<typeof School>[0] = {}): Promise<School> {
  const path = '/api/learners/juno/plan';
  const school = new School({
    occurrences: [KEEL],
    ...given,
    answers: {
      [path]: view,
      [`${path}/run-ups`]: { runUps: [{ ...runUp(sitting('2026-10-08')), version: 4 }], before: view.runUps },
      ...given.answers,
    },
  });
  await drawInside(<PlanPlace />);
  return school;
}

test('big work is planned, looked at and taken: what is sent is what stood there', async () => {
  const school = await draw(plan());
  const open = screen.getByRole('group', { name: 'Not planned yet' });
  await userEvent.click(within(open).getByRole('button', { name: 'Show 1 piece of work' }));
  expect(open).toHaveTextContent('due Mon 12 Oct 16:00 · 2 h');
  await userEvent.click(within(open).getByRole('button', { name: 'Plan Keel plan' }));
  expect(await screen.findByText(/^\d sittings, 2 h\./)).toBeInTheDocument();
  expect(screen.getAllByText('Heaviest evening', { exact: false }).length).toBeGreaterThan(0);
  expect(screen.getByRole('table', { name: 'Minutes of work each evening' })).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: 'Take this plan' }));
  await waitFor(() => expect(school.changes).toHaveLength(1));
  const [[path, body]] = school.changes as [[string, { writes: { version: number; runUp: never }[] }]];
  expect(path).toBe('/api/learners/juno/plan/run-ups');
  expect(body.writes).toMatchObject([
    { itemId: 'keel-plan', version: 0, runUp: { minutes: 120, saidBy: 'own', polish: true } },
  ]);
});

test('what no longer holds is said in words, with a new plan at one press', async () => {
  await draw(plan({ runUps: [runUp(sitting('2026-10-05'), sitting('2026-10-09', { from: 600 }))] }));
  expect(screen.getByText('1 plan no longer holds')).toBeInTheDocument();
  expect(screen.getByText(/1 sitting went by, 1 sitting outside your evenings/)).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: 'Make a new plan' }));
  expect(await screen.findByRole('heading', { name: 'A plan for 1 piece of work' })).toBeInTheDocument();
});

test('of very many plans that no longer hold a few are named, and the way out stays in sight', async () => {
  const many = Array.from({ length: 20 }, (_, n) =>
    work(`Piece ${n}`, '2026-10-12T15:00:00Z', { kind: 'project' }),
  );
  const runUps = many.map(({ itemId }) => ({ ...runUp(sitting('2026-10-05')), itemId }));
  await draw(plan({ runUps }), { occurrences: many });
  expect(screen.getByText('20 plans no longer hold')).toBeInTheDocument();
  expect(screen.getByText('and 14 more')).toBeInTheDocument();
  expect(screen.getByRole('button', { name: 'Make a new plan' })).toBeInTheDocument();
});

test('after three missed evenings it asks kindly, and helps with the note', async () => {
  const missed = ['2026-10-01', '2026-10-02', '2026-10-05'].map((day) => sitting(day, { state: 'missed' }));
  await draw(plan({ runUps: [runUp(...missed, sitting('2026-10-08'))] }));
  expect(screen.getByText(/The last 3 evenings for Keel plan did not happen/)).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: 'Ask for more time' }));
  expect(screen.getByLabelText<HTMLTextAreaElement>('A note to whoever gave it').value).toContain(
    '“Keel plan” is due Monday 12 October, 16:00.',
  );
});

test('who may only look is told what no longer holds, and offered nothing to change', async () => {
  await draw(plan({ runUps: [runUp(sitting('2026-10-05'), sitting('2026-10-08'))] }), {
    session: { learners: [{ ...learner, access: 'look' }] },
  });
  expect(screen.getByRole('button', { name: /^Keel plan, sitting 1 of 2/ })).toBeInTheDocument();
  expect(screen.getByText('1 plan no longer holds')).toBeInTheDocument();
  for (const name of ['Make a new plan', 'Plan what is big', 'Plan Keel plan'])
    expect(screen.queryByRole('button', { name })).toBeNull();
});

test('a sitting finished in another window while a new plan is looked at stays finished', async () => {
  const standing = runUp(sitting('2026-10-05'), sitting('2026-10-08', { from: 600 }));
  const school = await draw(plan({ runUps: [standing] }));
  await userEvent.click(screen.getByRole('button', { name: 'Make a new plan' }));
  await screen.findByRole('heading', { name: 'A plan for 1 piece of work' });
  const told = runUp(sitting('2026-10-05', { state: 'done', took: 25 }), standing.runUp!.sittings[1]!);
  await act(async () =>
    queryClient.setQueryData(keys.plan(learner.id), plan({ runUps: [{ ...told, version: 4 }] })),
  );
  // The plan of before can be taken until the page has heard of it: the new one is of what is left.
  await screen.findByText(/^1 sitting, 30 min\./);
  await waitFor(() => expect(screen.getByRole('button', { name: 'Take this plan' })).toBeEnabled());
  await userEvent.click(screen.getByRole('button', { name: 'Take this plan' }));
  await waitFor(() => expect(school.changes).toHaveLength(1));
  const [[, body]] = school.changes as [[string, { writes: { version: number; runUp: never }[] }]];
  expect(body.writes).toMatchObject([
    { version: 4, runUp: { sittings: [{ day: '2026-10-05', state: 'done', took: 25 }, {}] } },
  ]);
});

test('progress says by week and course what became of it, and asks about a timer that ran on', async () => {
  mockQuery = { view: 'progress' };
  const done = work('Slab box', '2026-10-05T15:00:00Z', {
    finished: true,
    finishedAt: '2026-10-05T10:00:00.000Z',
    estimate: 30,
  });
  await draw(plan({ took: [{ itemId: done.itemId, recurrenceId: '', minutes: 400 }] }), {
    occurrences: [KEEL, done],
  });
  expect(screen.getByText('1 finished, 0 open.')).toBeInTheDocument();
  expect(screen.getByText(/Did Slab box take 6 h 40, or did the timer run on\?/)).toBeInTheDocument();
});
