import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { event, read, calendar } from '../../../test/feeds';
import { takenFor } from '../classify';
import type { ItemKind } from '../kind';
import { handInOf } from './hand-in';
import { SORT_OF, SORTS, type Sort } from './words';
import { weigh, type Standing } from './weigh';

const WHEN: Record<string, string[]> = {
  deadline: ['DTSTART:20261006T225900Z'],
  date: ['DTSTART;VALUE=DATE:20261006'],
  hours: ['DTSTART:20261006T090000Z', 'DTEND:20261006T100000Z'],
  days: ['DTSTART;VALUE=DATE:20261006', 'DTEND;VALUE=DATE:20261011'],
};
const itemOf = (title: string, when: string, description = '') =>
  read(
    calendar(
      event('UID:a', `SUMMARY:${escaped(title)}`, `DESCRIPTION:${escaped(description)}`, ...WHEN[when]!),
    ),
  ).items[0]!;
const escaped = (text: string) => text.replaceAll(/[\\;,]/g, (c) => `\\${c}`);
const linesOf = (name: string) =>
  readFileSync(join(__dirname, '../../../test', name), 'utf8')
    .split('\n')
    .filter(Boolean);
const isDue = (sort: Sort, when: string) => sort === 'work' || (sort === 'test' && when === 'deadline');

/** Each line says what a careful reader takes a title for, how it stands, and the title. */
const readAll = (name: string) =>
  linesOf(name).map((line) => {
    const [sort, when, ...title] = line.split(' ') as [Sort, string, ...string[]];
    const { kind, doubt } = takenFor(itemOf(title.join(' '), when));
    return { title: title.join(' '), when, sort, told: SORT_OF[kind], doubt };
  });

describe.each([
  ['titles-en.txt', 0.98, 0],
  ['titles-other.txt', 0.95, 0],
])('titles as schools write them: %s', (name, right, lost) => {
  const all = readAll(name);
  test('nearly each is taken for what it is', () => {
    expect(all.filter((t) => t.told === t.sort).length / all.length).toBeGreaterThan(right);
  });
  test('no work is lost, and little else is called due', () => {
    const deadlines = all.filter((t) => isDue(t.sort, t.when));
    expect(deadlines.filter((t) => !isDue(t.told, t.when)).map((t) => t.title)).toHaveLength(lost);
    const others = all.filter((t) => !isDue(t.sort, t.when));
    const called = others.filter((t) => isDue(t.told, t.when));
    expect(called.length / all.length).toBeLessThan(0.02);
  });
  test('a person is asked about one in eight at the most', () => {
    expect(all.filter((t) => t.doubt).length * 8).toBeLessThanOrEqual(all.length);
  });
});

test.each(
  linesOf('titles-hand-in.txt').map((line) => line.split('|') as [string, string, string, string, string]),
)('%s, %s: %s (%s) is handed in: %s', (sort, when, title, description, ways) => {
  const item = itemOf(title, when, description);
  const { kind } = takenFor(item);
  expect(SORT_OF[kind]).toBe(sort);
  const words = {
    online: 'online',
    mail: 'online',
    paper: 'paper',
    inClass: 'class',
    nothing: 'nothing',
    unknown: 'unknown',
  };
  if (isDue(SORT_OF[kind], when)) expect(ways.split(',')).toContain(words[handInOf(item, kind)]);
});

describe('what else decides', () => {
  const around = (standing: Standing) => ({
    standing,
    repeats: false,
    calendar: 'course' as const,
    ofDeadlines: false,
    isTask: false,
    description: '',
  });
  test('how a title stands decides what its words leave open', () => {
    const sortOf = (standing: Standing) => weigh('Lab 5', around(standing)).sort;
    expect([sortOf('deadline'), sortOf('hours')]).toEqual(['work', 'place']);
  });
  test('what is available over days is due at their end; on a day it only opens', () => {
    const read = (when: string) => SORT_OF[takenFor(itemOf('Final test: rigging (available)', when)).kind];
    expect([read('days'), read('date')]).toEqual(['test', 'know']);
  });
  test('in doubt it is due, and a person is asked', () => {
    expect(weigh('Water off in block C', around('date'))).toMatchObject({ sort: 'work', doubt: true });
  });
  test('what repeats at its hours is somewhere to be', () => {
    const weekly = { ...around('hours'), repeats: true };
    expect(weigh('Reading', weekly).sort).toBe('place');
  });
  test('a category says it by itself, and nobody is asked', () => {
    const trip = read(
      calendar(event('UID:a', 'SUMMARY:Water off', 'CATEGORIES:Trip', 'DTSTART;VALUE=DATE:20261006')),
    ).items[0]!;
    expect(takenFor(trip)).toEqual({ kind: 'trip' satisfies ItemKind, doubt: false });
  });
  test('any text is taken for something, the same each time', () => {
    fc.assert(
      fc.property(
        fc.string(),
        fc.constantFrom<Standing>('deadline', 'moment', 'date', 'hours', 'days'),
        (title, at) => {
          const taken = weigh(title, around(at));
          expect(SORTS).toContain(taken.sort);
          expect(weigh(title, around(at))).toEqual(taken);
        },
      ),
      { numRuns: 300, seed: 33 },
    );
  });
});
