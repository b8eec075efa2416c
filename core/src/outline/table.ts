import type { Raw } from './found.ts';
import type { PageRow, PageTable, Place } from './page.ts';
import { dateOf, type Dated } from './table-date.ts';
import { isEmpty, planOf, readRow, type Row, type TableContext } from './table-plan.ts';
import { rowRaws } from './table-row.ts';
import { weeklyIn } from './weekly.ts';

/** Gives what a table says of days. One whose dates stand beside each other is read as if it lay on its side. */
export function rawsOfTable(table: PageTable, context: TableContext): Raw[] {
  if (!isSideways(table.rows, context)) return rawsOfRows(table, context);
  const turned = rawsOfRows({ ...table, rows: onItsSide(table.rows) }, { ...context, isTurned: true });
  const back = (at: Place): Place => ({ ...at, row: at.cell, cell: at.row });
  return turned.map((raw) => ({ ...raw, at: back(raw.at), dateAt: raw.dateAt && back(raw.dateAt) }));
}

/** Tells whether one of the first rows has dates in most of its cells, and at least three. */
function isSideways(rows: readonly PageRow[], context: TableContext): boolean {
  return rows.slice(0, 2).some((row) => {
    const full = readRow(row, context.reader).cells.filter((c) => !isEmpty(c));
    const dated = full.filter((c) => c.day !== undefined || (c.date && context.mayBeInTerm(c.date)));
    return dated.length >= 3 && dated.length * 3 >= full.length * 2;
  });
}

function onItsSide(rows: readonly PageRow[]): PageRow[] {
  const width = Math.max(0, ...rows.map((r) => r.cells.length));
  return Array.from({ length: width }, (_, c) => ({
    where: rows[0]!.where,
    cells: rows.map((row) => row.cells[c] ?? { text: '' }),
  }));
}

function rawsOfRows(table: PageTable, context: TableContext): Raw[] {
  const rows = table.rows.map((row): Row => readRow(row, context.reader));
  const width = Math.max(0, ...rows.map((r) => r.cells.length));
  const plan = planOf(rows, width, context);
  if (!plan) return rows.flatMap((row, n) => looseRow(row, n, context, false));
  const raws: Raw[] = [];
  let standing: Dated | null = null;
  rows.forEach((row, n) => {
    if (n <= plan.header) return;
    const full = row.cells.filter((c) => !isEmpty(c));
    // One cell over the whole row, as a break has it.
    if (
      full.length === 1 &&
      width > 2 &&
      full[0]!.spans.dates.length &&
      !plan.roles.some((role, c) => role.is === 'date' && row.cells[c] === full[0] && full[0]!.date)
    ) {
      raws.push(...looseRow(row, n, context, true));
      return;
    }
    const dated: Dated | null = dateOf(row, n, plan, context) ?? standing;
    if (!dated) return;
    const isCarried = dated === standing;
    standing = dated;
    raws.push(...rowRaws(row, n, dated, plan, context, isCarried));
  });
  return raws;
}

/** A row that no column of dates holds: read as a line is. */
function looseRow(row: Row, n: number, context: TableContext, isAlone: boolean): Raw[] {
  const full = row.cells.flatMap((cell, c) => (isEmpty(cell) ? [] : [{ cell, c }]));
  const [first] = full;
  const isDay = !isAlone && context.isInMonth && /^\s*\d{1,2}\b/.test(first?.cell.text ?? '');
  if (
    !first ||
    (!isDay &&
      !full.some(
        ({ cell }) => cell.spans.dates.length || weeklyIn(cell.text, cell.spans, context.reader.language),
      ))
  )
    return [];
  const text = full.map(({ cell }) => cell.text).join(': ');
  return context.asLine(
    text,
    { block: context.block, row: n, cell: first.c, from: 0, to: first.cell.text.length },
    row.where,
    isAlone,
  );
}
