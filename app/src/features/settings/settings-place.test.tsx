import { shownIn, typeInto } from '../../../test/pickers';
import { versionOf } from '@zephyrfield/core/lib/version';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { DEFAULT_SETTINGS } from '@zephyrfield/core/view/settings';
import { drawInside } from '../../../test/inside';
import { Refused, School, calendar, learner, work } from '../../../test/school';
import { SettingsPlace } from './settings-place';

jest.mock('expo-router', () => ({ Link: ({ children }: { children: unknown }) => children }));

const SCHOOL = calendar('sh', 'School', 'SH', { kind: 'school' });
const allDay = (title: string, from: string, to: string, kind: 'reminder' | 'dayOff') =>
  work(title, `${from}T00:00:00Z`, {
    calendarId: 'sh',
    kind,
    handIn: 'nothing',
    due: null,
    start: { kind: 'date', date: from },
    end: { kind: 'date', date: to },
  });
const BEGINS = allDay('Term begins', '2026-08-31', '2026-09-01', 'reminder');
const STUDIO_WEEK = allDay('Studio week', '2026-10-05', '2026-10-10', 'reminder');
const BREAK = allDay('Mid-term break', '2026-10-26', '2026-10-31', 'dayOff');

async function draw(given: ConstructorParameters<typeof School>[0] = {}): Promise<School> {
  const school = new School({ answers: { '/api/settings': DEFAULT_SETTINGS }, ...given });
  await drawInside(<SettingsPlace />);
  return school;
}
const chosen = (group: string, name: string) =>
  expect(
    within(screen.getByRole('radiogroup', { name: group })).getByRole('radio', { name }),
  ).toHaveAttribute('aria-checked', 'true');

test('a choice is saved as it is made, and shows at once in everything that tells the time', async () => {
  const school = await draw();
  chosen('Hours', '16:10');
  expect(
    within(screen.getByLabelText('Show hours from')).getByRole('option', { name: '08:00' }),
  ).toBeInTheDocument();
  await userEvent.click(screen.getByRole('radio', { name: '4:10 pm' }));
  expect(school.changes).toEqual([['/api/settings', { ...DEFAULT_SETTINGS, hours: 12 }]]);
  chosen('Hours', '4:10 pm');
  expect(
    within(screen.getByLabelText('Show hours from')).getByRole('option', { name: '8:00 am' }),
  ).toBeInTheDocument();
});

test('a field is saved when it is left; one more choice goes on from it', async () => {
  const school = await draw();
  const ahead = screen.getByLabelText('Days ahead in “Next up”');
  await userEvent.clear(ahead);
  await userEvent.type(ahead, '14');
  expect(school.changes).toEqual([]);
  await userEvent.tab();
  expect(school.changes).toEqual([['/api/settings', { ...DEFAULT_SETTINGS, ahead: 14 }]]);
  await userEvent.click(screen.getByRole('radio', { name: 'Sunday' }));
  expect(school.changes[1]).toEqual(['/api/settings', { ...DEFAULT_SETTINGS, ahead: 14, firstDay: 7 }]);
});

test.each([
  ['Days ahead in “Next up”', '0'],
  ['Days ahead in “Next up”', 'soon'],
])('%s: %s is told at its field, and nothing is sent', async (label, text) => {
  const school = await draw();
  const field = screen.getByLabelText(label);
  await userEvent.clear(field);
  await userEvent.type(field, `${text}{Enter}`);
  const alert = await screen.findByRole('alert');
  expect(alert.textContent).not.toBe('');
  expect(screen.getByLabelText(label)).toHaveAccessibleDescription(alert.textContent!);
  expect(screen.getByLabelText(label)).toHaveValue(text);
  expect(school.changes).toEqual([]);
});

test('a day that would end before it begins is not saved', async () => {
  const school = await draw();
  await userEvent.selectOptions(screen.getByLabelText('to'), String(DEFAULT_SETTINGS.dayFrom - 1));
  expect(await screen.findByRole('alert')).toBeInTheDocument();
  expect(school.changes).toEqual([]);
});

test('what the server refuses is taken back, with its words', async () => {
  await draw({
    answers: {
      '/api/settings': new Refused(503, {
        title: 'Settings cannot be written just now.',
        remedy: 'Try again in a minute.',
      }),
    },
  });
  await userEvent.click(screen.getByRole('radio', { name: 'dark' }));
  expect(await screen.findByText('Settings cannot be written just now.')).toBeInTheDocument();
  chosen('Light or dark', 'as the device');
});

test('the term is taken from the school’s calendar where it says one, and may be typed over', async () => {
  const school = await draw({
    calendars: [SCHOOL],
    occurrences: [BEGINS, STUDIO_WEEK, BREAK],
    answers: { '/api/learners/juno/term': { ok: true } },
  });
  const term = screen.getByRole('group', { name: 'The term' });
  expect(term).toHaveTextContent('Monday 31 August to Friday 18 December, from the school’s calendar');
  expect(term).toHaveTextContent('Mid-term break: Mon 26 Oct to Fri 30 Oct');
  await userEvent.click(within(term).getByRole('button', { name: 'Enter it' }));
  await userEvent.click(within(term).getByRole('button', { name: 'Save the term' }));
  await waitFor(() => expect(school.changes).toHaveLength(1));
  expect(school.changes[0]).toMatchObject([
    '/api/learners/juno/term',
    {
      term: {
        names: [{ name: 'Studio week', day: '2026-10-05' }],
        breaks: [{ name: 'Mid-term break', from: '2026-10-26', to: '2026-10-30' }],
      },
    },
  ]);
});

test('a time zone is searched for by city, offset or name, and can be the learner’s again', async () => {
  const school = await draw();
  const search = async (text: string) => {
    await userEvent.click(await screen.findByRole('button', { name: 'Your time zone' }));
    await userEvent.type(screen.getByRole('searchbox', { name: 'Search: Your time zone' }), text);
  };
  await search('new zealand');
  await userEvent.click(await screen.findByRole('option', { name: /^Auckland/ }));
  await waitFor(() =>
    expect(school.changes.at(-1)).toMatchObject(['/api/settings', { zone: 'Pacific/Auckland' }]),
  );
  await search('utc+5:30');
  expect(await screen.findByRole('option', { name: /^(Kolkata|Calcutta)/ })).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: /^Use Juno’s own/ }));
  await waitFor(() => expect(school.changes.at(-1)).toMatchObject(['/api/settings', { zone: null }]));
});

test('a term that somebody else has changed meanwhile is not written over unseen; what was typed stays, and can be', async () => {
  const path = '/api/learners/juno/term';
  const answers: Record<string, unknown> = {
    [path]: new Refused(409, { title: 'Somebody else changed this a moment ago.' }),
  };
  const school = await draw({ calendars: [SCHOOL], occurrences: [BEGINS], answers });
  const term = screen.getByRole('group', { name: 'The term' });
  await userEvent.click(within(term).getByRole('button', { name: 'Enter it' }));
  await typeInto('It ends', '20122026', term);
  const theirs = { start: '2026-09-07', end: '2026-12-11', names: [], breaks: [] };
  school.given.session = { learners: [{ ...learner, term: theirs }] };
  await userEvent.click(within(term).getByRole('button', { name: 'Save the term' }));
  expect(await within(term).findByText('Somebody else changed this a moment ago.')).toBeInTheDocument();
  await waitFor(() =>
    expect(term).toHaveTextContent('Monday 7 September to Friday 11 December, entered by hand'),
  );
  expect(await shownIn('It ends', term)).toBe('20/12/2026');
  answers[path] = { ok: true };
  await userEvent.click(within(term).getByRole('button', { name: 'Save the term' }));
  await waitFor(() => expect(school.changes).toHaveLength(2));
  expect(school.changes).toMatchObject([
    [path, { term: { end: '2026-12-20' }, version: null }],
    [path, { term: { end: '2026-12-20' }, version: versionOf(theirs) }],
  ]);
});

test('who may only look can change how they see it, and not the term', async () => {
  await draw({ session: { learners: [{ ...learner, access: 'look' }] } });
  expect(screen.getByRole('radiogroup', { name: 'Hours' })).toBeInTheDocument();
  expect(screen.getByRole('group', { name: 'The term' })).toHaveTextContent('No term yet.');
  expect(screen.queryByRole('button', { name: 'Enter it' })).not.toBeInTheDocument();
});
