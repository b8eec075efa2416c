import { createElement as el, useEffect, useRef, useState, type KeyboardEvent } from 'react';
import { View } from 'react-native';
import { elementOf } from '@/ui/element';
import type { Then } from './cell-field';
import { COLUMNS } from './cells';
import { GridRow } from './grid-row';
import type { RowsProps } from './rows';
import { useShown } from './use-shown';

const MOVES: Record<string, readonly [row: number, column: number]> = {
  ArrowDown: [1, 0],
  ArrowUp: [-1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};
const within = (n: number, end: number) => Math.max(0, Math.min(end - 1, n));

/**
 * The rows as a table that is worked on by keys: arrows go from cell to cell, typing or Enter changes one, Shift with an
 * arrow chooses several rows, which are then changed together; Space ticks, Delete leaves out, Ctrl+Z takes back.
 */
export function RowGrid({ rows, chosen, label, shown, onStep, onRow }: RowsProps) {
  const box = useRef<View>(null);
  const [spot, setSpot] = useState({ row: 0, column: 0 });
  const [typing, setTyping] = useState<{ begins: string | null } | null>(null);
  /** Counts how often the cell one stands in is to have the focus */
  const [grabs, setGrabs] = useState(0);
  const at = { row: within(spot.row, rows.length), column: spot.column };
  const current = rows[at.row];
  useEffect(() => {
    const cells = elementOf(box.current);
    if (grabs) cells?.querySelector<HTMLElement>('td[tabindex="0"]')?.focus();
  }, [grabs]);
  useShown(box, shown);
  if (!current) return null;
  const several = (id: string) => (chosen.length > 1 && chosen.includes(id) ? chosen : [id]);
  const go = (row: number, column: number, extend = false) => {
    const next = { row: within(row, rows.length), column: within(column, COLUMNS.length) };
    setSpot(next);
    setGrabs((n) => n + 1);
    const { id } = rows[next.row]!;
    onRow(id);
    if (extend) onStep({ do: 'choose', ids: [...new Set([...(chosen.length ? chosen : [current.id]), id])] });
    else if (chosen.length) onStep({ do: 'choose', ids: [] });
  };
  const onKeyDown = (e: KeyboardEvent) => {
    if (typing) return;
    const isMod = e.ctrlKey || e.metaKey;
    const move = MOVES[e.key];
    if (move && !isMod) go(at.row + move[0], at.column + move[1], e.shiftKey && move[0] !== 0);
    else if (e.key === 'Home') go(isMod ? 0 : at.row, 0);
    else if (e.key === 'End') go(isMod ? rows.length : at.row, COLUMNS.length);
    else if (isMod && e.key.toLowerCase() === 'z') onStep({ do: 'undo' });
    else if (e.key === ' ') onStep({ do: 'tick', ids: several(current.id), on: !current.ticked });
    else if (e.key === 'Delete' || e.key === 'Backspace')
      onStep({ do: 'tick', ids: several(current.id), on: false });
    else if (e.key === 'Enter' || e.key === 'F2') setTyping({ begins: null });
    else if (e.key.length === 1 && !isMod && !e.altKey) setTyping({ begins: e.key });
    else return;
    e.preventDefault();
  };
  const done = (column: number, value: string | null, then: Then) => {
    setTyping(null);
    const of = COLUMNS[column]!;
    const to = value === null || value === of.value(current) ? null : of.change(value, current);
    if (to) onStep({ do: 'edit', ids: several(current.id), to });
    if (then === 'down') setSpot({ ...at, row: within(at.row + 1, rows.length) });
    if (then === 'right' || then === 'left')
      setSpot({ ...at, column: within(column + (then === 'right' ? 1 : -1), COLUMNS.length) });
    // Whoever pressed elsewhere stays there.
    if (then !== 'stay' || value === null) setGrabs((n) => n + 1);
  };
  return (
    <View ref={box}>
      {el(
        'table',
        {
          role: 'grid',
          'aria-label': label,
          'aria-multiselectable': true,
          className: 'w-full table-fixed border-collapse font-text text-body text-ink',
          onKeyDown,
        },
        <Head />,
        el(
          'tbody',
          null,
          rows.map((row, r) => (
            <GridRow
              key={row.id}
              row={row}
              at={r}
              isChosen={chosen.includes(row.id)}
              isShown={row.id === shown}
              column={at.row === r ? at.column : null}
              typing={at.row === r ? typing : null}
              onTick={() => onStep({ do: 'tick', ids: several(row.id), on: !row.ticked })}
              onCell={(column, how) => {
                if (how === 'focus') {
                  if (at.row !== r || at.column !== column) setSpot({ row: r, column });
                } else if (how === 'open') setTyping({ begins: null });
                else if (!typing || at.row !== r || at.column !== column) go(r, column, how === 'extend');
              }}
              onDone={done}
            />
          )),
        ),
      )}
    </View>
  );
}

const Head = () =>
  el(
    'thead',
    null,
    el(
      'tr',
      { className: 'border-b border-line text-left text-small text-ink2' },
      el(
        'th',
        { scope: 'col', className: 'w-[62px] font-normal' },
        el('span', { className: 'sr-only' }, 'Added, and its number'),
      ),
      COLUMNS.map((c) =>
        el('th', { key: c.key, scope: 'col', className: `${c.width} px-1.5 py-1 font-normal` }, c.name),
      ),
    ),
  );
