import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Slip, type SlipProps } from './slip';

const base: SlipProps = {
  shape: 'ticket',
  colour: 'deep',
  flag: { shape: 'pennon', pattern: 'bar' },
  calendar: 'Ocean Navigation',
  title: 'Tide table exercise 11',
  detail: 'assignment',
  time: '23:59',
  note: 'today',
  urgency: 'soon',
  spoken: 'Tide table exercise 11, due today',
  chosen: false,
  onOpen: () => {},
  onFinish: () => {},
};

test('a ticket opens by its body and is finished by its stub', async () => {
  const onOpen = jest.fn();
  const onFinish = jest.fn();
  render(<Slip {...base} onOpen={onOpen} onFinish={onFinish} />);
  await userEvent.click(screen.getByRole('button', { name: 'Finish Tide table exercise 11' }));
  expect([onOpen.mock.calls.length, onFinish.mock.calls.length]).toEqual([0, 1]);
  await userEvent.click(screen.getByRole('button', { name: base.spoken }));
  expect(onOpen).toHaveBeenCalledTimes(1);
});

test('finished, it says so in words and offers the way back', () => {
  render(<Slip {...base} urgency="finished" />);
  expect(screen.getByText('finished')).toBeInTheDocument();
  expect(screen.getByRole('button', { name: /Take back/ })).toBeEnabled();
  expect(screen.queryByText('23:59')).not.toBeInTheDocument();
});

test('for who may only look the stub is a part of the slip: nothing of its own to hear or to come to, and a press opens', async () => {
  const onOpen = jest.fn();
  render(<Slip {...base} onOpen={onOpen} onFinish={undefined} />);
  expect(screen.getAllByRole('button')).toHaveLength(1);
  expect(screen.queryByText('Finish')).not.toBeInTheDocument();
  await userEvent.tab();
  await userEvent.tab();
  expect(document.body).toHaveFocus();
  await userEvent.click(screen.getByText(base.time));
  expect(onOpen).toHaveBeenCalledTimes(1);
});

test('somewhere to be has no stub', () => {
  render(<Slip {...base} shape="block" urgency={null} time="17:00 – 17:40" />);
  expect(screen.getAllByRole('button')).toHaveLength(1);
  expect(screen.getByText('17:00 – 17:40')).toBeInTheDocument();
});

test('an aim is a slip of its own, and says when the thing itself is due', () => {
  render(
    <Slip
      {...base}
      isAim
      time="aim"
      note="due Wed 7 Oct"
      spoken="Quiz, your aim Tuesday 6 October, due Wednesday 7 October"
    />,
  );
  expect(screen.getByRole('button', { name: /your aim Tuesday/ })).toBeInTheDocument();
  expect(screen.getByText('due Wed 7 Oct')).toBeInTheDocument();
});

test('torn off, a ticket tells how it was handed in', () => {
  render(<Slip {...base} urgency="finished" handedIn="on paper" />);
  expect(screen.getByText('on paper')).toBeInTheDocument();
});
