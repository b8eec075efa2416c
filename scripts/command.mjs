// Runs a command of server/src/commands from source: `read` says what feeds say, `compare` what changed
// between readings.
import { spawnSync } from 'node:child_process';
import { ensureInstalled, root } from './lib/setup.mjs';

await ensureInstalled('run');
const [name, ...args] = process.argv.slice(2);
const cwd = process.env.INIT_CWD ?? process.cwd();
const tsx = `${root}/node_modules/tsx/dist/loader.mjs`;
const { status } = spawnSync(
  process.execPath,
  ['--import', tsx, `${root}/server/src/commands/${name}.ts`, ...args],
  { stdio: 'inherit', cwd },
);
process.exit(status ?? 1);
