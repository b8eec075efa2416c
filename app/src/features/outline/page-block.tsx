import type { OutlinePage } from '@zephyrfield/core/api/outlines';
import { createElement as el, memo, type ReactNode } from 'react';
import type { Row } from './rows';

/** A place of the outline that was understood. */
export interface Mark {
  from: number;
  to: number;
  row: Row;
  /** The row's own words, and not the date they stand under */
  isFirst: boolean;
}

/** The marks of each line or cell of a block, by the row and the cell. */
export type Marks = ReadonlyMap<string, readonly Mark[]>;
export const NO_MARKS: Marks = new Map();

interface Props {
  block: OutlinePage['blocks'][number];
  n: number;
  marks: Marks;
  /** The row whose place is shown, where it is in this block */
  shown: string | null;
  /** Rows of a table that are drawn */
  most: number;
}

/** Tells whether two sets of marks name the same rows, unchanged. */
const areSame = (a: Marks, b: Marks) =>
  a.size === b.size &&
  [...a].every(([key, marks]) => {
    const others = b.get(key);
    return others?.length === marks.length && marks.every(({ row }, i) => others[i]!.row === row);
  });

/** Draws a line or a table of the outline, again only after something in it has changed: a page has thousands. */
export const PageBlock = memo(Block, (a, b) => {
  const isAsBefore = a.block === b.block && a.n === b.n && a.shown === b.shown && a.most === b.most;
  return isAsBefore && areSame(a.marks, b.marks);
});

function Block({ block, n, marks, shown, most }: Props) {
  const text = (words: string, key: string) => marked(words, marks.get(key) ?? [], shown);
  if (block.kind === 'line')
    return el(
      'p',
      {
        'data-block': n,
        className: `${block.level ? 'font-bold' : ''} ${block.isApart && n > 0 ? 'mt-4' : 'mt-0.5'} break-words leading-7`,
        style: { paddingInlineStart: Math.min(block.indent, 20) * 5 },
      },
      block.isItem ? '• ' : '',
      text(block.text, '0 0'),
    );
  const rows = block.rows.slice(0, most).map((row, r) =>
    el(
      'tr',
      { key: r, className: 'border-b border-line align-top' },
      row.cells.map((cell, c) =>
        el(
          'td',
          { key: c, 'data-block': n, className: 'whitespace-pre-line px-1.5 py-1 leading-6' },
          text(cell.text, `${r} ${c}`),
        ),
      ),
    ),
  );
  return el(
    'div',
    { className: 'my-3 overflow-x-auto' },
    el('table', { className: 'w-full border-collapse text-small' }, el('tbody', null, rows)),
  );
}

function marked(words: string, marks: readonly Mark[], shown: string | null): ReactNode {
  const parts: ReactNode[] = [];
  let at = 0;
  // A date in a heading or a cell may be that of several rows: the one that is shown comes first.
  const order = [...marks].sort(
    (a, b) => a.from - b.from || Number(b.row.id === shown) - Number(a.row.id === shown),
  );
  for (const { from, to, row, isFirst } of order) {
    if (from < at || from >= words.length) continue;
    parts.push(words.slice(at, from));
    const isShown = row.id === shown;
    const isDoubtful = row.doubts.length > 0;
    const look = row.isTopic
      ? 'border-line'
      : isDoubtful
        ? 'border-marigold bg-marigold-wash'
        : 'border-lagoon bg-lagoon-wash';
    parts.push(
      el(
        'span',
        {
          key: `${from} ${row.id}`,
          role: 'button',
          tabIndex: -1,
          'data-row': row.id,
          'aria-label': `Row ${row.number}: ${row.title}`,
          'aria-pressed': isShown,
          className: `cursor-pointer border-b-2 px-0.5 ${look} ${isShown ? 'outline outline-2 outline-lagoon' : ''}`,
        },
        words.slice(from, to),
        isFirst ? el('sup', { className: 'ml-0.5 font-bold text-lagoon' }, row.number) : null,
      ),
    );
    at = Math.min(to, words.length);
  }
  parts.push(words.slice(at));
  return parts;
}
