import { checkSchedule, nextCheck, type DueLink, type NextCheckInput } from '../src/gather/schedule';

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

/** Links that are due, and the schedule over them; each check goes on until it is let go. */
function school(links: Partial<DueLink>[], more: { isBusy?: (id: string) => boolean } = {}) {
  const all = links.map((link, i) => ({ id: `s${i}`, learnerId: `l${i}`, host: `h${i}`, ...link }));
  const open = new Map<string, () => void>();
  const begun: string[] = [];
  const done = new Set<string>();
  const at = { now: 0 };
  const schedule = checkSchedule({
    due: (limit, { ids, learners, hosts }) =>
      all
        .filter((l) => !done.has(l.id) && !ids.includes(l.id))
        .filter((l) => !learners.includes(l.learnerId) && !hosts.includes(l.host))
        .slice(0, limit),
    check: async (id) => {
      expect(open.has(id)).toBe(false);
      begun.push(id);
      await new Promise<void>((go) => open.set(id, go));
      open.delete(id);
      done.add(id);
      return { isBusy: more.isBusy?.(id) ?? false };
    },
    now: () => at.now,
    log: () => {},
  });
  /** Lets all go that are under way, until those that one turn has begun are done. */
  const turn = async () => {
    const turning = schedule.turn();
    const these = [...open.keys()];
    for (const go of open.values()) go();
    await turning;
    return these;
  };
  return { schedule, open, begun, done, at, turn };
}

test('a few at once, never two for one, and a stop waits for what is under way', async () => {
  const { schedule, open, begun, done } = school(Array.from({ length: 40 }, () => ({})));
  const first = schedule.turn();
  void schedule.turn();
  expect(open.size).toBe(16);
  const stopping = schedule.stop();
  for (const go of open.values()) go();
  await Promise.all([first, stopping]);
  expect([begun.length, done.size, schedule.running()]).toEqual([16, 16, 0]);
  await schedule.turn();
  expect(begun.length).toBe(16);
});

test('one with a hundred links, or one server of all, leaves places for the others', async () => {
  const many = Array.from({ length: 50 }, () => ({ learnerId: 'many' }));
  const { turn } = school([...many, { id: 'other' }]);
  expect(await turn()).toEqual(['s0', 's1', 'other']);
  const campus = Array.from({ length: 50 }, () => ({ host: 'campus' }));
  const { turn: again } = school([...campus, { id: 'elsewhere' }]);
  expect(await again()).toEqual(['s0', 's1', 's2', 's3', 'elsewhere']);
});

test('a server that asks for rest gets one at a time, after a pause that doubles and goes again', async () => {
  let isBusy = true;
  const { turn, at } = school(
    Array.from({ length: 30 }, () => ({ host: 'campus' })),
    { isBusy: () => isBusy },
  );
  expect(await turn()).toHaveLength(4);
  expect(await turn()).toEqual([]);
  // Four said so at once: the pause has doubled with each.
  at.now += 8_000;
  expect(await turn()).toHaveLength(1);
  at.now += 8_000;
  expect(await turn()).toEqual([]);
  at.now += 8_000;
  isBusy = false;
  for (let i = 0; i < 5; i++) {
    expect(await turn()).toHaveLength(1);
    at.now += 8_000;
  }
  expect(await turn()).toHaveLength(4);
});

test('a place that is free is taken at once, without waiting for the others', async () => {
  const { schedule, open, begun } = school(Array.from({ length: 30 }, () => ({})));
  jest.useFakeTimers();
  schedule.start();
  await jest.advanceTimersByTimeAsync(500);
  expect(begun.length).toBe(16);
  open.get('s3')!();
  await jest.advanceTimersByTimeAsync(50);
  expect(begun.length).toBe(17);
  const stopping = schedule.stop();
  for (const go of open.values()) go();
  await stopping;
  jest.useRealTimers();
});

test('a fault in one check does not keep the others from theirs', async () => {
  const said: string[] = [];
  const checked: string[] = [];
  let isFirst = true;
  const schedule = checkSchedule({
    due: () => {
      const links = isFirst ? ['bad', 'good'].map((id) => ({ id, learnerId: id, host: id })) : [];
      isFirst = false;
      return links;
    },
    check: async (id) => {
      if (id === 'bad') throw new TypeError('secret?key=1');
      checked.push(id);
      return { isBusy: false };
    },
    now: () => 0,
    log: (m) => said.push(m),
  });
  await schedule.turn();
  expect(checked).toEqual(['good']);
  expect(said).toEqual(['a check failed']);
});
