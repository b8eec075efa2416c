import { spawn, type ChildProcess } from 'node:child_process';
import { resolve } from 'node:path';

/** The built server as a process of its own, so that it can be killed at any moment. */
export class Process {
  private child!: ChildProcess;
  address = '';
  constructor(
    readonly data: string,
    private readonly more: Record<string, string> = {},
  ) {}

  async up(): Promise<void> {
    const env = { ...process.env, ZEPHYRFIELD_DATA: this.data, ZEPHYRFIELD_PORT: '0', ZEPHYRFIELD_CHECKS_PER_MINUTE: '10000', ...this.more };
    this.child = spawn(process.execPath, [resolve(__dirname, '../dist/main.js')], { env, stdio: ['ignore', 'pipe', 'inherit'] });
    this.address = await new Promise<string>((ready, fail) => {
      this.child.stdout!.on('data', (chunk: Buffer) => {
        const said = /ready at (\S+)/.exec(chunk.toString());
        if (said) ready(said[1]!);
      });
      this.child.once('exit', (code) => fail(new Error(`ended with ${code}`)));
    });
  }

  async kill(): Promise<void> {
    const ended = new Promise((done) => this.child.once('exit', done));
    this.child.kill('SIGKILL');
    await ended;
  }
}

/** Whole numbers below `most`, always the same ones (a linear congruential generator): the moments of the cuts. */
export function* chance(seed: number): Generator<(most: number) => number> {
  let state = seed;
  for (;;) yield (most) => Math.floor(((state = (state * 1_103_515_245 + 12_345) % 2 ** 31) / 2 ** 31) * most);
}
