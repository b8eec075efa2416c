// Runs the reading command from source; see server/src/commands/read.ts.
import { spawnSync } from 'node:child_process';
import { ensureInstalled, root } from './lib/setup.mjs';

ensureInstalled();
const { status } = spawnSync(process.execPath, ['--import', 'tsx', `${root}/server/src/commands/read.ts`, ...process.argv.slice(2)], { stdio: 'inherit', cwd: process.env.INIT_CWD ?? process.cwd() });
process.exit(status ?? 1);
