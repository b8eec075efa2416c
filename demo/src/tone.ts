const RATE = 8_000;
const PITCH = 330;

/** A soft tone as a WAV file (RIFF, 16 bit, one channel): what stands in the demo for somebody's voice. */
export function toneOf(seconds: number): Uint8Array {
  const samples = seconds * RATE;
  const bytes = Buffer.alloc(44 + samples * 2);
  bytes.write('RIFF', 0, 'latin1');
  bytes.writeUInt32LE(36 + samples * 2, 4);
  bytes.write('WAVEfmt ', 8, 'latin1');
  bytes.writeUInt32LE(16, 16);
  bytes.writeUInt16LE(1, 20);
  bytes.writeUInt16LE(1, 22);
  bytes.writeUInt32LE(RATE, 24);
  bytes.writeUInt32LE(RATE * 2, 28);
  bytes.writeUInt16LE(2, 32);
  bytes.writeUInt16LE(16, 34);
  bytes.write('data', 36, 'latin1');
  bytes.writeUInt32LE(samples * 2, 40);
  for (let n = 0; n < samples; n++) {
    const rise = Math.min(1, n / 800, (samples - n) / 800);
    bytes.writeInt16LE(Math.round(6_000 * rise * Math.sin((2 * Math.PI * PITCH * n) / RATE)), 44 + n * 2);
  }
  return bytes;
}
