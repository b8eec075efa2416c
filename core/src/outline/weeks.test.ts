import fc from 'fast-check';
import { formatDate, parseDate, startOfWeek } from '../time/civil.ts';
import { ENGLISH } from './languages.ts';
import { dayOf, dayWithoutMonth, isInTerm, orderOf } from './order.ts';
import { inWeek, type DateSaid } from './said.ts';
import { weekLed, weekThatBegins, weekdaysIn } from './week-line.ts';
import { Weeks, mondayOf } from './weeks.ts';

const TERM = { from: parseDate('2026-08-31'), to: parseDate('2026-12-18'), order: null };
const reader = { language: ENGLISH, at: new Date(Date.UTC(2026, 9, 20)) };
const parts = (month: number, day: number, isOpen = false) => ({ year: null, month, day, isOpen });
const written = (month: number, day: number): DateSaid => ({
  ...{ from: 0, to: 0, last: null, weekday: null, week: null, form: 'short' },
  first: parts(month, day, true),
});

describe('a week at the beginning of a line', () => {
  test.each([
    ['Week 3 (w/c 21 Sept) Proofing', { number: 3, isDay: false }, 'Proofing'],
    ['Wk 4: quiz', { number: 4, told: null }, 'quiz'],
    ['Week 5, 6 October – sound', { number: 5, isDay: true }, 'sound'],
    ['Week 6 (12–16 October): break', { number: 6, isDay: false }, 'break'],
    ['Week of 12 October: reading', { number: null, isDay: false }, 'reading'],
    ['Weeks 7 and 8: project', { number: 7, week: { week: 7, weeks: 2 } }, 'project'],
    ['Teaching week 9', { number: 9, told: null }, ''],
  ])('%s', (text, expected, rest) => {
    const led = weekLed(text, reader)!;
    expect(led).toMatchObject(expected);
    expect(text.slice(led.to)).toBe(rest);
  });

  test('other lines begin with none, and a date that is of something else is not its own', () => {
    expect(weekLed('Weekly quiz, 9 Oct', reader)).toBeNull();
    expect(weekLed('9 Oct: week 5 quiz', reader)).toBeNull();
    expect(weekLed('Week 9: poster, 2 Nov', reader)!.told).toBeNull();
  });

  test('weekdays in it are days of it, and those of all weeks are not', () => {
    const days = (text: string) => weekdaysIn(text, inWeek(7, null), ENGLISH).map((d) => [d.week, d.weekday]);
    expect(days('Practical test Tue & Wed')).toEqual([
      [7, 2],
      [7, 3],
    ]);
    expect(days('We meet on Tuesdays; the sun sets')).toEqual([]);
  });

  test('it may be told when one begins', () => {
    expect(weekThatBegins('Note that week 1 begins on ')).toBe(1);
    expect(weekThatBegins('In week 1 we meet on ')).toBeNull();
  });
});

test('weeks are counted on from those that are told, past those without a number', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 8 }),
      fc.integer({ min: 1, max: 16 }),
      fc.integer({ min: 1, max: 16 }),
      (told, asked, off) => {
        const weeks = new Weeks();
        const first = startOfWeek(TERM.from, 1);
        const monday = (n: number) => first + (n - 1) * 7 + (n > off ? 7 : 0);
        weeks.tell(told, null, monday(told) + 3);
        const free = { ...parts(1, 1), day: off };
        weeks.skip(free);
        const known = weeks.resolve(() => first + off * 7);
        fc.pre(asked >= told);
        expect(mondayOf(asked, known, TERM.from)).toBe(monday(asked));
      },
    ),
  );
});

describe('the order of day and month', () => {
  test('one above twelve, a weekday, and the term tell it', () => {
    expect(orderOf([[written(13, 10)]], TERM)).toEqual({ order: 'dmy', isOpen: false });
    expect(orderOf([[{ ...written(10, 9), weekday: 5 }]], TERM)).toEqual({ order: 'mdy', isOpen: false });
    expect(orderOf([[written(10, 9)]], TERM)).toMatchObject({ order: null, isOpen: true });
    expect(orderOf([[written(10, 9)]], { ...TERM, order: 'mdy' })).toEqual({ order: 'mdy', isOpen: false });
    expect(orderOf([[written(10, 10)]], TERM)).toEqual({ order: null, isOpen: false });
    expect(orderOf([], TERM)).toEqual({ order: null, isOpen: false });
  });

  test('a list that goes forward tells it', () => {
    const list = [written(9, 10), written(9, 11), written(9, 12), written(10, 9)];
    expect(orderOf([list], TERM).order).toBe('mdy');
  });

  test('a day without a year is of the term or nearest to it; one that is not in the calendar is none', () => {
    expect(formatDate(dayOf(parts(1, 8), 'dmy', TERM)!)).toBe('2027-01-08');
    expect(dayOf(parts(11, 31), 'dmy', TERM)).toBeNull();
    expect(dayOf(parts(0, 3), 'dmy', TERM)).toBeNull();
    expect(isInTerm(TERM.to + 14, TERM)).toBe(true);
    expect(isInTerm(TERM.to + 15, TERM)).toBe(false);
  });

  test('a day without a month is the next one, on its weekday where that is told', () => {
    const next = (day: number, weekday: number | null, last: string) => {
      const found = dayWithoutMonth({ ...written(0, day), first: parts(0, day), weekday }, parseDate(last));
      return found === null ? null : formatDate(found);
    };
    expect(next(14, 1, '2026-09-10')).toBe('2026-09-14');
    expect(next(3, null, '2026-09-25')).toBe('2026-10-03');
    expect(next(21, 1, '2026-09-14')).toBe('2026-09-21');
    expect(next(2, 6, '2026-12-20')).toBe('2027-01-02');
    expect(next(31, 4, '2026-11-02')).toBe('2026-12-31');
    expect(next(30, 1, '2026-11-30')).toBe('2026-11-30');
  });
});
