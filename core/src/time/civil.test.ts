import fc from 'fast-check';
import {
  DAY,
  civilDate,
  dayNumber,
  formatDate,
  formatInstant,
  formatLocal,
  parseDate,
  parseLocal,
} from './civil';

/** As `Date` has it, in years that it reads as they are. */
const byDate = (days: number) => {
  const d = new Date(days * DAY);
  return { year: d.getUTCFullYear(), month: d.getUTCMonth() + 1, day: d.getUTCDate() };
};
const anyDay = fc.integer({ min: dayNumber(0, 1, 1), max: dayNumber(9999, 12, 31) });

test('days and dates are as the platform has them, from the year 0 to 9999', () => {
  fc.assert(
    fc.property(anyDay, (days) => {
      const date = civilDate(days);
      expect(date).toEqual(byDate(days));
      expect(dayNumber(date.year, date.month, date.day)).toBe(days);
      expect(parseDate(formatDate(days))).toBe(days);
    }),
  );
});

test('months and days outside their range carry over', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1900, max: 2200 }),
      fc.integer({ min: -40, max: 60 }),
      fc.integer({ min: -400, max: 400 }),
      (year, month, day) => {
        expect(dayNumber(year, month, day)).toBe(Math.floor(Date.UTC(year, month - 1, day) / DAY));
      },
    ),
  );
});

test('a local time reads back from its text, and is written as the platform writes it', () => {
  fc.assert(
    fc.property(
      anyDay,
      fc.oneof(
        fc.integer({ min: 0, max: DAY - 1 }),
        fc.integer({ min: 0, max: 1439 }).map((m) => m * 60_000),
      ),
      (days, rest) => {
        const local = days * DAY + Math.floor(rest / 1000) * 1000;
        expect(formatLocal(local)).toBe(new Date(local).toISOString().slice(0, 19));
        expect(parseLocal(formatLocal(local))).toBe(local);
        expect(formatInstant(local)).toBe(`${formatLocal(local)}Z`);
      },
    ),
  );
  expect(() => formatLocal(NaN)).toThrow(RangeError);
});
