import { Parser } from 'htmlparser2';
import type { Page, PageCell, PageRow } from '@zephyrfield/core/outline/page';

const BLOCKS = new Set(
  'p div li h1 h2 h3 h4 h5 h6 blockquote pre section article header footer ul ol dl dt dd hr main figure address caption'.split(
    ' ',
  ),
);
const SKIPPED = new Set(['nav', 'script', 'style', 'template', 'noscript', 'svg', 'head', 'title']);
const MOST_SPAN = 200;
const DEEPEST = 500;
const PIECE = 20_000;

interface Table {
  rows: PageRow[];
  cells: PageCell[];
  /** Cells that go on in the rows below, by column */
  below: Map<number, { text: string; rows: number }>;
  span: { rows: number; columns: number };
  where: string;
}

/** Markup as a page. Nothing of it is run, followed or fetched; a table within a table is read as text of its cell. */
export function pageOfHtml(html: string, most: number): Page {
  const page: Page = { blocks: [], notes: [] };
  let text = '';
  let level = 0;
  let depth = 0;
  let skipped = 0;
  let lists = 0;
  let isItem = false;
  let isApart = true;
  let line = '';
  let tables = 0;
  let table: Table | null = null;
  let inner = 0;
  const where = () => (line ? `line ${line}` : `passage ${page.blocks.length + 1}`);
  const flush = () => {
    for (const part of text.split('\n')) {
      const said = part.replace(/\s+/g, ' ').trim();
      if (!said || page.blocks.length >= most) continue;
      page.blocks.push({
        kind: 'line',
        where: where(),
        text: said,
        level,
        indent: lists * 2,
        isItem,
        isApart,
      });
      isApart = false;
    }
    text = '';
  };
  const endCell = () => {
    if (!table?.span.columns) return;
    const said = text
      .replace(/[^\S\n]+/g, ' ')
      .replace(/ ?\n ?/g, '\n')
      .replace(/\n{2,}/g, '\n')
      .trim();
    fillBelow(table);
    const at = table.cells.length;
    table.cells.push({ text: said });
    for (let n = 1; n < table.span.columns; n++) table.cells.push({ text: '' });
    if (table.span.rows > 1) table.below.set(at, { text: said, rows: table.span.rows - 1 });
    table.span = { rows: 0, columns: 0 };
    text = '';
  };
  const endRow = () => {
    // A row that is ended where it closes is not ended once more where the next begins.
    if (!table || (!table.cells.length && !table.span.columns)) return;
    endCell();
    fillBelow(table);
    if (table.cells.some((c) => c.text) && table.rows.length < most)
      table.rows.push({
        where: line ? `line ${line}` : `${table.where}, row ${table.rows.length + 1}`,
        cells: table.cells,
      });
    table.cells = [];
  };
  const parser = new Parser(
    {
      onopentag(name, attributes) {
        depth++;
        if (SKIPPED.has(name)) skipped++;
        if (skipped || depth > DEEPEST) return;
        if (attributes['data-line']) line = attributes['data-line'];
        if (name === 'table') {
          if (table) inner++;
          else {
            flush();
            table = {
              rows: [],
              cells: [],
              below: new Map(),
              span: { rows: 0, columns: 0 },
              where: `table ${++tables}`,
            };
          }
        } else if (table) {
          if (inner) text += name === 'tr' ? '\n' : ' ';
          else if (name === 'tr') endRow();
          else if (name === 'td' || name === 'th') {
            endCell();
            const span = (of: string) => Math.min(MOST_SPAN, Math.max(1, Number(attributes[of]) || 1));
            text = '';
            table.span = { rows: span('rowspan'), columns: span('colspan') };
          } else if (name === 'br' || BLOCKS.has(name)) text += '\n';
        } else if (name === 'br') text += '\n';
        else if (BLOCKS.has(name)) {
          flush();
          isApart ||= name !== 'li';
          if (/^h[1-6]$/.test(name)) level = Number(name[1]);
          if (name === 'ul' || name === 'ol') lists++;
          if (name === 'li' || name === 'dd') isItem = true;
        }
      },
      ontext(said) {
        if (!skipped && text.length < 200_000) text += said.replace(/[\n\r\t]/g, ' ');
      },
      onclosetag(name) {
        depth--;
        if (SKIPPED.has(name)) skipped--;
        if (skipped) return;
        if (table) {
          if (name === 'table' && inner) inner--;
          else if (name === 'table') {
            endRow();
            if (table.rows.length) page.blocks.push({ kind: 'table', where: table.where, rows: table.rows });
            table = null;
            text = '';
            isApart = true;
          } else if (!inner && (name === 'td' || name === 'th')) endCell();
          else if (!inner && name === 'tr') endRow();
          else if (BLOCKS.has(name)) text += '\n';
        } else if (BLOCKS.has(name)) {
          flush();
          if (/^h[1-6]$/.test(name)) level = 0;
          if (name === 'ul' || name === 'ol') lists = Math.max(0, lists - 1);
          if (name === 'li' || name === 'dd') isItem = false;
          isApart ||= name !== 'li';
        }
      },
    },
    { decodeEntities: true },
  );
  // What is nested without end takes the parser ever longer: it is read piece by piece, and no further than that.
  for (let at = 0; at < html.length && depth < DEEPEST * 4; at += PIECE)
    parser.write(html.slice(at, at + PIECE));
  if (depth >= DEEPEST * 4) page.notes.push('It is nested without end: only the beginning was read.');
  parser.end();
  flush();
  return page;
}

/** Puts in what goes on from the rows above. */
function fillBelow(table: Table): void {
  for (let above = table.below.get(table.cells.length); above; above = table.below.get(table.cells.length)) {
    const at = table.cells.length;
    table.cells.push({ text: above.text, isBelow: true });
    if (--above.rows <= 0) table.below.delete(at);
  }
}
