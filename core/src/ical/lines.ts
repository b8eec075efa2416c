import { trimEndOf } from '../lib/trim.ts';
import { digestOf, SEED_A, SEED_B, TIMES_A, TIMES_B } from './digest.ts';

const CR = 13;
const LF = 10;
const SPACE = 32;
const TAB = 9;

const FOLD = /\n[ \t]/;
const FOLDS = /\n[ \t]/g;

/**
 * A text as UTF-8, which is what is gone through: bytes are read four at a time, which costs a fraction of
 * reading a string's characters.
 */
export class Bytes {
  readonly bytes: Uint8Array;
  private readonly ascii: boolean;
  private static readonly decoder = new TextDecoder();

  constructor(private readonly text: string) {
    this.bytes = new TextEncoder().encode(text);
    this.ascii = this.bytes.length === text.length;
  }
  /** The text between two places among the bytes */
  slice(from: number, to: number): string {
    return this.ascii ? this.text.slice(from, to) : Bytes.decoder.decode(this.bytes.subarray(from, to));
  }
}

/** Goes through the content lines of a text without copying them. Places are among its bytes. */
export interface Scanner {
  /** Goes to the next content line; false after the last one */
  advance(): boolean;
  /** Place where the content line stands, folds included, its line end left out */
  start: number;
  end: number;
  /** Place where the next one begins */
  next: number;
  /** Number of the physical line it begins on, counted from 1 */
  line: number;
  folded: boolean;
  /** Place where its first physical line ends */
  firstEnd: number;
  /** Digest of its unfolded text */
  digest(): number;
  /** True where a CR that ends no line was met: then the text is to be given LF line ends first (`plainEnds`) */
  bareCr: boolean;
}

/** Tells whether a word has a byte that is zero: the classic test, by what a subtraction borrows */
const hasZero = (word: number) => (word - 0x01010101) & ~word & 0x80808080;

/**
 * A scanner over content lines (RFC 5545 3.1) that end in LF, CRLF or CR CR LF, their folds included. Line
 * ends are found and lines digested in one pass, four bytes at a time in two lanes.
 */
export function scanner(bytes: Uint8Array): Scanner {
  const length = bytes.length;
  const view = new DataView(bytes.buffer, bytes.byteOffset, length);
  let physical = 0;
  let a = 0;
  let b = 0;
  let scratch = new Uint8Array(1024);
  let scratchView = new DataView(scratch.buffer);
  const self: Scanner = {
    advance,
    start: 0,
    end: 0,
    next: 0,
    line: 0,
    folded: false,
    firstEnd: 0,
    bareCr: false,
    digest,
  };

  /** Goes over one physical line from `at`, digesting it into both lanes; gives where it ends. */
  function physicalEnd(at: number): number {
    a = SEED_A;
    b = SEED_B;
    for (const last = length - 3; at < last; at += 4) {
      const word = view.getInt32(at, true);
      if ((hasZero(word ^ 0x0a0a0a0a) | hasZero(word ^ 0x0d0d0d0d)) !== 0) break;
      a = Math.imul(a ^ word, TIMES_A);
      b = Math.imul(b ^ (b >>> 15) ^ word, TIMES_B);
    }
    for (; at < length; at++) {
      const byte = bytes[at]!;
      if (byte === LF) break;
      if (byte === CR) {
        let after = at + 1;
        while (after < length && bytes[after] === CR) after++;
        if (bytes[after] === LF) break;
        self.bareCr = true;
        // All of a run but its last one here, so that it is looked at once.
        for (; at < after - 1; at++) {
          a = Math.imul(a ^ CR, TIMES_A);
          b = Math.imul(b ^ (b >>> 15) ^ CR, TIMES_B);
        }
      }
      a = Math.imul(a ^ byte, TIMES_A);
      b = Math.imul(b ^ (b >>> 15) ^ byte, TIMES_B);
    }
    return at;
  }

  function advance(): boolean {
    let at = self.next;
    if (at >= length) {
      // What is still open ends where the text does.
      self.start = self.end = length;
      return false;
    }
    self.start = at;
    self.line = ++physical;
    self.folded = false;
    for (;;) {
      at = physicalEnd(at);
      self.end = at;
      if (!self.folded) self.firstEnd = at;
      while (at < length && bytes[at] === CR) at++;
      if (at < length) at++;
      const continued = at < length ? bytes[at] : 0;
      if (continued !== SPACE && continued !== TAB) break;
      self.folded = true;
      physical++;
      at++;
    }
    self.next = at;
    return true;
  }

  function digest(): number {
    if (!self.folded) return digestOf(a ^ (self.end - self.start), b);
    const size = unfoldInto(self.start, self.end);
    a = SEED_A;
    b = SEED_B;
    let at = 0;
    for (const last = size - 3; at < last; at += 4) {
      const word = scratchView.getInt32(at, true);
      a = Math.imul(a ^ word, TIMES_A);
      b = Math.imul(b ^ (b >>> 15) ^ word, TIMES_B);
    }
    for (; at < size; at++) {
      const byte = scratch[at]!;
      a = Math.imul(a ^ byte, TIMES_A);
      b = Math.imul(b ^ (b >>> 15) ^ byte, TIMES_B);
    }
    return digestOf(a ^ size, b);
  }

  /** Copies a folded line without its folds; gives its size. */
  function unfoldInto(start: number, end: number): number {
    if (scratch.length < end - start) {
      scratch = new Uint8Array(2 * (end - start));
      scratchView = new DataView(scratch.buffer);
    }
    let size = 0;
    for (let at = start; at < end;) {
      const lineFeed = bytes.indexOf(LF, at);
      const stop = lineFeed < 0 || lineFeed >= end ? end : lineFeed;
      let last = stop;
      while (last > at && bytes[last - 1] === CR) last--;
      scratch.set(bytes.subarray(at, last), size);
      size += last - at;
      // After the LF stands the blank that makes it a fold.
      at = stop === end ? end : stop + 2;
    }
    return size;
  }
  return self;
}

/** A text with LF for every line end, be it CRLF, LF, CR or CR CR LF. */
export function plainEnds(text: string): string {
  const plain = text.replaceAll('\r\n', '\n');
  return plain.includes('\r')
    ? plain
        .split('\n')
        .map((line) => trimEndOf(line, '\r').replaceAll('\r', '\n'))
        .join('\n')
    : plain;
}

/** A text with its folds undone; its line ends become LF. */
export function unfold(text: string): string {
  const plain = plainEnds(text);
  return FOLD.test(plain) ? plain.replace(FOLDS, '') : plain;
}

/** The unfolded lines of a text. */
export function contentLines(text: string): string[] {
  const lines = unfold(text).split('\n');
  if (lines.at(-1) === '') lines.pop();
  return lines;
}

/** The number of the physical line (from 1) on which a content line of a text begins. */
export function physicalLine(text: string, index: number): number {
  const lines = scanner(new TextEncoder().encode(plainEnds(text)));
  for (let i = 0; i <= index; i++) if (!lines.advance()) break;
  return lines.line;
}
