import { at, date, dueAt } from '../../test/occurrence';
import { DUBLIN } from '../../test/feeds';
import { parseDate } from '../time/civil.ts';
import { DEFAULT_LOADS } from '../view/settings.ts';
import { isDoubtful, paceOf, paces, type Taken } from './pace.ts';
import { minutesSaid } from './said.ts';
import { linesOf, partsOf } from './parts.ts';
import { progressOf, sittingsKept } from './progress.ts';
import { newRunUp } from './run-up.ts';
import fc from 'fast-check';

const taken = (said: number, took: number): Taken => ({
  calendarId: 'ceramics',
  kind: 'project',
  said,
  took,
});

describe('pace', () => {
  test('is what was said while nothing is known, and drawn towards it while little is', () => {
    expect(paceOf([])).toEqual({ factor: 1, from: 0 });
    const twice = (n: number) => paceOf(Array.from({ length: n }, () => taken(30, 60))).factor;
    expect(twice(1)).toBeCloseTo(2 ** 0.25);
    expect(twice(3)).toBeCloseTo(2 ** 0.5);
    expect(twice(60)).toBeGreaterThan(1.9);
  });
  test('is not moved by one that is far off, and a clock left running is asked about', () => {
    const usual = [taken(30, 40), taken(30, 42), taken(30, 39), taken(30, 41), taken(30, 40)];
    const plain = paceOf(usual).factor;
    expect(paceOf([...usual, taken(30, 119)]).factor).toBeLessThan(plain * 1.05);
    expect(isDoubtful(taken(30, 900))).toBe(true);
    expect(paceOf([...usual, taken(30, 900)])).toEqual(paceOf(usual));
  });
  test('lies between 1 and the middle, however much is known', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 5, max: 300 }), fc.integer({ min: 5, max: 300 }))),
        (pairs) => {
          const { factor } = paceOf(pairs.map(([said, took]) => taken(said, took)));
          const ratios = pairs.map(([said, took]) => took / said);
          expect(factor).toBeGreaterThanOrEqual(Math.min(1, ...ratios) - 1e-9);
          expect(factor).toBeLessThanOrEqual(Math.max(1, ...ratios) + 1e-9);
        },
      ),
    );
  });
  test('is suggested for a course and kind of which three are known, where it makes a difference', () => {
    const same = Array.from({ length: 5 }, () => ({ ...taken(30, 30), calendarId: 'norwegian' }));
    const few = [{ ...taken(30, 60), calendarId: 'sound' }];
    const slow = Array.from({ length: 6 }, () => taken(30, 45));
    expect(paces([...same, ...few, ...slow])).toMatchObject([
      { calendarId: 'ceramics', kind: 'project', from: 6 },
    ]);
  });
});

test('progress is counted by the week and the course it was due in', () => {
  const finished = (day: string, finishedAt: string, more = {}) =>
    dueAt(date(day), {
      itemId: day,
      finished: true,
      finishedAt,
      calendarId: 'ceramics',
      estimate: 30,
      ...more,
    });
  const occurrences = [
    finished('2026-10-05', '2026-10-05T22:00:00Z'),
    finished('2026-10-06', '2026-10-08T10:00:00Z'),
    dueAt(at('2026-10-13T15:00:00Z'), { itemId: 'open', calendarId: 'norwegian' }),
    dueAt(date('2026-11-20'), { itemId: 'later' }),
  ];
  const { weeks, courses } = progressOf(occurrences, {
    viewer: DUBLIN,
    loads: DEFAULT_LOADS,
    firstDay: 1,
    from: parseDate('2026-10-05'),
    to: parseDate('2026-10-18'),
    took: new Map([['2026-10-05 ', 45]]),
  });
  expect(weeks.get(parseDate('2026-10-05'))).toEqual({
    finished: 2,
    open: 0,
    onTime: 1,
    late: 1,
    said: 30,
    took: 45,
  });
  expect(weeks.get(parseDate('2026-10-12'))).toMatchObject({ finished: 0, open: 1 });
  expect([...courses.keys()].sort()).toEqual(['ceramics', 'norwegian']);
});

test('sittings are kept or not, as far as their time has come', () => {
  const r = newRunUp(dueAt(date('2026-10-16')), 90, 'own', 0);
  const one = (day: string, state: 'planned' | 'done' | 'missed') =>
    ({ key: day, day, from: 1020, minutes: 30, state, took: null, pinned: false }) as const;
  const sittings = [
    one('2026-10-02', 'done'),
    one('2026-10-03', 'missed'),
    one('2026-10-05', 'planned'),
    one('2026-10-07', 'planned'),
  ];
  expect(sittingsKept([{ ...r, sittings }], parseDate('2026-10-06'), 970)).toEqual({ kept: 1, of: 3 });
});

test.each([
  ['About 20 minutes. Open the chart room page', 20],
  ['45–60 min, then rest', 60],
  ['Plan 2 h for the draft and 30 minutes to read', 120],
  ['1.5 hours', 90],
  ['Read 900 words by 16:00', null],
  ['in 30 mins', 30],
])('how long a text says that it takes: %s', (text, minutes) => {
  expect(minutesSaid(text)).toBe(minutes);
});

test('parts are lines: a name and its share; without one it has a usual share', () => {
  const parts = partsOf('gather 15\n\n  two  drafts 40 \npolish\n100');
  expect(parts).toEqual([
    { name: 'gather', share: 15 },
    { name: 'two drafts', share: 40 },
    { name: 'polish', share: 10 },
    { name: '100', share: 10 },
  ]);
  expect(partsOf(linesOf(parts))).toEqual(parts);
});
