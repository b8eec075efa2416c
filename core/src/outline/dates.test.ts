import fc from 'fast-check';
import { dayNumber, civilDate, weekday } from '../time/civil.ts';
import { datesIn, weekdayOf } from './dates.ts';
import { ENGLISH, languageOf, type Language } from './languages.ts';
import type { DateSaid } from './said.ts';

const AT = new Date(Date.UTC(2026, 9, 20));
const found = (text: string, language: Language = ENGLISH) => datesIn(text, language, AT);
/** A date as it was understood: `10-09`, `2026-10-09`, `10-05..10-09`; `??` for a month that is not told. */
const said = ({ first, last, week, weekday: on }: DateSaid) => {
  const parts = (p: DateSaid['first']) =>
    [p.year, p.month === 0 ? '??' : p.month, p.day]
      .filter((n) => n !== null)
      .map((n) => String(n).padStart(2, '0'))
      .join('-');
  return `${week === null ? '' : `week ${week} `}${parts(first)}${last ? `..${parts(last)}` : ''}${on ? ` ${on}` : ''}`;
};

describe('one date', () => {
  test.each([
    ['9 Oct', '10-09'],
    ['the 9th of October 2026', '2026-10-09'],
    ['Oct. 9th, 2026', '2026-10-09'],
    ['Fri 9 October', '10-09 5'],
    ['9 Oct (Fri)', '10-09 5'],
    ['2026-10-09', '2026-10-09'],
    ['2026/10/09', '2026-10-09'],
    ['09-Oct-2026', '2026-10-09'],
    ['13.10.', '10-13'],
    ['13.10.26', '2026-10-13'],
    ['31 November', '11-31'],
    ['October 5 – 9', '10-05..10-09'],
    ['Nov 25–27.', '11-25..11-27'],
    ['Mon 12 – Fri 23 October', '10-12..10-23 1'],
    ['30 October – Sun 1 November', '10-30..11-01'],
    ['26.–30.10.', '10-26..10-30'],
    ['between Dec 14 and Dec 18', '12-14..12-18'],
    ['by Monday 14th', '??-14 1'],
    ['on the 16th', '??-16'],
  ])('%s', (text, expected) => {
    expect(found(text).map(said)).toEqual([expected]);
  });

  test.each([
    'you may 5 times',
    'we march 3 miles',
    'version 2.1.26',
    'v2.10.26',
    'x5/12',
    'Thursday 10-12',
    'the second lens',
    'Tuesday 3 pages',
    'the 3rd of them',
    '2026',
  ])('none in: %s', (text) => {
    expect(found(text).filter((d) => d.form !== 'full')).toEqual([]);
  });
});

describe('several dates', () => {
  test.each([
    ['Oct 6, 13 and 20', ['10-06', '10-13', '10-20']],
    ['6, 13 and 20 October', ['10-06', '10-13', '10-20']],
    ['Mon 26 and Tue 27 Oct', ['10-26 1', '10-27 2']],
    ['Wed 7th and Thurs 8th Oct', ['10-07 3', '10-08 4']],
    ['30 and 31 October, 2 November', ['10-30', '10-31', '11-02']],
    ['Tuesday 8 December, second lesson; 10 December', ['12-08 2', '12-10']],
  ])('%s', (text, expected) => {
    expect(found(text).map(said)).toEqual(expected);
  });

  const MONTHS = 'Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec'.split(' ');
  const day = fc
    .integer({ min: dayNumber(2026, 1, 1), max: dayNumber(2026, 12, 31) })
    .map((d) => ({ d, ...civilDate(d) }));

  test('a list is found whole and in order, whichever comes first, the day or the month', () => {
    fc.assert(
      fc.property(
        fc.array(day, { minLength: 1, maxLength: 8 }),
        fc.boolean(),
        fc.constantFrom(', ', ' and ', '; ', ' / '),
        (days, isMonthFirst, joint) => {
          const each = days.map(({ day: n, month }) =>
            isMonthFirst ? `${MONTHS[month - 1]} ${n}` : `${n} ${MONTHS[month - 1]}`,
          );
          // A stroke between two dates makes them one span.
          fc.pre(joint !== ' / ');
          const all = found(`Due: ${each.join(joint)}.`);
          expect(all.map(({ first }) => [first.month, first.day])).toEqual(days.map((d) => [d.month, d.day]));
          expect(all.every((d, n) => n === 0 || d.from >= all[n - 1]!.to)).toBe(true);
        },
      ),
    );
  });

  test('a weekday beside a date is told with it, before or behind', () => {
    const NAMES = 'Monday Tuesday Wednesday Thursday Friday Saturday Sunday'.split(' ');
    fc.assert(
      fc.property(day, fc.boolean(), ({ d, day: n, month }, isBehind) => {
        const name = NAMES[weekday(d) - 1]!;
        const date = `${n} ${MONTHS[month - 1]}`;
        const [one] = found(isBehind ? `${date} (${name})` : `${name}, ${date}`);
        expect(one).toMatchObject({ weekday: weekday(d), first: { month, day: n } });
      }),
    );
  });
});

describe('languages', () => {
  const GERMAN = languageOf('die Abgabe der Protokolle ist im Oktober, und zum Ende der Woche').language;

  test('weekdays by their names and their short ones', () => {
    expect(['Tu', 'Thurs', 'wednesdays', 'Do', 'weds', 'sun'].map((w) => weekdayOf(w, ENGLISH))).toEqual([
      2,
      4,
      3,
      null,
      3,
      7,
    ]);
    expect(['Do', 'Samstag', 'Sonnabend', 'Fri'].map((w) => weekdayOf(w, GERMAN))).toEqual([4, 6, 6, 5]);
  });

  test('a text is in the language of its little words; one of few words counts as known', () => {
    expect(GERMAN.name).toBe('German');
    expect(languageOf('le contrôle est à rendre pour la semaine des vacances').language.name).toBe('French');
    expect(languageOf('la entrega del ensayo es para el lunes, sin clase').language.name).toBe('Spanish');
    expect(languageOf('Quiz 1')).toMatchObject({ language: { name: 'English' }, known: true });
    expect(languageOf('kirja sivu tehtävä koulu päivä viikko '.repeat(30)).known).toBe(false);
  });

  test('a German text tells dates in its own words', () => {
    expect(found('Abgabe am Freitag, den 9. Oktober', GERMAN).map(said)).toEqual(['10-09 5']);
  });
});
