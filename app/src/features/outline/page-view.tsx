import type { OutlinePage } from '@zephyrfield/core/api/outlines';
import { createElement as el, useEffect, useMemo, useRef, useState } from 'react';
import { View } from 'react-native';
import { Button } from '@/ui/button';
import { elementOf } from '@/ui/element';
import { NO_MARKS, PageBlock, type Mark, type Marks } from './page-block';
import type { Row } from './rows';

interface Props {
  page: OutlinePage;
  rows: readonly Row[];
  /** The row whose place is shown */
  shown: string | null;
  onRow(id: string): void;
  atOnce?: number;
}

/** Lines, and rows of one table, drawn before the reader asks for more. */
const LINES_AT_ONCE = 300;

/** The outline as it was given, with the places that were understood; pressing one shows its row. */
export function PageView({ page, rows, shown, onRow, atOnce = LINES_AT_ONCE }: Props) {
  const box = useRef<View>(null);
  const [times, setTimes] = useState(1);
  const marks = useMemo(() => marksOf(rows), [rows]);
  useEffect(() => {
    if (shown === null) return;
    elementOf(box.current)?.querySelector(`[data-row="${shown}"]`)?.scrollIntoView({ block: 'nearest' });
  }, [shown]);
  const at = rows.find((row) => row.id === shown)?.at;
  const most = atOnce * times;
  // Far enough to reach the row that is shown.
  const blocks = page.blocks.slice(0, Math.max(most, (at?.block ?? -1) + 1));
  const isCut =
    blocks.length < page.blocks.length || blocks.some((b) => b.kind === 'table' && b.rows.length > most);
  return (
    <View
      ref={box}
      role="region"
      aria-label="The outline"
      className="max-h-[70vh] overflow-auto rounded-sm bg-sheet px-5 py-5 shadow-sm wide:max-h-full wide:px-6"
      {...{ tabIndex: 0 }}
    >
      {el(
        'div',
        {
          className: 'font-text text-body text-ink',
          // One listener for all marks.
          onClick: ({ target }: { target: Element }) => {
            const id = target.closest('[data-row]')?.getAttribute('data-row');
            if (id) onRow(id);
          },
        },
        blocks.map((block, n) => (
          <PageBlock
            key={n}
            block={block}
            n={n}
            marks={marks.get(n) ?? NO_MARKS}
            shown={at?.block === n ? shown : null}
            most={Math.max(most, at?.block === n ? at.row + 1 : 0)}
          />
        )),
      )}
      {isCut ? (
        <Button kind="quiet" className="self-start px-2" onPress={() => setTimes(times + 1)}>
          Show more of the outline
        </Button>
      ) : null}
    </View>
  );
}

/** The marks of each block. */
function marksOf(rows: readonly Row[]): ReadonlyMap<number, Marks> {
  const all = new Map<number, Map<string, Mark[]>>();
  const put = ({ block, row: r, cell, from, to }: Row['at'], row: Row, isFirst: boolean) => {
    if (block < 0 || to <= from) return;
    const here = all.get(block) ?? new Map<string, Mark[]>();
    all.set(block, here);
    const key = `${r} ${cell}`;
    here.set(key, here.get(key) ?? []);
    here.get(key)!.push({ from, to, row, isFirst });
  };
  const isSame = (a: Row['at'], b: Row['at']) => a.block === b.block && a.row === b.row && a.cell === b.cell;
  for (const row of rows) {
    if (row.number === 0) continue;
    put(row.at, row, true);
    if (row.dateAt && !isSame(row.dateAt, row.at)) put(row.dateAt, row, false);
  }
  return all;
}
