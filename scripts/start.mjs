// `npm start`: an installation of one's own, empty at first. Settings: see README, "Running it".
import { ensureInstalled, root } from './lib/setup.mjs';
import { serve } from './lib/serve.mjs';

await ensureInstalled('run');
const { buildAll } = await import('./build.mjs');
await buildAll();
serve('server/dist/main.js', {
  ZEPHYRFIELD_WEB: `${root}/app/dist`,
  ...(process.env.PORT ? { ZEPHYRFIELD_PORT: process.env.PORT } : {}),
});
