import fc from 'fast-check';
import { date, dueAt } from '../../test/occurrence';
import { DUBLIN } from '../../test/feeds';
import type { OccurrenceView } from '../item/occurrence';
import { viewerOf } from '../words/when';
import { agendaEntry } from './entry';
import { DEFAULT_SETTINGS } from './settings';
import { sharedOnce } from './shared';
import { slipFace } from './slips';

const of = (learnerId: string, name: string, mark: string) =>
  ({ learnerId, whose: { name: `${name} Lindqvist`, mark }, ownName: 'School' }) as const;
const CALENDARS = new Map([
  ['j', of('juno', 'Juno', 'J')],
  ['t', of('tobias', 'Tobias', 'T')],
  ['w', of('wren', 'Wren', 'W')],
  ['e', of('emeka', 'Emeka', 'E')],
]);
const event = (calendarId: string, title = 'Open evening', more: Partial<OccurrenceView> = {}) =>
  ({
    ...dueAt(date('2026-10-15'), { itemId: `${calendarId} ${title}`, title, calendarId }),
    due: null,
    kind: 'meeting',
    ...more,
  }) as OccurrenceView;
const once = (...all: OccurrenceView[]) => sharedOnce(all, CALENDARS, () => false);

test('the same event of two learners is one, with both their marks', () => {
  const [only, ...rest] = once(event('j'), event('t'));
  expect(rest).toEqual([]);
  expect(only!.sharedBy).toEqual({
    name: 'Juno and Tobias',
    mark: 'JT',
    calendar: 'Juno and Tobias · School',
  });
  const viewer = viewerOf(DUBLIN, DEFAULT_SETTINGS);
  const face = slipFace(agendaEntry(only!, 0, viewer), undefined, viewer);
  expect(face.whose?.mark).toBe('JT');
  expect(face.spoken).toContain('Juno and Tobias · School');
});

test('of many, the mark is their number', () => {
  expect(once(event('j'), event('t'), event('w'), event('e'))[0]!.sharedBy).toMatchObject({
    name: '4 learners',
    mark: '4',
  });
});

test('work stays apart, since each finishes their own; so does what differs, and what is hidden', () => {
  const work = { kind: 'assignment' } as const;
  expect(once(event('j', 'Report', work), event('t', 'Report', work))).toHaveLength(2);
  expect(once(event('j', 'Call', { place: 'Hall' }), event('t', 'Call', { place: 'Loft' }))).toHaveLength(2);
  expect(once(event('j', 'Busy', { busy: true }), event('t', 'Busy', { busy: true }))).toHaveLength(2);
  expect(sharedOnce([event('j'), event('t')], CALENDARS, (o) => o.calendarId === 't')).toHaveLength(2);
});

test('twice in one schedule is two things', () => {
  expect(once(event('j'), event('j'), event('t')).map((o) => o.sharedBy?.mark)).toEqual(['JT', undefined]);
});

test('nothing is lost: everything given stands for itself or in what it shares', () => {
  fc.assert(
    fc.property(
      fc.array(
        fc.record({ who: fc.constantFrom('j', 't', 'w', 'e'), title: fc.constantFrom('A', 'B', 'C') }),
      ),
      (made) => {
        const all = made.map(({ who, title }) => event(who, title));
        const drawn = once(...all);
        const standsFor = (o: OccurrenceView) =>
          !o.sharedBy ? 1 : Number(o.sharedBy.mark) || o.sharedBy.mark.length;
        expect(drawn.reduce((sum, o) => sum + standsFor(o), 0)).toBe(all.length);
        for (const { title } of all) expect(drawn.some((o) => o.title === title)).toBe(true);
      },
    ),
  );
});
