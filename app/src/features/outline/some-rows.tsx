import { plural } from '@zephyrfield/core/words/text';
import { useState } from 'react';
import { Button } from '@/ui/button';
import { useIsWide } from '@/ui/use-is-wide';
import { RowCards } from './row-cards';
import { RowGrid } from './row-grid';
import type { RowsProps } from './rows';

/** Rows drawn before the reader asks for more; drawing two thousand at once blocks the page. */
const ROWS_AT_ONCE = 120;

/**
 * Draws an outline's rows as cards or as a grid. Draws the first rows only, and as many more as are needed to reach the
 * row that is shown.
 */
export function SomeRows({ atOnce = ROWS_AT_ONCE, ...props }: RowsProps & { atOnce?: number }) {
  const { rows, shown } = props;
  const [most, setMost] = useState(atOnce);
  const Rows = useIsWide() ? RowGrid : RowCards;
  const end = Math.max(most, rows.findIndex((row) => row.id === shown) + 1);
  const left = rows.length - end;
  return (
    <>
      <Rows {...props} rows={rows.slice(0, end)} />
      {left > 0 ? (
        <Button kind="quiet" className="-ml-2 self-start px-2" onPress={() => setMost(end + atOnce)}>
          {`Show ${plural(Math.min(left, atOnce), 'more row')}, of ${left}`}
        </Button>
      ) : null}
    </>
  );
}
