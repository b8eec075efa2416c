import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import type { Clock } from '@zephyrfield/server/clock';

/**
 * A clock that begins at a given moment, ticks, and can be moved ahead; it goes on from where it was after a
 * restart.
 */
export class DemoClock implements Clock {
  private offset: number;

  constructor(
    start: number,
    private readonly file: string | null,
    private readonly real: () => number = Date.now,
  ) {
    const kept = file && existsSync(file) ? Number(readFileSync(file, 'utf8')) : NaN;
    this.offset = (Number.isFinite(kept) ? kept : start) - this.real();
  }

  now(): number {
    return this.real() + this.offset;
  }

  set(now: number): void {
    this.offset = now - this.real();
    this.save();
  }

  advance(ms: number): number {
    this.offset += ms;
    this.save();
    return this.now();
  }

  save(): void {
    if (!this.file) return;
    writeFileSync(`${this.file}.new`, String(Math.floor(this.now())));
    renameSync(`${this.file}.new`, this.file);
  }
}
