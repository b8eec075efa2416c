import type { CalendarView, Learner, SourceView } from '@zephyrfield/core/api/schemas';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { SourceLine } from './source-line';

const NOW = Date.parse('2026-10-06T15:10:00Z');
const learner: Learner = {
  id: 'l',
  name: 'Juno',
  zone: 'Europe/Dublin',
  access: 'edit',
  isSelf: false,
  term: null,
  reminders: null,
};
const calendar: CalendarView = {
  id: 'c',
  learnerId: 'l',
  name: 'Ceramics',
  kind: 'course',
  category: '',
  colour: 'rose',
  flag: { shape: 'square', pattern: 'dot', letters: 'CE' },
  zone: 'Europe/Dublin',
  position: 1,
  handMade: false,
  reminders: null,
  alarms: 'ignore',
  audience: null,
  madeBy: null,
};
const source: SourceView = {
  id: 's',
  calendarIds: ['c'],
  kind: 'followedLink',
  split: null,
  sections: [],
  newSections: [],
  records: 0,
  address: 'school.example/…/ceramics.ics',
  entries: 27,
  lastChecked: '2026-10-06T14:10:00.000Z',
  lastGood: '2026-10-06T14:10:00.000Z',
  trouble: null,
  heldBack: null,
  nextCheck: '2026-10-06T16:00:00.000Z',
  warnings: [],
};

function show(changes: Partial<SourceView> = {}, mayEdit = true, calendars = [calendar]) {
  render(
    <QueryClientProvider client={new QueryClient()}>
      <SourceLine
        source={{ ...source, ...changes }}
        calendars={calendars}
        learner={learner}
        mayEdit={mayEdit}
        now={NOW}
        onNewerCopy={() => {}}
      />
    </QueryClientProvider>,
  );
}

test('one line says whose it is and how fresh', () => {
  show();
  expect(screen.getByText('Followed link, live · 27 entries · checked 1 hour ago')).toBeInTheDocument();
});

test('trouble says since when, from when what is seen is, and what to do', () => {
  show({
    trouble: {
      code: 'webPage',
      message: 'That is a web page, not a calendar.',
      remedy: 'Look for a feed.',
      since: '2026-10-06T12:10:00.000Z',
    },
  });
  expect(screen.getByRole('status')).toHaveTextContent(
    'That is a web page, not a calendar.Since 3 hours ago. What you see is from 1 hour ago; nothing is lost. Look for a feed.',
  );
});

test('a held-back loss is counted, and a person can say that it is right', async () => {
  const asked = jest.fn(
    async () =>
      ({
        ok: true,
        status: 200,
        json: async () => ({ source, unchanged: false, added: 0, changed: 0, gone: 20 }),
      }) as Response,
  );
  globalThis.fetch = asked;
  show({ heldBack: { since: '2026-10-06T14:10:00.000Z', missing: 20, of: 22 } });
  expect(screen.getByText('The last reading had lost 20 of 22 entries still to come.')).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: 'They are really gone' }));
  expect(asked).toHaveBeenCalledWith(
    '/api/sources/s/reading',
    expect.objectContaining({ method: 'POST', body: '{"confirm":true}' }),
  );
});

const unfold = () => userEvent.click(screen.getByRole('button', { name: 'More about Ceramics' }));

test('stopping asks first, and says what goes and what stays', async () => {
  show({ records: 3 });
  await unfold();
  await userEvent.click(screen.getByRole('button', { name: 'Stop following Ceramics' }));
  expect(screen.getByText(/Its entries go; the 3 things ticked off or noted in it stay/)).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: 'Keep it' }));
  expect(screen.getByRole('button', { name: 'Stop following Ceramics' })).toBeInTheDocument();
});

test('who may not edit has nothing to press but what unfolds it', async () => {
  show({ nextCheck: null, warnings: [{ line: 12, message: 'DTSTART is no date that exists' }] }, false);
  await unfold();
  expect(screen.queryAllByRole('button').map((b) => b.getAttribute('aria-label'))).toEqual([
    'Less about Ceramics',
  ]);
  expect(screen.getByText(/paused, last checked 1 hour ago/)).toBeInTheDocument();
  expect(screen.getByText(/Line 12: DTSTART is no date that exists/)).toBeInTheDocument();
});

test('a one-time file is plainly a copy of its day', () => {
  show({ kind: 'oneTimeFile', address: 'ceramics.ics', nextCheck: null });
  expect(
    screen.getByText('One-time file, copy of Tue 6 Oct, does not update · 27 entries'),
  ).toBeInTheDocument();
  expect(screen.queryByRole('button', { name: /Check|Pause/ })).toBeNull();
  expect(screen.getByRole('button', { name: 'Read a newer copy of Ceramics' })).toBeInTheDocument();
});

test('of a split source each calendar is listed with its count, and what is new is said until it is seen', async () => {
  const asked = jest.fn(async () => ({ ok: true, status: 200, json: async () => source }) as Response);
  globalThis.fetch = asked;
  const glaze = { ...calendar, id: 'd', name: 'Glaze' };
  show(
    {
      calendarIds: ['c', 'd'],
      split: { by: 'endTag' },
      newSections: ['Glaze'],
      sections: [
        { section: 'CE', calendarId: 'c', count: 20 },
        { section: 'Glaze', calendarId: 'd', count: 7 },
      ],
    },
    true,
    [calendar, glaze],
  );
  await userEvent.click(screen.getByRole('button', { name: /^More about/ }));
  expect(screen.getByText('Split by the tag at the end of the title')).toBeInTheDocument();
  expect(screen.getByRole('button', { name: 'Change Glaze' })).toBeInTheDocument();
  expect(
    screen.getByText('New in this source: “Glaze”, 7 entries, now the calendar Glaze.'),
  ).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: 'That is right' }));
  expect(asked).toHaveBeenCalledWith(
    '/api/sources/s',
    expect.objectContaining({ method: 'PATCH', body: '{"sectionsSeen":true}' }),
  );
});
