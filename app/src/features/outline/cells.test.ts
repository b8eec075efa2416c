import { COLUMNS, timesWords, whenOf, type Column } from './cells';
import { bareRow } from './rows';

const column = (key: Column['key']) => COLUMNS.find((c) => c.key === key)!;
const row = bareRow('Rope test', { date: '2026-11-05' });
const trip = bareRow('Camp', { kind: 'trip', handIn: 'nothing', date: '2026-11-05', endDate: '2026-11-08' });
const series = bareRow('Lab log', { date: '2026-09-17', dates: ['2026-09-17', '2026-10-08'], weekdays: [4] });

test('when a row is, in words', () => {
  expect(whenOf(row)).toBe('Thu 5 Nov');
  expect(whenOf({ ...row, date: null })).toBe('no day');
  expect(whenOf(trip)).toContain('8 Nov');
  expect(whenOf(series)).toBe('17 Sep to 8 Oct');
  expect([timesWords(series), timesWords(row)]).toEqual(['2 times', '']);
});

test('a title is never empty, and no longer than one may be', () => {
  const { change } = column('title');
  expect(change('  ', row)).toBeNull();
  expect(change(' Ropes ', row)).toEqual({ title: 'Ropes' });
  expect(change('x'.repeat(400), row)!.title).toHaveLength(300);
});

test('what is no work is not handed in', () => {
  const { change, shows } = column('kind');
  expect(change('trip', row)).toEqual({ kind: 'trip', handIn: 'nothing', isTopic: false });
  expect(change('test', row)).toEqual({ kind: 'test', isTopic: false });
  expect(shows(row)).toBe('assignment');
  expect(column('handIn').shows(trip)).toBe('');
});

test('an hour is typed as a time, and taken away when it is emptied', () => {
  expect(column('minute').change('15:45', row)).toEqual({ minute: 945 });
  expect(column('minute').change('', row)).toEqual({ minute: null });
  expect(column('minute').shows({ ...row, minute: 945 })).toBe('15:45');
});

test('what lasts ends on a day, and what has an hour at an hour', () => {
  const { field, value, shows, change } = column('until');
  expect([field(trip), value(trip), shows(trip)]).toEqual(['date', '2026-11-08', '8 Nov']);
  expect(change('2026-11-07', trip)).toEqual({ endDate: '2026-11-07' });
  // On one day alone, or on none before it begins.
  expect(change('2026-11-05', trip)).toEqual({ endDate: null });
  expect(change('', trip)).toEqual({ endDate: null });
  expect(change('2026-11-01', trip)).toBeNull();
  const timed = { ...trip, minute: 600, until: 660 };
  expect([field(timed), value(timed), change('12:00', timed)]).toEqual(['time', '11:00', { until: 720 }]);
  expect(field(series)).toBe('time');
});

test('the same day is no change', () => {
  expect(column('date').change('2026-11-05', row)).toBeNull();
  expect(column('date').change('2026-11-06', row)).toEqual({ date: '2026-11-06' });
});
