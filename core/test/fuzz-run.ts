import fc from 'fast-check';
import { ROUNDS } from './fuzz';

/** Core knows nothing of Node; this runs there */
declare const process: { argv: string[]; exitCode: number };
declare const console: { log(...what: unknown[]): void };

const seconds = Number(process.argv[2] ?? 60);
for (const { name, property } of ROUNDS) {
  const seed = Math.floor(Math.random() * 2 ** 31);
  const found = fc.check(property, {
    seed,
    numRuns: 1_000_000_000,
    interruptAfterTimeLimit: (seconds * 1000) / ROUNDS.length,
    endOnFailure: false,
  });
  console.log(`${found.failed ? 'FAILED' : 'held  '} ${String(found.numRuns).padStart(8)} × ${name}`);
  if (!found.failed) continue;
  console.log(fc.defaultReportMessage(found) ?? '', found.errorInstance);
  process.exitCode = 1;
}
