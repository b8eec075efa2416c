import { promisify } from 'node:util';
import yauzl from 'yauzl';
import { OutlineTrouble } from './trouble.ts';

/** What an archive may be when it is unpacked: in bytes, and in files. */
const MOST_BYTES = 64 * 2 ** 20;
const MOST_FILES = 2_000;

const tooLarge = () =>
  new OutlineTrouble(
    'Unpacked, it is larger than any outline is.',
    'Copy the part with the dates and paste it.',
  );

/**
 * Makes sure that an archive (a document or a spreadsheet is one) is sound and small enough when it is unpacked, by
 * unpacking it piece by piece and keeping nothing: what it says of its own size is not believed.
 * @throws OutlineTrouble
 */
export async function requireBounded(bytes: Uint8Array): Promise<void> {
  const open = promisify<Buffer, yauzl.Options, yauzl.ZipFile>(yauzl.fromBuffer);
  const broken = () =>
    new OutlineTrouble('It is broken.', 'Open it where it was made, and save it once more.');
  const zip = await open(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength), {
    lazyEntries: true,
  }).catch(() => {
    throw broken();
  });
  let left = MOST_BYTES;
  let files = 0;
  await new Promise<void>((done, fail) => {
    const stop = (error: Error) => {
      zip.close();
      fail(error);
    };
    zip.on('error', () => stop(broken()));
    zip.on('end', () => done());
    zip.on('entry', (entry: yauzl.Entry) => {
      if (++files > MOST_FILES) return stop(tooLarge());
      zip.openReadStream(entry, (error, stream) => {
        if (error) return stop(broken());
        stream.on('data', (chunk: Buffer) => {
          left -= chunk.length;
          if (left < 0) {
            stream.destroy();
            stop(tooLarge());
          }
        });
        stream.on('error', () => stop(broken()));
        stream.on('end', () => zip.readEntry());
      });
    });
    zip.readEntry();
  });
}
