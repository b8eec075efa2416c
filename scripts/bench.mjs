// `npm run bench`: what the budgets say, measured in one run, as ratios to a reference timed in the same run.
import { spawnSync } from 'node:child_process';
import { ensureInstalled, root } from './lib/setup.mjs';

ensureInstalled();
const { status } = spawnSync(process.execPath, ['--expose-gc', '--import', 'tsx', `${root}/bench/src/main.ts`], { stdio: 'inherit', cwd: root });
process.exit(status ?? 1);
