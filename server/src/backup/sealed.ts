import { createCipheriv, createDecipheriv, randomBytes, scrypt } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { open, rename, rm } from 'node:fs/promises';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { promisify } from 'node:util';
import { BadArchive } from './archive.ts';
import { syncToDisk } from '../sync.ts';

// A file sealed with a passphrase: a head of magic and salt, then frames. Each frame is AES-256-GCM (NIST SP 800-38D)
// under a key by scrypt (RFC 7914); its nonce is its number and whether it is the last, so that frames can be neither
// reordered nor cut off (the STREAM construction of Hoang, Reyhanitabar, Rogaway and Vizár).

const MAGIC = Buffer.from('ZFSEAL01');
const SALT_BYTES = 16;
const TAG_BYTES = 16;
const FRAME_BYTES = 64 * 1024;
/** scrypt at 128 MB and about half a second: a passphrase is guessed offline. */
const COST = { N: 2 ** 17, r: 8, p: 1, maxmem: 256 * 2 ** 20 } as const;

const WRONG = 'The passphrase is not the one it was sealed with, or it is damaged.';

const keyOf = (passphrase: string, salt: Buffer): Promise<Buffer> =>
  (promisify(scrypt) as (p: string, s: Buffer, n: number, o: typeof COST) => Promise<Buffer>)(
    passphrase.normalize('NFKC'),
    salt,
    32,
    COST,
  );

function nonceOf(frame: number, isLast: boolean): Buffer {
  const nonce = Buffer.alloc(12);
  nonce.writeBigUInt64BE(BigInt(frame));
  nonce[11] = Number(isLast);
  return nonce;
}

/** Cuts what passes into pieces of a size; the last one, which may be empty, is known to be the last. */
function inFrames(size: number, each: (piece: Buffer, frame: number, isLast: boolean) => Buffer): Transform {
  let held = Buffer.alloc(0);
  let frame = 0;
  return new Transform({
    transform(chunk: Buffer, _encoding, done) {
      try {
        held = Buffer.concat([held, chunk]);
        while (held.length > size) {
          this.push(each(held.subarray(0, size), frame++, false));
          held = held.subarray(size);
        }
        done();
      } catch (error) {
        done(error as Error);
      }
    },
    flush(done) {
      try {
        done(null, each(held, frame, true));
      } catch (error) {
        done(error as Error);
      }
    },
  });
}

/** Tells whether a file is one that was sealed. @throws where it cannot be read */
export async function isSealed(file: string): Promise<boolean> {
  const handle = await open(file, 'r');
  try {
    const head = Buffer.alloc(MAGIC.length);
    await handle.read(head, 0, head.length, 0);
    return head.equals(MAGIC);
  } finally {
    await handle.close();
  }
}

/** Seals a file into another, which is there once all of it stands on the disk. */
export async function sealFile(from: string, to: string, passphrase: string): Promise<void> {
  const salt = randomBytes(SALT_BYTES);
  const key = await keyOf(passphrase, salt);
  const part = `${to}.part`;
  const seal = inFrames(FRAME_BYTES, (piece, frame, isLast) => {
    const cipher = createCipheriv('aes-256-gcm', key, nonceOf(frame, isLast));
    return Buffer.concat([cipher.update(piece), cipher.final(), cipher.getAuthTag()]);
  });
  try {
    const out = createWriteStream(part, { mode: 0o600 });
    out.write(Buffer.concat([MAGIC, salt]));
    await pipeline(createReadStream(from), seal, out);
    await syncToDisk(part);
    await rename(part, to);
  } catch (error) {
    await rm(part, { force: true });
    throw error;
  }
}

/** Opens a sealed file into another. @throws BadArchive where the passphrase is wrong, or it is damaged or cut off */
export async function openSealed(from: string, to: string, passphrase: string): Promise<void> {
  const handle = await open(from, 'r');
  const salt = Buffer.alloc(SALT_BYTES);
  try {
    await handle.read(salt, 0, SALT_BYTES, MAGIC.length);
  } finally {
    await handle.close();
  }
  const key = await keyOf(passphrase, salt);
  const opened = inFrames(FRAME_BYTES + TAG_BYTES, (sealed, frame, isLast) => {
    if (sealed.length < TAG_BYTES) throw new BadArchive(WRONG);
    const decipher = createDecipheriv('aes-256-gcm', key, nonceOf(frame, isLast));
    decipher.setAuthTag(sealed.subarray(-TAG_BYTES));
    try {
      return Buffer.concat([decipher.update(sealed.subarray(0, -TAG_BYTES)), decipher.final()]);
    } catch {
      throw new BadArchive(WRONG);
    }
  });
  const start = MAGIC.length + SALT_BYTES;
  await pipeline(createReadStream(from, { start }), opened, createWriteStream(to, { mode: 0o600 }));
}
