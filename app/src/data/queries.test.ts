import { QueryObserver } from '@tanstack/react-query';
import { askAnewOnTheWay, queryClient, refresh } from './queries';
import { allWritten, writing } from './writing';

const KEY = ['item', 'tides', ''];
const look = (queryFn: () => Promise<string>) =>
  new QueryObserver(queryClient, { queryKey: KEY, queryFn, staleTime: 60_000 });
afterEach(() => queryClient.clear());

test('what was asked for before a change and went out of sight is not taken for what is true after it', async () => {
  let come = (_: string) => {};
  const closed = look(() => new Promise((done) => (come = done)));
  closed.subscribe(() => {})();
  await refresh(['item']);
  come('as it was');
  const seen = await new Promise((done) =>
    look(async () => 'as it is').subscribe(({ data }) => data !== undefined && done(data)),
  );
  expect(seen).toBe('as it is');
});

test('what is in sight is asked for anew at once', async () => {
  const answers = ['as it was', 'as it is'];
  const opened = look(async () => answers.shift()!);
  const leave = opened.subscribe(() => {});
  await queryClient.fetchQuery(opened.options as { queryKey: typeof KEY });
  await refresh(['item']);
  expect(opened.getCurrentResult().data).toBe('as it is');
  leave();
});

describe('what is being written', () => {
  test('is waited for, well or not', async () => {
    const told: string[] = [];
    let end = () => {};
    const first = writing(new Promise<void>((done) => (end = done)));
    const second = writing(Promise.reject(new Error('refused')));
    await expect(second).rejects.toThrow('refused');
    const all = allWritten().then(() => told.push('all'));
    await Promise.resolve();
    expect(told).toEqual([]);
    end();
    await Promise.all([first, all]);
    expect(told).toEqual(['all']);
  });

  test('is not waited for without end, where the line hangs', async () => {
    jest.useFakeTimers();
    void writing(new Promise(() => {}));
    const all = allWritten();
    jest.runAllTimers();
    jest.useRealTimers();
    await all;
  });
});

test('what was on its way when something was changed is asked for anew, and nothing else is', async () => {
  const answers = [() => new Promise<string>(() => {}), async () => 'as it is'];
  const onItsWay = look(() => answers.shift()!());
  const asked = jest.fn(async () => 'as it stands');
  const resting = new QueryObserver(queryClient, { queryKey: ['item', 'at rest'], queryFn: asked });
  const leave = [onItsWay.subscribe(() => {}), resting.subscribe(() => {})];
  await queryClient.ensureQueryData({ queryKey: ['item', 'at rest'] });
  await askAnewOnTheWay(['item']);
  expect(onItsWay.getCurrentResult().data).toBe('as it is');
  expect(asked).toHaveBeenCalledTimes(1);
  for (const each of leave) each();
});
