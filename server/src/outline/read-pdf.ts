import type { Page, PageCell, PageRow } from '@zephyrfield/core/outline/page';
import type * as PdfModule from 'pdfjs-dist/legacy/build/pdf.mjs';
import { withTables, type Spread } from './columns.ts';
import { OutlineTrouble } from './trouble.ts';

interface Piece {
  x: number;
  right: number;
  y: number;
  size: number;
  text: string;
}
interface Line {
  y: number;
  size: number;
  pieces: Piece[];
}
interface Rule {
  at: number;
  from: number;
  to: number;
}
interface Rules {
  across: Rule[];
  down: Rule[];
}

const MOST_RULES = 5_000;
const MOST_PIECES = 20_000;

/**
 * A document of pages (PDF) as a page: lines from where letters stand, tables from the rules around them or from
 * pieces that stand below each other. Nothing in it is run.
 * @throws OutlineTrouble where it is scanned, locked or no such document
 */
export async function pageOfPdf(bytes: Uint8Array, mostPages: number): Promise<Page> {
  const pdf = await import('pdfjs-dist/legacy/build/pdf.mjs');
  const loading = pdf.getDocument({
    data: new Uint8Array(bytes),
    isEvalSupported: false,
    disableFontFace: true,
    useSystemFonts: false,
    useWorkerFetch: false,
    // Pictures say no date: none is unpacked.
    maxImageSize: 1,
    verbosity: 0,
  });
  const document = await loading.promise.catch((error: unknown) => {
    throw new OutlineTrouble(
      (error as Error).name === 'PasswordException'
        ? 'It is locked by a password.'
        : 'It could not be read as a PDF.',
      'Save it without a password, or copy its text and paste it.',
    );
  });
  const page: Page = { blocks: [], notes: [] };
  let letters = 0;
  const pages = Math.min(document.numPages, mostPages);
  for (let n = 1; n <= pages; n++) {
    const one = await document.getPage(n);
    const { items } = await one.getTextContent();
    const pieces = items.slice(0, MOST_PIECES).flatMap((item): Piece[] => {
      if (!('str' in item) || !item.str.trim()) return [];
      const [, , , d, x, y] = item.transform as number[];
      letters += item.str.length;
      return [
        { x: x!, right: x! + item.width, y: y!, size: item.height || Math.abs(d!) || 10, text: item.str },
      ];
    });
    const rules = await rulesOf(pdf, one);
    const [, , width = 600] = one.view as number[];
    const blocks = blocksOf(pieces, rules, n, width);
    goOn(page.blocks.at(-1), blocks[0]);
    page.blocks.push(...blocks);
    one.cleanup();
  }
  if (document.numPages > pages) page.notes.push(`Only the first ${pages} pages were read.`);
  await loading.destroy();
  if (letters < pages * 5)
    throw new OutlineTrouble(
      'It is a picture of pages and has no text in it.',
      'Ask for the file it was printed from, or let a program recognise its text first.',
    );
  return page;
}

/** Gives what a column or a page ends with goes on in the next one. */
function goOn(last: Page['blocks'][number] | undefined, next: Page['blocks'][number] | undefined): void {
  if (last?.kind === 'line' && next?.kind === 'line' && last.isFull) next.isApart = false;
}

type Pdf = typeof PdfModule;

/** Straight strokes of a page, and the edges of its boxes. */
async function rulesOf(
  pdf: Pdf,
  page: Awaited<ReturnType<Awaited<ReturnType<Pdf['getDocument']>['promise']>['getPage']>>,
): Promise<Rules> {
  const { fnArray, argsArray } = await page.getOperatorList();
  const rules: Rules = { across: [], down: [] };
  const { OPS, Util } = pdf;
  let matrix = [1, 0, 0, 1, 0, 0];
  const kept: number[][] = [];
  const stroke = (x1: number, y1: number, x2: number, y2: number) => {
    if (rules.across.length + rules.down.length >= MOST_RULES) return;
    const [ax, ay] = Util.applyTransform([x1, y1], matrix) as [number, number];
    const [bx, by] = Util.applyTransform([x2, y2], matrix) as [number, number];
    if (Math.abs(ay - by) < 1.5 && Math.abs(ax - bx) > 8)
      rules.across.push({ at: (ay + by) / 2, from: Math.min(ax, bx), to: Math.max(ax, bx) });
    else if (Math.abs(ax - bx) < 1.5 && Math.abs(ay - by) > 5)
      rules.down.push({ at: (ax + bx) / 2, from: Math.min(ay, by), to: Math.max(ay, by) });
  };
  // What a path is for is said after it: to be stroked, filled, or only to cut off what lies beyond.
  let boxes: number[][] = [];
  let strokes: number[][] = [];
  const thin = ([x, y, w, h]: number[]) => {
    if (Math.abs(w!) < 3) stroke(x! + w! / 2, y!, x! + w! / 2, y! + h!);
    else if (Math.abs(h!) < 3) stroke(x!, y! + h! / 2, x! + w!, y! + h! / 2);
  };
  const painted = (isStroked: boolean) => {
    for (const [x, y, w, h] of boxes as [number, number, number, number][]) {
      if (!isStroked || Math.abs(w) < 3 || Math.abs(h) < 3) {
        thin([x, y, w, h]);
        continue;
      }
      stroke(x, y, x + w, y);
      stroke(x, y + h, x + w, y + h);
      stroke(x, y, x, y + h);
      stroke(x + w, y, x + w, y + h);
    }
    if (isStroked)
      for (const [a, b, c, d] of strokes as [number, number, number, number][]) stroke(a, b, c, d);
    boxes = [];
    strokes = [];
  };
  const fills = new Set([OPS.fill, OPS.eoFill]);
  const lines = new Set([
    ...[
      OPS.stroke,
      OPS.closeStroke,
      OPS.fillStroke,
      OPS.eoFillStroke,
      OPS.closeFillStroke,
      OPS.closeEOFillStroke,
    ],
  ]);
  fnArray.forEach((fn, n) => {
    const args = argsArray[n] as unknown[];
    if (fn === OPS.save) kept.push(matrix);
    else if (fn === OPS.restore) matrix = kept.pop() ?? matrix;
    else if (fn === OPS.transform) matrix = Util.transform(matrix, args as number[]) as number[];
    else if (fn === OPS.endPath) {
      boxes = [];
      strokes = [];
    } else if (fills.has(fn) || lines.has(fn)) painted(lines.has(fn));
    else if (fn === OPS.constructPath) {
      const path = pathOf(pdf, args as [number[], number[]]);
      if (boxes.length + strokes.length < MOST_RULES) {
        boxes.push(...path.boxes);
        strokes.push(...path.strokes);
      }
    }
  });
  return rules;
}

/** A path’s boxes (x, y, width, height) and straight strokes (from, to). */
function pathOf({ OPS }: Pdf, [ops, coordinates]: [number[], number[]]) {
  const boxes: number[][] = [];
  const strokes: number[][] = [];
  let at = 0;
  let [x, y] = [0, 0];
  for (const op of ops.slice(0, MOST_RULES)) {
    if (op === OPS.rectangle) {
      boxes.push(coordinates.slice(at, at + 4));
      at += 4;
    } else if (op === OPS.moveTo || op === OPS.lineTo) {
      const [nx = 0, ny = 0] = coordinates.slice(at, at + 2);
      if (op === OPS.lineTo) strokes.push([x, y, nx, ny]);
      [x, y] = [nx, ny];
      at += 2;
    } else at += op === OPS.curveTo ? 6 : op === OPS.curveTo2 || op === OPS.curveTo3 ? 4 : 0;
  }
  return { boxes, strokes };
}

/** Places that lie beside each other as one. */
function places(all: readonly number[], near: number): number[] {
  const sorted = [...all].sort((a, b) => a - b);
  return sorted.filter((at, n) => n === 0 || at - sorted[n - 1]! > near);
}

function blocksOf(pieces: readonly Piece[], rules: Rules, page: number, width: number): Page['blocks'] {
  const grid = gridOf(rules);
  const isIn = (p: Piece) =>
    grid !== null && p.y > grid.bottom - 2 && p.y < grid.top && p.x > grid.left - 2 && p.x < grid.right;
  if (!grid || pieces.filter(isIn).length < 6) return freeBlocks(pieces, page, width);
  const above = pieces.filter((p) => !isIn(p) && p.y >= (grid.top + grid.bottom) / 2);
  const below = pieces.filter((p) => !isIn(p) && p.y < (grid.top + grid.bottom) / 2);
  const rows = ruledRows(pieces.filter(isIn), grid, page);
  return [
    ...freeBlocks(above, page, width),
    { kind: 'table', where: `page ${page}`, rows },
    ...freeBlocks(below, page, width),
  ];
}

interface Grid {
  xs: number[];
  ys: number[];
  rules: Rules;
  top: number;
  bottom: number;
  left: number;
  right: number;
}

/** Rules that cross each other as a table has them; null for none. */
function gridOf(rules: Rules): Grid | null {
  const { across, down } = rules;
  const xs = places(
    down.map((r) => r.at),
    3,
  );
  const ys = places(
    across.map((r) => r.at),
    3,
  );
  if (xs.length < 3 || ys.length < 3) return null;
  return { xs, ys, rules, top: ys.at(-1)!, bottom: ys[0]!, left: xs[0]!, right: xs.at(-1)! };
}

function ruledRows(pieces: readonly Piece[], { xs, ys, rules }: Grid, page: number): PageRow[] {
  const rows: PageRow[] = [];
  for (let n = ys.length - 1; n > 0; n--) {
    const [top, bottom] = [ys[n]!, ys[n - 1]!];
    const inRow = pieces.filter((p) => p.y >= bottom - 1 && p.y + p.size * 0.3 < top);
    const cells: PageCell[] = [];
    const middle = (top + bottom) / 2;
    for (let c = 0; c + 1 < xs.length; c++) {
      let end = c + 1;
      // Where no rule stands between two cells they are one.
      while (
        end + 1 < xs.length &&
        !rules.down.some((r) => Math.abs(r.at - xs[end]!) < 3 && r.from <= middle && r.to >= middle)
      )
        end++;
      const inside = inRow.filter((p) => p.x >= xs[c]! - 2 && p.x < xs[end]! - 2);
      cells.push({ text: cellText(inside, xs[end]!) });
      for (let k = c + 1; k < end; k++) cells.push({ text: '' });
      c = end - 1;
    }
    if (cells.some((cell) => cell.text)) rows.push({ where: `page ${page}, row ${rows.length + 1}`, cells });
  }
  return rows;
}

/** The lines of a cell; one that was full goes on in the next. */
function cellText(pieces: readonly Piece[], right: number): string {
  let text = '';
  let edge = 0;
  for (const line of linesOf(pieces)) {
    const said = joined(line.pieces);
    const width = (line.pieces[0]!.right - line.pieces[0]!.x) / Math.max(1, line.pieces[0]!.text.length);
    const first = said.split(' ')[0]!.length * width;
    const isFull = edge + first + width > right - 6;
    text += text ? (isFull || /^\p{Ll}/u.test(said) ? ` ${said}` : `\n${said}`) : said;
    edge = line.pieces.at(-1)!.right;
  }
  return text;
}

function linesOf(pieces: readonly Piece[]): Line[] {
  const lines: Line[] = [];
  for (const piece of [...pieces].sort((a, b) => b.y - a.y || a.x - b.x)) {
    const last = lines.at(-1);
    if (last && Math.abs(last.y - piece.y) < Math.max(2, piece.size * 0.4)) last.pieces.push(piece);
    else lines.push({ y: piece.y, size: piece.size, pieces: [piece] });
  }
  for (const line of lines) line.pieces.sort((a, b) => a.x - b.x);
  return lines;
}

/** Pieces as words: room between them is a space. */
function joined(pieces: readonly Piece[]): string {
  let text = '';
  let right = 0;
  for (const piece of pieces) {
    const gap =
      text && piece.x - right > piece.size * 0.15 && !text.endsWith(' ') && !piece.text.startsWith(' ');
    text += `${gap ? ' ' : ''}${piece.text}`;
    right = piece.right;
  }
  return text.replace(/\s+/g, ' ').trim();
}

/** Pieces without rules around them: columns of prose one after the other, else lines with what stands in columns. */
function freeBlocks(pieces: readonly Piece[], page: number, width: number): Page['blocks'] {
  if (!pieces.length) return [];
  const gutter = gutterOf(pieces);
  const margin = Math.min(...pieces.map((p) => p.x));
  const parts =
    gutter === null ? [pieces] : [pieces.filter((p) => p.x < gutter), pieces.filter((p) => p.x >= gutter)];
  const blocks: Page['blocks'] = [];
  parts.forEach((part, n) => {
    // Pages have as much room at their right as at their left.
    const right = gutter !== null && n === 0 ? gutter : width - margin;
    const more = withTables(spreadOf(linesOf(part), page, right), 4);
    goOn(blocks.at(-1), more[0]);
    blocks.push(...more);
  });
  return blocks;
}

/** The room between two columns of prose; null where a page has one, or a table. */
function gutterOf(pieces: readonly Piece[]): number | null {
  const left = Math.min(...pieces.map((p) => p.x));
  const right = Math.max(...pieces.map((p) => p.right));
  const lines = linesOf(pieces);
  if (lines.length < 8) return null;
  for (let share = 0.4; share <= 0.6; share += 0.02) {
    const x = left + (right - left) * share;
    const crossing = lines.filter(({ pieces: all }) => all.some((p) => p.x < x - 2 && p.right > x + 2));
    const before = lines.flatMap(({ pieces: all }) =>
      all.some((p) => p.right <= x) ? [Math.max(...all.filter((p) => p.right <= x).map((p) => p.right))] : [],
    );
    const behind = lines.filter(({ pieces: all }) => all.some((p) => p.x >= x));
    if (crossing.length * 8 > lines.length || before.length < 6 || behind.length < 6) continue;
    // Prose fills its column; the cells of a table do not.
    const full = before.filter((edge) => edge - left > (x - left) * 0.72).length;
    if (full * 2 > before.length) return x;
  }
  return null;
}

/** Tells whether the next line's first word had no room in a line. */
function isFull(line: Line, next: Line, right: number): boolean {
  const last = line.pieces.at(-1)!;
  const first = next.pieces[0]!;
  const width = (first.right - first.x) / Math.max(1, first.text.length);
  const word = (first.text.trim().split(' ')[0]!.length + 1) * width;
  return last.right + word > right - line.size * 0.5;
}

const BULLET = /^(?:[-*•·–—◦▪]|\d{1,2}[.)])\s+/;

function spreadOf(lines: readonly Line[], page: number, right: number): Spread[] {
  const sizes = lines.map((l) => l.size).sort((a, b) => a - b);
  const usual = sizes[Math.floor(sizes.length / 2)] ?? 10;
  const left = Math.min(...lines.flatMap((l) => l.pieces.map((p) => p.x)));
  const gaps = lines
    .slice(1)
    .map((l, n) => lines[n]!.y - l.y)
    .sort((a, b) => a - b);
  const leading = gaps[Math.floor(gaps.length / 3)] ?? usual * 1.2;
  return lines.map((line, n): Spread => {
    const text = joined(line.pieces);
    const bullet = BULLET.exec(text)?.[0] ?? '';
    const pieces: { x: number; text: string }[] = [];
    let open: Piece[] = [];
    for (const piece of line.pieces) {
      const last = open.at(-1);
      if (last && piece.x - last.right > Math.max(8, piece.size * 1.1)) {
        pieces.push({ x: open[0]!.x, text: joined(open) });
        open = [];
      }
      open.push(piece);
    }
    pieces.push({ x: open[0]!.x, text: joined(open) });
    const next = lines[n + 1];
    return {
      ...{ where: `page ${page}, line ${n + 1}`, text: text.slice(bullet.length), isItem: bullet !== '' },
      level: line.size > usual * 1.15 && text.length < 80 ? 2 : 0,
      indent: Math.round((line.pieces[0]!.x - left) / 5),
      isApart: n === 0 || lines[n - 1]!.y - line.y > leading * 1.4,
      ...(n > 0 && { gap: lines[n - 1]!.y - line.y }),
      isFull: isFull(line, next ?? lines[0]!, right),
      pieces: bullet ? [{ x: line.pieces[0]!.x, text }] : pieces,
    };
  });
}
