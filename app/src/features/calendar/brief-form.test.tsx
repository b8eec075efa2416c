import { useBriefDrafts } from '@/data/brief-draft';
import { versionOf } from '@zephyrfield/core/lib/version';
import type { Brief } from '@zephyrfield/core/api/own';
import type { ItemView } from '@zephyrfield/core/api/schemas';
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useEffect, useState } from 'react';
import { NO_BRIEF } from '@/data/briefs';
import { drawInside } from '../../../test/inside';
import { Refused, School, work } from '../../../test/school';
import { BriefForm } from './brief-form';

const SHARED: Brief = { ...NO_BRIEF, aim: 'See the tide turn', steps: '- read' };
const item = (brief: Brief | null) =>
  ({
    occurrence: work('Tide tables', '2026-10-09T15:00:00Z'),
    brief: { shared: brief, ofDate: null, files: [] },
    alike: { count: 3, words: 'Tide tables' },
    description: [],
    links: [],
  }) as unknown as ItemView;
const PATH = '/api/items/tide-tables/brief';

/** Changes what stands on the server, as somebody else would. */
const server = { tell: (_brief: Brief | null) => {} };
const done = jest.fn();
function Written({ first }: { first: Brief | null }) {
  const [brief, setBrief] = useState(first);
  useEffect(() => {
    server.tell = setBrief;
  }, []);
  return <BriefForm item={item(brief)} learnerId="juno" passages={(text) => <p>{text}</p>} onDone={done} />;
}

async function draw(
  first: Brief | null = SHARED,
  answers: Record<string, unknown> = { [PATH]: { before: [] } },
): Promise<School> {
  done.mockClear();
  const school = new School({
    answers: {
      '/api/briefs': [{ id: 'k', name: 'Lab log', brief: { ...NO_BRIEF, good: 'A drawing with units' } }],
      ...answers,
    },
  });
  await drawInside(<Written first={first} />);
  return school;
}
const part = (name: string) => screen.getByLabelText(name);
const save = () => userEvent.click(screen.getByRole('button', { name: 'Save the brief' }));

beforeEach(() => useBriefDrafts.setState({ of: {} }));

test('it is written over what it was begun from, for what it is meant', async () => {
  const school = await draw();
  await userEvent.type(part('Getting help'), 'Ask at nine');
  await userEvent.selectOptions(part('It is for'), 'all 3 like it (“Tide tables”)');
  await save();
  await waitFor(() => expect(done).toHaveBeenCalled());
  expect(school.changes).toEqual([
    [
      PATH,
      {
        recurrenceId: '',
        brief: { ...SHARED, help: 'Ask at nine' },
        version: versionOf(SHARED),
        alike: true,
      },
    ],
  ]);
});

test('emptied, there is none', async () => {
  const school = await draw();
  await userEvent.clear(part('Aim'));
  await userEvent.clear(part('Steps'));
  await save();
  await waitFor(() =>
    expect(school.changes).toMatchObject([[PATH, { brief: null, version: versionOf(SHARED) }]]),
  );
});

test('a brief that was kept begins it', async () => {
  await draw(null);
  await userEvent.selectOptions(screen.getByLabelText('Start from a template'), 'Lab log');
  expect(part('What good looks like')).toHaveValue('A drawing with units');
});

test('somebody else writes it meanwhile: theirs is shown where it differs, and mine goes over it only when that is meant', async () => {
  const school = await draw();
  await userEvent.type(part('Aim'), ', twice');
  const theirs = { ...SHARED, aim: 'See **high water**' };
  await waitFor(
    () => (
      server.tell(theirs),
      expect(screen.getByText('Somebody else has written this brief meanwhile.')).toBeInTheDocument()
    ),
  );
  const notice = screen.getByText('Somebody else has written this brief meanwhile.').parentElement!;
  expect(within(notice).getByText('See **high water**')).toBeInTheDocument();
  expect(within(notice).queryByText('- read')).not.toBeInTheDocument();
  expect(screen.queryByRole('button', { name: 'Save the brief' })).not.toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: 'Keep mine' }));
  expect(part('Aim')).toHaveValue('See the tide turn, twice');
  await save();
  await waitFor(() =>
    expect(school.changes).toMatchObject([
      [PATH, { brief: { aim: 'See the tide turn, twice' }, version: versionOf(theirs) }],
    ]),
  );
});

test('or theirs is taken', async () => {
  await draw();
  await userEvent.type(part('Aim'), '!');
  await waitFor(
    () => (server.tell(null), expect(screen.getByRole('button', { name: 'Use theirs' })).toBeInTheDocument()),
  );
  await userEvent.click(screen.getByRole('button', { name: 'Use theirs' }));
  expect(part('Aim')).toHaveValue('');
  expect(screen.getByRole('button', { name: 'Save the brief' })).toBeInTheDocument();
});

test('what is refused is said, and what was typed stays', async () => {
  await draw(SHARED, {
    [PATH]: new Refused(503, { title: 'It cannot be written just now.', remedy: 'Try again in a minute.' }),
  });
  await userEvent.type(part('Aim'), '!');
  await save();
  expect(await screen.findByText('It cannot be written just now.')).toBeInTheDocument();
  expect(part('Aim')).toHaveValue('See the tide turn!');
  expect(done).not.toHaveBeenCalled();
});

test('what is typed and not saved is there again after going back, until it is saved or cancelled', async () => {
  await draw();
  await userEvent.type(part('Getting help'), 'Ask at nine');
  cleanup();
  await draw();
  expect(part('Getting help')).toHaveValue('Ask at nine');
  await userEvent.click(screen.getByRole('button', { name: 'Cancel' }));
  cleanup();
  await draw();
  expect(part('Getting help')).toHaveValue('');
});
