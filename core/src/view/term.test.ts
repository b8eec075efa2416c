import { PLAIN, at, date, dueAt } from '../../test/occurrence';
import fc from 'fast-check';
import type { OccurrenceView } from '../item/occurrence';
import { DUBLIN } from '../../test/feeds';
import { formatDate, parseDate } from '../time/civil';
import { agendaEntry } from './entry';
import { NO_FILTERS, filtersFromQuery, filtersToQuery, isFiltering, passes, STATES } from './filter';
import { barbOf, dayWord, loadByDay, loadOf, loadShares, weekWord } from './load';
import { hoursWords, clockTime, daysWords } from '../words/when';
import { spokenWeek, termRibbon } from './ribbon';
import { Settings, Term } from '../api/values';
import { DEFAULT_LOADS, DEFAULT_SETTINGS } from './settings';
import { isoWeek, termFrom, termWeeks, weekName } from './term';
import { todayView } from './today';
import { HAND_IN_WAYS, ITEM_KINDS } from '../item/kind';

const NOW = Date.parse('2026-10-06T15:10:00Z');
const TODAY = parseDate('2026-10-06');
const work = (itemId: string, due: OccurrenceView['start'], more: Partial<OccurrenceView> = {}) =>
  dueAt(due, { itemId, ...more });
const days = (
  title: string,
  from: string,
  to: string | null = null,
  kind: OccurrenceView['kind'] = 'reminder',
): OccurrenceView => ({
  ...PLAIN,
  title,
  kind,
  start: date(from),
  end: to ? date(to) : null,
});
const OPTIONS = { viewer: DUBLIN, loads: DEFAULT_LOADS, shelfFrom: 17 };

const SCHOOL = [
  days('Autumn term begins', '2026-08-31'),
  days('Settling-in week', '2026-08-31', '2026-09-05'),
  days('Studio week', '2026-10-05', '2026-10-10'),
  days('Mid-term break', '2026-10-26', '2026-10-31', 'dayOff'),
  days('Day off: staff training', '2026-11-20', '2026-11-21', 'dayOff'),
  days('Christmas holidays', '2026-12-19', '2027-01-04', 'dayOff'),
];

describe('the term', () => {
  test('is read from the school’s own entries: its span, its named weeks, its breaks', () => {
    expect(termFrom(SCHOOL, TODAY)).toEqual({
      start: '2026-08-31',
      end: '2026-12-18',
      names: [
        { day: '2026-08-31', name: 'Settling-in week' },
        { day: '2026-10-05', name: 'Studio week' },
      ],
      breaks: [{ from: '2026-10-26', to: '2026-10-30', name: 'Mid-term break' }],
    });
    expect(termFrom([days('Open evening', '2026-10-01')], TODAY)).toBeNull();
    expect(termFrom([days('Spring term begins', '2027-01-11'), ...SCHOOL], TODAY)!.start).toBe('2026-08-31');
  });
  test('its weeks are numbered from one, breaks counted along, names where they have one', () => {
    const weeks = termWeeks(termFrom(SCHOOL, TODAY), 1, TODAY);
    expect(weeks.map((w) => w.name)).toEqual([
      'Settling-in week',
      'week 2',
      'week 3',
      'week 4',
      'week 5',
      'Studio week',
      'week 7',
      'week 8',
      'break',
      ...[10, 11, 12, 13, 14, 15, 16].map((n) => `week ${n}`),
    ]);
    expect(weekName(parseDate('2026-10-05'), weeks, 'term')).toBe('Studio week');
    expect(weekName(parseDate('2026-10-05'), weeks, 'year')).toBe('week 41');
    expect(weekName(parseDate('2027-03-01'), weeks, 'term')).toBe('week 9');
  });
  test('without one, the weeks around now are numbered as the year does', () => {
    const weeks = termWeeks(null, 1, parseDate('2026-10-05'));
    expect(weeks[4]).toEqual({ start: parseDate('2026-10-05'), name: 'week 41', isBreak: false });
    expect([isoWeek(parseDate('2026-12-31')), isoWeek(parseDate('2027-01-04'))]).toEqual([53, 1]);
  });
  test('one that was typed must end after it begins, and name real days', () => {
    const term = { start: '2026-08-31', end: '2026-12-18', names: [], breaks: [] };
    expect(Term.safeParse(term).success).toBe(true);
    for (const wrong of [
      { end: '2026-08-01' },
      { start: '2026-11-31' },
      { end: '2028-01-01' },
      { names: [{ day: '2026-10-05', name: ' ' }] },
    ])
      expect(Term.safeParse({ ...term, ...wrong }).success).toBe(false);
  });
});

describe('load', () => {
  test('late work can be done on its day, earlier work up to the evening before; long work is spread', () => {
    const by = (o: OccurrenceView) => loadShares([o], OPTIONS).map((s) => [formatDate(s.day), s.minutes]);
    expect(by(work('a', at('2026-10-06T22:59:00Z')))).toEqual([['2026-10-06', 45]]);
    expect(by(work('a', at('2026-10-06T08:00:00Z')))).toEqual([['2026-10-05', 45]]);
    expect(by(work('a', date('2026-10-06'), { kind: 'project' }))).toEqual([
      ['2026-10-06', 50],
      ['2026-10-05', 50],
      ['2026-10-04', 50],
    ]);
    expect(by({ ...PLAIN, kind: 'lesson' })).toEqual([]);
    expect(by(work('a', date('2026-10-06'), { status: 'cancelled' }))).toEqual([]);
  });
  test('the shares of all work add up to all of it, wherever it is due', () => {
    const some = fc.array(
      fc.record({ day: fc.integer({ min: 0, max: 200 }), kind: fc.constantFrom(...ITEM_KINDS) }),
      { maxLength: 40 },
    );
    fc.assert(
      fc.property(some, (list) => {
        const all = list.map(({ day, kind }, i) => work(`i${i}`, date(formatDate(TODAY + day)), { kind }));
        const total = all.reduce(
          (sum, o) => sum + (DEFAULT_LOADS[o.kind as keyof typeof DEFAULT_LOADS] ?? 0),
          0,
        );
        const byDay = loadByDay(loadShares(all, OPTIONS));
        expect(Math.abs(loadOf(byDay, TODAY - 10, 230) - total)).toBeLessThan(1e-6);
      }),
      { numRuns: 100, seed: 23 },
    );
  });
  test('in words, and as a barb', () => {
    expect([0, 30, 90, 150, 300].map(dayWord)).toEqual(['calm', 'light', 'steady', 'strong', 'gale']);
    expect(weekWord(11 * 60)).toBe('strong');
    expect([150, 45, 60].map(hoursWords)).toEqual(['2 h 30', '45 min', '1 h']);
    expect(barbOf(6.5 * 60)).toEqual({ pennants: 1, feathers: 1, half: true });
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 3000 }), (m) => {
        const { pennants, feathers, half } = barbOf(m);
        return Math.abs(pennants * 300 + feathers * 60 + (half ? 30 : 0) - m) <= 15;
      }),
    );
  });
});

test('the ribbon counts what is due, bands load by course, and marks clashes and now', () => {
  const list = [1, 2, 3].map((n) =>
    work(`c${n}`, at('2026-10-07T22:59:00Z'), { calendarId: n === 3 ? 'b' : 'a' }),
  );
  const weeks = termRibbon(list, termWeeks(termFrom(SCHOOL, TODAY), 1, TODAY), TODAY, OPTIONS);
  const week = weeks[5]!;
  expect(week).toMatchObject({
    minutes: 135,
    due: 3,
    clashes: [parseDate('2026-10-07')],
    bands: [
      { calendarId: 'a', minutes: 90 },
      { calendarId: 'b', minutes: 45 },
    ],
    isNow: true,
    isPast: false,
  });
  expect(spokenWeek(week, 6)).toBe(
    'week 6, Studio week, 2 h 15 of work, light, 3 items due, 1 day with three or more due, this week',
  );
  expect(weeks[0]!.isPast).toBe(true);
});

describe('filters', () => {
  const entry = (o: OccurrenceView) => agendaEntry(o, NOW, DUBLIN);
  test('each asks for its own, all of them for all', () => {
    const late = entry(work('a', at('2026-10-05T22:59:00Z'), { kind: 'test' }));
    const lesson = entry({ ...PLAIN, kind: 'lesson' });
    expect(passes(late, { ...NO_FILTERS, kinds: ['test'], states: ['pastDue'], ways: ['online'] })).toBe(
      true,
    );
    expect(passes(late, { ...NO_FILTERS, states: ['finished'] })).toBe(false);
    expect([
      passes(lesson, NO_FILTERS),
      passes(lesson, { ...NO_FILTERS, states: ['soon'] }),
      passes(lesson, { ...NO_FILTERS, ways: ['nothing'] }),
    ]).toEqual([true, false, false]);
    expect([
      isFiltering(NO_FILTERS),
      isFiltering({ ...NO_FILTERS, text: ' ' }),
      isFiltering({ ...NO_FILTERS, text: 'x' }),
    ]).toEqual([false, false, true]);
  });
  test('an address says them whole, and what it does not know is left out', () => {
    const any = fc.record({
      kinds: fc.subarray([...ITEM_KINDS]),
      states: fc.subarray([...STATES]),
      ways: fc.subarray([...HAND_IN_WAYS]),
      text: fc.string().map((t) => t.trim()),
    });
    fc.assert(
      fc.property(any, (filters) => expect(filtersFromQuery(filtersToQuery(filters))).toEqual(filters)),
    );
    expect(filtersFromQuery({ what: 'test.nonsense' })).toEqual({ ...NO_FILTERS, kinds: ['test'] });
  });
});

test('today: the one next thing, where to be, what is due, what is past due, what comes', () => {
  const list = [
    work('tonight', at('2026-10-06T22:59:00Z')),
    work('done', at('2026-10-06T08:00:00Z'), { finished: true }),
    // Due before school with nothing to hand in: it stands below what is still due.
    work('read', at('2026-10-06T07:00:00Z'), { handIn: 'nothing' }),
    work('night', at('2026-10-06T23:59:00Z')),
    work('late', at('2026-10-01T22:59:00Z')),
    work('soon', date('2026-10-09')),
    work('far', date('2026-12-01')),
    {
      ...PLAIN,
      itemId: 'slip',
      kind: 'meeting' as const,
      start: at('2026-10-06T16:00:00Z'),
      end: at('2026-10-06T16:40:00Z'),
    },
    {
      ...PLAIN,
      itemId: 'over',
      kind: 'lesson' as const,
      start: at('2026-10-06T08:00:00Z'),
      end: at('2026-10-06T09:00:00Z'),
    },
    days('Studio week', '2026-10-05', '2026-10-10'),
  ];
  const viewer = Object.assign(Object.create(DUBLIN) as typeof DUBLIN, { nightUntil: 4 });
  const view = todayView(list, { now: NOW, viewer, ahead: 7 });
  const ids = (entries: { occurrence: OccurrenceView }[]) => entries.map((e) => e.occurrence.itemId);
  expect(view.next).toMatchObject({ entry: { occurrence: { itemId: 'slip' } }, isUnderWay: false });
  expect([ids(view.places), ids(view.due), ids(view.pastDue), ids(view.upcoming), ids(view.spans)]).toEqual([
    ['slip'],
    ['tonight', 'night', 'done'],
    ['late'],
    ['soon'],
    ['i'],
  ]);
  // After midnight it is due on the day that has begun, and after its hour past due like the rest.
  const afterMidnight = (text: string) => todayView(list, { now: Date.parse(text), viewer, ahead: 7 });
  expect(ids(afterMidnight('2026-10-06T23:30:00Z').due)).toEqual(['night']);
  expect(ids(afterMidnight('2026-10-07T01:00:00Z').pastDue)).toEqual(['late', 'tonight', 'night']);
  expect(
    todayView(list, { now: Date.parse('2026-10-06T16:10:00Z'), viewer: DUBLIN, ahead: 7 }).next,
  ).toMatchObject({ isUnderWay: true });
});

test('settings that cannot be are told at their field', () => {
  expect(Settings.safeParse(DEFAULT_SETTINGS).success).toBe(true);
  for (const [wrong, path] of [
    [{ dayTo: 3 }, 'dayTo'],
    [{ zone: 'Middle/Earth' }, 'zone'],
    [{ ahead: 0 }, 'ahead'],
    [{ loads: { ...DEFAULT_LOADS, test: -1 } }, 'loads'],
  ] as const) {
    expect(Settings.safeParse({ ...DEFAULT_SETTINGS, ...wrong }).error?.issues[0]?.path[0]).toBe(path);
  }
});

test('hours and spans in the words each person likes', () => {
  const twelve = {
    ...DUBLIN,
    id: 'x',
    hours: 12 as const,
    offsetAt: (t: number) => DUBLIN.offsetAt(t),
    toInstant: (l: number) => DUBLIN.toInstant(l),
    exists: () => true,
  };
  expect([
    clockTime(at('2026-10-06T22:59:00Z'), twelve),
    clockTime(at('2026-10-06T23:05:00Z'), twelve),
    clockTime(at('2026-10-06T11:00:00Z'), twelve),
  ]).toEqual(['11:59 pm', '12:05 am', '12:00 pm']);
  expect([
    daysWords(parseDate('2026-10-05'), parseDate('2026-10-11'), 2026),
    daysWords(parseDate('2026-12-28'), parseDate('2027-01-03'), 2026),
  ]).toEqual(['5 – 11 October', '28 Dec – 3 Jan 2027']);
});
