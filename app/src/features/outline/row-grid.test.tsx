import { fireEvent, render, screen } from '@testing-library/react';
import { useReducer } from 'react';
import { RowGrid } from './row-grid';
import { bareRow, step, type Row } from './rows';

const begin: readonly Row[] = [
  bareRow('Mid-term test', {
    number: 2,
    kind: 'test',
    date: '2026-10-12',
    minute: 600,
    doubts: ['12 Oct is a Monday.'],
  }),
  bareRow('Sketch', { number: 1, date: '2026-10-15' }),
  bareRow('Model', { number: 3, date: '2026-12-04' }),
];
const onRow = jest.fn();

function Sheet() {
  const [sheet, take] = useReducer(step, { rows: begin, chosen: [], past: [] });
  return (
    <RowGrid rows={sheet.rows} chosen={sheet.chosen} label="Found" shown={null} onStep={take} onRow={onRow} />
  );
}

const cell = (row: number, column: number) =>
  document.querySelector<HTMLElement>(`[data-cell="${row} ${column}"]`)!;
const press = (key: string, more: object = {}) =>
  fireEvent.keyDown(document.activeElement!, { key, ...more });

beforeEach(() => {
  Element.prototype.scrollIntoView = jest.fn();
  onRow.mockClear();
  render(<Sheet />);
  fireEvent.click(cell(0, 0));
});

test('arrows go from cell to cell, no further than the table, and show the row’s place', () => {
  press('ArrowDown');
  press('ArrowRight');
  expect(document.activeElement).toBe(cell(1, 1));
  expect(onRow).toHaveBeenLastCalledWith(begin[1]!.id);
  press('ArrowUp');
  press('ArrowUp');
  press('ArrowLeft');
  press('ArrowLeft');
  expect(document.activeElement).toBe(cell(0, 0));
  press('End', { ctrlKey: true });
  expect(document.activeElement).toBe(cell(2, 6));
});

test('typing changes a cell, Enter takes it and goes down, Escape leaves it as it was', () => {
  press('B');
  const field = screen.getByLabelText<HTMLInputElement>('what');
  expect(field.value).toBe('B');
  fireEvent.change(field, { target: { value: 'Big test' } });
  fireEvent.keyDown(field, { key: 'Enter' });
  expect(cell(0, 0).textContent).toContain('Big test');
  expect(document.activeElement).toBe(cell(1, 0));
  press('F2');
  fireEvent.change(screen.getByLabelText('what'), { target: { value: 'Nothing' } });
  fireEvent.keyDown(screen.getByLabelText('what'), { key: 'Escape' });
  expect(cell(1, 0).textContent).toContain('Sketch');
  expect(document.activeElement).toBe(cell(1, 0));
});

test('rows chosen with Shift are changed together, and all of that is taken back at once', () => {
  for (const key of ['ArrowRight', 'ArrowRight', 'ArrowRight']) press(key);
  press('ArrowDown', { shiftKey: true });
  press('ArrowDown', { shiftKey: true });
  expect(screen.getAllByRole('row', { selected: true })).toHaveLength(3);
  press('Enter');
  fireEvent.change(screen.getByLabelText('at'), { target: { value: '15:45' } });
  fireEvent.keyDown(screen.getByLabelText('at'), { key: 'Tab' });
  expect([0, 1, 2].map((row) => cell(row, 3).textContent)).toEqual(['15:45', '15:45', '15:45']);
  press('z', { ctrlKey: true });
  expect([0, 1, 2].map((row) => cell(row, 3).textContent)).toEqual(['10:00', '', '']);
});

test('Space ticks, Delete leaves out, and another day settles a doubt', () => {
  const box = () => screen.getByRole<HTMLInputElement>('checkbox', { name: 'Add Mid-term test' });
  press('Delete');
  expect(box().checked).toBe(false);
  press(' ');
  expect(box().checked).toBe(true);
  expect(cell(0, 0).textContent).toContain('12 Oct is a Monday.');
  press('ArrowRight');
  press('ArrowRight');
  press('Enter');
  fireEvent.change(screen.getByLabelText('when'), { target: { value: '2026-10-13' } });
  fireEvent.keyDown(screen.getByLabelText('when'), { key: 'Enter' });
  expect(cell(0, 2).textContent).toBe('Tue 13 Oct');
  expect(cell(0, 0).textContent).not.toContain('Monday');
});
