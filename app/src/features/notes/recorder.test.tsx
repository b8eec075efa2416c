import { act, fireEvent, render, screen } from '@testing-library/react';
import { Recorder } from './recorder';

// jsdom has no microphone; this one is as quiet as it is quick.
class Microphone {
  static forms: readonly string[] = ['audio/mp4'];
  static isTypeSupported = (type: string) => Microphone.forms.includes(type);
  state = 'inactive';
  ondataavailable: ((e: { data: Blob }) => void) | null = null;
  onstop: (() => void) | null = null;
  start() {
    this.state = 'recording';
  }
  stop() {
    this.state = 'inactive';
    this.ondataavailable?.({ data: new Blob(['sound']) });
    this.onstop?.();
  }
}
const letGo = jest.fn();
const getUserMedia = jest.fn();
const onDone = jest.fn();
const begin = async () => {
  const drawn = render(<Recorder onDone={onDone} onClose={jest.fn()} />);
  await act(async () => {});
  return drawn;
};
const pass = (seconds: number) => act(() => jest.advanceTimersByTime(seconds * 1000));

beforeEach(() => {
  jest.useFakeTimers();
  jest.clearAllMocks();
  Microphone.forms = ['audio/mp4'];
  getUserMedia.mockResolvedValue({ getTracks: () => [{ stop: letGo }] });
  Object.assign(globalThis, { MediaRecorder: Microphone });
  Object.defineProperty(navigator, 'mediaDevices', { value: { getUserMedia }, configurable: true });
});
afterEach(() => jest.useRealTimers());

test('what was spoken is given with its length, and the microphone is let go', async () => {
  await begin();
  expect(screen.getByRole('button', { name: 'Done' })).toBeDisabled();
  pass(7);
  expect(screen.getByRole('status')).toHaveTextContent('Recording: 7 s of 2 min');
  fireEvent.click(screen.getByRole('button', { name: 'Done' }));
  expect(onDone).toHaveBeenCalledWith(expect.any(Blob), 'spoken.m4a', 7);
  expect(letGo).toHaveBeenCalled();
});

test('after two minutes it is done by itself', async () => {
  await begin();
  pass(121);
  expect(onDone).toHaveBeenCalledTimes(1);
  expect(onDone).toHaveBeenCalledWith(expect.any(Blob), 'spoken.m4a', 120);
});

test('closed on the way, nothing is sent', async () => {
  const { unmount } = await begin();
  pass(5);
  unmount();
  expect(onDone).not.toHaveBeenCalled();
  expect(letGo).toHaveBeenCalled();
});

test('a microphone that is refused, and a browser that cannot record, say what to do', async () => {
  getUserMedia.mockRejectedValueOnce(new Error('no'));
  const { unmount } = await begin();
  expect(screen.getByText('The microphone cannot be used.')).toBeVisible();
  unmount();
  Microphone.forms = [];
  getUserMedia.mockClear();
  await begin();
  expect(screen.getByText('The microphone cannot be used.')).toBeVisible();
  expect(getUserMedia).not.toHaveBeenCalled();
});
