import { PLAIN, at, date, dueAt } from '../../test/occurrence';
import { DUBLIN } from '../../test/feeds';
import { keyOf, type OccurrenceView } from '../item/occurrence.ts';
import { formatDate } from '../time/civil.ts';
import { ianaZone } from '../time/zone.ts';
import { DEFAULT_LOADS } from '../view/settings.ts';
import { ask, withPlan, type Schedule } from './ask.ts';
import { DEFAULT_PLAN } from './evenings.ts';
import { planAll } from './planner.ts';
import { faultsOf } from './judge.ts';
import {
  isBig,
  isPlannable,
  minutesLeft,
  newRunUp,
  sittingNames,
  type PlannedSitting,
  type RunUpOf,
} from './run-up.ts';
import { missedInARow, troublesOf } from './standing.ts';
import { waysOut } from './ways.ts';

/** Tuesday 6 October, 16:10 in Dublin. */
const NOW = Date.parse('2026-10-06T15:10:00Z');
const essay = dueAt(date('2026-10-16'), { itemId: 'essay', kind: 'assignment' });
const runUp = (o: OccurrenceView, minutes: number, more: Partial<RunUpOf> = {}): RunUpOf => ({
  ...newRunUp(o, minutes, 'own', 20_732),
  firstDay: '2026-10-06',
  ...more,
});
const sitting = (day: string, more: Partial<PlannedSitting> = {}): PlannedSitting => ({
  key: day,
  day,
  from: 1020,
  minutes: 30,
  state: 'planned',
  took: null,
  pinned: false,
  ...more,
});
const schedule = (
  occurrences: OccurrenceView[],
  runUps: RunUpOf[],
  more: Partial<Schedule> = {},
): Schedule => ({
  now: NOW,
  viewer: DUBLIN,
  loads: DEFAULT_LOADS,
  shelfFrom: 17,
  settings: { ...DEFAULT_PLAN, mostADay: 600 },
  occurrences,
  runUps,
  ...more,
});
const asked = (s: Schedule) => ask(s, new Set(s.runUps.map(keyOf))).question;
const onDay = (s: Schedule, day: number) =>
  asked(s)
    .free.filter((f) => f.day === day)
    .map(({ from, to }) => [from, to]);
const lesson = (start: string, end: string | null, more: Partial<OccurrenceView> = {}) =>
  ({
    ...PLAIN,
    itemId: 'cello',
    kind: 'meeting',
    start: at(start),
    end: end && at(end),
    ...more,
  }) as OccurrenceView;

describe('the time one has', () => {
  const only = (more: OccurrenceView[] = [], changes: Partial<Schedule> = {}) =>
    schedule([essay, ...more], [runUp(essay, 240)], changes);

  test('is what was said of the weekday, from now on, up to the evening before it is due', () => {
    const { days, free, works } = asked(only());
    expect(days).toBe(10);
    expect(free[0]).toEqual({ day: 0, from: 990, to: 1200 });
    expect(free.find((f) => f.day === 4)).toEqual({ day: 4, from: 600, to: 720 });
    expect(works).toMatchObject([{ id: 'essay ', minutes: 240, firstDay: 0, lastDay: 9, polish: true }]);
  });

  test('begins in the middle of an evening, at the next five minutes', () => {
    expect(onDay(only([], { now: Date.parse('2026-10-06T17:12:30Z') }), 0)).toEqual([[1095, 1200]]);
    expect(onDay(only([], { now: Date.parse('2026-10-06T21:00:00Z') }), 0)).toEqual([]);
  });

  test.each([
    [
      'something to be at',
      lesson('2026-10-08T16:00:00Z', '2026-10-08T17:00:00Z'),
      [
        [990, 1020],
        [1080, 1200],
      ],
    ],
    [
      'one that says no end',
      lesson('2026-10-08T16:00:00Z', null),
      [
        [990, 1020],
        [1080, 1200],
      ],
    ],
    [
      'one called off',
      lesson('2026-10-08T16:00:00Z', '2026-10-08T17:00:00Z', { status: 'cancelled' }),
      [[990, 1200]],
    ],
    [
      'one not sure yet',
      lesson('2026-10-08T16:00:00Z', '2026-10-08T17:00:00Z', { status: 'tentative' }),
      [
        [990, 1020],
        [1080, 1200],
      ],
    ],
    [
      'one hidden by who looks',
      lesson('2026-10-08T16:00:00Z', '2026-10-08T17:00:00Z', { hidden: true }),
      [
        [990, 1020],
        [1080, 1200],
      ],
    ],
    [
      'only to know',
      lesson('2026-10-08T16:00:00Z', '2026-10-08T17:00:00Z', { kind: 'reminder' }),
      [[990, 1200]],
    ],
    ['a day off', { ...PLAIN, kind: 'dayOff', start: date('2026-10-08') } as OccurrenceView, [[990, 1200]]],
    [
      'a trip of whole days',
      { ...PLAIN, kind: 'trip', start: date('2026-10-07'), end: date('2026-10-09') } as OccurrenceView,
      [],
    ],
    [
      'one from the day before into it',
      lesson('2026-10-07T20:00:00Z', '2026-10-08T16:30:00Z'),
      [[1050, 1200]],
    ],
    [
      'the eve of a test',
      dueAt(at('2026-10-09T09:00:00Z'), { itemId: 'quiz', kind: 'test', estimate: 5 }),
      [[990, 1100]],
    ],
  ] as [string, OccurrenceView, number[][]][])('on a day with %s', (_, o, free) => {
    const settings = { ...DEFAULT_PLAN, mostADay: 600, beforeTest: 1100 };
    expect(onDay(only([o], { settings }), 2)).toEqual(free);
  });

  test('is less by the way to something, and none on an evening that was taken out', () => {
    const settings = {
      ...DEFAULT_PLAN,
      mostADay: 600,
      travel: { [PLAIN.calendarId]: { before: 20, after: 10 } },
      days: { '2026-10-09': [], '2026-10-11': [{ from: 1320, to: 1500 }] },
    };
    const s = only([lesson('2026-10-08T16:00:00Z', '2026-10-08T17:00:00Z')], { settings });
    expect(onDay(s, 2)).toEqual([
      [990, 1000],
      [1090, 1200],
    ]);
    expect(onDay(s, 3)).toEqual([]);
    // An evening that ends after midnight belongs to the day it begins on.
    expect(onDay(s, 5)).toEqual([[1320, 1500]]);
    const late = lesson('2026-10-11T23:30:00Z', '2026-10-12T00:00:00Z');
    expect(onDay(only([late], { settings }), 5)).toEqual([[1320, 1450]]);
  });

  test('is at most so much a day, with the short work that stands there already', () => {
    const short = dueAt(date('2026-10-08'), { itemId: 'log', estimate: 30, kind: 'assignment' });
    const s = only([short], { settings: { ...DEFAULT_PLAN, mostADay: 90 } });
    expect(asked(s).fixed[2]).toBe(30);
    expect(onDay(s, 2)).toEqual([[990, 1050]]);
    expect(onDay(s, 1)).toEqual([[990, 1080]]);
  });

  test('stands on the same hours before and after the clocks change', () => {
    const far = dueAt(date('2026-11-02'), { itemId: 'essay' });
    const s = schedule([far, lesson('2026-10-27T17:00:00Z', '2026-10-27T18:00:00Z')], [runUp(far, 300)]);
    const monday = (date: string) =>
      asked(s).free.filter((f) => formatDate(f.day + ask(s, new Set()).firstDay) === date);
    expect(monday('2026-10-23')).toMatchObject([{ from: 990, to: 1200 }]);
    expect(monday('2026-10-26')).toMatchObject([{ from: 990, to: 1200 }]);
    expect(monday('2026-10-27')).toMatchObject([
      { from: 990, to: 1020 },
      { from: 1080, to: 1200 },
    ]);
    const away = schedule([far], [runUp(far, 300)], { viewer: ianaZone('Pacific/Auckland')! });
    expect(asked(away).free[0]).toEqual({ day: 0, from: 990, to: 1200 });
  });
});

describe('what is to be done', () => {
  test('is what was not done yet, without what was put somewhere by hand', () => {
    const sittings = [
      sitting('2026-10-05', { state: 'done', took: 50 }),
      sitting('2026-10-04'),
      sitting('2026-10-08', { pinned: true }),
      sitting('2026-10-09', { minutes: 45 }),
    ];
    const s = schedule([essay], [runUp(essay, 200, { sittings })]);
    const question = asked(s);
    expect(question.works).toMatchObject([{ minutes: 140 }]);
    expect(question.keep).toEqual([{ work: 'essay ', day: 3, from: 1020, minutes: 45 }]);
    // The pinned one takes its time out, with a pause on both sides.
    expect(onDay(s, 2)).toEqual([
      [990, 1010],
      [1060, 1200],
    ]);
    expect(minutesLeft(s.runUps[0]!)).toBe(170);
  });

  test('due before tonight it cannot be planned; with an aim it is to be finished on that day', () => {
    const past = dueAt(date('2026-10-06'), { itemId: 'past' });
    const aimed = dueAt(date('2026-10-16'), { itemId: 'aimed', aim: date('2026-10-12') });
    const s = schedule([past, aimed], [runUp(past, 60), runUp(aimed, 60)]);
    const { question, tooLate } = ask(s, new Set(s.runUps.map(keyOf)));
    expect(tooLate).toEqual(['past ']);
    expect(question.works).toMatchObject([{ id: 'aimed ', lastDay: 6 }]);
    expect(isPlannable(past, NOW, DUBLIN)).toBe(false);
    expect(isPlannable(aimed, NOW, DUBLIN)).toBe(true);
  });

  test('is big by what it is, or by how long it takes', () => {
    const of = (more: Partial<OccurrenceView>) => isBig(dueAt(date('2026-10-16'), more), DEFAULT_LOADS);
    expect([
      of({ kind: 'test' }),
      of({ kind: 'assignment' }),
      of({ kind: 'assignment', estimate: 60 }),
    ]).toEqual([true, false, true]);
    expect(of({ kind: 'meeting' })).toBe(false);
  });

  test('planned, keeps the rules and what is settled; a sitting that stays on its day stays the same one', () => {
    const sittings = [
      sitting('2026-10-05', { state: 'done' }),
      sitting('2026-10-04'),
      sitting('2026-10-09', { minutes: 45 }),
    ];
    const s = schedule([essay], [runUp(essay, 200, { sittings })]);
    const question = ask(s, new Set(['essay ']));
    const plan = planAll(question.question, 3000);
    expect(faultsOf(question.question, plan)).toEqual([]);
    let n = 0;
    const [next] = withPlan(question, plan, s.runUps, () => `new ${n++}`);
    expect(next!.sittings[0]).toEqual(sittings[0]);
    expect(next!.sittings.find((p) => p.day === '2026-10-04')?.state).toBe('missed');
    expect(next!.sittings.find((p) => p.day === '2026-10-09')?.key).toBe('2026-10-09');
    expect(minutesLeft(next!)).toBe(
      next!.sittings.reduce((sum, p) => sum + (p.state === 'planned' ? p.minutes : 0), 0),
    );
  });

  test('what is finished or called off takes no time, and what is not asked about counts where it stands', () => {
    const keel = dueAt(date('2026-10-12'), { itemId: 'keel', kind: 'project' });
    const keelUp = runUp(keel, 60, { sittings: [sitting('2026-10-08', { minutes: 60 })] });
    const fixed = (o: OccurrenceView) => {
      const s = schedule([essay, o], [runUp(essay, 60), keelUp]);
      const { question } = ask(s, new Set(['essay ']));
      return [question.fixed[2], question.free.filter((f) => f.day === 2).map((f) => [f.from, f.to])];
    };
    expect(fixed(keel)).toEqual([
      60,
      [
        [990, 1010],
        [1090, 1200],
      ],
    ]);
    expect(fixed({ ...keel, finished: true })).toEqual([0, [[990, 1200]]]);
    expect(fixed({ ...keel, status: 'cancelled' })).toEqual([0, [[990, 1200]]]);
  });

  test('all of it put somewhere by hand, nothing else of it stays', () => {
    const sittings = [sitting('2026-10-08', { pinned: true, minutes: 60 }), sitting('2026-10-09')];
    const s = schedule([essay], [runUp(essay, 60, { sittings })]);
    const question = ask(s, new Set(['essay ']));
    expect(question.question.works).toEqual([]);
    const [next] = withPlan(question, planAll(question.question, 100), s.runUps, () => 'new');
    expect(next!.sittings).toEqual([sittings[0]]);
  });

  test('has names by its parts', () => {
    const days = ['2026-10-07', '2026-10-08', '2026-10-10', '2026-10-12', '2026-10-15'];
    const r = runUp(essay, 150, {
      sittings: [sitting('2026-10-06', { state: 'missed' }), ...days.map((d) => sitting(d))],
    });
    const names = sittingNames(r);
    expect(days.map((d) => names.get(d)?.part)).toEqual([
      'gather',
      'outline and draft',
      'draft',
      'draft and revise',
      'revise and polish',
    ]);
    expect(names.get('2026-10-15')).toMatchObject({ at: 5, of: 5 });
    expect(names.has('2026-10-06')).toBe(false);
  });
});

describe('what no longer holds', () => {
  const troubles = (
    sittings: PlannedSitting[],
    minutes: number,
    occurrence = essay,
    more: OccurrenceView[] = [],
  ) => troublesOf(schedule([occurrence, ...more], [runUp(essay, minutes, { sittings })])).map((t) => t.kind);

  test('nothing, where all is as it was planned', () => {
    expect(troubles([sitting('2026-10-07'), sitting('2026-10-08')], 60)).toEqual([]);
  });
  test.each<[string, PlannedSitting, string]>([
    ['went by', sitting('2026-10-05'), 'missed'],
    ['lies behind the last evening', sitting('2026-10-16'), 'tooLate'],
    ['lies where there is no time', sitting('2026-10-07', { from: 1190 }), 'notFree'],
    ['lies where one has to be somewhere', sitting('2026-10-08', { from: 1010 }), 'busy'],
    ['lies late on the eve of a test', sitting('2026-10-12', { from: 1165 }), 'notFree'],
  ])('a sitting that %s', (_, wrong, kind) => {
    const cello = lesson('2026-10-08T16:00:00Z', '2026-10-08T17:00:00Z');
    const quiz = dueAt(date('2026-10-13'), { itemId: 'quiz', kind: 'test' });
    const settings = { ...DEFAULT_PLAN, beforeTest: 1170 };
    const s = schedule(
      [essay, cello, quiz],
      [runUp(essay, 60, { sittings: [wrong, sitting('2026-10-09')] })],
      { settings },
    );
    expect(troublesOf(s).map((t) => t.kind)).toEqual([kind]);
  });
  test('more to do than is planned; work that is gone; and nothing of what is finished', () => {
    expect(troubles([sitting('2026-10-07')], 90)).toEqual(['short']);
    expect(troubles([sitting('2026-10-07')], 30, { ...essay, status: 'cancelled' })).toEqual(['gone']);
    expect(troubles([sitting('2026-10-05')], 90, { ...essay, finished: true })).toEqual([]);
  });
  test('what was put there by hand may lie anywhere before it is due', () => {
    expect(troubles([sitting('2026-10-07', { from: 60, pinned: true })], 30)).toEqual([]);
  });
  test('evenings missed one after the other are counted up to the last one kept', () => {
    const sittings = [
      sitting('2026-10-01', { state: 'missed' }),
      sitting('2026-10-02', { state: 'done' }),
      sitting('2026-10-03', { state: 'missed' }),
      sitting('2026-10-05'),
      sitting('2026-10-09'),
    ];
    expect(missedInARow(runUp(essay, 90, { sittings }), { now: NOW, viewer: DUBLIN })).toBe(2);
  });
});

test('ways out have their effect worked out, and what does not help is not offered', () => {
  const keel = dueAt(date('2026-10-09'), { itemId: 'keel', kind: 'project' });
  const settings = { ...DEFAULT_PLAN, longest: 60, days: { '2026-10-07': [] } };
  const s = schedule([keel], [runUp(keel, 180)], { settings });
  const ways = waysOut(s, new Set(['keel ']), 'keel ');
  expect(ways.find((w) => w.kind === 'day')).toMatchObject({ left: 0, span: { from: 990, to: 1110 } });
  expect(ways.find((w) => w.kind === 'twice')).toMatchObject({ left: 0 });
  expect(ways.find((w) => w.kind === 'later')).toMatchObject({ days: 1, left: 0 });
  // The evenings are long enough: it is the length of a sitting that is in the way.
  expect(ways.find((w) => w.kind === 'more')).toBeUndefined();
});
