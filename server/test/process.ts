import { spawn, type ChildProcess } from 'node:child_process';
import { resolve } from 'node:path';
import request from 'supertest';
import type { Agent } from './harness';

/** The built server as a process of its own, so that it can be killed at any moment. */
export class Process {
  private static readonly running = new Set<ChildProcess>();
  private child!: ChildProcess;
  address = '';
  /** What the first account needs, as the server prints it */
  setUpWord = '';
  constructor(
    readonly data: string,
    private readonly more: Record<string, string> = {},
  ) {}

  async up(): Promise<void> {
    const env = {
      ...process.env,
      ZEPHYRFIELD_DATA: this.data,
      ZEPHYRFIELD_PORT: '0',
      ZEPHYRFIELD_CHECKS_PER_MINUTE: '10000',
      // A test asks as fast as the machine can.
      ZEPHYRFIELD_REQUESTS_PER_MINUTE: '100000',
      ...this.more,
    };
    this.child = spawn(process.execPath, [resolve(__dirname, '../dist/main.js')], {
      env,
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    const { child } = this;
    Process.running.add(child);
    child.once('exit', () => Process.running.delete(child));
    let said = '';
    this.address = await new Promise<string>((ready, fail) => {
      this.child.stdout!.on('data', (chunk: Buffer) => {
        said += chunk.toString();
        this.setUpWord = /set-up word[^:]*: (\S+)/.exec(said)?.[1] ?? '';
        const address = /ready at (\S+)\n/.exec(said)?.[1];
        if (address) ready(address);
      });
      this.child.once('exit', (code) => fail(new Error(`ended with ${code}`)));
    });
  }

  /** Somebody who asks, with what a page of ours says at each change: that it brings JSON. */
  caller(): Agent {
    return request.agent(this.address).set('content-type', 'application/json');
  }

  /** Ends what a test that failed has left running. */
  static endAll(): void {
    for (const child of Process.running) child.kill('SIGKILL');
  }

  async kill(): Promise<void> {
    const ended = new Promise((done) => this.child.once('exit', done));
    this.child.kill('SIGKILL');
    await ended;
  }
}

/**
 * Whole numbers below `most`, always the same ones (a linear congruential generator): the moments of the
 * cuts.
 */
export function* chance(seed: number): Generator<(most: number) => number> {
  let state = seed;
  for (;;)
    yield (most) => Math.floor(((state = (state * 1_103_515_245 + 12_345) % 2 ** 31) / 2 ** 31) * most);
}
