import { followStream } from './live-stream';

class Source {
  static all: Source[] = [];
  readyState = 0;
  readonly heard: Record<string, () => void> = {};
  constructor(readonly url: string) {
    Source.all.push(this);
  }
  addEventListener(name: string, listener: () => void): void {
    this.heard[name] = listener;
  }
  close(): void {
    this.readyState = 2;
  }
  /** Fails: a lost connection is taken up by the browser itself, an answer that is no stream is not. */
  fail(isFinal: boolean): void {
    this.readyState = isFinal ? 2 : 0;
    this.heard['error']!();
  }
}

const told: string[] = [];
const tell = (what: string) => () => void told.push(what);
let stop: () => void;
beforeEach(() => {
  jest.useFakeTimers();
  jest.spyOn(Math, 'random').mockReturnValue(0.5);
  Source.all = [];
  told.length = 0;
  globalThis.EventSource = Source as unknown as typeof EventSource;
  stop = followStream('/live', {
    on: { changed: tell('changed') },
    opened: tell('opened'),
    cameBack: tell('came back'),
    refused: tell('refused'),
  });
});
afterEach(() => {
  stop();
  jest.useRealTimers();
});
const last = () => Source.all.at(-1)!;

test('what changed while the connection was lost is asked for once it is back, and not at the first', () => {
  last().heard['open']!();
  last().heard['changed']!();
  expect(told).toEqual(['opened', 'changed']);
  last().fail(false);
  last().heard['open']!();
  expect(told).toEqual(['opened', 'changed', 'came back']);
  expect(Source.all).toHaveLength(1);
});

test('an answer that is no stream is tried again, after ever longer, and heard again when it is there', () => {
  last().heard['open']!();
  for (const wait of [1_000, 2_000, 4_000, 8_000, 16_000, 30_000, 30_000]) {
    const before = Source.all.length;
    last().fail(true);
    jest.advanceTimersByTime(wait - 1);
    expect(Source.all).toHaveLength(before);
    jest.advanceTimersByTime(1);
    expect(Source.all).toHaveLength(before + 1);
  }
  last().heard['open']!();
  last().heard['changed']!();
  expect(told.slice(-2)).toEqual(['came back', 'changed']);
  // From the beginning again.
  last().fail(true);
  jest.advanceTimersByTime(1_000);
  expect(Source.all).toHaveLength(9);
});

test('back on the network it is opened at once, and nothing is opened once it was ended', () => {
  last().fail(true);
  window.dispatchEvent(new Event('online'));
  expect(Source.all).toHaveLength(2);
  last().fail(true);
  stop();
  jest.advanceTimersByTime(60_000);
  expect(Source.all).toHaveLength(2);
});
