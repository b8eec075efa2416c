import type { Page, PageTable } from '@zephyrfield/core/outline/page';
import { withTables, type Spread } from '../src/outline/columns';
import { formOf } from '../src/outline/read-file';
import { pageOfHtml } from '../src/outline/read-html';
import { pageOfText } from '../src/outline/read-text';

// Each reader makes the same plain structure: lines, and tables of cells.

const MOST = 1_000;
const texts = ({ blocks }: Pick<Page, 'blocks'>) =>
  blocks.map((block) =>
    block.kind === 'line' ? block.text : block.rows.map((row) => row.cells.map((cell) => cell.text)),
  );
const tableOf = (page: Page) => page.blocks.find((b): b is PageTable => b.kind === 'table')!;

describe('plain text', () => {
  test('lines keep how far in they stand, whether one is of a list, and room above them', () => {
    const { blocks } = pageOfText('TO HAND IN\n\n  - swatch 1\n  2. swatch 2\n\nNotes', MOST);
    expect(blocks).toMatchObject([
      { text: 'TO HAND IN', level: 2, where: 'line 1', isApart: true },
      { text: 'swatch 1', isItem: true, indent: 2, isApart: true },
      { text: 'swatch 2', isItem: true, isApart: false },
      { text: 'Notes', level: 0, isItem: false, isApart: true, where: 'line 6' },
    ]);
  });

  test('what stands in columns is a table, and a sentence with wide spaces is none', () => {
    const page = pageOfText(
      'week   Monday\n1      31 Aug\n2      7 Sep\nbreak  14 Sep\n\nWalk on.  Then stop.',
      MOST,
    );
    expect(texts(page)).toEqual([
      [
        ['week', 'Monday'],
        ['1', '31 Aug'],
        ['2', '7 Sep'],
        ['break', '14 Sep'],
      ],
      'Walk on.  Then stop.',
    ]);
    expect(tableOf(page).rows[3]!.where).toBe('line 4');
  });

  test('tabs are columns too, and only so many lines are read', () => {
    expect(texts(pageOfText('a\tb\tc\n1\t2\t3\n4\t5\t6', MOST))[0]).toHaveLength(3);
    const long = pageOfText('line\n'.repeat(50), 20);
    expect(long.blocks).toHaveLength(20);
    expect(long.notes).toEqual(['Only the first 20 lines were read.']);
    expect(pageOfText('x'.repeat(4_001), 20).notes).toEqual([
      'Of a line, only the first 4000 letters were read.',
    ]);
    expect(pageOfText('x'.repeat(4_000), 20).notes).toEqual([]);
  });
});

describe('columns of a printed page', () => {
  const line = (pieces: [x: number, text: string][], gap?: number): Spread => ({
    ...{ where: 'page 1', text: pieces.map(([, t]) => t).join(' '), level: 0, indent: 0 },
    ...{ isItem: false, isApart: false, pieces: pieces.map(([x, text]) => ({ x, text })) },
    ...(gap !== undefined && { gap }),
  });

  test('a line right below a row goes on with its cells', () => {
    const [table] = withTables(
      [
        line([
          [0, 'Date'],
          [60, 'Due'],
        ]),
        line(
          [
            [0, '10 Sep'],
            [60, 'Lock sketch, by'],
          ],
          20,
        ),
        line([[60, '17:00']], 12),
        line(
          [
            [0, '17 Sep'],
            [60, 'Test 1'],
          ],
          20,
        ),
        line([[60, 'Tool list']], 20),
      ],
      4,
    );
    expect(texts({ blocks: [table!] })[0]).toEqual([
      ['Date', 'Due'],
      ['10 Sep', 'Lock sketch, by 17:00'],
      ['17 Sep', 'Test 1'],
      ['', 'Tool list'],
    ]);
  });

  test('where lines are as far apart as rows, one that is cut off in the middle goes on', () => {
    const [table] = withTables(
      [
        line(
          [
            [0, '1'],
            [30, '10'],
            [60, 'Levers'],
          ],
          12,
        ),
        line([[30, 'Sep']], 12),
        line(
          [
            [0, '2'],
            [30, '17'],
            [60, 'Springs'],
          ],
          12,
        ),
        line([[30, 'Sep']], 12),
        line(
          [
            [0, '3'],
            [30, '1 Oct'],
            [60, 'Wards'],
          ],
          12,
        ),
      ],
      4,
    );
    expect(texts({ blocks: [table!] })[0]).toEqual([
      ['1', '10 Sep', 'Levers'],
      ['2', '17 Sep', 'Springs'],
      ['3', '1 Oct', 'Wards'],
    ]);
  });

  test('fewer than three rows are lines', () => {
    const two = [
      line([
        [0, 'a'],
        [60, 'b'],
      ]),
      line([
        [0, 'c'],
        [60, 'd'],
      ]),
    ];
    expect(withTables(two, 4).map((b) => b.kind)).toEqual(['line', 'line']);
  });
});

describe('markup', () => {
  test('headings, lists and paragraphs are lines; what is not shown says nothing', () => {
    const page = pageOfHtml(
      '<head><title>No</title></head><h2>Plan</h2><p>One<br>two</p><ul><li>three <b>four</b></li></ul><style>p{}</style>',
      MOST,
    );
    expect(page.blocks).toMatchObject([
      { text: 'Plan', level: 2 },
      { text: 'One', level: 0 },
      { text: 'two' },
      { text: 'three four', isItem: true },
    ]);
  });

  test('a cell that goes over rows stands in each of them, one over columns once', () => {
    const page = pageOfHtml(
      `<table><tr><th>Week<th>Date<th>What</tr>
        <tr><td rowspan="2">1</td><td rowspan="2">6 Oct</td><td>Interview</td></tr>
        <tr><td>Consent form</td></tr>
        <tr><td colspan="3">26–30 Oct: no classes</td></tr></table>`,
      MOST,
    );
    expect(texts(page)).toEqual([
      [
        ['Week', 'Date', 'What'],
        ['1', '6 Oct', 'Interview'],
        ['1', '6 Oct', 'Consent form'],
        ['26–30 Oct: no classes', '', ''],
      ],
    ]);
    expect(tableOf(page).rows[2]!.cells.map((c) => c.isBelow ?? false)).toEqual([true, true, false]);
  });

  test('a table within a table is the text of its cell, and lines within a cell stay apart', () => {
    const page = pageOfHtml(
      '<table><tr><td><p>Leak report</p><p>Strap</p></td><td><table><tr><td>a</td><td>b</td></tr></table></td></tr></table>',
      MOST,
    );
    expect(texts(page)).toEqual([[['Leak report\nStrap', 'a b']]]);
  });
});

test.each([
  ['%PDF-1.7', 'plan', 'pdf'],
  ['| a | b |\n|---|---|\n| 1 | 2 |', 'pasted', 'markdown'],
  ['<meta charset="utf-8"><table><tr><td>x', 'pasted', 'html'],
  ['From: a@b.example\nSubject: Dates\n\nHello', 'saved', 'mail'],
  ['a\tb\n1\t2\n3\t4', 'pasted', 'csv'],
  ['Essay: 9 October', 'plan.txt', 'text'],
  ['a;b', 'plan.csv', 'csv'],
])('%j called %s is %s', (begins, name, form) => {
  expect(formOf({ bytes: new Uint8Array(Buffer.from(begins)), name })).toBe(form);
});
