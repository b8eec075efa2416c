import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { open, rename, rm } from 'node:fs/promises';
import type { Readable } from 'node:stream';
import { Transform, Writable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { fromFd, type Entry, type ZipFile as Unzipped } from 'yauzl';
import { ZipFile } from 'yazl';
import { z } from 'zod';
import { isJsonWithin } from '@zephyrfield/core/lib/json-bounds';
import { codeOf } from '../fault.ts';
import { syncToDisk } from '../sync.ts';

// Archives: zip files with a manifest that says what is in them, so that what is damaged is known as such.

/** Place where the manifest stands, the last entry of an archive. */
export const MANIFEST = 'manifest.json';

export const Manifest = z.object({
  /** Kind of archive */
  format: z.enum(['zephyrfield-installation', 'zephyrfield-schedule']),
  /** Way in which it is laid out; a higher number is of a later version */
  version: z.number().int().positive(),
  /** Moment when it was made */
  made: z.iso.datetime(),
  entries: z.record(z.string(), z.object({ size: z.number().int().nonnegative(), sha256: z.string() })),
});
export type Manifest = z.infer<typeof Manifest>;

/** An archive that cannot be used, and why, in words for who wants to. */
export class BadArchive extends Error {}

/** The largest manifest, in bytes: 25,000 entries are some 4 MB. */
const LARGEST_MANIFEST = 8 * 2 ** 20;
/** Bounds of the JSON in an archive: an honest one has some hundred thousand values, at most a dozen deep. */
const JSON_BOUNDS = { depth: 40, values: 2_000_000 } as const;

/** Parses JSON that came with an archive, once it is known to be within bounds. @throws BadArchive */
export function parseJson(text: Uint8Array, fault: string): unknown {
  if (!isJsonWithin(text, JSON_BOUNDS)) throw new BadArchive(fault);
  try {
    return JSON.parse(Buffer.from(text.buffer, text.byteOffset, text.byteLength).toString());
  } catch {
    throw new BadArchive(fault);
  }
}

/** Something to be put into an archive: bytes, or a file. */
export type Part = { name: string } & ({ bytes: Buffer } | { file: string });

/** Gives what passes a stream, counted. */
function counted(seen: { size: number; sha256: string }): Transform {
  const hash = createHash('sha256');
  return new Transform({
    transform(chunk: Buffer, _encoding, done) {
      seen.size += chunk.length;
      hash.update(chunk);
      done(null, chunk);
    },
    flush(done) {
      seen.sha256 = hash.digest('hex');
      done();
    },
  });
}

/**
 * Writes an archive, part by part, and puts it in its place only once all of it stands on the disk.
 * @param made an instant, in milliseconds
 */
export async function writeArchive(
  to: string,
  head: Pick<Manifest, 'format' | 'version'> & { made: number },
  parts: AsyncIterable<Part> | Iterable<Part>,
): Promise<void> {
  const zip = new ZipFile();
  const entries: Manifest['entries'] = {};
  const part = `${to}.part`;
  const writing = pipeline(zip.outputStream, createWriteStream(part, { mode: 0o600 }));
  // What goes wrong in it is told where it is waited for.
  writing.catch(() => {});
  try {
    for await (const each of parts) {
      const seen = { size: 0, sha256: '' };
      if ('bytes' in each) {
        zip.addBuffer(each.bytes, each.name);
        Object.assign(seen, { size: each.bytes.length, sha256: digestOf(each.bytes) });
      } else {
        const stream = counted(seen);
        // What cannot be read ends the archive, and not the process.
        createReadStream(each.file)
          .once('error', (error) => stream.destroy(error))
          .pipe(stream);
        const ended = new Promise<void>((done, fail) => stream.once('end', done).once('error', fail));
        zip.addReadStream(stream, each.name);
        await Promise.race([ended, writing]);
      }
      entries[each.name] = seen;
    }
    const manifest: Manifest = {
      format: head.format,
      version: head.version,
      made: new Date(head.made).toISOString(),
      entries,
    };
    zip.addBuffer(Buffer.from(JSON.stringify(manifest, null, 2)), MANIFEST);
    zip.end();
    await writing;
    await syncToDisk(part);
    await rename(part, to);
  } catch (error) {
    zip.outputStream.unpipe();
    await rm(part, { force: true });
    throw error;
  }
}

const digestOf = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');

export interface ReadLimits {
  /** Of all entries together, and of one that is read whole, in bytes as they are unpacked */
  whole: number;
  entry: number;
  entries: number;
}

/** An archive that was opened: its manifest, and what stands in it. */
export interface OpenArchive {
  manifest: Manifest;
  /** An entry, whole. @throws BadArchive where it is missing, damaged or too large */
  read(name: string, most?: number): Promise<Buffer>;
  /** Writes an entry to a file. @throws BadArchive */
  copy(name: string, to: string): Promise<void>;
  /** Reads everything once, and compares it with what the manifest says. @throws BadArchive */
  check(): Promise<void>;
  close(): void;
}

/** Names that an archive may have: plain ones, in at most one folder, so that nothing lands elsewhere. */
const PLAIN_NAME = /^(?:[\w-]{1,40}\/)?[\w.-]{1,120}$/;

/**
 * Opens an archive. Nothing is unpacked that the manifest does not name, and no more of it than it says: what swells when
 * it is unpacked, or leads out of its folder, is refused.
 * @throws BadArchive
 */
export async function openArchive(
  file: string,
  { format, version }: Pick<Manifest, 'format' | 'version'>,
  limits: ReadLimits,
): Promise<OpenArchive> {
  const handle = await open(file, 'r').catch(() => {
    throw new BadArchive(`${file} cannot be read.`);
  });
  let zip: Unzipped;
  try {
    zip = await new Promise<Unzipped>((done, fail) =>
      fromFd(handle.fd, { lazyEntries: true, autoClose: false }, (error, opened) =>
        error ? fail(error) : done(opened),
      ),
    );
  } catch {
    await handle.close();
    throw new BadArchive('It is no archive of Zephyrfield, or it is not whole.');
  }
  const close = () => void handle.close();
  try {
    const entries = await entriesOf(zip, limits);
    const read = async (name: string, most: number): Promise<Buffer> => {
      const parts: Buffer[] = [];
      for await (const part of await streamOf(zip, entries, name, most)) parts.push(part as Buffer);
      return Buffer.concat(parts);
    };
    const manifest = await manifestIn(read, { format, version }, limits);
    /** Takes an entry where it goes to; refused where it is not what the manifest says. */
    const checked = async (name: string, to: Sink): Promise<void> => {
      const said = manifest.entries[name];
      if (!said) throw new BadArchive(`Its list does not name ${name}.`);
      const seen = { size: 0, sha256: '' };
      const source = await streamOf(zip, entries, name, said.size);
      await pipeline(source, counted(seen), to).catch((error: unknown) => {
        throw codeOf(error).startsWith('E')
          ? error
          : new BadArchive(`It is damaged: ${name} cannot be read.`);
      });
      if (seen.size !== said.size || seen.sha256 !== said.sha256)
        throw new BadArchive(`It is damaged: ${name} is not what it was.`);
    };
    return {
      manifest,
      async read(name, most = limits.entry) {
        if ((manifest.entries[name]?.size ?? 0) > most) throw new BadArchive(`${name} is too large.`);
        const parts: Buffer[] = [];
        await checked(
          name,
          into((part) => parts.push(part)),
        );
        return Buffer.concat(parts);
      },
      copy: (name, to) => checked(name, createWriteStream(to, { mode: 0o600, flags: 'wx' })),
      async check() {
        for (const name of Object.keys(manifest.entries))
          await checked(
            name,
            into(() => {}),
          );
      },
      close,
    };
  } catch (error) {
    close();
    if (error instanceof BadArchive) throw error;
    throw new BadArchive('It is damaged, or not whole.');
  }
}

type Sink = NodeJS.WritableStream;

/** Takes what comes, part by part. */
const into = (take: (part: Buffer) => void): Writable =>
  new Writable({
    write(part: Buffer, _encoding, done) {
      take(part);
      done();
    },
  });

async function manifestIn(
  read: (name: string, most: number) => Promise<Buffer>,
  wanted: Pick<Manifest, 'format' | 'version'>,
  limits: ReadLimits,
): Promise<Manifest> {
  const text = await read(MANIFEST, Math.min(LARGEST_MANIFEST, limits.entry));
  const json = parseJson(text, 'Its list of what is in it cannot be read.');
  const { success, data } = Manifest.safeParse(json);
  if (!success) throw new BadArchive('Its list of what is in it cannot be read.');
  if (data.format !== wanted.format)
    throw new BadArchive(
      data.format === 'zephyrfield-schedule'
        ? 'It is an archive of one schedule, and not of an installation.'
        : 'It is a backup of an installation, and not an archive of a schedule.',
    );
  if (data.version > wanted.version)
    throw new BadArchive(
      'It was made by a later version of Zephyrfield. Use that one, or a later one still.',
    );
  const sizes = Object.values(data.entries).reduce((sum, { size }) => sum + size, 0);
  if (sizes > limits.whole) throw new BadArchive('What is in it is too large.');
  return data;
}

const LEADS_OUT = 'It holds a file that leads out of its folder.';

/** All entries by their names. @throws BadArchive where one leads elsewhere, or there are too many */
function entriesOf(zip: Unzipped, limits: ReadLimits): Promise<Map<string, Entry>> {
  return new Promise((done, fail) => {
    const found = new Map<string, Entry>();
    zip.on('entry', (entry: Entry) => {
      if (!PLAIN_NAME.test(entry.fileName) || entry.fileName.includes('..'))
        return fail(new BadArchive(LEADS_OUT));
      if (found.size >= limits.entries || found.has(entry.fileName))
        return fail(new BadArchive('It holds too many files, or one twice.'));
      found.set(entry.fileName, entry);
      zip.readEntry();
    });
    zip.once('end', () => done(found));
    // The package itself refuses names that lead elsewhere.
    zip.once('error', ({ message }: Error) =>
      fail(new BadArchive(/\bpath\b/.test(message) ? LEADS_OUT : 'It is damaged, or not whole.')),
    );
    zip.readEntry();
  });
}

/** An entry’s bytes, as long as there are no more of them than it may have. */
async function streamOf(
  zip: Unzipped,
  entries: ReadonlyMap<string, Entry>,
  name: string,
  most: number,
): Promise<Readable> {
  const entry = entries.get(name);
  if (!entry) throw new BadArchive(`${name} is missing in it.`);
  if (entry.uncompressedSize > most) throw new BadArchive(`${name} is larger than it says.`);
  // The package refuses what swells beyond the size that the entry names.
  return new Promise((done, fail) =>
    zip.openReadStream(entry, (error, stream) => (error ? fail(error) : done(stream))),
  );
}
