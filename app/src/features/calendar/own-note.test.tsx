import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useEffect, useState } from 'react';
import { OwnNote } from './own-note';

/** A note over a server that takes what it is given, unless it is told not to. */
const server = { tell: (_note: string) => {} };
let saved: string[];
let takes = true;
function Kept({ first = 'bring clay' }: { first?: string }) {
  const [note, setNote] = useState(first);
  useEffect(() => {
    server.tell = setNote;
  }, []);
  return (
    <OwnNote
      note={note}
      onSave={async (next) => {
        saved.push(next);
        await Promise.resolve();
        if (takes) setNote(next);
        return takes;
      }}
    />
  );
}
const field = () => screen.getByLabelText('Your note');
beforeEach(() => {
  saved = [];
  takes = true;
});

test('it is saved when it is left, once, and not where nothing was typed', async () => {
  render(<Kept />);
  await userEvent.click(field());
  await userEvent.tab();
  expect(saved).toEqual([]);
  await userEvent.type(field(), ' and slip');
  expect(saved).toEqual([]);
  await userEvent.tab();
  await waitFor(() => expect(saved).toEqual(['bring clay and slip']));
  expect(field()).toHaveValue('bring clay and slip');
});

test('a sheet that closes, or a window that goes out of sight, leaves it as well', async () => {
  const { unmount } = render(<Kept />);
  await userEvent.type(field(), '!');
  jest.spyOn(document, 'visibilityState', 'get').mockReturnValue('hidden');
  fireEvent(document, new Event('visibilitychange'));
  await waitFor(() => expect(saved).toEqual(['bring clay!']));
  await userEvent.type(field(), '!');
  unmount();
  expect(saved).toEqual(['bring clay!', 'bring clay!!']);
});

test('what somebody else wrote shows, and leaving the field does not put an older note back', async () => {
  render(<Kept />);
  await userEvent.click(field());
  await waitFor(() => (server.tell('bring slip'), expect(field()).toHaveValue('bring slip')));
  await userEvent.tab();
  expect(saved).toEqual([]);
});

test('written by two at once, the later one is told and chooses; nothing is lost meanwhile', async () => {
  render(<Kept />);
  await userEvent.type(field(), ' at nine');
  await waitFor(
    () => (server.tell('bring slip'), expect(screen.getByText('bring slip')).toBeInTheDocument()),
  );
  expect(field()).toHaveValue('bring clay at nine');
  await userEvent.click(screen.getByRole('button', { name: 'Keep this one' }));
  await waitFor(() => expect(saved).toEqual(['bring clay at nine']));
  expect(screen.queryByText('bring slip')).not.toBeInTheDocument();
  await userEvent.type(field(), '!');
  await waitFor(
    () => (server.tell('come at ten'), expect(screen.getByText('come at ten')).toBeInTheDocument()),
  );
  await userEvent.click(screen.getByRole('button', { name: 'Use the other' }));
  expect(field()).toHaveValue('come at ten');
  expect(saved).toHaveLength(1);
});

test('what is refused stays typed, and goes with the next leaving', async () => {
  takes = false;
  render(<Kept />);
  await userEvent.type(field(), '!');
  await userEvent.tab();
  await waitFor(() => expect(saved).toHaveLength(1));
  expect(field()).toHaveValue('bring clay!');
  takes = true;
  await userEvent.click(field());
  await userEvent.tab();
  await waitFor(() => expect(saved).toEqual(['bring clay!', 'bring clay!']));
});
