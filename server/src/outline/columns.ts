import type { Page, PageCell, PageLine, PageRow } from '@zephyrfield/core/outline/page';

/** A line of a text or a printed page, as the pieces that stand apart in it. */
export interface Spread extends Omit<PageLine, 'kind'> {
  pieces: { x: number; text: string }[];
  /** How far below the line before it, on a printed page */
  gap?: number;
}

/** From so many rows on, pieces that stand below each other are a table. */
const FEWEST = 3;

/**
 * Lines as blocks: where pieces of several lines stand below each other, they are a table.
 * @param near how far beside each other pieces of one column may begin
 */
export function withTables(lines: readonly Spread[], near: number): Page['blocks'] {
  const blocks: Page['blocks'] = [];
  for (let n = 0; n < lines.length;) {
    const run = runAt(lines, n, near);
    if (run) {
      blocks.push({ kind: 'table', where: lines[n]!.where, rows: rowsOf(run.lines, run.columns, near) });
      n += run.lines.length;
      continue;
    }
    const { pieces: _, gap: __, ...line } = lines[n]!;
    blocks.push({ kind: 'line', ...line });
    n++;
  }
  return blocks;
}

/** The lines from one on that stand in columns. */
function runAt(lines: readonly Spread[], first: number, near: number) {
  if (lines[first]!.pieces.length < 2) return null;
  let end = first;
  const starts: number[] = [];
  while (end < lines.length && end - first < 2_000) {
    const { pieces, level, isApart } = lines[end]!;
    const isBelow =
      end > first && pieces.length === 1 && pieces[0]!.x > lines[first]!.pieces[0]!.x + near * 3;
    if ((pieces.length < 2 && !isBelow) || level > 0) break;
    // Behind a room, what stands in no column of it is something else.
    if (end > first && isApart && !pieces.every(({ x }) => starts.some((s) => Math.abs(s - x) <= near)))
      break;
    starts.push(...pieces.map((p) => p.x));
    end++;
  }
  const run = lines.slice(first, end);
  const full = run.filter((l) => l.pieces.length > 1);
  if (full.length < FEWEST) return null;
  const columns = columnsOf(full, near);
  const aligned = full.filter(({ pieces }) =>
    pieces.every(({ x }) => columns.some((c) => Math.abs(c - x) <= near)),
  );
  if (columns.length < 2 || aligned.length * 10 < full.length * 6) return null;
  return { lines: run, columns };
}

/** Where columns begin: where pieces of at least a third of the rows do. */
function columnsOf(lines: readonly Spread[], near: number): number[] {
  const starts = lines.flatMap(({ pieces }) => pieces.map((p) => p.x)).sort((a, b) => a - b);
  const groups: number[][] = [];
  for (const x of starts) {
    const last = groups.at(-1);
    if (last && x - last.at(-1)! <= near) last.push(x);
    else groups.push([x]);
  }
  return groups.filter((g) => g.length * 3 >= lines.length).map((g) => g[0]!);
}

/** Up to how far below each other lines are of one row; 0 where rows are no further apart than lines. */
function tightGap(lines: readonly Spread[]): number {
  const gaps = lines
    .slice(1)
    .flatMap((l) => l.gap ?? [])
    .sort((a, b) => a - b);
  const [least] = gaps;
  const most = gaps.at(-1);
  return least !== undefined && most! > least * 1.2 ? least * 1.1 : 0;
}

/** Tells whether a cell ends in the middle of something: `10` above `Sep`, `by` above `17:00`. */
const isCut = (above: string, below: string) =>
  (/\d$/.test(above) && /^\p{Lu}\p{L}{2,8}\.?$/u.test(below)) ||
  /(?:\s(?:by|at|the|of|and|to|for)|,|-)$/.test(above);

function rowsOf(lines: readonly Spread[], columns: readonly number[], near: number): PageRow[] {
  const rows: PageRow[] = [];
  const tight = tightGap(lines);
  for (const { pieces, where, gap } of lines) {
    const cells: PageCell[] = columns.map(() => ({ text: '' }));
    for (const { x, text } of pieces) {
      const column = columns.findLastIndex((c) => c <= x + near);
      const cell = cells[Math.max(0, column)]!;
      cell.text = cell.text ? `${cell.text} ${text}` : text;
    }
    const last = rows.at(-1);
    const full = cells.flatMap((cell, c) => (cell.text ? [c] : []));
    // A line right below, with nothing in the first column, goes on with the cells of the row above it.
    if (
      last &&
      !cells[0]!.text &&
      full.length &&
      ((gap !== undefined && gap <= tight) || full.every((c) => isCut(last.cells[c]!.text, cells[c]!.text)))
    ) {
      for (const c of full) {
        const above = last.cells[c]!;
        above.text = above.text ? `${above.text} ${cells[c]!.text}` : cells[c]!.text;
      }
      continue;
    }
    // A line in small letters goes on with what stands above it.
    if (last && pieces.length === 1 && full.length === 1 && /^\p{Ll}/u.test(pieces[0]!.text)) {
      const above = last.cells[full[0]!]!;
      above.text = above.text ? `${above.text} ${pieces[0]!.text}` : pieces[0]!.text;
      continue;
    }
    rows.push({ where, cells });
  }
  return rows;
}
