import { createCipheriv, createDecipheriv, createHmac, hkdfSync, randomBytes } from 'node:crypto';
import { chmodSync, existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';

/** Seals texts that must not be readable in the database, with a key kept in a file of its own. */
export class Secrets {
  private readonly sealKey: Buffer;
  private readonly digestKey: Buffer;
  /** Secret for signing session cookies */
  readonly sessionSecret: string;
  /** What a database calls the key it is sealed with; nothing of the key can be told from it */
  readonly name: string;

  constructor(key: Buffer) {
    const derive = (use: string) => Buffer.from(hkdfSync('sha256', key, '', use, 32));
    this.sealKey = derive('seal');
    this.digestKey = derive('digest');
    this.sessionSecret = derive('session').toString('hex');
    this.name = derive('name').toString('hex').slice(0, 32);
  }

  /** Reads the key file, making it at the first start. Only its owner may read it. */
  static fromFile(file: string): Secrets {
    if (!existsSync(file)) {
      mkdirSync(dirname(file), { recursive: true, mode: 0o700 });
      writeFileSync(file, randomBytes(32).toString('hex') + '\n', { mode: 0o600, flag: 'wx' });
    }
    chmodSync(file, 0o600);
    const key = Buffer.from(readFileSync(file, 'utf8').trim(), 'hex');
    if (key.length !== 32)
      throw new Error(
        `${file} does not hold a key; restore it from a backup, or remove it together with the database`,
      );
    return new Secrets(key);
  }

  seal(text: string): string {
    const iv = randomBytes(12);
    const cipher = createCipheriv('aes-256-gcm', this.sealKey, iv);
    const body = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()]);
    return Buffer.concat([iv, cipher.getAuthTag(), body]).toString('base64');
  }

  open(sealed: string): string {
    const bytes = Buffer.from(sealed, 'base64');
    const decipher = createDecipheriv('aes-256-gcm', this.sealKey, bytes.subarray(0, 12));
    decipher.setAuthTag(bytes.subarray(12, 28));
    return Buffer.concat([decipher.update(bytes.subarray(28)), decipher.final()]).toString('utf8');
  }

  /** The same text gives the same digest; the text cannot be guessed from it without the key. */
  digest(text: string): string {
    return createHmac('sha256', this.digestKey).update(text).digest('hex');
  }
}
