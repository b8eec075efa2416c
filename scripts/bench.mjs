// `npm run bench`: what the budgets say, measured in one run, as ratios to a reference timed in the same run.
// Bundled first, as the server is: that is what runs.
import { spawnSync } from 'node:child_process';
import { buildAll, buildBench } from './build.mjs';
import { ensureChromium, ensureInstalled, root } from './lib/setup.mjs';

await ensureInstalled();
await ensureChromium();
await buildAll();
const script = await buildBench();
// Each is only tried for a moment, and not judged: so that none rots.
if (process.argv.includes('--brief')) process.env.BENCH_BRIEF = '1';
/** The parts of the bench; each runs whatever became of the one before. */
const PARTS = {
  core: ['--expose-gc', '--enable-source-maps', script],
  notify: ['--import', 'tsx', 'bench/notify.mjs'],
  load: ['--import', 'tsx', 'bench/load.mjs'],
  links: ['--import', 'tsx', 'bench/links.mjs'],
  hostile: ['--import', 'tsx', 'bench/hostile.mjs'],
  screen: ['--import', 'tsx', 'bench/screen.mjs'],
};
const failed = Object.entries(PARTS).flatMap(([name, args]) => {
  console.log(`\n── ${name}`);
  const began = Date.now();
  const { status } = spawnSync(process.execPath, args, { stdio: 'inherit', cwd: root });
  console.log(`── ${name}: ended after ${Math.round((Date.now() - began) / 1000)} s`);
  return status === 0 ? [] : [`${name}${status === null ? ' (ended by a signal)' : ''}`];
});
const well = process.env.BENCH_BRIEF ? 'all ran to their end' : 'all within their budgets';
console.log(failed.length ? `\nover budget, or dead: ${failed.join(', ')}` : `\n${well}`);
process.exit(failed.length ? 1 : 0);
