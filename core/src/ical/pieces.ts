import { addDigests, digestOf, NOISE_NAMES, SEED_A, SEED_B, TIMES_A, TIMES_B } from './digest.ts';
import { plainUid } from './identifiers.ts';

/**
 * A feed's entries as they are written, told apart by nothing but what the platform's own search finds: a fraction of
 * the work of cutting it line by line. Which of them stand as they stood is known before any is looked at closely.
 */
export interface Pieces {
  /** Of each of them; blind to DTSTAMP, CREATED and LAST-MODIFIED */
  digests: Float64Array;
  /** Digest of all of them together, the same in any order */
  total: number;
  /** The UID of each; null where it is not plain to see, or where the piece is more than one entry */
  uids(): readonly (string | null)[];
  /** The feed without those that are not kept */
  keep(isKept: (index: number) => boolean): Remainder;
  /** Tells whether a piece ends with its entry */
  isClosed(index: number): boolean;
}

/** Rest of a feed. */
export interface Remainder {
  text: string;
  /** Number of entries in it */
  count: number;
  /** The line of the whole feed that one of its lines is */
  lineOf(line: number): number;
}

const CALENDAR = 'BEGIN:VCALENDAR';
const TODO = 'BEGIN:VTODO';
const BEGINNING = /\nBEGIN:V(?:EVENT|TODO)/g;
const ENDS = ['\nEND:VEVENT', '\nEND:VTODO'];
const END = /\nEND:V(?:EVENT|TODO)/g;
const UID = /\nUID:/g;
const INNER = /\nBEGIN:/g;
const NOISE = new RegExp(`\\n(?:${NOISE_NAMES.join('|')})[:;]`, 'g');
const [LF, CR, TAB, SPACE] = [10, 13, 9, 32];

/**
 * Tells a feed's entries apart where it is written plainly: one calendar, whole, with line ends that are CRLF or LF.
 * @param bytes what the text was decoded from
 * @returns null where it is not, or has no entries: then it has to be cut
 */
export function piecesOf(text: string, bytes: Uint8Array): Pieces | null {
  const end = text.lastIndexOf('\nEND:VCALENDAR') + 1;
  if (!end || hasBareCr(text) || text.includes(CALENDAR, text.indexOf(CALENDAR) + 1)) return null;
  const next = nextOf(text, BEGINNING);
  const starts: number[] = [];
  for (let at = next(0); at < end; at = next(at + 1)) starts.push(at + 1);
  if (!starts.length) return null;
  starts.push(end);
  const digests = digestsOf(text, bytes, starts);
  let uids: (string | null)[] | undefined;
  return {
    digests,
    total: digests.reduce(addDigests, 0),
    uids() {
      if (uids) return uids;
      const uidOf = uidReader(text);
      return (uids = Array.from(digests, (_, i) => uidOf(starts[i]!, starts[i + 1]!)));
    },
    isClosed: (index) => endOf(text, starts[index]!, starts[index + 1]!) !== null,
    keep(isKept) {
      const spans: Span[] = [[0, starts[0]!]];
      let count = 0;
      for (let i = 0; i < digests.length; i++) {
        if (!isKept(i)) continue;
        count++;
        const [last, from, to] = [spans.at(-1)!, starts[i]!, starts[i + 1]!];
        if (last[1] === from) last[1] = to;
        else spans.push([from, to]);
      }
      spans.push([end, text.length]);
      return {
        text: spans.map(([from, to]) => text.slice(from, to)).join(''),
        count,
        lineOf: lineFinder(text, spans),
      };
    },
  };
}

type Span = [from: number, to: number];

/** Tells whether there is a CR that is not just before an LF: it ends a line in some feeds. */
function hasBareCr(text: string): boolean {
  for (let at = text.indexOf('\r'); at >= 0; at = text.indexOf('\r', at + 1))
    if (text.charCodeAt(at + 1) !== LF) return true;
  return false;
}

/**
 * Finds where the next match begins, asked of places that only go up: the text is gone through once for all of them.
 * @param pattern global, of one line that begins with the LF before it
 */
function nextOf(text: string, pattern: RegExp): (from: number) => number {
  const own = new RegExp(pattern);
  let found = -1;
  return (from) => {
    if (found < from) {
      own.lastIndex = from;
      found = own.test(text) ? text.lastIndexOf('\n', own.lastIndex - 1) : Infinity;
    }
    return found;
  };
}

/** The digest of each piece between two starts, without its noise. */
function digestsOf(text: string, bytes: Uint8Array, starts: readonly number[]): Float64Array {
  const digests = new Float64Array(starts.length - 1);
  const nextNoise = nextOf(text, NOISE);
  // Of plain ASCII the bytes are the text, and four of them are read at once.
  const isAscii = bytes.length === text.length;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
  const unit = (at: number) => text.charCodeAt(at);
  const four = (at: number) => unit(at) ^ (unit(at + 1) << 8) ^ (unit(at + 2) << 16) ^ (unit(at + 3) << 24);
  for (let i = 0; i < digests.length; i++) {
    const to = starts[i + 1]!;
    let a = SEED_A;
    let b = SEED_B;
    let at = starts[i]!;
    while (at < to) {
      const stop = Math.min(nextNoise(at), to);
      for (; at < stop - 3; at += 4) {
        const word = isAscii ? view.getInt32(at, true) : four(at);
        a = Math.imul(a ^ word, TIMES_A);
        b = Math.imul(b ^ (b >>> 15) ^ word, TIMES_B);
      }
      for (; at < stop; at++) {
        a = Math.imul(a ^ unit(at), TIMES_A);
        b = Math.imul(b ^ (b >>> 15) ^ unit(at), TIMES_B);
      }
      if (stop < to) at = afterProperty(text, stop);
    }
    digests[i] = digestOf(a, b);
  }
  return digests;
}

/** Finds where a property ends that begins after a line end, its folds included. */
function afterProperty(text: string, at: number): number {
  let end = text.indexOf('\n', at + 1);
  while (isFold(text.charCodeAt(end + 1))) end = text.indexOf('\n', end + 1);
  return end;
}

const isFold = (code: number) => code === SPACE || code === TAB;

/** Where a piece's entry says that it ends, if it is the last thing that the piece says. */
function endOf(text: string, from: number, to: number): number | null {
  let last = to;
  while (text.charCodeAt(last - 1) === LF || text.charCodeAt(last - 1) === CR) last--;
  const sign = text.startsWith(TODO, from) ? ENDS[1]! : ENDS[0]!;
  return text.startsWith(sign, last - sign.length) ? last - sign.length : null;
}

/**
 * Reads the UID that a piece states, where the piece is one entry and nothing else, and states it plainly before
 * anything that it holds. Asked of pieces in their order.
 */
function uidReader(text: string): (from: number, to: number) => string | null {
  const nextEnd = nextOf(text, END);
  const nextUid = nextOf(text, UID);
  const nextInner = nextOf(text, INNER);
  return (from, to) => {
    const end = endOf(text, from, to);
    if (end === null || nextEnd(from) !== end) return null;
    const uid = nextUid(from);
    if (uid >= end) return null;
    const inner = nextInner(from);
    if (inner < end && (inner < uid || !isBalanced(text, inner, end))) return null;
    const at = uid + '\nUID:'.length;
    const stop = text.indexOf('\n', at);
    return isFold(text.charCodeAt(stop + 1)) ? null : plainUid(text.slice(at, stop));
  };
}

/** Tells whether what begins within a part of the text also ends there. */
function isBalanced(text: string, from: number, to: number): boolean {
  let depth = 0;
  for (let at = from; at >= 0 && at < to; at = text.indexOf('\n', at + 1)) {
    if (text.startsWith('\nBEGIN:', at)) depth++;
    else if (text.startsWith('\nEND:', at) && --depth < 0) return false;
  }
  return depth === 0;
}

/** Finds the line of the whole text that a line of its kept parts is; the texts are gone through once, when first asked. */
function lineFinder(text: string, kept: readonly Span[]): (line: number) => number {
  /** The whole line that each kept line begins on */
  let lines: number[] | undefined;
  return (line) => {
    lines ??= linesOf(text, kept);
    return lines[Math.min(line, lines.length) - 1] ?? 1;
  };
}

function linesOf(text: string, kept: readonly Span[]): number[] {
  const lines: number[] = [];
  let number = 1;
  let at = 0;
  const next = () => {
    const end = text.indexOf('\n', at);
    at = end < 0 ? text.length : end + 1;
    number++;
  };
  for (const [from, to] of kept) {
    while (at < from) next();
    for (; at < to; next()) lines.push(number);
  }
  return lines;
}
