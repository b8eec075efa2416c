/** Bounds of a JSON text (RFC 8259), checked before it is parsed. */
export interface JsonBounds {
  /** Arrays and objects in one another */
  depth: number;
  /** Values in all: members, elements, and what holds them */
  values: number;
}

const QUOTE = 0x22;
const BACKSLASH = 0x5c;
const COMMA = 0x2c;
const OPENING = new Set([0x5b, 0x7b]);
const CLOSING = new Set([0x5d, 0x7d]);

/**
 * Tells whether a JSON text stays within bounds, by one walk over its bytes. A parser builds whatever it is given:
 * ninety megabytes of opening brackets take gigabytes of memory before the parser finds that they are never closed.
 * It does not check whether the text is JSON at all.
 * @param bytes the text in UTF-8
 * @example isJsonWithin(new TextEncoder().encode('[[1]]'), { depth: 1, values: 10 }) // false
 */
export function isJsonWithin(bytes: Uint8Array, { depth: deepest, values: most }: JsonBounds): boolean {
  let depth = 0;
  let values = 1;
  for (let i = 0; i < bytes.length; i++) {
    const byte = bytes[i]!;
    if (byte === QUOTE) {
      for (i++; i < bytes.length && bytes[i] !== QUOTE; i++) if (bytes[i] === BACKSLASH) i++;
    } else if (byte === COMMA) values++;
    else if (OPENING.has(byte)) {
      depth++;
      values++;
    } else if (CLOSING.has(byte)) depth--;
    if (depth > deepest || values > most) return false;
  }
  return true;
}
