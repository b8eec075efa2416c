// What whoever runs an installation does by hand: `npm run backup -- FILE`, `npm run restore -- FILE` and `npm run
// rotate-key` (stop the server first for both), `npm run new-password -- MAIL`. ZEPHYRFIELD_DATA says where it is.
import { spawnSync } from 'node:child_process';
import { ensureInstalled, root } from './lib/setup.mjs';

await ensureInstalled('run');
const { buildServer } = await import('./build.mjs');
await buildServer();
const [name, ...given] = process.argv.slice(2);
const cwd = process.env.INIT_CWD ?? process.cwd();
const { status } = spawnSync(
  process.execPath,
  ['--enable-source-maps', `${root}/server/dist/${name}.js`, ...given],
  { stdio: 'inherit', cwd },
);
process.exit(status ?? 1);
