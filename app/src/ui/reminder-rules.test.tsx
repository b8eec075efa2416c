import { DEFAULT_REMINDERS, type RemindRule } from '@zephyrfield/core/notify/rules';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { typeInto } from '../../test/pickers';
import { ReminderRules } from './reminder-rules';

const shown = (rules: readonly RemindRule[], more: object = {}) => {
  const onChange = jest.fn<void, [RemindRule[]]>();
  render(<ReminderRules label="Reminders" rules={rules} hours={24} onChange={onChange} {...more} />);
  return onChange;
};

test('each rule stands in words and can be taken away; what is there is not offered again', async () => {
  const onChange = shown(DEFAULT_REMINDERS.work);
  expect(screen.getByText('the evening before at 18:00')).toBeVisible();
  expect(screen.queryByRole('option', { name: '3 hours before' })).toBeNull();
  await userEvent.click(screen.getByRole('button', { name: 'No reminder 3 hours before' }));
  expect(onChange).toHaveBeenCalledWith([{ kind: 'day', days: 1, minute: 1080 }]);
});

test('one is added from what is offered, at any length, or (for one item) at a moment', async () => {
  const onChange = shown([], { withMoment: true });
  expect(screen.getByText('No reminder.')).toBeVisible();
  await userEvent.selectOptions(screen.getByLabelText('Add a reminder'), '15 minutes before');
  expect(onChange).toHaveBeenLastCalledWith([{ kind: 'ahead', minutes: 15 }]);
  await userEvent.selectOptions(screen.getByLabelText('Add a reminder'), 'some time before …');
  await userEvent.clear(screen.getByLabelText('How many'));
  await userEvent.type(screen.getByLabelText('How many'), '61');
  await userEvent.selectOptions(screen.getByLabelText('before'), 'days');
  expect(screen.getByRole('alert')).toHaveTextContent('Up to 60 days.');
  await userEvent.selectOptions(screen.getByLabelText('before'), 'hours');
  await userEvent.click(screen.getByRole('button', { name: 'Add' }));
  expect(onChange).toHaveBeenLastCalledWith([{ kind: 'ahead', minutes: 61 * 60 }]);
  await userEvent.selectOptions(screen.getByLabelText('Add a reminder'), 'at a date and time …');
  await typeInto('At', '071020261830');
  await userEvent.click(screen.getByRole('button', { name: 'Add' }));
  expect(onChange).toHaveBeenLastCalledWith([{ kind: 'moment', local: '2026-10-07T18:30:00' }]);
});

test('a schedule has no moment of its own to offer', () => {
  shown([]);
  expect(screen.queryByRole('option', { name: 'at a date and time …' })).toBeNull();
});
