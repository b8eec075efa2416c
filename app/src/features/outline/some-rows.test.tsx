import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { OutlinePage } from '@zephyrfield/core/api/outlines';
import { PageView } from './page-view';
import { bareRow, type Row } from './rows';
import { SomeRows } from './some-rows';

const AT_ONCE = 6;

beforeEach(() => {
  Element.prototype.scrollIntoView = jest.fn();
});

const place = (block: number, row = 0) => ({ block, row, cell: 0, from: 0, to: 4 });
const quiz = (n: number, more: Partial<Row> = {}) =>
  bareRow(`Quiz ${n}`, {
    id: `q${n}`,
    number: n + 1,
    date: '2026-10-09',
    at: place(n),
    isOwn: false,
    ...more,
  });

const Rows = ({ rows, shown = null }: { rows: readonly Row[]; shown?: string | null }) => (
  <SomeRows
    atOnce={AT_ONCE}
    rows={rows}
    chosen={[]}
    label="What was found"
    shown={shown}
    onStep={() => {}}
    onRow={() => {}}
  />
);

test('of very many rows the first are drawn, more at a press, and as far as what is looked at', async () => {
  const rows = Array.from({ length: AT_ONCE * 2 + 5 }, (_, n) => quiz(n));
  const { rerender } = render(<Rows rows={rows} />);
  expect(screen.getAllByRole('checkbox')).toHaveLength(AT_ONCE);
  await userEvent.click(screen.getByRole('button', { name: `Show ${AT_ONCE} more rows, of ${AT_ONCE + 5}` }));
  expect(screen.getAllByRole('checkbox')).toHaveLength(AT_ONCE * 2);
  rerender(<Rows rows={rows} shown={`q${AT_ONCE * 2 + 2}`} />);
  expect(screen.getByRole('checkbox', { name: `Add Quiz ${AT_ONCE * 2 + 2}` })).toBeInTheDocument();
  expect(screen.getByRole('button', { name: 'Show 2 more rows, of 2' })).toBeInTheDocument();
});

test('few are drawn as they are', () => {
  render(<Rows rows={[quiz(0), quiz(1)]} />);
  expect(screen.getAllByRole('checkbox')).toHaveLength(2);
  expect(screen.queryByRole('button', { name: /more row/ })).toBeNull();
});

describe('the page', () => {
  const line = (n: number) => ({
    ...{ kind: 'line' as const, where: `line ${n}`, text: `Quiz ${n}`, level: 0, indent: 0 },
    ...{ isItem: false, isApart: false },
  });
  const lines = (count: number): OutlinePage => ({
    blocks: Array.from({ length: count }, (_, n) => line(n)),
  });

  test('pressing a place shows its row; the place of a row is marked as shown', async () => {
    const onRow = jest.fn();
    const { rerender } = render(
      <PageView page={lines(3)} rows={[quiz(0), quiz(2)]} shown={null} onRow={onRow} />,
    );
    await userEvent.click(screen.getByRole('button', { name: 'Row 3: Quiz 2' }));
    expect(onRow).toHaveBeenCalledWith('q2');
    await userEvent.click(screen.getByText('Quiz 1'));
    expect(onRow).toHaveBeenCalledTimes(1);
    rerender(<PageView page={lines(3)} rows={[quiz(0), quiz(2)]} shown="q2" onRow={onRow} />);
    expect(screen.getByRole('button', { name: 'Row 3: Quiz 2' })).toHaveAttribute('aria-pressed', 'true');
    expect(screen.getByRole('button', { name: 'Row 1: Quiz 0' })).toHaveAttribute('aria-pressed', 'false');
  });

  test('what is changed in a row is drawn in its place', () => {
    const page = lines(2);
    const { rerender } = render(
      <PageView atOnce={AT_ONCE} page={page} rows={[quiz(0)]} shown={null} onRow={() => {}} />,
    );
    rerender(
      <PageView
        atOnce={AT_ONCE}
        page={page}
        rows={[quiz(0, { title: 'Test' })]}
        shown={null}
        onRow={() => {}}
      />,
    );
    expect(screen.getByRole('button', { name: 'Row 1: Test' })).toBeInTheDocument();
  });

  test('of a very long page the beginning is drawn, more at a press, and as far as what is looked at', async () => {
    const last = AT_ONCE * 2 + 10;
    const page = lines(last + 1);
    const { rerender } = render(
      <PageView atOnce={AT_ONCE} page={page} rows={[]} shown={null} onRow={() => {}} />,
    );
    expect(screen.queryByText(`Quiz ${AT_ONCE}`)).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'Show more of the outline' }));
    expect(screen.getByText(`Quiz ${AT_ONCE}`)).toBeInTheDocument();
    rerender(
      <PageView atOnce={AT_ONCE} page={page} rows={[quiz(last)]} shown={`q${last}`} onRow={() => {}} />,
    );
    expect(screen.getByRole('button', { name: `Row ${last + 1}: Quiz ${last}` })).toBeInTheDocument();
    expect(screen.queryByRole('button', { name: 'Show more of the outline' })).toBeNull();
  });

  test('a long table is drawn as far as well', () => {
    const rows = Array.from({ length: AT_ONCE + 5 }, (_, n) => ({
      where: `row ${n}`,
      cells: [{ text: `Cell ${n}` }],
    }));
    const page: OutlinePage = { blocks: [{ kind: 'table', where: 'row 0', rows }] };
    const far = quiz(0, { at: place(0, AT_ONCE + 2) });
    const { rerender } = render(
      <PageView atOnce={AT_ONCE} page={page} rows={[far]} shown={null} onRow={() => {}} />,
    );
    expect(screen.queryByText(`Cell ${AT_ONCE}`)).toBeNull();
    rerender(<PageView atOnce={AT_ONCE} page={page} rows={[far]} shown="q0" onRow={() => {}} />);
    expect(screen.getByRole('button', { name: 'Row 1: Quiz 0' })).toBeInTheDocument();
  });
});
