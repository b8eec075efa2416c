import MarkdownIt from 'markdown-it';
import Papa from 'papaparse';
import { decode } from '@zephyrfield/core/ical/decode';
import type { Page, PageCell, PageRow } from '@zephyrfield/core/outline/page';
import { DAY } from '@zephyrfield/core/time/civil';
import { clockOf } from '@zephyrfield/core/time/minute';
import { pageOfHtml } from './read-html.ts';
import { pageOfText } from './read-text.ts';
import { OutlineTrouble } from './trouble.ts';
import { requireBounded } from './unpacked.ts';

/** What of a file is read; an outline of a course has a tenth of it. */
const MOST_PAGES = 200;
const MOST_LINES = 10_000;
const MOST_LETTERS = 4_000_000;
const MOST_ROWS = 4_000;
const MOST_CELLS = 40_000;
const MOST_COLUMNS = 60;
const MOST_INSIDE = 5;
const MOST_READ = 1_000_000;
const LONGEST_LINE = 3_000;
const LONGEST_CELL = 1_500;

export interface OutlineFile {
  bytes: Uint8Array;
  name: string;
}

/** What an outline can be given as. */
export type OutlineForm = 'text' | 'markdown' | 'html' | 'csv' | 'spreadsheet' | 'document' | 'pdf' | 'mail';

/** The form of a file: by how it begins, and where that says nothing by its name. */
export function formOf({ bytes, name }: OutlineFile): OutlineForm {
  const begins = Buffer.from(bytes.subarray(0, 4)).toString('latin1');
  const ending = /\.([a-z]{2,5})$/i.exec(name)?.[1]?.toLowerCase() ?? '';
  if (begins.startsWith('%PDF')) return 'pdf';
  if (begins.startsWith('PK')) {
    // Which of the two is said by what is in it.
    const head = Buffer.from(bytes).toString('latin1');
    if (head.includes('word/document')) return 'document';
    if (head.includes('xl/workbook')) return 'spreadsheet';
    throw new OutlineTrouble(
      'It is an archive of another kind.',
      'Documents (.docx) and spreadsheets (.xlsx) can be read.',
    );
  }
  if (begins === '\u00d0\u00cf\u0011\u00e0')
    throw new OutlineTrouble(
      'It is of a kind from before 2007.',
      'Save it as .docx, .xlsx or PDF, and give that.',
    );
  if (
    bytes.subarray(0, 4_000).filter((b) => b === 0).length > 200 &&
    !/^(?:\u00ff\u00fe|\u00fe\u00ff)/.test(begins) &&
    !(bytes[1] === 0 || bytes[0] === 0)
  )
    throw new OutlineTrouble(
      'It is of a kind that cannot be read.',
      'Text, tables, documents, spreadsheets, PDF and mails can.',
    );
  if (/^(?:md|markdown)$/.test(ending)) return 'markdown';
  if (/^html?$/.test(ending)) return 'html';
  if (/^(?:csv|tsv|tab)$/.test(ending)) return 'csv';
  if (ending === 'eml') return 'mail';
  const text = decode(bytes.subarray(0, 4_000)).text;
  if (/^\s*(?:<!doctype html|<html|<table|<div|<p\b|<h[1-6]\b|<ul\b|<meta)/i.test(text)) return 'html';
  if (/^(?:[A-Z][\w-]+: .*\r?\n)+/.test(text) && /^(?:from|subject|date|mime-version): /im.test(text))
    return 'mail';
  if (text.split('\n').filter((l) => l.includes('\t')).length >= 3 && !/^\s/.test(text)) return 'csv';
  const lines = text.split('\n').map((line) => line.trim());
  if (lines.some((line) => /^\|[\s:|-]+\|$/.test(line)) && lines.some((line) => /^\|.+\|$/.test(line)))
    return 'markdown';
  return 'text';
}

/**
 * Reads a file as a page of lines and tables. Runs in a worker, in bounded time and memory.
 * @throws OutlineTrouble
 */
export async function pageOf(file: OutlineFile): Promise<Page> {
  return bounded(await anyPage(file, 0));
}

async function anyPage(file: OutlineFile, inside: number): Promise<Page> {
  const { bytes } = file;
  if (!bytes.length) throw new OutlineTrouble('It is empty.', 'Choose another file.');
  switch (formOf(file)) {
    case 'pdf':
      return (await import('./read-pdf.ts')).pageOfPdf(bytes, MOST_PAGES);
    case 'document':
      await requireBounded(bytes);
      return ofDocument(bytes);
    case 'spreadsheet':
      await requireBounded(bytes);
      return ofSpreadsheet(bytes);
    case 'mail':
      return ofMail(bytes, inside);
    case 'csv':
      return ofCsv(textOf(bytes));
    case 'html':
      return pageOfHtml(textOf(bytes), MOST_LINES);
    case 'markdown':
      return pageOfHtml(markdown().render(textOf(bytes)), MOST_LINES);
    case 'text':
      return pageOfText(textOf(bytes), MOST_LINES);
  }
}

/** A page in which no line is so long, and none has so many, that reading it takes long. */
function bounded({ blocks, notes }: Page): Page {
  let letters = 0;
  let isCut = false;
  const kept = blocks.flatMap((block): Page['blocks'] => {
    if (letters > MOST_READ) {
      isCut = true;
      return [];
    }
    if (block.kind === 'line') {
      letters += block.text.length;
      const parts = Math.ceil(block.text.length / LONGEST_LINE);
      return Array.from({ length: parts }, (_, n) => ({
        ...block,
        text: block.text.slice(n * LONGEST_LINE, (n + 1) * LONGEST_LINE),
      }));
    }
    const rows = block.rows.map(({ where, cells }) => ({
      where,
      cells: cells.slice(0, MOST_COLUMNS).map((cell) => {
        letters += cell.text.length;
        return cell.text.length > LONGEST_CELL ? { ...cell, text: cell.text.slice(0, LONGEST_CELL) } : cell;
      }),
    }));
    return [{ ...block, rows: rows.slice(0, MOST_ROWS) }];
  });
  return { blocks: kept, notes: isCut ? [...notes, 'It is very long: only the beginning was read.'] : notes };
}

const textOf = (bytes: Uint8Array) => decode(bytes).text.slice(0, MOST_LETTERS);

/** Markdown as markup that says in which line each passage stands; markup in it is text. */
function markdown() {
  const md = new MarkdownIt({ html: false, linkify: false, breaks: true });
  md.core.ruler.push('lines', ({ tokens }) => {
    for (const token of tokens)
      if (token.map && token.nesting >= 0) token.attrSet('data-line', String(token.map[0] + 1));
  });
  return md;
}

function ofCsv(text: string): Page {
  const { data } = Papa.parse<string[]>(text.trimEnd(), {
    preview: MOST_ROWS,
    delimitersToGuess: [',', ';', '\t', '|'],
  });
  const rows = data.map((cells, n): PageRow => ({
    where: `row ${n + 1}`,
    cells: cells.slice(0, MOST_COLUMNS).map((cell) => ({ text: cell.trim().replace(/\r\n?/g, '\n') })),
  }));
  return { blocks: [{ kind: 'table', where: 'row 1', rows: rows.filter(hasText) }], notes: [] };
}

const hasText = ({ cells }: PageRow) => cells.some((c) => c.text || c.day !== undefined);

async function ofDocument(bytes: Uint8Array): Promise<Page> {
  const { default: mammoth } = await import('mammoth');
  const { value } = await mammoth
    .convertToHtml(
      { buffer: Buffer.from(bytes) },
      // Pictures stay where they are.
      {
        convertImage: mammoth.images.imgElement(() => Promise.resolve({ src: '' })),
        externalFileAccess: false,
      },
    )
    .catch(() => {
      throw new OutlineTrouble(
        'It could not be read as a document.',
        'Save it as PDF, or copy its text and paste it.',
      );
    });
  return pageOfHtml(value.slice(0, MOST_LETTERS * 2), MOST_LINES);
}

async function ofSpreadsheet(bytes: Uint8Array): Promise<Page> {
  const { default: readSheets } = await import('read-excel-file/node');
  const sheets = await readSheets(Buffer.from(bytes)).catch(() => {
    throw new OutlineTrouble('It could not be read as a spreadsheet.', 'Save it as CSV, and give that.');
  });
  const page: Page = { blocks: [], notes: [] };
  let left = MOST_CELLS;
  for (const { sheet, data } of sheets) {
    const rows: PageRow[] = [];
    for (const [n, cells] of data.entries()) {
      left -= cells.length;
      if (left < 0) break;
      const row = { where: `${sheet}, row ${n + 1}`, cells: cells.slice(0, MOST_COLUMNS).map(cellOf) };
      if (hasText(row)) rows.push(row);
    }
    if (rows.length) page.blocks.push({ kind: 'table', where: sheet, rows });
  }
  if (left < 0) page.notes.push('It has more cells than any outline: only the first were read.');
  return page;
}

function cellOf(value: unknown): PageCell {
  if (value instanceof Date) {
    const ms = value.getTime();
    const day = Math.floor(ms / DAY);
    const minute = Math.round((ms - day * DAY) / 60_000);
    // A time alone is a part of the first day that a spreadsheet knows.
    if (day < 1) return { text: clockOf(minute), minute };
    return {
      text: value.toISOString().slice(0, 10) + (minute ? ` ${clockOf(minute)}` : ''),
      day,
      ...(minute && { minute }),
    };
  }
  return { text: value === null || value === undefined ? '' : String(value as string).trim() };
}

/** A mail: what it says, and what is along with it that can be read. */
async function ofMail(bytes: Uint8Array, inside: number): Promise<Page> {
  const { simpleParser } = await import('mailparser');
  const mail = await simpleParser(Buffer.from(bytes), {
    skipImageLinks: true,
    skipTextToHtml: true,
    maxHtmlLengthToParse: 1_000_000,
  });
  const body = mail.html ? pageOfHtml(mail.html, MOST_LINES) : pageOfText(mail.text ?? '', MOST_LINES);
  if (inside > 0) return body;
  for (const { filename, content } of mail.attachments.filter((a) => !a.related).slice(0, MOST_INSIDE)) {
    const name = filename ?? '';
    try {
      const page = await anyPage({ bytes: new Uint8Array(content), name }, inside + 1);
      body.blocks.push(...page.blocks);
      body.notes.push(...page.notes);
    } catch (error) {
      if (!(error instanceof OutlineTrouble)) throw error;
      body.notes.push(`${name || 'A file'}: ${error.message}`);
    }
  }
  return body;
}
