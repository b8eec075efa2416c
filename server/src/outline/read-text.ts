import type { Page } from '@zephyrfield/core/outline/page';
import { withTables, type Spread } from './columns.ts';

const BULLET = /^(?:[-*•·–—◦▪]|\d{1,2}[.)]|[a-z][.)]|\[[ x]?\])\s+/;
const ROOM = /\t+| {2,}/g;
const LONGEST = 4_000;

/** A text as a page: its lines, with what stands in columns as tables. */
export function pageOfText(text: string, most: number): Page {
  const lines: Spread[] = [];
  let isApart = true;
  let cut = false;
  let long = false;
  text.split(/\r\n|[\n\r\f]/).forEach((raw, n) => {
    if (raw.length > LONGEST) long = true;
    const whole = raw.replaceAll('\t', '    ').slice(0, LONGEST);
    if (!whole.trim()) {
      isApart = true;
      return;
    }
    if (lines.length >= most) {
      cut = true;
      return;
    }
    const indent = whole.length - whole.trimStart().length;
    const inner = whole.trim();
    const bullet = BULLET.exec(inner)?.[0] ?? '';
    const body = inner.slice(bullet.length);
    lines.push({
      ...{ where: `line ${n + 1}`, text: body, indent, isApart, isItem: bullet !== '' },
      level: isTitle(inner) ? 2 : 0,
      pieces: bullet ? [{ x: indent, text: body }] : piecesOf(raw.slice(0, LONGEST)),
    });
    isApart = false;
  });
  const notes = [
    ...(cut ? [`Only the first ${most} lines were read.`] : []),
    ...(long ? [`Of a line, only the first ${LONGEST} letters were read.`] : []),
  ];
  return { blocks: withTables(lines, 1), notes };
}

/** A line in capitals is a heading. */
const isTitle = (text: string) =>
  text.length < 60 && /\p{Lu}{3}/u.test(text) && !/\p{Ll}|\d[/.:-]\d/u.test(text);

function piecesOf(raw: string): Spread['pieces'] {
  const pieces: Spread['pieces'] = [];
  let at = 0;
  const add = (from: number, to: number) => {
    const text = raw.slice(from, to);
    if (text.trim()) pieces.push({ x: from + text.length - text.trimStart().length, text: text.trim() });
  };
  for (const m of raw.matchAll(ROOM)) {
    add(at, m.index);
    at = m.index + m[0].length;
  }
  add(at, raw.length);
  return pieces;
}
