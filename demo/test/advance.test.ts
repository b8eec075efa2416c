import type { Services } from '@zephyrfield/server/app';
import { advanceTo } from '../src/advance';
import { DemoClock } from '../src/clock';

const HOUR = 3_600_000;
const START = Date.parse('2026-10-06T15:10:00Z');

/** What comes due at some moments, and at what time each was met. */
function engine(clock: DemoClock, due: number[]) {
  const met: number[] = [];
  const left = [...due].sort((a, b) => a - b);
  const run = async () => {
    while (left.length && left[0]! <= clock.now()) {
      left.shift();
      met.push(clock.now());
    }
  };
  return { met, sections: { run, nextAt: () => left[0] ?? null } as unknown as Services['engine'] };
}
const still = () => new DemoClock(START, null, () => 0);

test('each thing that comes due is met at its own moment, in order, and the clock ends where it was sent', async () => {
  const clock = still();
  const { met, sections } = engine(clock, [START + 3 * HOUR, START + HOUR, START + 30 * HOUR]);
  await advanceTo(START + 24 * HOUR, clock, sections);
  expect(met).toEqual([START + HOUR, START + 3 * HOUR]);
  expect(clock.now()).toBe(START + 24 * HOUR);
});

test('what stays due although it was looked at does not keep the clock from going on', async () => {
  const clock = still();
  const stuck = { run: async () => {}, nextAt: () => START + HOUR } as unknown as Services['engine'];
  await advanceTo(START + 24 * HOUR, clock, stuck);
  expect(clock.now()).toBe(START + 24 * HOUR);
});
