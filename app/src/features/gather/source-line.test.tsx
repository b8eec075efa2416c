import type { CalendarView, Learner, SourceView } from '@zephyrfield/core/api/schemas';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { SourceLine } from './source-line';

const NOW = Date.parse('2026-10-06T15:10:00Z');
const learner: Learner = { id: 'l', name: 'Juno', zone: 'Europe/Dublin', access: 'edit' };
const calendar: CalendarView = { id: 'c', learnerId: 'l', name: 'Ceramics', sort: 'course', colour: 'rose', flag: { shape: 'square', pattern: 'dot', letters: 'CE' }, position: 1 };
const source: SourceView = {
  id: 's', calendarId: 'c', kind: 'followedLink', address: 'school.example/…/ceramics.ics', entries: 27, lastChecked: '2026-10-06T14:10:00.000Z', lastGood: '2026-10-06T14:10:00.000Z',
  trouble: null, heldBack: null, nextCheck: '2026-10-06T16:00:00.000Z', warnings: [],
}; // prettier-ignore

function show(changes: Partial<SourceView> = {}, mayEdit = true) {
  render(
    <QueryClientProvider client={new QueryClient()}>
      <SourceLine source={{ ...source, ...changes }} calendar={calendar} learner={learner} mayEdit={mayEdit} now={NOW} />
    </QueryClientProvider>,
  );
}

test('one line says whose it is and how fresh', () => {
  show();
  expect(screen.getByText('Live link · 27 entries · checked 1 hour ago')).toBeInTheDocument();
});

test('trouble says since when, from when what is seen is, and what to do', () => {
  show({ trouble: { code: 'webPage', message: 'That is a web page, not a calendar.', remedy: 'Look for a feed.', since: '2026-10-06T12:10:00.000Z' } });
  expect(screen.getByRole('status')).toHaveTextContent('That is a web page, not a calendar.Since 3 hours ago. What you see is from 1 hour ago; nothing is lost. Look for a feed.');
});

test('a held-back loss is counted, and a person can say that it is right', async () => {
  const asked = jest.fn(async () => ({ ok: true, status: 200, json: async () => ({ source, unchanged: false, added: 0, changed: 0, gone: 20 }) }) as Response);
  globalThis.fetch = asked;
  show({ heldBack: { since: '2026-10-06T14:10:00.000Z', missing: 20, of: 22 } });
  expect(screen.getByText('The last reading had lost 20 of 22 entries still to come.')).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: 'They are really gone' }));
  expect(asked).toHaveBeenCalledWith('/api/sources/s/reading', expect.objectContaining({ method: 'POST', body: '{"confirm":true}' }));
});

test('stopping asks first, and says what goes', async () => {
  show();
  await userEvent.click(screen.getByRole('button', { name: 'Stop following Ceramics' }));
  expect(screen.getByText(/what was ticked off in it go/)).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: 'Keep it' }));
  expect(screen.getByRole('button', { name: 'Stop following Ceramics' })).toBeInTheDocument();
});

test('who may not edit has nothing to press', () => {
  show({ nextCheck: null, warnings: [{ line: 12, message: 'DTSTART is no date that exists' }] }, false);
  expect(screen.queryAllByRole('button')).toHaveLength(0);
  expect(screen.getByText(/paused, last checked 1 hour ago/)).toBeInTheDocument();
  expect(screen.getByText(/Line 12: DTSTART is no date that exists/)).toBeInTheDocument();
});
