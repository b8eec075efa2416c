import fc from 'fast-check';
import { date, dueAt } from '../../test/occurrence';
import { DUBLIN } from '../../test/feeds';
import type { OccurrenceView } from '../item/occurrence';
import { viewerOf } from '../words/when';
import { agendaEntry } from './entry';
import { DEFAULT_SETTINGS } from './settings';
import { partShared, sharedCalendars, sharedOnce } from './shared';
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

const FLAG = { shape: 'wedge', pattern: 'halves', letters: 'SH' } as const;
const calendar = (id: string, more: object = {}) => ({
  id,
  name: 'School',
  kind: 'school' as const,
  colour: 'slate' as const,
  flag: FLAG,
  ...CALENDARS.get(id)!,
  ...more,
});

test('a calendar that two learners have takes one place among the flags', () => {
  const places = sharedCalendars([calendar('j'), calendar('w', { colour: 'rust' }), calendar('t')]);
  expect(places.map(({ ids }) => ids)).toEqual([['j', 't'], ['w']]);
  expect(places[0]!.calendar).toMatchObject({ name: 'Juno and Tobias · School', whose: { mark: 'JT' } });
});

test('two calendars of one learner, and those of one who is looked at alone, each have a place', () => {
  const twice = [calendar('j'), { ...calendar('j'), id: 'j2' }, calendar('t')];
  expect(sharedCalendars(twice).map(({ ids }) => ids)).toEqual([['j', 't'], ['j2']]);
  const alone = [calendar('j', { whose: undefined }), calendar('t', { whose: undefined })];
  expect(sharedCalendars(alone).map(({ ids }) => ids)).toEqual([['j'], ['t']]);
});

test('a day of several learners says once what they have in common, and work of each', () => {
  const item = (title: string, kind: 'lesson' | 'assignment') => ({
    itemId: title,
    recurrenceId: '',
    title,
    kind,
    when: date('2026-10-15'),
    finished: false,
    calendar: { name: 'School', colour: 'slate' as const, flag: FLAG },
  });
  const has = (learnerId: string, ...items: ReturnType<typeof item>[]) => ({ learnerId, minutes: 0, items });
  const lesson = item('Ceramics', 'lesson');
  const work = item('Report', 'assignment');
  const { shared, own } = partShared([
    has('juno', lesson, work),
    has('tobias', lesson, work, item('Choir', 'lesson')),
  ]);
  expect(shared.map((s) => [s.item.title, s.learnerIds])).toEqual([['Ceramics', ['juno', 'tobias']]]);
  expect(own.map((l) => l.items.map((i) => i.title))).toEqual([['Report'], ['Report', 'Choir']]);
});
