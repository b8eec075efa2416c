import { open } from 'node:fs/promises';

/** Waits until what was written to a file, or which names stand in a folder, is on the disk and survives a power cut. */
export async function syncToDisk(path: string): Promise<void> {
  const handle = await open(path, 'r');
  try {
    await handle.sync();
  } finally {
    await handle.close();
  }
}
