import { RELEASE } from '@zephyrfield/core/lib/release';

/** Answers `--version`, as every command does, and ends. */
export function answerVersion(): void {
  if (!process.argv.slice(2).includes('--version')) return;
  process.stdout.write(`Zephyrfield ${RELEASE}\n`);
  process.exit(0);
}
