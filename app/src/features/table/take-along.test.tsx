import type { LearnerRow } from '@zephyrfield/core/api/table';
import { ianaZone } from '@zephyrfield/core/time/zone';
import { act, fireEvent, render, screen } from '@testing-library/react';
import { TakeAlong } from './take-along';

const ROW: LearnerRow = {
  learnerId: 'emeka',
  name: 'Emeka Sørlie',
  weeks: [150],
  ...{ pastDue: 2, unsettled: 0, notOpened: 0, behind: 0, dueSoon: 0, unread: 0 },
  next: null,
  score: 20,
  reasons: ['2 past due'],
};
const writeText = jest.fn();
const draw = (rows: LearnerRow[]) =>
  render(
    <TakeAlong
      rows={rows}
      weeks={[{ start: '2026-10-05', name: 'Studio week' }]}
      viewer={ianaZone('Europe/Dublin')!}
    />,
  );
const copy = () =>
  act(async () => void fireEvent.click(screen.getByRole('button', { name: 'Copy as text' })));

beforeEach(() => Object.defineProperty(navigator, 'clipboard', { value: { writeText }, configurable: true }));

test('what is shown is copied in words, and it is said whether that went well', async () => {
  writeText.mockResolvedValueOnce(undefined).mockRejectedValueOnce(new Error('no'));
  draw([ROW]);
  await copy();
  expect(writeText).toHaveBeenCalledWith(expect.stringContaining('Emeka Sørlie: 2 past due.'));
  expect(screen.getByRole('status')).toHaveTextContent('Copied');
  await copy();
  expect(screen.getByRole('status')).toHaveTextContent(
    'Couldn’t copy. Select the text and copy it yourself.',
  );
});

test('of nobody there is nothing to take along', () => {
  draw([]);
  for (const button of screen.getAllByRole('button')) expect(button).toBeDisabled();
});
