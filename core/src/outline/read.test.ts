import fc from 'fast-check';
import { formatDate, parseDate } from '../time/civil.ts';
import { clockOf } from '../time/minute.ts';
import type { OutlineOptions } from './found.ts';
import type { Page, PageCell } from './page.ts';
import { readOutline } from './read.ts';

const TERM = { from: parseDate('2026-08-31'), to: parseDate('2026-12-18'), order: null } as const;

/** Lines as a reader of plain text gives them. */
const lines = (text: string): Page['blocks'] => {
  let isApart = true;
  return text.split('\n').flatMap((raw, n): Page['blocks'] => {
    if (!raw.trim()) {
      isApart = true;
      return [];
    }
    const [, bullet = ''] = /^\s*(- )/.exec(raw) ?? [];
    const line = {
      ...{ kind: 'line' as const, where: `line ${n + 1}`, text: raw.trim().slice(bullet.length), level: 0 },
      ...{ indent: raw.length - raw.trimStart().length, isItem: bullet !== '', isApart },
    };
    isApart = false;
    return [line];
  });
};
const table = (...rows: (string | PageCell)[][]): Page['blocks'] => [
  {
    kind: 'table',
    where: 'table 1',
    rows: rows.map((cells, n) => ({
      where: `row ${n + 1}`,
      cells: cells.map((cell) => (typeof cell === 'string' ? { text: cell } : cell)),
    })),
  },
];
const reading = (blocks: Page['blocks'], options: Partial<OutlineOptions> = {}) =>
  readOutline({ blocks, notes: [] }, { ...TERM, ...options });
/** Gives what was found, in a line each: the day, its end, its hour, its title. */
const told = (blocks: Page['blocks'], options: Partial<OutlineOptions> = {}) =>
  reading(blocks, options).found.map((f) =>
    [
      f.day === null ? 'no day' : formatDate(f.day),
      f.lastDay === null ? '' : `to ${formatDate(f.lastDay)}`,
      f.minute === null ? '' : clockOf(f.minute),
      f.title,
    ]
      .filter(Boolean)
      .join(' '),
  );

describe('dates in lines', () => {
  test.each([
    ['Essay plan .......... 23 Oct, noon', '2026-10-23 12:00 Essay plan'],
    ['Thurs 6th Aug 2026: too early for this term', undefined],
    ['Wednesday, October 7: map, by 5 pm', '2026-10-07 17:00 Map'],
    ['Fri 18 – Sun 20 September: hut excursion', '2026-09-18 to 2026-09-20 Hut excursion'],
    ['October 5 – 9 fall break', '2026-10-05 to 2026-10-09 Fall break'],
    ['30 October – Sun 1 November: late excursion', '2026-10-30 to 2026-11-01 Late excursion'],
    ['2026-12-04 23:59 Garment, pressed', '2026-12-04 23:59 Garment, pressed'],
    ['Poster session, 3 December, 14.00 to 16.00', '2026-12-03 14:00 Poster session'],
    ['Moot, first round: 19 Nov, 6.30 pm', '2026-11-19 18:30 Moot, first round'],
    ['Final report due 13 Nov at midnight', '2026-11-13 23:59 Final report'],
    ['Quiz on the 2nd of October, 9–10 am', '2026-10-02 09:00 Quiz'],
  ])('%s', (line, expected) => {
    expect(told(lines(line))).toEqual(expected ? [expected] : []);
  });

  test.each([
    'Seminars are held in room 4/11 and start at 10.10 sharp.',
    'The essay carries 3/4 of the marks; a late one loses 1/10 for every day.',
    'Section 11.12 may be cited, as June Hollin and May Tressider say.',
    'Ratio of the practice train: 8/10. Oil: grade 5.10. Spares: 555-0131.',
    'When the sun sets we march back; the second lens sat in its box.',
    'Kept by August Bellweather since 1 September 2009. Version 2.1.26, printed 14 August 2026.',
    'Office hours on Tuesdays, 2-4 pm.',
    'Scale of all models 1:12, board 1/12 of the spine.',
  ])('nothing is found in: %s', (line) => {
    expect(told(lines(line))).toEqual([]);
  });

  test('each date of a line has its own words, and what stands before a colon is for all', () => {
    expect(told(lines('Essay: draft due Oct 9, final version due Oct 23 at 5pm'))).toEqual([
      '2026-10-09 Essay: draft',
      '2026-10-23 17:00 Essay: final version',
    ]);
    expect(told(lines('Quizzes on Oct 6, 13 and 20.'))).toEqual([
      '2026-10-06 Quizzes',
      '2026-10-13 Quizzes',
      '2026-10-20 Quizzes',
    ]);
  });

  test('a date by itself holds for what stands below it, until something else begins', () => {
    const text = `Monday 14 September
  - Tool quiz
  - Parts list handed in; diary, by 17:00

Bring overalls.
  - and gloves`;
    expect(told(lines(text))).toEqual([
      '2026-09-14 Tool quiz',
      '2026-09-14 Parts list',
      '2026-09-14 17:00 Diary',
    ]);
  });

  test('days by their numbers stand under their month, and an exam under its heading', () => {
    const text = `October
  - 1: Honey lab, 14:00
  - 26–30: no class

Exam
Thursday, 17 December, 9:00 to 11:00, room 3/4`;
    expect(told(lines(text))).toEqual([
      '2026-10-01 14:00 Honey lab',
      '2026-10-26 to 2026-10-30 No class',
      '2026-12-17 09:00 Exam',
    ]);
  });

  test('what prose says of dates is found sentence by sentence, over broken lines as well', () => {
    const text = `Your first paper (4-5 pages) is due in class on Tuesday, September 29. A revised version may
be handed in until October 6. The second one is due Thursday, November 5, at midnight; the
third on December 3. There is no meeting on October 13 and 15.`;
    expect(told(lines(text))).toEqual([
      '2026-09-29 Your first paper (4-5 pages)',
      '2026-10-06 A revised version',
      '2026-11-05 23:59 The second one',
      '2026-12-03 The third',
      '2026-10-13 No meeting',
      '2026-10-15 No meeting',
    ]);
  });

  test('an hour behind the last of several dates is that of all', () => {
    expect(told(lines('Tests: 28 September, 9 November and 7 December, 10:15'))).toEqual([
      '2026-09-28 10:15 Tests',
      '2026-11-09 10:15 Tests',
      '2026-12-07 10:15 Tests',
    ]);
    expect(told(lines('Deadlines (all at 5 pm)\n  Seam sample  draft Sep 18, final Oct 2'))).toEqual([
      '2026-09-18 17:00 Seam sample draft',
      '2026-10-02 17:00 Seam sample: final',
    ]);
  });

  test('an hour that is given for all work holds for each', () => {
    expect(
      told(lines('All work is due at 23:59 unless said otherwise.\n\nSwatch handed in: 2 October')),
    ).toEqual(['2026-10-02 23:59 Swatch']);
  });
});

describe('weeks and repeats', () => {
  const WEEKS = `Week 1 (31 August – 4 September)
  Thu: plant press built
Week 3 (21 – 25 September)
  Tuesday: report 1, by 18:00
  - first sheets`;

  test('a weekday under a week’s heading is that day of it', () => {
    expect(told(lines(WEEKS))).toEqual([
      '2026-09-03 Plant press built',
      '2026-09-22 18:00 Report 1',
      '2026-09-25 First sheets',
    ]);
  });

  test('weeks go by the outline’s own numbers, which may leave a break out', () => {
    const weeks = table(
      ['week', 'Monday'],
      ['1', '31 Aug'],
      ['2', '7 Sep'],
      ['break', '14 Sep'],
      ['3', '21 Sep'],
    );
    expect(told([...weeks, ...lines('Essay on silt, noon - Fri wk 3\nBoat day - Tuesday, week 2')])).toEqual([
      '2026-09-25 12:00 Essay on silt',
      '2026-09-08 Boat day',
    ]);
    // Where none are told, they are counted from the beginning of the term.
    expect(told(lines('Barrage sketch - Friday of week 2'))).toEqual(['2026-09-11 Barrage sketch']);
  });

  test('what repeats is one, with its exceptions, within what is told', () => {
    const [log] = reading(lines('Every Thursday until 29 October: lab log, except 8 Oct')).found;
    expect(log!.title).toBe('Lab log');
    expect(log!.days.map(formatDate)).toEqual(
      ['09-03', '09-10', '09-17', '09-24', '10-01', '10-15', '10-22', '10-29'].map((d) => `2026-${d}`),
    );
  });

  test('what repeats may be of one month alone', () => {
    const [quiz] = reading(lines('Quiz each Monday in October')).found;
    expect(quiz!.days.map(formatDate)).toEqual(['2026-10-05', '2026-10-12', '2026-10-19', '2026-10-26']);
  });

  test('a lesson that repeats is clear of days off, and work that repeats is not', () => {
    const off = 'Reading week: 26–30 October, no classes';
    const days = (line: string) => reading(lines(`${line}\n${off}`)).found[0]!.days.map(formatDate);
    expect(days('Lectures every Tuesday')).not.toContain('2026-10-27');
    expect(days('Every Tuesday: worksheet handed in')).toContain('2026-10-27');
    const [sheet] = reading(lines(`Every Tuesday: worksheet handed in\n${off}`)).found;
    expect(sheet!.doubts).toEqual([{ kind: 'break', words: '27 Oct is a day off.' }]);
    expect(days('Every Tuesday: worksheet handed in, not in reading week')).not.toContain('2026-10-27');
  });
});

describe('tables', () => {
  test('names of columns say what is due, what a lesson is about, and what is neither', () => {
    const { found } = reading(
      table(
        ['Date', 'Topic', 'Due', 'Points', 'Remarks'],
        ['7 Sep', 'Folding', '—', '', ''],
        ['14 Sep', 'Pamphlet stitch', 'Pamphlet; tool list', '10', 'on paper'],
        ['21 Sep', 'No class', '', '', ''],
        ['28 Sep', 'Boards', 'Quiz 1', '5', ''],
      ),
    );
    expect(found.map((f) => [formatDate(f.day!).slice(5), f.title, f.kind, f.isTopic])).toEqual([
      ['09-07', 'Folding', 'lesson', true],
      ['09-14', 'Pamphlet stitch', 'lesson', true],
      ['09-14', 'Pamphlet', 'assignment', false],
      ['09-14', 'Tool list', 'assignment', false],
      ['09-21', 'No class', 'dayOff', false],
      ['09-28', 'Boards', 'lesson', true],
      ['09-28', 'Quiz 1', 'test', false],
    ]);
    expect(found[2]).toMatchObject({ details: 'on paper', handIn: 'paper' });
  });

  test('an empty cell below a date is that date, and a telephone below the table is nothing', () => {
    expect(
      told(
        table(
          ['Date', 'What'],
          ['6 Oct', 'Interview'],
          ['', 'Consent form'],
          ['13 Oct', 'Quiz'],
          ['', 'helium 4/12; 555-0175'],
        ),
      ),
    ).toEqual(['2026-10-06 Interview', '2026-10-06 Consent form', '2026-10-13 Quiz']);
  });

  test('what is given out is not due, and two dates of a row are two', () => {
    expect(
      told(
        table(
          ['Work', 'Assigned', 'Due'],
          ['Sketch', '9/7', '9/14'],
          ['Report', '9/21', '10/5'],
          ['Model', '10/5', '12/10'],
        ),
      ),
    ).toEqual(['2026-09-14 Sketch', '2026-10-05 Report', '2026-12-10 Model']);
    expect(
      told(table(['Work', 'Draft', 'Final'], ['Sketch', '7 Sep', '14 Sep'], ['Model', '5 Oct', '12 Oct'])),
    ).toEqual([
      '2026-09-07 Sketch: Draft',
      '2026-09-14 Sketch: Final',
      '2026-10-05 Model: Draft',
      '2026-10-12 Model: Final',
    ]);
  });

  test('weeks in rows and weekdays in columns', () => {
    expect(told(table(['Week', 'Mon', 'Fri'], ['4', 'Sails', 'HW 2 due'], ['5', '', 'Test 1']))).toEqual([
      '2026-09-21 Sails',
      '2026-09-25 HW 2',
      '2026-10-02 Test 1',
    ]);
  });

  test('dates that stand beside each other hold for what is below them', () => {
    const rows = [
      ['', '7 Sep', '14 Sep', '21 Sep'],
      ['Due', 'Sketch', '', 'Model, 17:00'],
      ['Test', '', 'Quiz 1', ''],
    ];
    expect(told(table(...rows)).sort()).toEqual([
      '2026-09-07 Sketch',
      '2026-09-14 Quiz 1',
      '2026-09-21 17:00 Model',
    ]);
    const { found } = reading(table(...rows));
    expect(found.map((f) => rows[f.at.row]![f.at.cell])).toEqual(['Sketch', 'Quiz 1', 'Model, 17:00']);
  });

  test('dates that a spreadsheet knows are taken as they are', () => {
    const day = (text: string) => ({ text, day: parseDate(text) });
    expect(
      told(table(['When', 'What'], [day('2026-09-03'), 'Sketch'], [day('2026-09-10'), 'Model, 17:00'])),
    ).toEqual(['2026-09-03 Sketch', '2026-09-10 17:00 Model']);
  });

  test('a table of marks and one of years gone by are no schedule', () => {
    expect(
      told(
        table(
          ['Part', 'Best mark', 'Pass'],
          ['Scores', '12/12', '6'],
          ['Tests', '10', '5/10'],
          ['Play', '20', '10/20'],
        ),
      ),
    ).toEqual([]);
    expect(
      told(
        table(
          ['Piece', 'Written'],
          ['Litany', '4 March 1871'],
          ['Songs', '2 May 1904'],
          ['Ferry', '1/1/1700'],
        ),
      ),
    ).toEqual([]);
  });
});

describe('the order of day and month, and the year', () => {
  const dates = (...all: string[]) =>
    table(['Date', 'What'], ...all.map((d, n) => [d, `Item ${'abcdef'[n]}`]));

  test('is found from a day above twelve, from weekdays, from the term, and from lists that go forward', () => {
    expect(reading(dates('06/10', '13/10'))).toMatchObject({ order: 'dmy', isOrderOpen: false });
    expect(reading(dates('10/06', '10/13'))).toMatchObject({ order: 'mdy', isOrderOpen: false });
    expect(reading(dates('10/9', '11/9', '5/10', '6/10'))).toMatchObject({
      order: 'dmy',
      isOrderOpen: false,
    });
    expect(reading(lines('Tue 6/10 quiz\nThu 8/10 essay'))).toMatchObject({ order: 'dmy' });
  });

  test('is asked where nothing tells, and each date it matters for is doubtful', () => {
    const blocks = dates('09/10', '10/11', '11/12');
    const open = reading(blocks);
    expect(open.isOrderOpen).toBe(true);
    expect(open.found.map((f) => f.doubts[0]?.kind)).toEqual(['order', 'order', 'order']);
    const said = reading(blocks, { order: 'mdy' });
    expect(said.found.map((f) => [formatDate(f.day!), f.doubts])).toEqual([
      ['2026-09-10', []],
      ['2026-10-11', []],
      ['2026-11-12', []],
    ]);
  });

  test('a year that is not told is the term’s, over the turn of a year as well', () => {
    const winter = { from: parseDate('2026-11-02'), to: parseDate('2027-02-12') };
    expect(told(lines('Draft: 14 December\nReport: 22 January'), winter)).toEqual([
      '2026-12-14 Draft',
      '2027-01-22 Report',
    ]);
  });
});

describe('doubt', () => {
  test('a year that was mistyped is doubtful beside dates of the term, and nothing by itself', () => {
    const text =
      '9 October: Sketch\n\n16 October 2026: Model\n\n23 October 2025: Report\n\nLoops (2019-03-01, second printing)';
    const { found } = reading(lines(text));
    expect(found.map((f) => [f.title, f.doubts[0]?.kind])).toEqual([
      ['Sketch', undefined],
      ['Model', undefined],
      ['Report', 'outside'],
    ]);
  });

  test('each slip is said in words', () => {
    const { found } = reading(
      table(
        ['Day', 'Date', 'What'],
        ['Wed', '23/09/2026', 'Radio test'],
        ['Mon', '30/09/2026', 'Sonde sketch'],
        ['', '14/10/2062', 'Drift map'],
        ['', '31/11/2026', 'Report'],
        ['Wed', '11/11/2026', 'Parachute sample'],
        ['Wed', '11/11/2026', 'Parachute sample'],
      ),
    );
    expect(found.map((f) => f.doubts.map((d) => `${d.kind}: ${d.words}`).join())).toEqual([
      '',
      'weekday: 30 Sep is a Wednesday, and not a Monday.',
      'outside: Saturday 14 October 2062 is after the term.',
      'impossible: There is no 31 Nov.',
      '',
      'twice: This stands here twice.',
    ]);
  });
});

test('German, French and Spanish are read, and it is said where a language is not', () => {
  expect(
    told(
      lines('Abgabe der Skizze bis zum 7. Oktober, 23:59 Uhr.\nDi 13.10. Kurztest\n19.–23. Oktober: Ferien'),
    ),
  ).toEqual(['2026-10-07 23:59 Abgabe der Skizze', '2026-10-13 Kurztest', '2026-10-19 to 2026-10-23 Ferien']);
  expect(told(lines('Le devoir 1 est à rendre le 7 octobre à 18h.\nVacances du 19 au 30 octobre'))).toEqual([
    '2026-10-07 18:00 Le devoir 1',
    '2026-10-19 to 2026-10-30 Vacances',
  ]);
  expect(told(lines('Entrega del boceto: 7 de octubre, 18:00\nPrueba el martes 13 de octubre'))).toEqual([
    '2026-10-07 18:00 Entrega del boceto',
    '2026-10-13 Prueba',
  ]);
  expect(reading(lines('Tämä on kurssin aikataulu ja se on pitkä teksti. '.repeat(12))).notes).toHaveLength(
    1,
  );
});

describe('whatever a page says', () => {
  const word = fc.constantFrom(
    'Quiz',
    '6',
    '10/12',
    'Oct',
    'October',
    '31',
    'week',
    'Fri',
    '17:00',
    'every',
    'Thursday',
    '-',
    ':',
    '2026-10-06',
    '13.10.',
    'due',
    'by',
    ';',
    '(',
    ')',
    'may',
    '…',
    '2026',
  );
  const text = fc.array(word, { maxLength: 30 }).map((words) => words.join(' '));

  test('reading it ends, and what is found has a title, a place on the page, and days in order', () => {
    fc.assert(
      fc.property(fc.array(text, { maxLength: 12 }), (all) => {
        const blocks = lines(all.join('\n'));
        for (const f of reading(blocks).found) {
          expect(f.title).toMatch(/\p{L}/u);
          const block = blocks[f.at.block]!;
          expect(block.kind === 'line' && f.at.to <= block.text.length && f.at.from <= f.at.to).toBe(true);
          if (f.lastDay !== null) expect(f.lastDay).toBeGreaterThan(f.day!);
          expect(f.days).toEqual([...f.days].sort((a, b) => a - b));
          if (f.minute !== null) expect(f.minute).toBeLessThan(1440);
        }
      }),
      { numRuns: 150 },
    );
  });

  test('a date written out is found again, whatever day of the term it is', () => {
    const months =
      'January February March April May June July August September October November December'.split(' ');
    fc.assert(
      fc.property(
        fc.integer({ min: TERM.from, max: TERM.to }),
        fc.constantFrom('d M', 'M d', 'iso', 'd/m/y', 'd.m.y'),
        (day, form) => {
          const [y, m, d] = formatDate(day).split('-').map(Number) as [number, number, number];
          const said = {
            'd M': `${d} ${months[m - 1]}`,
            'M d': `${months[m - 1]!.slice(0, 3)} ${d}`,
            iso: formatDate(day),
            'd/m/y': `${d}/${m}/${y}`,
            'd.m.y': `${d}.${m}.${y}`,
          }[form];
          expect(told(lines(`Report handed in: ${said}`), { order: 'dmy' })).toEqual([
            `${formatDate(day)} Report`,
          ]);
        },
      ),
    );
  });
});
