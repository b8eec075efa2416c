import { checkSchedule, nextCheck, type NextCheckInput } from '../src/gather/schedule';

const MINUTE = 60_000;
const wait = (input: Partial<NextCheckInput>) =>
  nextCheck(0, {
    refreshSeconds: null,
    nextDue: null,
    failures: 0,
    retryAfter: undefined,
    chance: 0.5,
    ...input,
  }) / MINUTE;

test('hourly, as the feed asks within bounds, more often near a due date', () => {
  expect(wait({})).toBe(60);
  expect(wait({ refreshSeconds: 7200 })).toBe(120);
  expect(wait({ refreshSeconds: 5 })).toBe(15);
  expect(wait({ refreshSeconds: 90 * 86_400 })).toBe(24 * 60);
  expect(wait({ nextDue: 60 * MINUTE })).toBe(30);
  expect(wait({ nextDue: 60 * MINUTE, refreshSeconds: 60 })).toBe(15);
});

test('after failures ever more rarely, up to six hours, never before the other server wants it', () => {
  expect([1, 2, 3, 8, 50].map((failures) => wait({ failures }))).toEqual([5, 10, 20, 360, 360]);
  expect(wait({ failures: 1, retryAfter: 7200 })).toBe(120);
  expect(wait({ failures: 1, chance: 0 })).toBeLessThan(wait({ failures: 1, chance: 0.9 }));
});

test('a few at once, never two for one, and a stop waits for what is under way', async () => {
  const waiting = Array.from({ length: 9 }, (_, i) => `s${i}`);
  const running = new Set<string>();
  const release: (() => void)[] = [];
  let most = 0;
  const done: string[] = [];
  const schedule = checkSchedule({
    due: (limit) => waiting.filter((id) => !done.includes(id)).slice(0, limit),
    check: async (id) => {
      expect(running.has(id)).toBe(false);
      running.add(id);
      most = Math.max(most, running.size);
      await new Promise<void>((r) => release.push(r));
      running.delete(id);
      done.push(id);
    },
    log: () => {},
  });
  const first = schedule.turn();
  void schedule.turn();
  expect(running.size).toBe(4);
  const stopping = schedule.stop();
  while (release.length) release.shift()!();
  await Promise.all([first, stopping]);
  expect([most, done.length]).toEqual([4, 4]);
  await schedule.turn();
  expect(done.length).toBe(4);
});

test('a fault in one check does not keep the others from theirs', async () => {
  const said: string[] = [];
  const checked: string[] = [];
  const schedule = checkSchedule({
    due: () => ['bad', 'good'],
    check: async (id) =>
      id === 'bad' ? Promise.reject(new TypeError('secret?key=1')) : void checked.push(id),
    log: (m) => said.push(m),
  });
  await schedule.turn();
  expect(checked).toEqual(['good']);
  expect(said).toEqual(['a check failed: TypeError']);
});
