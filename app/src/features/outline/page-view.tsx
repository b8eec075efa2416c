import type { OutlinePage } from '@zephyrfield/core/api/outlines';
import { createElement as el, useEffect, useRef, type ReactNode } from 'react';
import { View } from 'react-native';
import { elementOf } from '@/ui/element';
import type { Row } from './rows';

interface Props {
  page: OutlinePage;
  rows: readonly Row[];
  /** The row whose place is shown */
  shown: string | null;
  onRow(id: string): void;
}

interface Mark {
  from: number;
  to: number;
  row: Row;
  isFirst: boolean;
}

const keyOf = (at: { block: number; row: number; cell: number }) => `${at.block} ${at.row} ${at.cell}`;

/** The outline as it was given, with the places that were understood; pressing one shows its row. */
export function PageView({ page, rows, shown, onRow }: Props) {
  const box = useRef<View>(null);
  const marks = marksOf(rows);
  useEffect(() => {
    if (shown === null) return;
    elementOf(box.current)?.querySelector(`[data-row="${shown}"]`)?.scrollIntoView({ block: 'nearest' });
  }, [shown]);
  const text = (words: string, key: string) => marked(words, marks.get(key) ?? [], { shown, onRow });
  const blocks = page.blocks.map((block, n) =>
    block.kind === 'line'
      ? el(
          'p',
          {
            key: n,
            'data-block': n,
            className: `${block.level ? 'font-bold' : ''} ${block.isApart && n > 0 ? 'mt-4' : 'mt-0.5'} break-words leading-7`,
            style: { paddingInlineStart: Math.min(block.indent, 20) * 5 },
          },
          block.isItem ? '• ' : '',
          text(block.text, `${n} 0 0`),
        )
      : el(
          'div',
          { key: n, className: 'my-3 overflow-x-auto' },
          el(
            'table',
            { className: 'w-full border-collapse text-small' },
            el(
              'tbody',
              null,
              block.rows.map((row, r) =>
                el(
                  'tr',
                  { key: r, className: 'border-b border-line align-top' },
                  row.cells.map((cell, c) =>
                    el(
                      'td',
                      { key: c, 'data-block': n, className: 'whitespace-pre-line px-1.5 py-1 leading-6' },
                      text(cell.text, `${n} ${r} ${c}`),
                    ),
                  ),
                ),
              ),
            ),
          ),
        ),
  );
  return (
    <View
      ref={box}
      role="region"
      aria-label="The outline"
      className="max-h-[70vh] overflow-auto rounded-sm bg-sheet px-5 py-5 shadow-sm wide:max-h-full wide:px-6"
      {...{ tabIndex: 0 }}
    >
      {el('div', { className: 'font-text text-body text-ink' }, blocks)}
    </View>
  );
}

/** The marks of each line and cell: what a row's words are, and the date they stand under. */
function marksOf(rows: readonly Row[]): ReadonlyMap<string, Mark[]> {
  const marks = new Map<string, Mark[]>();
  const put = (at: Row['at'], row: Row, isFirst: boolean) => {
    if (at.block < 0 || at.to <= at.from) return;
    marks.set(keyOf(at), [...(marks.get(keyOf(at)) ?? []), { from: at.from, to: at.to, row, isFirst }]);
  };
  for (const row of rows) {
    if (row.number === 0) continue;
    put(row.at, row, true);
    if (row.dateAt && keyOf(row.dateAt) !== keyOf(row.at)) put(row.dateAt, row, false);
  }
  return marks;
}

function marked(
  words: string,
  marks: readonly Mark[],
  { shown, onRow }: Pick<Props, 'shown' | 'onRow'>,
): ReactNode {
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
          onClick: () => onRow(row.id),
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
