// `npm run bench`: what the budgets say, measured in one run, as ratios to a reference timed in the same run.
// Bundled first, as the server is: that is what runs.
import { spawnSync } from 'node:child_process';
import { buildAll, buildBench } from './build.mjs';
import { ensureChromium, ensureInstalled, root } from './lib/setup.mjs';

await ensureInstalled();
await ensureChromium();
await buildAll();
const script = await buildBench();
const run = (...args) => spawnSync(process.execPath, args, { stdio: 'inherit', cwd: root }).status;
const status =
  run('--expose-gc', '--enable-source-maps', script) ||
  run('--import', 'tsx', 'bench/notify.mjs') ||
  run('bench/load.mjs') ||
  run('--import', 'tsx', 'bench/links.mjs') ||
  run('--import', 'tsx', 'bench/hostile.mjs') ||
  run('--import', 'tsx', 'bench/screen.mjs');
process.exit(status ?? 1);
