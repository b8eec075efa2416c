import { createHash } from 'node:crypto';
import { promisify } from 'node:util';
import { gzip } from 'node:zlib';

const packed = promisify(gzip);
/** So many bytes of what goes out are kept, before the oldest go. */
const MOST_BYTES = 32 * 2 ** 20;

/** Something that goes out, ready to be sent. */
export interface Ready {
  text: Buffer;
  gzip: Buffer;
  etag: string;
}

/** Gives what goes out, kept ready. */
export function keptReady() {
  const kept = new Map<string, { key: string; ready: Promise<Ready>; bytes: number }>();
  return {
    forget: (name: string) => void kept.delete(name),
    /** Gives what is kept under a name as long as its key stands; made anew otherwise, once for all who ask meanwhile. */
    async once(name: string, key: string, text: () => Promise<string>): Promise<Ready> {
      const known = kept.get(name);
      if (known?.key === key) return known.ready;
      const ready = text().then(async (made): Promise<Ready> => {
        const bytes = Buffer.from(made);
        return {
          text: bytes,
          gzip: await packed(bytes),
          etag: `"${createHash('sha256').update(bytes).digest('base64url').slice(0, 27)}"`,
        };
      });
      const entry = { key, ready, bytes: 0 };
      kept.delete(name);
      kept.set(name, entry);
      ready.then(
        ({ text: plain, gzip: zipped }) => {
          entry.bytes = plain.length + zipped.length;
          let sum = [...kept.values()].reduce((all, each) => all + each.bytes, 0);
          for (const [oldest, { bytes }] of kept) {
            if (sum <= MOST_BYTES || oldest === name) break;
            kept.delete(oldest);
            sum -= bytes;
          }
        },
        () => kept.get(name) === entry && kept.delete(name),
      );
      return ready;
    },
  };
}
