import { QueryClient, QueryClientProvider, useQuery } from '@tanstack/react-query';
import { renderHook, waitFor } from '@testing-library/react';
import { createElement, type ReactNode } from 'react';
import { begun, call } from './client';
import { prefetch, prefetchedValue, forgetPrefetched, whenCame } from './prefetch';
import { useLiveUpdates } from './live';

const NAMES = [{ id: 'c1', name: 'Ceramics' }];
const asked: string[] = [];
const answer = { status: 200, body: NAMES as unknown };

beforeEach(() => {
  asked.length = 0;
  Object.assign(answer, { status: 200, body: NAMES });
  globalThis.fetch = ((path: string) => {
    asked.push(path);
    return Promise.resolve({
      ok: answer.status < 400,
      status: answer.status,
      json: () => Promise.resolve(answer.body),
    });
  }) as typeof fetch;
  jest.useFakeTimers({ now: 1_000_000 });
});
afterEach(() => jest.useRealTimers());

const path = '/api/learners/juno/calendars';
const calendars = () => call('calendars', { params: { learnerId: 'juno' } });

test('a reply that was asked for before the page was there is not asked for again, and serves once', async () => {
  await prefetch(path);
  expect(await calendars()).toEqual(NAMES);
  expect(asked).toEqual([path]);
  await calendars();
  expect(asked).toEqual([path, path]);
});

test('after ten seconds, or after a change, it is asked for anew', async () => {
  await prefetch(path);
  jest.setSystemTime(1_010_000);
  await calendars();
  expect(asked).toHaveLength(2);
  await prefetch(path);
  await call('removeSource', { params: { id: 's1' } });
  await calendars();
  expect(asked).toEqual([path, path, path, '/api/sources/s1', path]);
});

test('what it says of the time is of the moment it came, and not of the moment it was taken', async () => {
  await prefetch(path);
  jest.setSystemTime(1_003_000);
  const when = whenCame(path);
  expect(when(await calendars())).toBe(1_000_000);
  expect(whenCame(path)(await calendars())).toBe(1_003_000);
});

test('one that failed counts as not asked for: the page asks itself, and tells', async () => {
  answer.status = 503;
  expect(await prefetch(path)).toBeUndefined();
  Object.assign(answer, { status: 403, body: { type: 'urn:x', title: 'Not yours.', status: 403 } });
  await expect(calendars()).rejects.toThrow('Not yours.');
});

const inside = (client: QueryClient) => {
  const Inside = ({ children }: { children: ReactNode }) =>
    createElement(QueryClientProvider, { client }, children);
  return { wrapper: Inside };
};

test('the first drawing has what is there already', async () => {
  await prefetch(path);
  const params = { params: { learnerId: 'juno' } };
  const { result } = renderHook(
    () =>
      useQuery({
        queryKey: ['calendars'],
        queryFn: calendars,
        staleTime: 15_000,
        ...begun('calendars', params),
      }),
    inside(new QueryClient()),
  );
  expect(result.current.data).toEqual(NAMES);
  expect(asked).toEqual([path]);
});

describe('what happens elsewhere', () => {
  class Source extends EventTarget {
    static last: Source;
    constructor(readonly url: string) {
      super();
      Source.last = this;
    }
    close(): void {}
  }

  test('each change is a refresh; a check without news touches the links alone', async () => {
    globalThis.EventSource = Source as unknown as typeof EventSource;
    const client = new QueryClient();
    const refreshed = jest.spyOn(client, 'invalidateQueries');
    const times = (key: readonly unknown[]) =>
      refreshed.mock.calls.filter(([filter]) => JSON.stringify(filter?.queryKey) === JSON.stringify(key))
        .length;
    const { unmount } = renderHook(() => useLiveUpdates('juno'), inside(client));
    expect(Source.last.url).toMatch(/^\/api\/learners\/juno\/live\?page=./);
    for (let i = 1; i <= 3; i++) {
      Source.last.dispatchEvent(new Event('changed'));
      await waitFor(() => expect(times(['learner', 'juno'])).toBe(i));
    }
    Source.last.dispatchEvent(new Event('checked'));
    await waitFor(() => expect(times(['learner', 'juno', 'sources'])).toBe(1));
    expect(times(['learner', 'juno'])).toBe(3);
    unmount();
  });
});

describe('what the server has drawn the page from', () => {
  const lay = (at: number) => {
    Object.defineProperty(performance, 'timeOrigin', { value: at, configurable: true });
    document.body.innerHTML = `<script type="application/json" id="replies">${JSON.stringify([[path, NAMES]])}</script>`;
  };

  test('is there without being asked for, once, and tells when it came', async () => {
    lay(999_000);
    expect(whenCame(path)(prefetchedValue(path))).toBe(999_000);
    expect(await calendars()).toEqual(NAMES);
    expect(asked).toEqual([]);
    expect(document.getElementById('replies')).toBeNull();
    await calendars();
    expect(asked).toEqual([path]);
  });

  test('stands until what is asked for in its place is there, and not for long', async () => {
    lay(980_000);
    expect(prefetchedValue(path)).toEqual(NAMES);
    const asking = calendars();
    expect(prefetchedValue(path)).toEqual(NAMES);
    await asking;
    expect(asked).toEqual([path]);
    jest.setSystemTime(1_021_000);
    expect(prefetchedValue(path)).toBeUndefined();
  });

  test('is asked for anew where it took long to get here, and after a change', async () => {
    lay(990_000);
    await calendars();
    expect(asked).toEqual([path]);
    lay(1_000_000);
    forgetPrefetched();
    await calendars();
    expect(asked).toEqual([path, path]);
  });
});
