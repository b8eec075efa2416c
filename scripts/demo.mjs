// `npm run demo`: everything from nothing to a running demo. `-- --fresh` begins the demo world anew.
import { rmSync } from 'node:fs';
import { ensureInstalled, root } from './lib/setup.mjs';
import { serve } from './lib/serve.mjs';

await ensureInstalled('run');
const { buildAll } = await import('./build.mjs');
await buildAll();
const data = process.env.ZEPHYRFIELD_DATA ?? `${root}/.demo`;
if (process.argv.includes('--fresh')) rmSync(data, { recursive: true, force: true });
serve('server/dist/demo.js', {
  ZEPHYRFIELD_DATA: data,
  ZEPHYRFIELD_WEB: `${root}/app/dist`,
  ...(process.env.PORT ? { ZEPHYRFIELD_PORT: process.env.PORT } : {}),
});
