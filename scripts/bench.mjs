// `npm run bench`: what the budgets say, measured in one run, as ratios to a reference timed in the same run. Bundled
// first, as the server is: that is what runs.
import { spawnSync } from 'node:child_process';
import { buildBench } from './build.mjs';
import { ensureInstalled, root } from './lib/setup.mjs';

ensureInstalled();
const script = await buildBench();
const { status } = spawnSync(process.execPath, ['--expose-gc', '--enable-source-maps', script], { stdio: 'inherit', cwd: root });
process.exit(status ?? 1);
