import fc from 'fast-check';
import { DUBLIN } from '../../test/feeds';
import { parseDate } from './civil';
import { freeSlots, slotsOf, MOST_SLOTS, type SlotPattern } from './slots';

const THURSDAYS: SlotPattern = {
  firstDay: parseDate('2026-10-08'),
  lastDay: parseDate('2026-11-05'),
  weekdays: [4],
  from: 15 * 60 + 30,
  to: 17 * 60,
  length: 15,
  pause: 5,
};
const BARE = { zone: DUBLIN, daysOff: [], taken: [] };
const at = (ms: number) => new Date(ms).toISOString().slice(0, 16);

test('hours are cut into meetings on the wall clock, in summer and in winter', () => {
  const slots = slotsOf(THURSDAYS, BARE);
  expect(slots.slice(0, 4).map((s) => at(s.start))).toEqual([
    '2026-10-08T14:30',
    '2026-10-08T14:50',
    '2026-10-08T15:10',
    '2026-10-08T15:30',
  ]);
  expect(slots).toHaveLength(5 * 4);
  expect(at(slots.at(-1)!.start)).toBe('2026-11-05T16:30');
});

test('breaks and what is taken already are left out', () => {
  const off = { from: parseDate('2026-10-26'), to: parseDate('2026-10-30') };
  const taken = { from: Date.parse('2026-10-08T14:40:00Z'), to: Date.parse('2026-10-08T15:00:00Z') };
  const slots = slotsOf(THURSDAYS, { ...BARE, daysOff: [off], taken: [taken] });
  expect(slots.map((s) => at(s.start))).not.toContain('2026-10-08T14:50');
  expect(slots.some((s) => at(s.start).startsWith('2026-10-29'))).toBe(false);
  expect(slots).toHaveLength(4 * 4 - 2);
});

test('only what fits between what somebody has, the nearest first', () => {
  const slots = slotsOf({ ...THURSDAYS, lastDay: THURSDAYS.firstDay }, BARE);
  const busy = [{ from: slots[1]!.start, to: slots[1]!.end }];
  expect(freeSlots(slots, busy, slots[3]!.start).map((s) => slots.indexOf(s))).toEqual([3, 2, 0]);
});

test('no two of them meet, all lie within their hours, and they are never too many', () => {
  const pattern = fc.record({
    from: fc.integer({ min: 0, max: 1439 }),
    long: fc.integer({ min: 0, max: 1440 }),
    length: fc.integer({ min: 1, max: 300 }),
    pause: fc.integer({ min: 0, max: 60 }),
    days: fc.integer({ min: 0, max: 400 }),
  });
  fc.assert(
    fc.property(pattern, ({ from, long, length, pause, days }) => {
      const to = Math.min(1440, from + long);
      const one = {
        ...THURSDAYS,
        lastDay: THURSDAYS.firstDay + days,
        weekdays: [1, 4, 7],
        from,
        to,
        length,
        pause,
      };
      const slots = slotsOf(one, BARE);
      expect(slots.length).toBeLessThanOrEqual(MOST_SLOTS);
      slots.forEach((s, i) => {
        expect(s.end).toBeGreaterThanOrEqual(s.start);
        if (i) expect(s.start).toBeGreaterThanOrEqual(slots[i - 1]!.end);
      });
    }),
  );
});
