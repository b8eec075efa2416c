import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { BadArchive } from '../src/backup/archive';
import { isSealed, openSealed, sealFile } from '../src/backup/sealed';
import { FOLDER } from './harness';

let work: string;
beforeEach(() => (work = mkdtempSync(join(FOLDER, 'zephyrfield-sealed-'))));
afterEach(() => rmSync(work, { recursive: true, force: true }));
const at = (name: string) => join(work, name);
const PASSPHRASE = 'lantern over the quiet water';

// Around the size of a frame, where the last one is empty, short or full.
test.each([0, 1, 64 * 1024 - 1, 64 * 1024, 64 * 1024 + 1, 300_000])(
  '%s bytes are sealed, and opened as they were',
  async (size) => {
    const bytes = Buffer.from(Array.from({ length: size }, (_, n) => (n * 31) % 251));
    writeFileSync(at('plain'), bytes);
    await sealFile(at('plain'), at('sealed'), PASSPHRASE);
    expect([await isSealed(at('plain')), await isSealed(at('sealed'))]).toEqual([false, true]);
    await openSealed(at('sealed'), at('opened'), PASSPHRASE);
    expect(readFileSync(at('opened')).equals(bytes)).toBe(true);
  },
);

test('with another passphrase, damaged, cut off or put in another order it is refused', async () => {
  writeFileSync(at('plain'), Buffer.alloc(200_000, 'a'));
  await sealFile(at('plain'), at('sealed'), PASSPHRASE);
  const sealed = readFileSync(at('sealed'));
  expect(sealed.includes(Buffer.from('aaaaaaaa'))).toBe(false);
  const [head, frame] = [24, 64 * 1024 + 16];
  const frames = [0, 1, 2].map((n) => sealed.subarray(head + n * frame, head + (n + 1) * frame));
  const damaged = Buffer.from(sealed);
  damaged[1_000]! ^= 1;
  for (const bytes of [
    damaged,
    sealed.subarray(0, head + 2 * frame),
    sealed.subarray(0, head),
    Buffer.concat([sealed.subarray(0, head), frames[1]!, frames[0]!, sealed.subarray(head + 2 * frame)]),
  ]) {
    writeFileSync(at('bad'), bytes);
    await expect(openSealed(at('bad'), at('opened'), PASSPHRASE)).rejects.toThrow(BadArchive);
  }
  await expect(openSealed(at('sealed'), at('opened'), 'another passphrase')).rejects.toThrow(BadArchive);
});
