// `npm run fuzz [seconds]`: what holds of anything that may come in, tried for a minute with new chance each time. What
// is found is printed with its seed and path, and ends it with 1.
import { spawnSync } from 'node:child_process';
import { ensureInstalled, root } from './lib/setup.mjs';

await ensureInstalled();
const tsx = `${root}/node_modules/tsx/dist/loader.mjs`;
const { status } = spawnSync(
  process.execPath,
  ['--import', tsx, `${root}/core/test/fuzz-run.ts`, ...process.argv.slice(2)],
  { stdio: 'inherit', cwd: root },
);
process.exit(status ?? 1);
