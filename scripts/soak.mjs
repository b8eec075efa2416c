// `npm run soak [minutes]`: builds the server and lets it be used for a while; see bench/soak.mjs.
import { spawnSync } from 'node:child_process';
import { ensureInstalled, root } from './lib/setup.mjs';

await ensureInstalled();
const { buildServer } = await import('./build.mjs');
await buildServer();
const { status } = spawnSync(process.execPath, ['bench/soak.mjs', ...process.argv.slice(2)], {
  stdio: 'inherit',
  cwd: root,
});
process.exit(status ?? 1);
