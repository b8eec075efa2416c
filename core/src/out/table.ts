import Papa from 'papaparse';
import type { OccurrenceView } from '../item/occurrence.ts';
import { ITEM_COLUMNS, RECORD_COLUMNS, type Column, type TableContext, type TableRecord } from './columns.ts';

/** Mark that tells a program that the text is in UTF-8 (RFC 3629 6). */
const MARK = '\ufeff';

/** Matches the beginning of a cell that some spreadsheet takes for a formula, a command or the name of one; in full width as well. */
const FORMULA = /^[=+\-@|%\t\r＝＋－＠｜％]/;

/**
 * A table as CSV (RFC 4180) in UTF-8. A cell that a spreadsheet would take for a formula begins with an apostrophe.
 * @param columns those that are wanted; all where none is
 */
export function csv<Row>(
  all: Record<string, Column<Row>>,
  columns: readonly string[] | undefined,
  rows: readonly Row[],
  context: TableContext,
): string {
  const wanted = Object.entries(all).filter(([name]) => !columns?.length || columns.includes(name));
  const fields = wanted.map(([, { heading }]) => heading);
  const data = rows.map((row) => wanted.map(([, column]) => column.of(row, context)));
  return `${MARK}${Papa.unparse({ fields, data }, { newline: '\r\n', escapeFormulae: FORMULA })}\r\n`;
}

/** Items as a table, in the order they are given. */
export const itemsTable = (
  rows: readonly OccurrenceView[],
  context: TableContext,
  columns?: readonly string[],
): string => csv(ITEM_COLUMNS, columns, rows, context);

/** Gives what was told about work as a table, in the order it is given. */
export const recordsTable = (
  rows: readonly TableRecord[],
  context: TableContext,
  columns?: readonly string[],
): string => csv(RECORD_COLUMNS, columns, rows, context);
