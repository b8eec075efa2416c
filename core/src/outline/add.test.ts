import fc from 'fast-check';
import { timesOf } from '../item/own.ts';
import { formatDate, parseDate } from '../time/civil.ts';
import { dayIn } from '../time/when.ts';
import { ianaZone } from '../time/zone.ts';
import { compareRows, ownItemOf, type RowToAdd } from './add.ts';

const DUBLIN = ianaZone('Europe/Dublin')!;
const ROW: RowToAdd = {
  ...{ title: 'Sketch', kind: 'assignment', handIn: 'paper', date: '2026-10-09', endDate: null },
  ...{ minute: null, until: null, dates: [], weekdays: [], place: '', details: 'pages 3 to 5' },
};

describe('a row as an item of one’s own', () => {
  test('work is due on its day, or at its hour on the clock of the calendar', () => {
    expect(ownItemOf(ROW, DUBLIN)).toMatchObject({
      ...{ title: 'Sketch', handIn: 'paper', details: 'pages 3 to 5', end: null, repeat: null },
      when: { kind: 'date', date: '2026-10-09' },
    });
    // The clocks go back on 25 October.
    expect(ownItemOf({ ...ROW, minute: 1020 }, DUBLIN).when).toMatchObject({ at: '2026-10-09T16:00:00Z' });
    expect(ownItemOf({ ...ROW, date: '2026-11-09', minute: 1020 }, DUBLIN).when).toMatchObject({
      at: '2026-11-09T17:00:00Z',
    });
    expect(ownItemOf({ ...ROW, date: null }, DUBLIN)).toMatchObject({ when: null, end: null });
  });

  test('what is somewhere to be has an end; days off end on the day after the last', () => {
    const trip = { ...ROW, kind: 'trip', minute: 540 } as const;
    expect(ownItemOf(trip, DUBLIN)).toMatchObject({
      handIn: 'nothing',
      end: { kind: 'instant', at: '2026-10-09T09:00:00Z' },
    });
    expect(ownItemOf({ ...trip, until: 720 }, DUBLIN).end).toMatchObject({ at: '2026-10-09T11:00:00Z' });
    const off = { ...ROW, kind: 'dayOff', date: '2026-10-26', endDate: '2026-10-30' } as const;
    expect(ownItemOf(off, DUBLIN).end).toEqual({ kind: 'date', date: '2026-10-31' });
  });

  test('what repeats is one series with its exceptions, on just the dates that were found', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 0, max: 14 }), { minLength: 2, maxLength: 15 }),
        fc.option(fc.integer({ min: 0, max: 1380 })),
        (weeks, minute) => {
          const first = parseDate('2026-09-03');
          const dates = weeks.sort((a, b) => a - b).map((w) => formatDate(first + w * 7));
          const own = ownItemOf({ ...ROW, date: dates[0]!, dates, weekdays: [4], minute }, DUBLIN);
          const span = { from: Date.parse('2026-08-01'), to: Date.parse('2027-01-31') };
          const times = timesOf(own, { ...span, zone: DUBLIN, zones: (name) => ianaZone(name)! });
          expect(times.map((when) => formatDate(dayIn(when, DUBLIN)))).toEqual(dates);
          expect(own.repeat!.rule).toContain('BYDAY=TH');
        },
      ),
    );
  });
});

test('what takes place every other week leaves nothing out', () => {
  const dates = ['2026-09-15', '2026-09-29', '2026-10-13', '2026-11-10'];
  const { repeat } = ownItemOf({ ...ROW, date: dates[0]!, dates, weekdays: [2], minute: null }, DUBLIN);
  expect(repeat!.rule).toContain('INTERVAL=2');
  expect(repeat!.except).toEqual([{ kind: 'date', date: '2026-10-27' }]);
});

describe('a newer outline', () => {
  const there = [
    { itemId: 'a', title: 'Rope test', date: '2026-11-05', minute: null },
    { itemId: 'b', title: 'Lab report 2', date: '2026-11-12', minute: 1020 },
    { itemId: 'c', title: 'Knots practical', date: '2026-11-27', minute: null },
  ];
  const row = (title: string, date: string | null, minute: number | null = null) => ({ title, date, minute });

  test('says what is the same, what has moved, what is new and what is gone', () => {
    const { states, gone } = compareRows(
      [
        row('Rope test', '2026-11-10'),
        row('Lab report 2, on paper', '2026-11-12', 1020),
        row('Lab report 3', '2026-11-19', 1020),
      ],
      there,
    );
    expect(states).toEqual([
      { is: 'moved', itemId: 'a', was: there[0] },
      { is: 'same', itemId: 'b' },
      { is: 'new' },
    ]);
    expect(gone).toEqual([there[2]]);
  });

  test('each that is there is met once, however often a row stands there', () => {
    const { states } = compareRows([row('Rope test', '2026-11-05'), row('Rope test', '2026-11-05')], there);
    expect(states.map((s) => s.is)).toEqual(['same', 'new']);
  });

  test('an outline compared with itself is the same, all of it', () => {
    const title = fc.string({ minLength: 1 }).filter((t) => /\p{L}/u.test(t));
    const any = fc.uniqueArray(fc.tuple(title, fc.integer({ min: 20_000, max: 20_100 })), {
      selector: ([t, d]) => `${t.toLowerCase()} ${d}`,
      maxLength: 20,
    });
    fc.assert(
      fc.property(any, (all) => {
        const rows = all.map(([t, d]) => row(t, formatDate(d)));
        const { states, gone } = compareRows(
          rows,
          rows.map((r, n) => ({ ...r, itemId: String(n) })),
        );
        expect(states.every((s) => s.is === 'same')).toBe(true);
        expect(gone).toEqual([]);
      }),
    );
  });
});
