/** Bytes of a feed as text, and what was odd about them. */
export interface Decoded {
  text: string;
  warnings: string[];
}

const LF = 10;
const CR = 13;
const isFold = (b: number | undefined) => b === 32 || b === 9;

/**
 * Takes out line folds byte by byte: a writer that folds at 75 octets may cut a character in two (RFC 5545
 * 3.1).
 */
export function unfoldBytes(bytes: Uint8Array): Uint8Array {
  const out = new Uint8Array(bytes.length);
  let n = 0;
  for (let i = 0; i < bytes.length; i++) {
    if (bytes[i] === CR && bytes[i + 1] === LF && isFold(bytes[i + 2])) i += 2;
    else if (bytes[i] === LF && isFold(bytes[i + 1])) i += 1;
    else out[n++] = bytes[i]!;
  }
  return out.subarray(0, n);
}

function tryDecode(bytes: Uint8Array, label: string): string | null {
  try {
    return new TextDecoder(label, { fatal: true }).decode(bytes);
  } catch {
    return null;
  }
}

/** UTF-16 by its mark, or by every second byte of the first characters being zero. */
function utf16(bytes: Uint8Array): 'utf-16le' | 'utf-16be' | null {
  const [a, b, c, d] = bytes;
  if (a === 0xff && b === 0xfe) return 'utf-16le';
  if (a === 0xfe && b === 0xff) return 'utf-16be';
  if (a && b === 0 && c && d === 0) return 'utf-16le';
  if (a === 0 && b && c === 0 && d) return 'utf-16be';
  return null;
}

/**
 * Decodes a feed: UTF-16 by mark or shape, else UTF-8, else the charset its HTTP header named, else Latin-1
 * (windows-1252). Byte-order marks and NUL bytes are taken out.
 */
export function decode(bytes: Uint8Array, charset?: string): Decoded {
  const warnings: string[] = [];
  const wide = utf16(bytes);
  let text: string | null = wide ? new TextDecoder(wide).decode(bytes) : null;
  const named = charset?.trim().toLowerCase();
  if (text === null && named && !/^(utf-?8|us-ascii)$/.test(named)) {
    // A header that names another charset is believed unless the bytes are sound UTF-8 with more than ASCII
    // in it.
    const utf8 = tryDecode(bytes, 'utf-8');
    text = utf8 !== null && /[^\u0000-\u007f]/.test(utf8) ? utf8 : safeDecode(bytes, named);
  }
  text ??= tryDecode(bytes, 'utf-8') ?? tryDecode(unfoldBytes(bytes), 'utf-8');
  if (text === null) {
    text = mostlyUtf8(bytes)
      ? new TextDecoder('utf-8').decode(unfoldBytes(bytes))
      : new TextDecoder('windows-1252').decode(bytes);
    warnings.push('some characters are not valid UTF-8 and may look wrong');
  }
  if (text.includes('\0')) {
    text = text.replaceAll('\0', '');
    warnings.push('NUL bytes were taken out');
  }
  return { text: text.replace(/^\uFEFF+/, ''), warnings };
}

function safeDecode(bytes: Uint8Array, label: string): string | null {
  try {
    return new TextDecoder(label).decode(bytes);
  } catch {
    return null;
  }
}

/** Tells whether the bytes hold more sound multi-byte UTF-8 characters than broken ones. */
function mostlyUtf8(bytes: Uint8Array): boolean {
  let sound = 0;
  let broken = 0;
  for (let i = 0; i < bytes.length; i++) {
    const b = bytes[i]!;
    if (b < 0x80) continue;
    const more = b >= 0xf0 ? 3 : b >= 0xe0 ? 2 : b >= 0xc2 ? 1 : 0;
    let ok = more > 0;
    for (let k = 1; k <= more; k++) ok &&= ((bytes[i + k] ?? 0) & 0xc0) === 0x80;
    if (ok) {
      sound++;
      i += more;
    } else broken++;
  }
  return sound >= broken && sound > 0;
}
