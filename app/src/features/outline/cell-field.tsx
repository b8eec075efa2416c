import { createElement, useEffect, useRef, type KeyboardEvent } from 'react';
import type { Column } from './cells';
import type { Row } from './rows';

/** Place where one goes on once a cell is changed. */
export type Then = 'down' | 'right' | 'left' | 'stay';

interface Props {
  column: Column;
  row: Row;
  /** The letter that was typed to begin with; null to begin from what stands there */
  begins: string | null;
  /** Gives what was typed; null where it was called off */
  onDone(value: string | null, then: Then): void;
}

/** A day wants more room than its column has: it lies over what stands beside it. */
const WIDE = 'relative z-10 w-[148px]';
const CELL = 'min-w-0 rounded border border-lagoon bg-sheet px-1 py-0.5 font-text text-body text-ink';

/** A cell while it is changed: Enter goes down, Tab to the side, Escape leaves it as it was. */
export function CellField({ column, row, begins, onDone }: Props) {
  const field = useRef<HTMLInputElement & HTMLSelectElement>(null);
  const kind = column.field(row);
  const isText = kind === 'text';
  const isDone = useRef(false);
  const end = (value: string | null, then: Then) => {
    if (isDone.current) return;
    isDone.current = true;
    onDone(value, then);
  };
  useEffect(() => {
    field.current?.focus();
    if (begins === null && isText) field.current?.select();
  }, [begins, isText]);
  const shared = {
    'aria-label': column.name,
    defaultValue: begins !== null && isText ? begins : column.value(row),
    className: `${kind === 'date' ? WIDE : 'w-full'} ${CELL}`,
    onBlur: (e: { currentTarget: { value: string } }) => end(e.currentTarget.value, 'stay'),
    onKeyDown: (e: KeyboardEvent<HTMLInputElement & HTMLSelectElement>) => {
      e.stopPropagation();
      const { value } = e.currentTarget;
      if (e.key === 'Enter') end(value, 'down');
      else if (e.key === 'Tab') end(value, e.shiftKey ? 'left' : 'right');
      else if (e.key === 'Escape') end(null, 'stay');
      else return;
      e.preventDefault();
    },
  };
  if (typeof kind === 'string') return <input ref={field} type={kind} {...shared} />;
  return (
    <select ref={field} {...shared}>
      {kind.map(({ value, words }) => createElement('option', { key: value, value }, words))}
    </select>
  );
}
