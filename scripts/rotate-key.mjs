// `npm run rotate-key`: seals all links of an installation with a new key. Stop the server first;
// ZEPHYRFIELD_DATA says where it is.
import { spawnSync } from 'node:child_process';
import { ensureInstalled, root } from './lib/setup.mjs';

await ensureInstalled();
const { buildServer } = await import('./build.mjs');
await buildServer();
const cwd = process.env.INIT_CWD ?? process.cwd();
const { status } = spawnSync(
  process.execPath,
  ['--enable-source-maps', `${root}/server/dist/rotate-key.js`],
  { stdio: 'inherit', cwd },
);
process.exit(status ?? 1);
