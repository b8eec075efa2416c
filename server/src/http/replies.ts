import { promisify } from 'node:util';
import { gzip } from 'node:zlib';
import type { Request, Response } from 'express';

const packed = promisify(gzip);

/** What is smaller than this is not worth packing, in bytes. */
const SMALL = 1_024;
/** Number of bytes of replies that are kept, packed ones counted, before the oldest go. */
const MOST_BYTES = 48 * 2 ** 20;

/**
 * Names a reply about a schedule, for all who see the same.
 * @param who a person's id where they have anything for themselves in it, else empty
 */
export const keyOfReply = (
  path: string,
  learnerId: string,
  version: number,
  who: string,
  params: unknown,
  query: unknown,
): string => JSON.stringify([path, learnerId, version, who, params, query]);

/** A reply that was made as JSON already, in a thread. */
export class MadeJson {
  constructor(readonly text: string) {}
}

interface Reply {
  plain: Buffer;
  gzip: Buffer | null;
}

/**
 * Counts what has changed in each learner's schedule since the server was started: what was made of it at one number
 * is true for as long as that number stands. Whatever changes a schedule counts, before anybody is told.
 */
export class Versions {
  private readonly counts = new Map<string, number>();

  of = (learnerId: string): number => this.counts.get(learnerId) ?? 0;
  changed = (learnerId: string): void => {
    this.counts.set(learnerId, this.of(learnerId) + 1);
  };
}

/**
 * Replies as bytes, packed once: what many pages of a family ask for again and again is read, written as JSON and
 * compressed once for each version of the schedule, and not for each of them. A key says all that a reply hangs on;
 * whether somebody may see it is decided before this is asked.
 */
export class Replies {
  private readonly kept = new Map<string, Promise<Reply>>();
  private readonly sizes = new Map<string, number>();
  private bytes = 0;

  /** Answers with what stands under the key, or with what is made for it. */
  async send(req: Request, res: Response, key: string, make: () => unknown): Promise<void> {
    const { plain, gzip } = await this.once(key, make);
    const isPacked = gzip !== null && req.acceptsEncodings('gzip') === 'gzip';
    res.set({
      'Content-Type': 'application/json; charset=utf-8',
      'Cache-Control': 'no-store',
      Vary: 'Accept-Encoding',
    });
    if (isPacked) res.set('Content-Encoding', 'gzip');
    // With its length and without a digest of its own: nothing is kept by whoever asks.
    res.set('Content-Length', String((isPacked ? gzip : plain).length)).end(isPacked ? gzip : plain);
  }

  /** Gives what stands under the key as JSON, or what is made for it. */
  async text(key: string, make: () => unknown): Promise<string> {
    return (await this.once(key, make)).plain.toString();
  }

  private once(key: string, make: () => unknown): Promise<Reply> {
    const known = this.kept.get(key);
    if (known) {
      // What was asked for last goes last.
      this.kept.delete(key);
      this.kept.set(key, known);
      return known;
    }
    const reply = Promise.resolve(make()).then(pack);
    this.kept.set(key, reply);
    reply.then(
      ({ plain, gzip }) => this.weigh(key, plain.length + (gzip?.length ?? 0)),
      () => this.drop(key),
    );
    return reply;
  }

  private weigh(key: string, size: number): void {
    if (!this.kept.has(key)) return;
    this.sizes.set(key, size);
    this.bytes += size;
    for (const oldest of this.kept.keys()) {
      if (this.bytes <= MOST_BYTES) break;
      this.drop(oldest);
    }
  }

  private drop(key: string): void {
    this.kept.delete(key);
    this.bytes -= this.sizes.get(key) ?? 0;
    this.sizes.delete(key);
  }
}

async function pack(value: unknown): Promise<Reply> {
  const plain = Buffer.from(value instanceof MadeJson ? value.text : JSON.stringify(value));
  return { plain, gzip: plain.length < SMALL ? null : ((await packed(plain, { level: 5 })) as Buffer) };
}
