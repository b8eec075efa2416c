import { createElement as el } from 'react';
import { CellField, type Then } from './cell-field';
import { COLUMNS, dayWords, timesWords } from './cells';
import { isDoubtful, remarkOf, type Row } from './rows';

interface Props {
  row: Row;
  /** Its place in the table, from 0 */
  at: number;
  isChosen: boolean;
  isShown: boolean;
  /** The column one stands in; null where one stands in another row */
  column: number | null;
  /** A cell is being changed: the letter that it was begun with */
  typing: { begins: string | null } | null;
  onTick(): void;
  onCell(column: number, how: 'focus' | 'press' | 'extend' | 'open'): void;
  onDone(column: number, value: string | null, then: Then): void;
}

const CELL =
  'cursor-default break-words px-1.5 py-2.5 outline-none focus:shadow-[inset_0_0_0_2px_var(--lagoon)]';

/** A row of the table: whether it is added, its number, and its cells. */
export function GridRow({ row, at, isChosen, isShown, column, typing, onTick, onCell, onDone }: Props) {
  const remark = remarkOf(row, dayWords);
  const isOpen = isDoubtful(row);
  const tone = isChosen ? 'bg-lagoon-wash' : isOpen ? 'bg-marigold-wash' : '';
  const below = [timesWords(row), remark].filter(Boolean).join(' · ');
  return el(
    'tr',
    {
      'aria-selected': isChosen,
      'data-line': row.id,
      className: `border-b border-line align-top ${tone} ${isShown ? 'shadow-[inset_3px_0_0_0_var(--lagoon)]' : ''}`,
    },
    el(
      'td',
      { className: 'whitespace-nowrap py-2.5 pl-1.5' },
      el('input', {
        type: 'checkbox',
        checked: row.ticked,
        tabIndex: -1,
        'aria-label': row.state === 'gone' ? `Take ${row.title} away` : `Add ${row.title}`,
        onChange: onTick,
        className: 'h-5 w-5 align-middle accent-[var(--lagoon)]',
      }),
      el('span', { className: 'ml-1.5 align-middle text-fine font-bold text-lagoon' }, row.number || ''),
    ),
    COLUMNS.map((of, c) => {
      const isTyped = typing !== null && column === c;
      return el(
        'td',
        {
          key: of.key,
          role: 'gridcell',
          'data-cell': `${at} ${c}`,
          tabIndex: column === c ? 0 : -1,
          'aria-label': isTyped ? undefined : `${of.name}: ${of.shows(row) || 'nothing'}`,
          onFocus: () => onCell(c, 'focus'),
          onClick: (e: { shiftKey: boolean }) => onCell(c, e.shiftKey ? 'extend' : 'press'),
          onDoubleClick: () => onCell(c, 'open'),
          className: `${CELL} ${of.key === 'title' || of.key === 'date' ? 'font-bold' : ''} ${row.ticked ? '' : 'text-ink2'}`,
        },
        isTyped ? (
          <CellField
            column={of}
            row={row}
            begins={typing.begins}
            onDone={(value, then) => onDone(c, value, then)}
          />
        ) : (
          of.shows(row)
        ),
        of.key === 'title' && below
          ? el(
              'span',
              { className: `block text-small font-normal ${isOpen ? 'text-marigold' : 'text-ink2'}` },
              below,
            )
          : null,
      );
    }),
  );
}
