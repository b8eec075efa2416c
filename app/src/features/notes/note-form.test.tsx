import { act, fireEvent, render, screen } from '@testing-library/react';
import { forgetPerson } from '@/data/forget';
import { sendNoteFile as sendFile } from '@/data/notes';
import { NoteForm } from './note-form';

jest.mock('@/data/notes', () => ({ sendNoteFile: jest.fn() }));
const sendNoteFile = jest.mocked(sendFile);

const onSend = jest.fn();
const form = (draft = 'thread-1') =>
  render(
    <NoteForm
      draft={draft}
      label="Answer"
      words="Send"
      hint=""
      busy={false}
      problem={null}
      onSend={onSend}
    />,
  );
const area = () => screen.getByLabelText<HTMLTextAreaElement>(/^Answer/, { selector: 'textarea' });
const choose = (count: number) =>
  act(async () => {
    fireEvent.change(screen.getByLabelText('Files to go along'), {
      target: { files: Array.from({ length: count }, (_, n) => new File(['x'], `page ${n}.txt`)) },
    });
  });

beforeEach(() => {
  onSend.mockReset().mockResolvedValue(undefined);
  sendNoteFile
    .mockReset()
    .mockImplementation((_, name) =>
      Promise.resolve({ id: name, name, type: 'text/plain', size: 1, picture: false, seconds: null }),
    );
  forgetPerson();
});

test('what is written is there again when the sheet is opened again, each thread by itself', async () => {
  const first = form();
  fireEvent.change(area(), { target: { value: 'Yes, at five.' } });
  await choose(1);
  first.unmount();
  const other = form('thread-2');
  expect(area().value).toBe('');
  other.unmount();
  form();
  expect(area().value).toBe('Yes, at five.');
  expect(screen.getByText('page 0.txt')).toBeTruthy();
  // The text alone outlives the page.
  expect(JSON.parse(localStorage.getItem('zephyrfield-note-draft')!)).toMatchObject({
    state: { of: { 'thread-1': 'Yes, at five.' } },
  });
  await jest.isolateModulesAsync(async () => {
    const { useNoteDrafts } = await import('@/data/note-draft');
    expect(useNoteDrafts.getState().of).toEqual({ 'thread-1': { text: 'Yes, at five.', files: [] } });
  });
});

test('it is let go of once it is sent, and kept where it could not be', async () => {
  form();
  fireEvent.change(area(), { target: { value: 'Yes, at five.' } });
  onSend.mockRejectedValueOnce(new Error('no network'));
  await act(async () => void fireEvent.click(screen.getByRole('button', { name: 'Send' })));
  expect(area().value).toBe('Yes, at five.');
  await act(async () => void fireEvent.click(screen.getByRole('button', { name: 'Send' })));
  expect(onSend).toHaveBeenLastCalledWith({ text: 'Yes, at five.', files: [] });
  expect(area().value).toBe('');
});

test('nothing is sent where nothing is written, and more files than go along are said', async () => {
  form();
  fireEvent.click(screen.getByRole('button', { name: 'Send' }));
  expect(screen.getByText('Write something first.')).toBeTruthy();
  expect(onSend).not.toHaveBeenCalled();
  await choose(10);
  expect(sendNoteFile).toHaveBeenCalledTimes(8);
  expect(screen.getByText('2 files were left out.')).toBeTruthy();
});
