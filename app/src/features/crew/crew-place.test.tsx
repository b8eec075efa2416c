import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { CrewView, MemberView } from '@zephyrfield/core/api/crew';
import { useSeeAs } from '@/data/see-as';
import { drawInside } from '../../../test/inside';
import { CERAMICS, Refused, School, learner } from '../../../test/school';
import { CrewPlace } from './crew-place';
import { wordsOf } from './history';

const mockPush = jest.fn();
jest.mock('expo-router', () => ({
  Link: ({ href, children }: { href: string; children: string }) => <a href={href}>{children}</a>,
  router: { push: (to: unknown) => mockPush(to) },
}));

const member = (personId: string, name: string, more: Partial<MemberView> = {}): MemberView => ({
  id: `member-${personId}`,
  personId,
  name,
  access: 'edit',
  isSelf: false,
  since: '2026-09-01T10:00:00.000Z',
  ...more,
});
const CREW: CrewView = {
  members: [member('p', 'Maren Lindqvist', { access: 'keep' }), member('a', 'Anselm Okonjo')],
  invitations: [
    {
      id: 'i1',
      way: 'code',
      email: null,
      access: 'look',
      asLearner: false,
      by: 'Maren Lindqvist',
      usesLeft: 1,
      used: 0,
      created: '2026-10-05T10:00:00.000Z',
      expires: '2026-10-19T10:00:00.000Z',
      state: 'open',
    },
  ],
  history: [{ at: '2026-09-07T10:00:00.000Z', kind: 'came', by: 'Anselm Okonjo', about: '', access: 'look' }],
};

async function draw(access: 'look' | 'keep', answers: Record<string, unknown> = {}): Promise<School> {
  const school = new School({
    session: { learners: [{ ...learner, access }] },
    calendars: [CERAMICS],
    answers: {
      '/api/learners/juno/crew': access === 'keep' ? CREW : { ...CREW, invitations: [], history: [] },
      '/api/members/member-a': { ok: true },
      '/api/invitations/i1': { ok: true },
      '/api/calendars/ce/audience': CERAMICS,
      '/api/invitations': { secret: 'K7MT4PWC' },
      ...answers,
    },
  });
  await drawInside(<CrewPlace />);
  return school;
}

test('a keeper invites: what it comes to is said before, and the code is told once', async () => {
  const school = await draw('keep');
  await userEvent.click(screen.getByRole('button', { name: 'Invite somebody' }));
  const form = screen.getByRole('group', { name: 'Invite somebody' });
  await userEvent.selectOptions(within(form).getByLabelText('They may'), 'tick');
  expect(form).toHaveTextContent('Whoever uses it may look, and tick things off, in the schedule of Juno.');
  await userEvent.click(within(form).getByRole('radio', { name: 'a mail' }));
  await userEvent.click(within(form).getByRole('button', { name: 'Send the invitation' }));
  expect(form).toHaveTextContent('Type a mail address.');
  expect(school.changes).toEqual([]);
  await userEvent.click(within(form).getByRole('radio', { name: 'a code to read out' }));
  await userEvent.click(within(form).getByRole('button', { name: 'Make the code' }));
  expect(await screen.findByText('K7MT 4PWC')).toBeInTheDocument();
  expect(school.changes).toEqual([
    [
      '/api/invitations',
      { learnerIds: ['juno'], way: 'code', access: 'tick', asLearner: false, days: 7, uses: 1 },
    ],
  ]);
  await userEvent.click(screen.getByRole('button', { name: 'Show it large' }));
  expect(screen.getByRole('dialog', { name: 'The code, large' })).toHaveTextContent('K7MT');
});

test('a keeper changes what somebody may do, and is told where that cannot be', async () => {
  const school = await draw('keep', {
    '/api/members/member-p': new Refused(409, {
      title: 'Somebody has to keep this schedule.',
      remedy: 'Make somebody else its keeper first.',
    }),
  });
  const anselm = screen.getByRole('group', { name: 'Anselm Okonjo' });
  await userEvent.click(within(anselm).getByRole('button', { name: 'Change Anselm Okonjo' }));
  await userEvent.selectOptions(within(anselm).getByLabelText('Anselm Okonjo may'), 'look');
  await waitFor(() => expect(school.changes).toEqual([['/api/members/member-a', { access: 'look' }]]));
  const own = screen.getByRole('group', { name: 'Maren Lindqvist' });
  await userEvent.click(within(own).getByRole('button', { name: 'Change Maren Lindqvist' }));
  await userEvent.click(within(own).getByRole('button', { name: 'Leave this crew' }));
  await userEvent.click(within(own).getByRole('button', { name: 'Yes, leave' }));
  expect(await within(own).findByText('Make somebody else its keeper first.')).toBeInTheDocument();
});

test('a calendar is kept from the others, in words that say for whom it is', async () => {
  const school = await draw('keep');
  const line = screen.getByRole('group', { name: 'Ceramics Studio' });
  expect(line).toHaveTextContent('everybody in the crew');
  await userEvent.click(within(line).getByRole('button', { name: 'Change who sees Ceramics Studio' }));
  await userEvent.click(within(line).getByRole('radio', { name: 'only me' }));
  await userEvent.click(within(line).getByRole('button', { name: 'Save' }));
  await waitFor(() =>
    expect(school.changes).toEqual([
      ['/api/calendars/ce/audience', { audience: { members: [], others: 'busy' } }],
    ]),
  );
});

test('seeing it as somebody does asks with their eyes from then on, and leads to Today', async () => {
  await draw('keep');
  await userEvent.click(screen.getByRole('button', { name: 'See it as Anselm Okonjo does' }));
  await waitFor(() => expect(mockPush).toHaveBeenCalledWith('/today'));
  expect(useSeeAs.getState().as).toMatchObject({ memberId: 'member-a', learnerId: 'juno' });
  useSeeAs.setState({ as: null });
});

test('who may only look sees who is there and can leave, and nothing else', async () => {
  await draw('look');
  expect(screen.getByRole('group', { name: 'Anselm Okonjo' })).toHaveTextContent('may edit');
  expect(
    screen.getByText('Maren Lindqvist can invite others and decide what each may do.'),
  ).toBeInTheDocument();
  for (const name of ['Invite somebody', 'Change Anselm Okonjo', 'See it as Anselm Okonjo does'])
    expect(screen.queryByRole('button', { name })).toBeNull();
  expect(screen.queryByText('Who sees what')).toBeNull();
  expect(screen.getByRole('button', { name: 'Leave this crew' })).toBeInTheDocument();
});

test('what happened is said as a sentence, whatever it was', () => {
  const base = { at: '2026-09-07T10:00:00.000Z', by: 'Maren', about: 'Anselm', access: 'edit' } as const;
  expect(wordsOf({ ...base, kind: 'invited', about: 'code' })).toBe(
    'Maren invited somebody by a code (may edit).',
  );
  expect(wordsOf({ ...base, kind: 'changed' })).toBe('Maren changed what Anselm may do: may edit.');
  expect(wordsOf({ ...base, kind: 'takenBack', about: 'a@b.example' })).toBe(
    'Maren took back an invitation to a@b.example.',
  );
});
