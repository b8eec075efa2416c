import fc from 'fast-check';
import { DUBLIN } from '../../test/feeds';
import { BOAT, NOW } from '../../test/going-out';
import { PLAIN } from '../../test/occurrence';
import { formatDate, parseDate } from '../time/civil';
import { DEFAULT_SETTINGS } from '../view/settings';
import { viewerOf } from '../words/when';
import { paperOf, type Paper } from './paper';
import { PAPERS, PRINTED, TURNS } from './paper-size';

const options = {
  now: NOW,
  viewer: viewerOf(DUBLIN, DEFAULT_SETTINGS),
  firstDay: 1,
  calendars: [{ ...BOAT, id: 'c' }],
};
const due = (n: number, day: number, title = `Item ${n}.`) => ({
  ...PLAIN,
  itemId: `i${n}`,
  title,
  due: { kind: 'date', date: formatDate(parseDate('2026-10-05') + day) } as const,
  start: { kind: 'date', date: formatDate(parseDate('2026-10-05') + day) } as const,
});
/** Every title that is printed in full, beside the month’s table. */
const listed = ({ pages }: Paper) => pages.flatMap((p) => p.days.flatMap((d) => d.lines.map((l) => l.title)));

test('a week says its days, also those without anything, and which calendars stand in it', () => {
  const paper = paperOf(
    'Juno',
    [due(1, 0), due(2, 6)],
    { of: 'week', size: 'a4', turn: 'portrait', day: '2026-10-07' },
    options,
  );
  expect(paper.pages).toHaveLength(1);
  expect(paper.pages[0]).toMatchObject({
    title: expect.stringContaining('2026') as string,
    number: 1,
    of: 1,
  });
  expect(paper.pages[0]!.days.map((d) => d.lines.length)).toEqual([1, 0, 0, 0, 0, 0, 1]);
  expect(paper.calendars.map((c) => c.name)).toEqual(['Boatbuilding']);
});

test('sixty items go on to further pages, which say so, and none is left out', () => {
  const many = Array.from({ length: 60 }, (_, n) =>
    due(n, n % 7, `Item ${n}. ${'and more words '.repeat(n % 5)}`),
  );
  for (const turn of TURNS) {
    const paper = paperOf('Juno', many, { of: 'week', size: 'letter', turn, day: '2026-10-07' }, options);
    expect(paper.pages.length).toBeGreaterThan(1);
    expect(paper.pages.map((p) => [p.number, p.of])).toEqual(
      paper.pages.map((_, n) => [n + 1, paper.pages.length]),
    );
    expect(listed(paper).sort()).toEqual(many.map((o) => o.title).sort());
    expect(paper.pages.slice(1).some((p) => p.days.some((d) => d.goesOn))).toBe(true);
  }
});

test('whatever there is, each item of the span is printed once in full, or stands whole in a month’s cell', () => {
  const items = fc.array(fc.tuple(fc.integer({ min: -8, max: 40 }), fc.string({ maxLength: 400 })), {
    maxLength: 120,
  });
  fc.assert(
    fc.property(
      items,
      fc.constantFrom(...PRINTED),
      fc.constantFrom(...PAPERS),
      fc.constantFrom(...TURNS),
      (all, of, size, turn) => {
        const dates = all.map(([day, title], n) => due(n, day, `${n} ${title}`));
        const paper = paperOf('Juno', dates, { of, size, turn, day: '2026-10-07' }, options);
        const first = of === 'week' ? '2026-10-05' : '2026-10-01';
        const last = of === 'week' ? '2026-10-11' : '2026-10-31';
        const wanted = dates
          .filter((o) => o.due.date >= first && o.due.date <= last)
          .map((o) => Number(o.title.split(' ')[0]));
        const inList = listed(paper).map((title) => Number(title.split(' ')[0]));
        const inTable = (paper.pages[0]!.month?.weeks ?? []).flat().flatMap((d) => d.lines);
        const found = new Set([...inList, ...inTable.map((l) => Number(l.title.split(' ')[0]))]);
        expect([...found].filter((n) => wanted.includes(n)).sort()).toEqual([...new Set(wanted)].sort());
        expect(new Set(inList).size).toBe(inList.length);
      },
    ),
    { numRuns: 60 },
  );
});
