import { fileTypeFromBuffer } from 'file-type';

/** Kinds of files a brief may carry, by the ending its content has; and what else people call it. */
const KINDS: Record<string, { type: string; picture?: boolean; also?: readonly string[] }> = {
  png: { type: 'image/png', picture: true },
  jpg: { type: 'image/jpeg', picture: true, also: ['jpeg', 'jpe', 'jfif'] },
  webp: { type: 'image/webp', picture: true },
  gif: { type: 'image/gif', picture: true },
  avif: { type: 'image/avif', picture: true },
  pdf: { type: 'application/pdf' },
  docx: { type: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document' },
  xlsx: { type: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet' },
  pptx: { type: 'application/vnd.openxmlformats-officedocument.presentationml.presentation' },
  odt: { type: 'application/vnd.oasis.opendocument.text' },
  ods: { type: 'application/vnd.oasis.opendocument.spreadsheet' },
  odp: { type: 'application/vnd.oasis.opendocument.presentation' },
  mp3: { type: 'audio/mpeg' },
  m4a: { type: 'audio/mp4', also: ['mp4'] },
  ogg: { type: 'audio/ogg', also: ['oga', 'opus'] },
  wav: { type: 'audio/wav' },
  // As browsers record sound.
  webm: { type: 'audio/webm' },
  txt: { type: 'text/plain; charset=utf-8', also: ['md', 'csv', 'text'] },
};

export const isPicture = (type: string): boolean =>
  Object.values(KINDS).some((k) => k.picture && k.type === type);

export type FileKind =
  | { ok: true; type: string }
  | { ok: false; why: 'empty' | 'unknown' | 'otherwise'; says: string; is: string };

/**
 * What a file is by its content, and whether its name says the same. Text has no mark of its own: it is what
 * is valid UTF-8 without control characters and is called so.
 */
export async function kindOf(bytes: Uint8Array, name: string): Promise<FileKind> {
  const says = /\.([a-z0-9]{1,8})$/i.exec(name)?.[1]?.toLowerCase() ?? '';
  if (!bytes.length) return { ok: false, why: 'empty', says, is: '' };
  const found = (await marked(bytes)) ?? (isText(bytes) ? 'txt' : '');
  const is =
    found === 'jpg' || KINDS[found]
      ? found
      : (Object.entries(KINDS).find(([, k]) => k.also?.includes(found))?.[0] ?? found);
  const kind = KINDS[is];
  if (!kind) return { ok: false, why: 'unknown', says, is };
  const agrees = is === says || kind.also?.includes(says);
  if (says !== '' && !agrees)
    return {
      ok: false,
      why: KINDS[says] || Object.values(KINDS).some((k) => k.also?.includes(says)) ? 'otherwise' : 'unknown',
      says,
      is,
    };
  if (is === 'txt' && says === '') return { ok: false, why: 'unknown', says, is };
  return { ok: true, type: kind.type };
}

/** Nearly every kind is known by its first bytes. */
const FIRST = 4_100;
const begins = (bytes: Uint8Array, ...with_: number[]) => with_.every((byte, i) => bytes[i] === byte);

/**
 * The ending that a file's own marks stand for; undefined where it has none, or is broken. Archives are
 * looked into, since what they hold says what they are; so is what is cut off by looking at the first bytes
 * alone.
 */
async function marked(bytes: Uint8Array): Promise<string | undefined> {
  // What stands before the sound of an MP3 (ID3) may be of any length.
  if (begins(bytes, 0x49, 0x44, 0x33)) return 'mp3';
  const isArchive = begins(bytes, 0x50, 0x4b, 0x03, 0x04);
  const look = async (some: Uint8Array) => (await fileTypeFromBuffer(some))?.ext;
  // What it throws says that the bytes end too early or mean nothing.
  const whole = () => look(bytes).catch(() => undefined);
  return isArchive
    ? whole()
    : look(bytes.subarray(0, FIRST)).catch(() => (bytes.length > FIRST ? whole() : undefined));
}

function isText(bytes: Uint8Array): boolean {
  try {
    return !/[\u0000-\u0008\u000e-\u001f]/.test(new TextDecoder('utf-8', { fatal: true }).decode(bytes));
  } catch {
    return false;
  }
}
