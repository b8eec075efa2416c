import { act, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useUndo } from '@/data/undo';
import { useDraft } from '@/data/draft';
import { drawInside } from '../../../test/inside';
import { BOATS, CERAMICS, Refused, School, calendar, work } from '../../../test/school';
import { picker, shownIn, typeInto } from '../../../test/pickers';
import { OwnSheet } from './own-sheet';

jest.mock('expo-router', () => ({ router: { setParams: jest.fn() } }));
// Gestures are loaded when they are needed, which Jest cannot; the browser tests pull sheets away.
jest.mock('@/ui/sheet', () => ({ Sheet: ({ children }: { children: unknown }) => children }));

const HOME = calendar('hm', 'Home', 'HM', { kind: 'home', handMade: true });
const BREAK = work('Mid-term break', '2026-10-26T00:00:00Z', {
  calendarId: 'hm',
  kind: 'dayOff',
  handIn: 'nothing',
  due: null,
  start: { kind: 'date', date: '2026-10-26' },
  end: { kind: 'date', date: '2026-10-31' },
});
const WRITTEN = {
  written: [{ id: 'new', version: 1, before: { calendarId: null, item: null } }],
  occurrences: [],
};

async function draw(
  given: ConstructorParameters<typeof School>[0] = {},
  draft: Parameters<ReturnType<typeof useDraft.getState>['begin']>[1] = { day: '2026-10-09' },
): Promise<School> {
  const school = new School({
    calendars: [CERAMICS, BOATS, HOME],
    ...given,
    answers: { '/api/learners/juno/own': WRITTEN, '/api/briefs': [], ...given.answers },
  });
  useDraft.getState().begin('juno', draft);
  await drawInside(<OwnSheet />);
  return school;
}
/** Gives what was sent to be written. */
const sent = (school: School) =>
  school.changes
    .filter(([path]) => path === '/api/learners/juno/own')
    .map(([, body]) => (body as { writes: { calendarId: string; item: object }[] }).writes);
const line = () => screen.getByLabelText('In one line');
const add = () => userEvent.click(screen.getByRole('button', { name: /^Add/ }));
beforeEach(() => useDraft.setState({ of: {}, openFor: null }));

test('one line is read as it is typed, into the fields and in words, and Enter adds it', async () => {
  const school = await draw({ occurrences: [work('New', '2026-10-09T15:00:00Z')] });
  await userEvent.type(line(), 'ceramics sketchbook fri 16:00 45 min');
  expect(screen.getByRole('heading', { level: 2 })).toHaveTextContent('Into Ceramics Studio');
  expect(screen.getByText(/due Friday 9 October, 16:00/)).toHaveTextContent(
    'assignment · due Friday 9 October, 16:00 · in 3 days · 45 min',
  );
  expect(screen.getByLabelText('What')).toHaveValue('Sketchbook');
  await userEvent.type(line(), '{Enter}');
  await waitFor(() => expect(useDraft.getState().openFor).toBeNull());
  const due = { kind: 'instant', at: '2026-10-09T15:00:00Z', zone: 'Europe/Dublin' };
  expect(sent(school)).toMatchObject([
    [
      {
        id: null,
        calendarId: 'ce',
        item: { title: 'Sketchbook', kind: 'assignment', when: due, repeat: null },
      },
    ],
  ]);
  expect(school.changes.at(-1)).toEqual([
    '/api/items/new/layer',
    { recurrenceId: '', version: 0, estimate: 45 },
  ]);
  expect(useUndo.getState().message).toMatchObject({
    step: { words: 'Sketchbook added to Ceramics Studio' },
  });
});

test('a doubt is asked, its answer is written into the line; another line forgets the calendar of the one before', async () => {
  const school = await draw({ occurrences: [work('New', '2026-10-15T15:00:00Z')] });
  await userEvent.type(line(), 'ceramics swim thurs week 4pm');
  expect(screen.getByRole('group', { name: 'The week after this one?' })).toBeVisible();
  await userEvent.click(screen.getByRole('button', { name: 'Thu 15 Oct' }));
  expect(line()).toHaveValue('ceramics swim thu 15 oct 4pm');
  expect(screen.queryByRole('group', { name: 'The week after this one?' })).toBeNull();
  await userEvent.clear(line());
  await userEvent.type(line(), 'swim mon wed 7am until xmas');
  expect(screen.getByRole('heading', { level: 2 })).toHaveTextContent('Into which calendar?');
  await userEvent.selectOptions(screen.getByLabelText('Calendar'), 'bb');
  await userEvent.type(line(), '{Enter}');
  await waitFor(() => expect(useDraft.getState().openFor).toBeNull());
  expect(sent(school)).toMatchObject([
    [
      {
        calendarId: 'bb',
        item: { title: 'Swim', repeat: { rule: 'FREQ=WEEKLY;BYDAY=MO,WE;UNTIL=20261225T235959Z' } },
      },
    ],
  ]);
});

test('what is missing is said at its field, all of it at once, and nothing is sent', async () => {
  const school = await draw();
  await add();
  expect(screen.getByLabelText('What')).toHaveAccessibleDescription('Say what it is.');
  expect(screen.getByLabelText('Calendar')).toHaveAccessibleDescription('Choose a calendar.');
  await userEvent.type(screen.getByLabelText('What'), 'Cello');
  await userEvent.click(screen.getByRole('radio', { name: 'somewhere to be' }));
  await typeInto('From', '1600');
  await typeInto('To', '1500');
  await userEvent.selectOptions(screen.getByLabelText('Calendar'), 'Home');
  await add();
  expect(await picker('To')).toHaveAccessibleDescription(/The end comes after the beginning\.$/);
  expect(screen.getByLabelText('What')).not.toHaveAttribute('aria-invalid');
  expect(school.changes).toEqual([]);
});

test('what was begun is taken up again, at the day that is meant now; the calendar last used for its kind is chosen', async () => {
  await draw();
  await userEvent.type(screen.getByLabelText('What'), 'Varnish');
  await userEvent.selectOptions(screen.getByLabelText('Calendar'), 'Boatbuilding');
  act(() => useDraft.getState().close());
  act(() => useDraft.getState().begin('juno', { day: '2026-10-13' }));
  await waitFor(async () => expect(await shownIn('Due on')).toBe('13/10/2026'));
  expect(screen.getByLabelText('What')).toHaveValue('Varnish');
  await add();
  await waitFor(() => expect(useDraft.getState().of['juno']!.lastUsed).toEqual({ do: 'bb' }));
  act(() => useDraft.getState().begin('juno', { day: '2026-10-14' }));
  await waitFor(async () => expect(await shownIn('Due on')).toBe('14/10/2026'));
  expect(screen.getByLabelText('What')).toHaveValue('');
  expect(screen.getByLabelText('Calendar')).toHaveDisplayValue('Boatbuilding');
});

test('a repeat is said back with its next dates, and leaves out a break', async () => {
  const school = await draw({ occurrences: [BREAK] });
  await userEvent.type(screen.getByLabelText('What'), 'Rehearsal');
  await userEvent.selectOptions(screen.getByLabelText('Calendar'), 'Home');
  await userEvent.selectOptions(screen.getByLabelText('Repeats'), 'every week');
  const said = screen.getByRole('status', { name: 'What repeats' });
  expect(said).toHaveTextContent('every Friday');
  expect(said).toHaveTextContent('Fri 23 Oct, Fri 30 Oct, Fri 6 Nov');
  await userEvent.click(screen.getByRole('checkbox', { name: /days off/ }));
  expect(said).toHaveTextContent('Fri 23 Oct, Fri 6 Nov');
  await add();
  await waitFor(() => expect(sent(school)).toHaveLength(1));
  expect(sent(school)[0]).toMatchObject([
    { item: { repeat: { rule: 'FREQ=WEEKLY;BYDAY=FR', except: [{ kind: 'date', date: '2026-10-30' }] } } },
  ]);
});

test('where the server refuses, its words stand and nothing typed is lost', async () => {
  await draw({
    answers: {
      '/api/learners/juno/own': new Refused(422, {
        title: 'It never comes up.',
        remedy: 'Choose other days.',
      }),
    },
  });
  await userEvent.type(line(), 'home tidy up sat{Enter}');
  expect(await screen.findByText('It never comes up.')).toBeInTheDocument();
  expect(screen.getByLabelText('What')).toHaveValue('Tidy up');
  expect(useDraft.getState()).toMatchObject({
    openFor: 'juno',
    of: { juno: { draft: { fields: { title: 'Tidy up' } } } },
  });
});

describe('one that repeats', () => {
  const tuesday = { kind: 'instant', at: '2026-10-06T15:00:00Z', zone: 'Europe/Dublin' } as const;
  const next = { ...tuesday, at: '2026-10-13T15:00:00Z' };
  const item = {
    kind: 'lesson',
    handIn: 'nothing',
    title: 'Cello',
    place: 'Hall',
    details: '',
    when: tuesday,
    end: { ...tuesday, at: '2026-10-06T15:45:00Z' },
    repeat: { rule: 'FREQ=WEEKLY;BYDAY=TU', except: [] },
    changes: [],
  } as const;
  const editing = {
    id: 'cello',
    version: 4,
    calendarId: 'hm',
    item: { ...item, repeat: { ...item.repeat, except: [] }, changes: [] },
    of: next,
  };

  test('is changed on one date alone, unless more is meant', async () => {
    const school = await draw({}, { editing });
    expect(screen.getByRole('heading', { level: 2 })).toHaveTextContent('Change in Home');
    expect(await shownIn('On')).toBe('13/10/2026');
    await userEvent.clear(screen.getByLabelText('Where'));
    await userEvent.type(screen.getByLabelText('Where'), 'Chapel');
    await userEvent.click(screen.getByRole('button', { name: 'Save the change' }));
    await waitFor(() => expect(sent(school)).toHaveLength(1));
    expect(sent(school)[0]).toMatchObject([
      {
        id: 'cello',
        version: 4,
        item: { place: 'Hall', when: tuesday, changes: [{ of: next, place: 'Chapel' }] },
      },
    ]);
  });

  test('is taken away from a date on', async () => {
    const school = await draw({}, { editing });
    await userEvent.selectOptions(screen.getByLabelText('Change'), 'this date and all later ones');
    await userEvent.click(screen.getByRole('button', { name: 'Delete' }));
    await waitFor(() => expect(sent(school)).toHaveLength(1));
    expect(sent(school)[0]).toMatchObject([
      { id: 'cello', item: { when: tuesday, repeat: { rule: expect.stringContaining('UNTIL=') as string } } },
    ]);
    expect(within(document.body).queryByLabelText('What')).not.toBeInTheDocument();
  });
});
