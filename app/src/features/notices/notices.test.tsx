import type { NoticeView } from '@zephyrfield/core/api/notify';
import { typeInto } from '../../../test/pickers';
import { DEFAULT_NOTICE_SETTINGS } from '@zephyrfield/core/notify/settings';
import { DEFAULT_SETTINGS } from '@zephyrfield/core/view/settings';
import { QueryClientProvider } from '@tanstack/react-query';
import { render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { queryClient } from '@/data/queries';
import { NewsPlace } from './news-place';
import { NoticeSettingsPlace } from './notice-settings-place';

let mockAsked: { show?: string } = {};
// The addresses are the router's, which has no page here.
jest.mock('expo-router', () => ({
  Link: ({ children }: { children: unknown }) => children,
  router: { push: jest.fn() },
  useLocalSearchParams: () => mockAsked,
}));

const NOW = '2026-10-06T15:10:00.000Z';
const notice = (id: number, more: Partial<NoticeView> = {}): NoticeView => ({
  id,
  learnerId: 'l',
  kind: 'dueSoon',
  itemId: `i${id}`,
  recurrenceId: '',
  calendarId: 'c',
  title: `Thing ${id}`,
  line: 'Due Wed 7 Oct 16:00',
  at: '2026-10-06T15:00:00.000Z',
  seen: false,
  finished: false,
  isWork: true,
  snoozedUntil: null,
  sheet: null,
  leads: null,
  sort: 'reminder',
  offerId: null,
  ...more,
});
const learner = {
  id: 'l',
  name: 'Juno Lindqvist-Amadi',
  zone: 'Europe/Dublin',
  access: 'edit',
  term: null,
  reminders: null,
};
const calendar = {
  id: 'c',
  learnerId: 'l',
  name: 'Boatbuilding',
  kind: 'course',
  category: '',
  colour: 'rust',
  flag: { shape: 'pennon', pattern: 'bar', letters: 'BB' },
  zone: 'Europe/Dublin',
  position: 1,
  handMade: false,
  reminders: null,
  alarms: 'ignore',
};
const mail = { ready: true, address: 'juno@skerrow.example', confirmed: true, waiting: 0, trouble: null };

type Asked = [path: string, body: unknown];
/** A server that answers from what it is given, and what it was asked to change. */
function server(answers: Record<string, unknown>): Asked[] {
  const asked: Asked[] = [];
  const all: Record<string, unknown> = {
    '/api/session': {
      person: { id: 'p', name: 'Juno', email: 'j' },
      settings: DEFAULT_SETTINGS,
      learners: [learner],
      empty: false,
      open: false,
      demo: false,
      now: NOW,
    },
    '/api/learners/l/calendars': [calendar],
    '/api/notice-settings': { noticeSettings: DEFAULT_NOTICE_SETTINGS, mail },
    '/api/learners/l/occurrences': [],
    ...answers,
  };
  globalThis.fetch = jest.fn(async (path: string, init?: RequestInit) => {
    const name = String(path).split('?')[0]!;
    const body = init?.body ? (JSON.parse(String(init.body)) as unknown) : undefined;
    if (init?.method && init.method !== 'GET') asked.push([name, body]);
    const reply =
      name === '/api/notice-settings' && body ? { noticeSettings: body, mail } : (all[name] ?? { ok: true });
    return { ok: true, status: 200, json: async () => reply } as Response;
  }) as never;
  return asked;
}
async function show(place: React.ReactNode): Promise<void> {
  queryClient.clear();
  await queryClient.fetchQuery({
    queryKey: ['session'],
    queryFn: async () => (await fetch('/api/session')).json() as Promise<unknown>,
  });
  render(<QueryClientProvider client={queryClient}>{place}</QueryClientProvider>);
}

test('what was not seen stands first; seen one by one it goes down', async () => {
  const list = [notice(3, { seen: true }), notice(2), notice(1, { kind: 'pastDue', title: 'Log' })];
  const asked = server({ '/api/notices': { notices: list, unseen: 2 } });
  await show(<NewsPlace />);
  const unseen = await screen.findByRole('group', { name: 'Not seen yet' });
  expect(screen.getByText('2 not seen yet')).toBeVisible();
  expect(
    within(unseen)
      .getAllByRole('group')
      .map((g) => g.getAttribute('aria-label')),
  ).toEqual(['Thing 2', 'Log']);
  await userEvent.click(screen.getByRole('button', { name: 'Seen: Log' }));
  expect(asked).toContainEqual(['/api/notices/seen', { ids: [1] }]);
  await userEvent.click(screen.getByRole('button', { name: 'Mark all as seen' }));
  // All of it, changes and notes too, up to what was in sight.
  await waitFor(() => expect(asked).toContainEqual(['/api/news/seen', { upTo: '2026-10-06T15:00:00.000Z' }]));
});

test('several notes of one thread are one row; the room of reminders has none', async () => {
  const note = (id: number) =>
    notice(id, { sort: 'note', leads: '/notes?thread=t', title: 'Anselm wrote', line: `Words ${id}` });
  const asked = server({ '/api/notices': { notices: [note(5), notice(4), note(3)], unseen: 2 } });
  await show(<NewsPlace />);
  const row = await screen.findByRole('group', { name: 'Anselm wrote' });
  expect(row).toHaveTextContent('“Words 5”');
  expect(row).toHaveTextContent('the latest of 2');
  await userEvent.click(within(row).getByRole('button', { name: 'Seen: Anselm wrote' }));
  expect(asked).toContainEqual(['/api/notices/seen', { ids: [5, 3] }]);
  mockAsked = { show: 'reminders' };
  await show(<NewsPlace />);
  expect(await screen.findAllByRole('group', { name: 'Thing 4' })).not.toHaveLength(0);
  mockAsked = {};
});

test('an offered calendar is taken in where it is told', async () => {
  const offer = notice(6, {
    sort: 'offer',
    offerId: 'o',
    itemId: null,
    isWork: false,
    title: 'Anselm offers a calendar',
    leads: '/gather',
  });
  const open = [
    { id: 'o', by: 'Anselm', name: 'Study Hour', colour: 'pine', flag: calendar.flag, count: 7, next: [] },
  ];
  const asked = server({ '/api/notices': { notices: [offer], unseen: 1 }, '/api/learners/l/offers': open });
  await show(<NewsPlace />);
  await userEvent.click(await screen.findByRole('button', { name: 'Take it in: Anselm offers a calendar' }));
  await waitFor(() =>
    expect(asked).toContainEqual(['/api/offers/o/answer', { take: true, reminders: true }]),
  );
});

test('later: in an hour of the server’s clock, or never again of that calendar', async () => {
  const asked = server({ '/api/notices': { notices: [notice(1)], unseen: 1 } });
  await show(<NewsPlace />);
  await userEvent.click(await screen.findByRole('button', { name: 'Remind me later: Thing 1' }));
  const later = screen.getByRole('group', { name: 'Remind me later of Thing 1' });
  await userEvent.click(within(later).getByRole('button', { name: 'In an hour' }));
  const [, body] = asked.find(([path]) => path === '/api/notices/1/snooze')!;
  expect(Date.parse((body as { until: string }).until)).toBeGreaterThan(0);
  await userEvent.click(await screen.findByRole('button', { name: 'Remind me later: Thing 1' }));
  await userEvent.selectOptions(await screen.findByLabelText('Mute'), 'all of Boatbuilding');
  await waitFor(() =>
    expect(asked).toContainEqual([
      '/api/notice-settings',
      { ...DEFAULT_NOTICE_SETTINGS, muted: { items: [], calendars: ['c'] } },
    ]),
  );
});

test('nothing to tell says what will stand there', async () => {
  server({ '/api/notices': { notices: [], unseen: 0 } });
  await show(<NewsPlace />);
  expect(await screen.findByText(/^Nothing here yet\./)).toBeVisible();
});

test('channels are chosen by kind; quiet hours that never end are refused at their field and saved nowhere', async () => {
  const asked = server({});
  await show(<NoticeSettingsPlace />);
  await userEvent.click(await screen.findByRole('checkbox', { name: 'New work by mail' }));
  await waitFor(() =>
    expect(asked).toContainEqual([
      '/api/notice-settings',
      { ...DEFAULT_NOTICE_SETTINGS, all: { ...DEFAULT_NOTICE_SETTINGS.all, newWork: ['app', 'mail'] } },
    ]),
  );
  const quiet = screen.getByRole('group', { name: 'Quiet hours' });
  await typeInto('To', '2200', quiet);
  await userEvent.tab();
  await userEvent.tab();
  expect(await within(quiet).findByRole('alert')).toHaveTextContent('never end');
  expect(asked).toHaveLength(1);
});

test('trouble with mail is said with what to do; without a mail server the channel is not offered', async () => {
  server({
    '/api/notice-settings': {
      noticeSettings: DEFAULT_NOTICE_SETTINGS,
      mail: {
        ...mail,
        trouble: {
          title: 'Mail to your address came back.',
          remedy: 'Check whether your address is right.',
          since: '2026-10-06T13:10:00.000Z',
        },
      },
    },
  });
  await show(<NoticeSettingsPlace />);
  expect(await screen.findByRole('alert')).toHaveTextContent('Mail to your address came back.');
  server({
    '/api/notice-settings': { noticeSettings: DEFAULT_NOTICE_SETTINGS, mail: { ...mail, ready: false } },
  });
  await show(<NoticeSettingsPlace />);
  expect(
    (await screen.findAllByText('No mail server is set up here, so nothing goes out by mail.'))[0],
  ).toBeVisible();
});
