import { PLAIN, at, dueAt } from '../../test/occurrence';
import { DUBLIN } from '../../test/feeds';
import type { OccurrenceView } from '../item/occurrence';
import { formatDate, parseDate } from '../time/civil';
import { DEFAULT_LOADS } from '../view/settings';
import { calmest, dateWords, daysForSeveral, type LearnerDay } from './clashes';
import { DEFAULT_PLAN } from './evenings';
import { glanceAt, needOf, HELP_FIRST } from './glance';

const NOW = Date.parse('2026-10-06T15:10:00Z');
const DAY = parseDate('2026-10-06');
const work = (itemId: string, due: string, more: Partial<OccurrenceView> = {}) =>
  dueAt(at(`${due}T17:00:00Z`), { itemId, title: itemId, ...more });
const look = (all: OccurrenceView[], opened: string[] = []) =>
  glanceAt(all, {
    now: NOW,
    viewer: DUBLIN,
    loads: DEFAULT_LOADS,
    shelfFrom: 17,
    firstWeek: parseDate('2026-10-05'),
    weeks: 3,
    runUps: [],
    settings: DEFAULT_PLAN,
    opened: new Set(opened),
  });

test('a learner at a glance: weeks to come, what is past due, what nobody has opened, what is next', () => {
  const glance = look(
    [
      work('late', '2026-10-02'),
      work('paper', '2026-10-01', { handIn: 'paper' }),
      work('nothing', '2026-10-01', { handIn: 'nothing' }),
      work('done', '2026-10-05', { finished: true, finishedAt: '2026-10-05T10:00:00Z' }),
      work('soon', '2026-10-08'),
      work('seen', '2026-10-09'),
      work('far', '2026-10-23', { kind: 'project' }),
      { ...PLAIN, kind: 'lesson' },
    ],
    ['seen'],
  );
  expect(glance).toMatchObject({ pastDue: 1, unsettled: 2, dueSoon: 2, notOpened: 1, quietSince: null });
  expect(glance.next).toMatchObject({ title: 'soon' });
  expect(glance.weeks).toEqual([135, 0, 150]);
  // What is hidden or called off counts for nothing.
  expect(
    look([work('a', '2026-10-02', { hidden: true }), work('b', '2026-10-02', { status: 'cancelled' })]),
  ).toMatchObject({ pastDue: 0, next: null });
});

test('days without a tick count while work was due', () => {
  const ticked = work('done', '2026-09-30', { finished: true, finishedAt: '2026-09-30T10:00:00Z' });
  const due = [work('a', '2026-10-02'), work('b', '2026-10-05')];
  expect(look([ticked, ...due]).quietSince).toBe(parseDate('2026-09-30'));
  expect(look([ticked, due[0]!]).quietSince).toBeNull();
  expect(look(due).quietSince).toBeNull();
});

test('who needs help is told in words, the weightiest reason first', () => {
  const calm = look([work('soon', '2026-10-08')]);
  expect(needOf(calm, 0, DAY)).toEqual({ score: 0, reasons: [] });
  const need = needOf({ ...calm, pastDue: 2, notOpened: 6, quietSince: parseDate('2026-10-01') }, 1, DAY);
  expect(need.reasons).toEqual([
    '2 past due',
    'nothing ticked off since Thursday',
    '6 not opened',
    '1 unread note',
  ]);
  expect(need.score).toBeGreaterThan(HELP_FIRST);
});

describe('a date for several', () => {
  const learner = (id: string, minutes: number, ...items: LearnerDay['items'][number][]): LearnerDay => ({
    learnerId: id,
    minutes,
    items,
  });
  const test1 = { kind: 'test' as const, title: 'Chance test' };
  const keel = { kind: 'project' as const, title: 'Keel plan' };
  const week = daysForSeveral([
    {
      day: parseDate('2026-10-12'),
      learners: [learner('a', 20, test1), learner('b', 100, keel), learner('c', 0, keel)],
    },
    { day: parseDate('2026-10-15'), learners: [learner('a', 0), learner('b', 40), learner('c', 0)] },
    { day: parseDate('2026-10-17'), learners: [learner('a', 0), learner('b', 0), learner('c', 0)] },
  ]);
  test('says who has what against it, and which day is calmest', () => {
    expect(week[0]!.words).toEqual([
      '1 of 3 has a test',
      '2 of 3 have “Keel plan” due',
      '1 of 3 has a full evening',
    ]);
    expect(week.map((d) => d.full)).toEqual([
      [2, 2, 1],
      [0, 1, 0],
      [0, 0, 0],
    ]);
    // A Saturday is calm, and no day to set a date on.
    expect(formatDate(calmest(week)!.day)).toBe('2026-10-15');
    expect(dateWords(week[0]!, week)).toBe(
      '1 of 3 has a test, 2 of 3 have “Keel plan” due, 1 of 3 has a full evening that day; Thursday is calmest.',
    );
    expect(dateWords(week[1]!, week)).toBe('Nobody has anything due that day.');
    expect(dateWords(week[2]!, week)).toBe('That day is off.');
  });
  test('a day that is off for most is no day for a date', () => {
    const off = { kind: 'dayOff' as const, title: 'Mid-term break' };
    const [day] = daysForSeveral([
      {
        day: parseDate('2026-10-26'),
        learners: [learner('a', 0, off), learner('b', 0, off), learner('c', 0)],
      },
    ]);
    expect(day!.isDayOff).toBe(true);
    expect(calmest([day!])).toBeNull();
  });
});
