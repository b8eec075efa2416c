import type { Page, PageLine, Place } from './page.ts';

/** Lines that belong together: a sentence that was broken, or one line of a list. */
export interface Unit {
  text: string;
  where: string;
  level: number;
  indent: number;
  isItem: boolean;
  isApart: boolean;
  /** Its last line had no room for a word more */
  isFull: boolean;
  /** Place where each line of it begins in the text, and in its block */
  pieces: { at: number; block: number; from: number; length: number }[];
}

/** From so many letters on a line may have been broken because it was full. */
const FULL = 62;
const ENDS = /[.!?:;]["”’)]?$/;
const DATE_HEAD =
  /^(?:(?:by|on|until|from)\s)?(?:\p{L}{3,9}\.?,?\s)?(?:\p{L}{3,9}\.?\s\d{1,2}|\d{1,2}(?:st|nd|rd|th)?\s\p{L}{3,9}|\d{1,2}[./]\d{1,2}\.?)(?:\s?[:–-]\s|:)/u;
const DATED = /\d[\d./:-]*\d|\b\d{1,2}(?:st|nd|rd|th)?\s[A-Z][a-z]{2}/;

/** Lines as units; what is broken over several lines is one. Blocks that are tables are left out. */
export function unitsOf({ blocks }: Page): Map<number, Unit> {
  const units = new Map<number, Unit>();
  let open: Unit | null = null;
  blocks.forEach((block, n) => {
    if (block.kind === 'table') {
      open = null;
      return;
    }
    const text = block.text.trim();
    if (!text) return;
    const from = block.text.indexOf(text);
    if (open && goesOn(open, block, text)) {
      open.pieces.push({ at: open.text.length + 1, block: n, from, length: text.length });
      open.text += ` ${text}`;
      open.isFull = block.isFull ?? false;
      return;
    }
    const { level, indent, isItem, isApart, where } = block;
    open = {
      text,
      where,
      level,
      indent,
      isItem,
      isApart,
      isFull: block.isFull ?? false,
      pieces: [{ at: 0, block: n, from, length: text.length }],
    };
    units.set(n, open);
  });
  return units;
}

/** Words that a line does not end with unless it goes on. */
const LEADS_ON =
  /\s(?:on|by|until|the|from|to|of|and|at|mon|tues?|wednes|thurs|fri|satur|sun|\p{Lu}\p{L}{2,6}day|january|february|march|april|may|june|july|august|september|october|november|december)$/iu;

const MONTH_FIRST = /^(?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)[a-z]*\b/i;

/** Tells whether a line goes on with what the one before it began. */
function goesOn(open: Unit, next: PageLine, text: string): boolean {
  if (next.isItem || next.isApart || next.level || open.level || open.text.length > 2_000) return false;
  const last = open.text.slice(open.pieces.at(-1)!.at);
  if (open.isFull || (LEADS_ON.test(last) && last.length >= 45)) return true;
  if (/\s\d{1,2}$/.test(last) && last.length >= 45 && MONTH_FIRST.test(text)) return true;
  if (/^(?:[-*•·–]\s|\d|(?:week|wk)\s?\d)/i.test(text)) return false;
  // `by December 4: essay` begins something else, also in small letters.
  if (DATED.test(open.text) && DATE_HEAD.test(text)) return false;
  if (/^[\p{Ll}(]/u.test(text)) {
    if (open.isItem) return next.indent > open.indent && !ENDS.test(last);
    return last.length >= 45;
  }
  // Two lines that have a date each are two of a list.
  if (DATED.test(open.text) && DATED.test(text)) return false;
  return !open.isItem && last.length >= FULL && !DATED.test(last.slice(-24));
}

const SENTENCE = /[.!?]["”’)]?\s+(?=["“(]?\p{Lu})/gu;
/** What a dot behind it shortens, and does not end. */
const SHORTENED = new RegExp(
  String.raw`\b(?:${[
    'no',
    'nr',
    'dr',
    'prof',
    'mr',
    'mrs',
    'ms',
    'st',
    'p',
    'pp',
    'vs',
    'approx',
    'ca',
    String.raw`e\.g`,
    String.raw`i\.e`,
    'jan',
    'feb',
    'mar',
    'apr',
    'jun',
    'jul',
    'aug',
    'sept?',
    'oct',
    'nov',
    'dec',
    'mon',
    'tues?',
    'wed',
    'thur?s?',
    'fri',
    'sat',
    'sun',
  ].join('|')})$`,
  'i',
);

const LABEL = /^\p{L}{3,14} \d{1,2}$/u;
/** `6 Nov. Always by six`: a month behind its day may end a sentence. */
const DAY_BEFORE = /\d(?:st|nd|rd|th)?\s(?:jan|feb|mar|apr|jun|jul|aug|sept?|oct|nov|dec)$/i;
const MONTH_NAME = /^(?:jan|jän|feb|mär|apr|mai|jun|jul|aug|sep|okt|oct|nov|dez|dec)[a-zä]{0,8}\b/i;

/**
 * The sentences of a text, each with where it begins.
 * @param least a shorter text is one of them
 */
export function sentencesOf(text: string, least = 60): { text: string; at: number }[] {
  if (text.length < least) return [{ text, at: 0 }];
  const found: { text: string; at: number }[] = [];
  let at = 0;
  for (const m of text.matchAll(SENTENCE)) {
    // Dots that lead over to a date end nothing.
    if (text[m.index - 1] === '.') continue;
    const before = text.slice(Math.max(0, m.index - 10), m.index);
    // `Experiment 2. Titration`: a number and its name.
    if (LABEL.test(text.slice(at, m.index).trimStart())) continue;
    if (m[0].startsWith('.') && SHORTENED.test(before) && !DAY_BEFORE.test(before)) continue;
    // `am 7. Oktober`: the day of a month ends nothing.
    if (/(?:^|\s)\d{1,2}$/.test(before) && MONTH_NAME.test(text.slice(m.index + m[0].length))) continue;
    found.push({ text: text.slice(at, m.index + 1), at });
    at = m.index + m[0].length;
  }
  found.push({ text: text.slice(at), at });
  return found;
}

/** Finds where a stretch of a unit stands on the page: as far as its first line goes. */
export function placeIn({ pieces }: Unit, from: number, to: number): Place {
  const piece = pieces.findLast((p) => p.at <= from) ?? pieces[0]!;
  const start = Math.min(from - piece.at, piece.length);
  const end = Math.min(Math.max(to - piece.at, start), piece.length);
  return { block: piece.block, row: 0, cell: 0, from: piece.from + start, to: piece.from + end };
}
