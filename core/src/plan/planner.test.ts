import fc from 'fast-check';
import { bestPossible } from './bound.ts';
import { faultsOf } from './judge.ts';
import { planAll, planner } from './planner.ts';
import type { Plan, Question, Work } from './question.ts';

/** Enough to find what is to be found in a small question. */
const FEW = 6000;

const work = (id: string, changes: Partial<Work> = {}): Work => ({
  id,
  minutes: 120,
  shortest: 20,
  longest: 60,
  firstDay: 0,
  lastDay: 4,
  perDay: 1,
  polish: false,
  ...changes,
});
/** Five evenings of two hours. */
const question = (works: Work[], changes: Partial<Question> = {}): Question => ({
  days: 5,
  step: 5,
  pause: 10,
  fixed: [0, 0, 0, 0, 0],
  free: [0, 1, 2, 3, 4].map((day) => ({ day, from: 990, to: 1110 })),
  works,
  keep: [],
  ...changes,
});
const minutesOn = (plan: Plan, day: number) =>
  plan.sittings.reduce((sum, s) => sum + (s.day === day ? s.minutes : 0), 0);

/** Questions of a few works over a few days, rude ones among them. */
const questions = fc
  .record({
    days: fc.integer({ min: 1, max: 12 }),
    step: fc.constantFrom(5, 10),
    pause: fc.constantFrom(0, 5, 10, 15),
    evenings: fc.array(
      fc.tuple(fc.integer({ min: 0, max: 11 }), fc.integer({ min: 1, max: 40 }), fc.boolean()),
    ),
    works: fc.array(
      fc.record({
        minutes: fc.integer({ min: 1, max: 60 }),
        shortest: fc.integer({ min: 1, max: 6 }),
        more: fc.integer({ min: 0, max: 8 }),
        firstDay: fc.integer({ min: 0, max: 11 }),
        length: fc.integer({ min: -2, max: 11 }),
        perDay: fc.integer({ min: 1, max: 3 }),
        polish: fc.boolean(),
      }),
      { maxLength: 6 },
    ),
    fixed: fc.array(fc.integer({ min: 0, max: 200 }), { maxLength: 12 }),
  })
  .map(({ days, step, pause, evenings, works, fixed }): Question => {
    const seen = new Set<number>();
    const free = evenings
      .filter(([day]) => day < days && !seen.has(day) && seen.add(day))
      .flatMap(([day, steps, isTwo]) => [
        { day, from: 963, to: 963 + steps * 7 },
        ...(isTwo ? [{ day, from: 1300, to: 1300 + steps * 3 }] : []),
      ]);
    return {
      days,
      step,
      pause,
      fixed,
      free,
      works: works.map(({ minutes, shortest, more, firstDay, length, ...rest }, n) => ({
        id: `work ${n}`,
        minutes: minutes * step,
        shortest: shortest * step,
        longest: (shortest + more) * step,
        firstDay,
        lastDay: Math.max(0, firstDay + length),
        ...rest,
      })),
      keep: [],
    };
  });

describe('a plan', () => {
  test('keeps the rules, whatever is asked, and is never better than can be', () => {
    fc.assert(
      fc.property(questions, (q) => {
        const plan = planAll(q, FEW);
        expect(faultsOf(q, plan)).toEqual([]);
        expect(plan.score.unplaced).toBe(plan.unplaced.reduce((sum, u) => sum + u.minutes, 0));
        const bound = bestPossible(q)!;
        expect(plan.score.unplaced).toBeGreaterThanOrEqual(bound.unplaced);
        if (plan.score.unplaced === bound.unplaced)
          expect(plan.score.evenness).toBeGreaterThanOrEqual(bound.evenness);
      }),
      { numRuns: 150, seed: 17 },
    );
  });

  test('is the same for the same question', () => {
    fc.assert(
      fc.property(questions, (q) => {
        expect(planAll(JSON.parse(JSON.stringify(q)) as Question, FEW)).toEqual(planAll(q, FEW));
      }),
      { numRuns: 30, seed: 18 },
    );
  });

  test('of more free time leaves no more out, where it is proved', () => {
    fc.assert(
      fc.property(questions, fc.integer({ min: 1, max: 90 }), (q, more) => {
        const plan = planAll(q, FEW);
        const wider = { ...q, free: q.free.map((f) => (f.from === 1300 ? { ...f, to: f.to + more } : f)) };
        const then = planAll(wider, FEW);
        if (plan.proved || then.proved) expect(then.score.unplaced).toBeLessThanOrEqual(plan.score.unplaced);
      }),
      { numRuns: 100, seed: 19 },
    );
  });

  test('planned anew over itself keeps what it was', () => {
    fc.assert(
      fc.property(questions, (q) => {
        const plan = planAll(q, FEW);
        const again = planAll({ ...q, keep: plan.sittings }, FEW);
        expect(faultsOf(q, again)).toEqual([]);
        if (again.score.unplaced === plan.score.unplaced && again.score.unpolished === plan.score.unpolished)
          expect(again.score.kept).toBeGreaterThanOrEqual(Math.floor(plan.sittings.length * 0.8));
      }),
      { numRuns: 60, seed: 20 },
    );
  });

  test('spreads work evenly over what stands already', () => {
    const plan = planAll(question([work('essay')], { fixed: [60, 0, 0, 60, 0] }));
    expect([0, 1, 2, 3, 4].map((day) => minutesOn(plan, day))).toEqual([0, 40, 40, 0, 40]);
    expect(plan.unplaced).toEqual([]);
    expect(plan.proved).toBe(true);
  });

  test('has a polish on the last evening before anything is even', () => {
    const plan = planAll(question([work('essay', { polish: true })], { fixed: [0, 0, 0, 0, 100] }));
    expect(minutesOn(plan, 4)).toBeGreaterThan(0);
  });

  test('says what does not fit, and fits as much as there is room for', () => {
    const plan = planAll(question([work('essay', { minutes: 400 })]));
    expect(plan.unplaced).toEqual([{ work: 'essay', minutes: 100 }]);
    const two = planAll(question([work('essay', { minutes: 400, perDay: 2 })]));
    expect(two.unplaced).toEqual([]);
    const none = planAll(question([work('essay')], { free: [] }));
    expect(none).toMatchObject({ sittings: [], unplaced: [{ work: 'essay', minutes: 120 }] });
  });

  test('leaves a pause between two, and has what was kept at its time', () => {
    const works = [work('essay', { minutes: 40, lastDay: 0 }), work('keel', { minutes: 30, lastDay: 0 })];
    const keep = [{ work: 'keel', day: 0, from: 1000, minutes: 30 }];
    expect(planAll(question(works, { keep })).sittings).toEqual([
      { work: 'keel', day: 0, from: 1000, minutes: 30 },
      { work: 'essay', day: 0, from: 1040, minutes: 40 },
    ]);
  });

  test('of as much as may be asked is found as well, with fewer moves and without a proof', () => {
    const works = Array.from({ length: 60 }, (_, n) =>
      work(`work ${n}`, { minutes: 50_000, lastDay: 199, perDay: 12 }),
    );
    const free = Array.from({ length: 200 }, (_, day) => ({ day, from: 0, to: 1440 }));
    const q = question(works, { days: 200, free, fixed: [] });
    expect(bestPossible(q)).toBeNull();
    const plan = planAll(q, FEW);
    expect(
      faultsOf(q, { ...plan, sittings: plan.sittings.slice(0, 200), unplaced: [] }).filter(
        (f) => !/accounted/.test(f),
      ),
    ).toEqual([]);
    expect(plan.proved).toBe(false);
  });

  test('comes at once, and only better ones after it', () => {
    const many = question(
      Array.from({ length: 6 }, (_, n) => work(`work ${n}`, { minutes: 90, polish: n % 2 === 0 })),
    );
    const plans = [...planner(many, FEW)].filter((plan) => plan !== null);
    expect(faultsOf(many, plans[0]!)).toEqual([]);
    const worth = ({ score }: Plan) => score.unplaced * 1e6 + score.unpolished * 1e4 + score.evenness;
    plans.slice(1).forEach((plan, n) => expect(worth(plan)).toBeLessThan(worth(plans[n]!)));
  });
});

test.each([
  ['too long', { minutes: 65 }, 'essay on day 0 at 990: 65 is too short or too long'],
  ['between two steps', { minutes: 42 }, 'essay on day 0 at 990: 42 is no multiple of the step'],
  ['outside what is free', { from: 1100 }, 'essay on day 0 at 1100: the time is not free'],
  ['on a day too late', { day: 4 }, 'essay on day 4 at 990: the day is too early or too late'],
  ['of no work there is', { work: 'x' }, 'x on day 0 at 990: there is no such work'],
])('a sitting %s is a fault', (_, change, fault) => {
  const sitting = { work: 'essay', day: 0, from: 990, minutes: 40, ...change };
  const q = question([work('essay', { lastDay: 3 })]);
  expect(faultsOf(q, { sittings: [sitting], unplaced: [] })).toContain(fault);
});

test('two too close, two on a day, and minutes unaccounted for are faults', () => {
  const sittings = [990, 1030].map((from) => ({ work: 'essay', day: 0, from, minutes: 40 }));
  expect(faultsOf(question([work('essay')]), { sittings, unplaced: [] })).toEqual([
    'essay on day 0 at 990: 2 sittings are too many for a day',
    'essay on day 0 at 1030: 2 sittings are too many for a day',
    'essay on day 0 at 1030: it is too close to essay',
    'essay: 80 of 120 minutes are accounted for',
  ]);
});
