import { dueAt } from '../../test/occurrence';
import { parseDate, parseInstant } from '../time/civil';
import { instantOf } from '../time/when';
import { UTC } from '../time/zone';
import { viewerOf } from '../words/when';
import type { Schedule } from './ask';
import { DEFAULT_PLAN } from './evenings';
import { planSections } from './plan-sheet';

const sitting = (day: string, from: number, more: object = {}) => ({
  key: day,
  day,
  from,
  minutes: 30,
  state: 'planned' as const,
  took: null,
  pinned: false,
  ...more,
});
const schedule = (...sittings: ReturnType<typeof sitting>[]): Schedule => ({
  now: parseInstant('2026-10-06T15:10:00Z'),
  viewer: viewerOf(UTC, { hours: 24, nightUntil: 4 }),
  loads: { assignment: 60, test: 90, discussion: 30, reading: 45, project: 120, practice: 20 },
  shelfFrom: 22,
  settings: DEFAULT_PLAN,
  occurrences: [
    dueAt(instantOf(parseInstant('2026-10-12T15:00:00Z'), 'UTC'), { itemId: 'keel', title: 'Keel plan' }),
  ],
  runUps: [
    {
      itemId: 'keel',
      recurrenceId: '',
      minutes: 30 * sittings.length,
      saidBy: 'own',
      firstDay: '2026-10-01',
      perDay: 1,
      polish: false,
      shortest: null,
      longest: null,
      parts: [],
      sittings,
    },
  ],
});
const day = parseDate('2026-10-06');

test('a day’s sheet says what to sit down to and what tomorrow, by the clock, and what needs a new plan', () => {
  const line = (when: string) =>
    expect.objectContaining({ when, title: 'Keel plan', more: '30 min' }) as object;
  const whole = schedule(sitting('2026-10-06', 1020), sitting('2026-10-07', 1080));
  expect(planSections(whole, 'evening', day)).toEqual({
    now: [{ heading: 'Sit down to', lines: [line('17:00')], more: 0 }],
    next: [{ heading: 'Tomorrow: sit down to', lines: [line('18:00')], more: 0 }],
  });
  expect(planSections(whole, 'morning', day).next).toEqual([]);
  const [missed] = planSections(schedule(sitting('2026-10-05', 1020)), 'evening', day).now;
  expect(missed).toMatchObject({ heading: '1 plan no longer holds', lines: [{ title: 'Keel plan' }] });
});

test('a sitting that is over is not among those to sit down to', () => {
  const { now } = planSections(schedule(sitting('2026-10-06', 600)), 'evening', day);
  expect(now.map((s) => s.heading)).toEqual(['1 plan no longer holds']);
});

test('a week’s sheet leaves the sittings to each day; where nothing is planned, nothing is said', () => {
  const nothing = { now: [], next: [] };
  expect(planSections(schedule(sitting('2026-10-06', 1020)), 'week', day)).toEqual(nothing);
  expect(planSections({ ...schedule(), runUps: [] }, 'evening', day)).toEqual(nothing);
});
