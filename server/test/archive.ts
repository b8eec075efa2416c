import { deflateRawSync } from 'node:zlib';

/** A ZIP archive of one file, whose bytes are zeros: small here, and `size` bytes once it is let out. */
export function archive(name: string, size: number): Buffer {
  const data = deflateRawSync(Buffer.alloc(size), { level: 9 });
  const head = Buffer.alloc(30);
  head.writeUInt32LE(0x04034b50, 0);
  head.writeUInt16LE(20, 4);
  head.writeUInt16LE(8, 8);
  head.writeUInt32LE(data.length, 18);
  head.writeUInt32LE(size, 22);
  head.writeUInt16LE(name.length, 26);
  return Buffer.concat([head, Buffer.from(name), data]);
}
